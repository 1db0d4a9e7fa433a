// Work in the background: how it ends, that only the newest counts, and that the window never waits for it.
#include <sys/syscall.h>
#include <unistd.h>
#include <QImage>
#include <QPainter>

#include <ctime>
#include <fstream>
#include <latch>
#include <semaphore>
#include <thread>

#include "core/document/edits.h"
#include "core/mask/region.h"
#include "tests/ui/window.h"
#include "ui/session/latest.h"

namespace dimhem::tests {

namespace {

using base::ErrorCode;

ErrorCode codeOf(const base::Result<int>& result) {
    return result ? ErrorCode::notFound : result.error().code;
}

}  // namespace

TEST(Background, WhateverIsThrownIsAnOutcome) {
    ui::Background background;
    QObject owner;
    std::vector<ErrorCode> codes;
    const auto take = [&](const base::Result<int>& result) {
        ASSERT_FALSE(result);
        codes.push_back(result.error().code);
        EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    };
    background.run(
        &owner, []() -> base::Result<int> { throw std::bad_alloc(); }, take);
    background.run(
        &owner, []() -> int { throw std::runtime_error("unforeseen"); }, take);
    background.run(
        &owner, []() -> int { throw 7; }, take);
    background.run(
        &owner, []() -> int { throw base::Cancelled(); }, take);
    EXPECT_TRUE(QTest::qWaitFor([&] { return codes.size() == 4; }, hangMs));
    std::ranges::sort(codes);
    EXPECT_EQ(codes, (std::vector{ErrorCode::outOfMemory, ErrorCode::failed, ErrorCode::failed, ErrorCode::cancelled}));
}

TEST(Background, OnlyTheNewestCounts) {
    ui::Background background;
    QObject owner;
    ui::Latest newest(background, &owner);
    std::latch begun(1), mayEnd(1);
    std::vector<int> told;
    std::vector<ErrorCode> codes;
    const auto take = [&](const base::Result<int>& result) {
        told.push_back(result.value_or(-1));
        codes.push_back(codeOf(result));
    };
    newest.request([&](const base::CancelToken&) { return begun.count_down(), mayEnd.wait(), 1; }, take);
    for (const int i : {2, 3, 4}) newest.request([i](const base::CancelToken&) { return i; }, take);
    begun.wait();
    mayEnd.count_down();
    EXPECT_TRUE(QTest::qWaitFor([&] { return newest.isIdle(); }, hangMs));
    EXPECT_EQ(told, (std::vector{1, 4}));

    // What is cancelled has that outcome, whatever it gave; what waits is dropped.
    std::latch begunAgain(1), mayEndAgain(1);
    told.clear();
    codes.clear();
    newest.request([&](const base::CancelToken&) { return begunAgain.count_down(), mayEndAgain.wait(), 5; }, take);
    newest.request([](const base::CancelToken&) { return 6; }, take);
    begunAgain.wait();
    newest.cancel();
    mayEndAgain.count_down();
    EXPECT_TRUE(QTest::qWaitFor([&] { return newest.isIdle(); }, hangMs));
    EXPECT_EQ(codes, std::vector{ErrorCode::cancelled});
}

// Qt paints smooth pictures over its own threads; were those the ones that work, the window would wait for the work.
TEST(Background, PaintingWaitsForNoneOfIt) {
    ui::Background background;
    QObject owner;
    std::latch painted(1);
    std::atomic<int> waited = 0, ran = 0;
    const int jobs = 4 * std::max(background.threadCount(), QThread::idealThreadCount());
    for (int i = 0; i < jobs; ++i) {
        background.run(
            &owner,
            [&] {
                // Long enough for any machine to paint one picture meanwhile, and no hang where it cannot.
                for (int left = 1000; left > 0 && !painted.try_wait(); --left) QThread::msleep(10);
                waited += painted.try_wait();
                return ++ran;
            },
            [](const base::Result<int>&) {});
    }
    QImage large(3000, 2000, QImage::Format_RGB32), onto(1500, 1000, QImage::Format_RGB32);
    large.fill(Qt::darkGreen);
    {
        QPainter painter(&onto);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(QRectF(0.5, 0.5, 1499, 999), large);
    }
    painted.count_down();
    background.wait();
    EXPECT_EQ(waited, jobs) << "some ended by themselves before the picture was painted";
    EXPECT_EQ(onto.pixelColor(700, 500), QColor(Qt::darkGreen));
}

namespace {

double processorSeconds(clockid_t of) {
    timespec time{};
    clock_gettime(of, &time);
    return static_cast<double>(time.tv_sec) + 1e-9 * static_cast<double>(time.tv_nsec);
}

// Of a thread, from any: how long it has run, and how long it has stood ready with no core to run on; 0 where the
// system does not tell.
struct ThreadTimes {
    double ran = 0, stood = 0;
    explicit ThreadTimes(pid_t thread) {
        std::ifstream statistics("/proc/self/task/" + std::to_string(thread) + "/schedstat");
        if (statistics >> ran >> stood) ran *= 1e-9, stood *= 1e-9;
    }
};

// What has passed for a thread since: whichever is less of the time of all threads, per core, and of that in which it
// ran or waited for another. On a busy machine the first counts what ran while it only stood ready.
class Passed {
public:
    explicit Passed(pid_t thread) : thread_(thread), before_(thread) {}
    double seconds() const {
        const double all = (processorSeconds(CLOCK_PROCESS_CPUTIME_ID) - all_) / QThread::idealThreadCount();
        const double stood = ThreadTimes(thread_).stood - before_.stood;
        return std::min(all, processorSeconds(CLOCK_MONOTONIC) - begun_ - stood);
    }
    double own() const { return ThreadTimes(thread_).ran - before_.ran; }

private:
    pid_t thread_;
    ThreadTimes before_;
    double begun_ = processorSeconds(CLOCK_MONOTONIC), all_ = processorSeconds(CLOCK_PROCESS_CPUTIME_ID);
};

// Asks the window's thread for an answer, again and again, until it is gone; made and ended on that thread.
class Asker {
public:
    explicit Asker(QObject& answering) : answering_(answering) {}
    ~Asker() {
        isOver_ = true;
        while (!hasEnded_) QApplication::processEvents();
        asking_.join();
    }
    int answered = 0;
    double longest = 0, ownThen = 0;  // until an answer, and how much of that the window's thread was at work

private:
    void ask() {
        while (!isOver_) {
            const Passed since(window_);
            QMetaObject::invokeMethod(
                &answering_,
                [&] {
                    const double passed = since.seconds();
                    if (passed > longest) longest = passed, ownThen = since.own();
                    ++answered;
                    there_.release();
                },
                Qt::QueuedConnection);
            there_.acquire();
            QThread::msleep(1);
        }
        hasEnded_ = true;
    }

    QObject& answering_;
    const pid_t window_ = static_cast<pid_t>(syscall(SYS_gettid));
    std::binary_semaphore there_{0};
    std::atomic<bool> isOver_ = false, hasEnded_ = false;
    std::thread asking_{[this] { ask(); }};
};

}  // namespace

class WindowsThread : public WindowTest {};

// Eight regions, a hem check and the small pictures of all of them: an event is answered before the cores have spent
// 100 ms each on them.
TEST_F(WindowsThread, AnswersWhileMuchIsMade) {
    QImage photo(1500, 1000, QImage::Format_RGB32);
    for (int y = 0; y < photo.height(); ++y) {
        for (int x = 0; x < photo.width(); ++x) {
            const bool inside = (x / 180 + y / 180) % 2 == 0;
            photo.setPixelColor(
                x, y,
                QColor(inside ? 180 : 60 + (x * 7 + y * 13) % 17, 90 + (x * 31 + y * 17) % 23, inside ? 60 : 150));
        }
    }
    const QString path = QString::fromStdString((folder / "photo.png").string());
    photo.save(path);
    ASSERT_TRUE(w.open(path));
    w.session().edit("regions", [](const document::Document& d) {
        document::DocumentPtr next = std::make_shared<const document::Document>(d);
        for (int i = 0; i < 8; ++i) {
            const auto added = document::withNewCorrection(*next, static_cast<std::size_t>(i));
            const double x = 90 + 180 * i;
            const mask::RegionDrag drag{{{x, 90}, {x + 20, 100}}};
            const auto region = std::make_shared<mask::Region>(std::vector{drag}, 60);
            next = document::withNewPart(*added.document, added.id, region, mask::Combine::add).document;
        }
        return next;
    });
    w.session().selectCorrection(w.session().document()->corrections[0]->id);
    Asker asker(w.window);
    for (int calm = 0; calm < 4; calm = w.window.isSettled() ? calm + 1 : 0)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);  // asked all the time: there are some
    EXPECT_GT(asker.answered, 20) << "there was nothing to wait for";
    EXPECT_LT(asker.longest, 0.1) << "of which the window's thread was at work for " << asker.ownThen;
}

}  // namespace dimhem::tests
