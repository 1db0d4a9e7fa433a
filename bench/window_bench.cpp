// How long the window's thread is busy with one event, over a session of painting, sliding, looking about and saving on
// a photo of 24 megapixels: a histogram, and the longest of all. What it is busy for, the window does not answer.
#include <QElapsedTimer>
#include <QMenu>
#include <QSettings>
#include <QTemporaryDir>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <vector>

#include "bench/engine/photos.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"
#include "tests/ui/window.h"
#include "ui/control/theme.h"
#include "ui/control/value_slider.h"

namespace {

using namespace dimhem;

// Times each event that is sent, those it sends itself being part of it.
class TimedApplication final : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        if (depth_ > 0 || !counts_) return QApplication::notify(receiver, event);
        ++depth_;
        const int type = event->type();
        const char* name = receiver->metaObject()->className();
        QElapsedTimer timer;
        timer.start();
        const bool result = QApplication::notify(receiver, event);
        busy_.push_back({static_cast<double>(timer.nsecsElapsed()) / 1e6, type, name});
        --depth_;
        return result;
    }
    void startCounting() { counts_ = true; }
    void report();

private:
    struct Busy {
        double ms;
        int type;
        const char* receiver;
    };
    int depth_ = 0;
    bool counts_ = false;
    std::vector<Busy> busy_;
};

void TimedApplication::report() {
    constexpr std::array limits = {1.0, 2.0, 4.0, 8.0, 16.0, 33.0, 66.0, 1e9};
    std::printf("%zu events, of which the window's thread was busy with one for\n", busy_.size());
    double from = 0;
    for (const double to : limits) {
        const auto count =
            std::count_if(busy_.begin(), busy_.end(), [=](const Busy& b) { return b.ms >= from && b.ms < to; });
        std::printf("%6.0f to %4.0f ms %8ld\n", from, std::min(to, 9999.0), static_cast<long>(count));
        from = to;
    }
    std::sort(busy_.begin(), busy_.end(), [](const Busy& a, const Busy& b) { return a.ms > b.ms; });
    std::printf("the longest:\n");
    for (std::size_t i = 0; i < 8 && i < busy_.size(); ++i)
        std::printf("%8.1f ms  event %d to %s\n", busy_[i].ms, busy_[i].type, busy_[i].receiver);
}

void paintStroke(tests::Window& w, int seed) {
    std::vector<base::Point> way;
    for (int i = 0; i < 120; ++i)
        way.push_back({3000 + 2000 * std::sin(0.05 * i + seed), 2000 + 1300 * std::cos(0.037 * i + 2 * seed)});
    w.drag(way);
    w.settle();
}

void slide(tests::Window& w, const char* name) {
    auto* slider = w.find<ui::ValueSlider>(name);
    if (!slider) return;
    const int y = slider->height() / 2;
    QTest::mousePress(slider, Qt::LeftButton, {}, {slider->width() / 3, y});
    for (int i = 0; i < 60; ++i) {
        QTest::mouseMove(slider, {slider->width() / 3 + i, y});
        QApplication::processEvents();
    }
    QTest::mouseRelease(slider, Qt::LeftButton, {}, {slider->width() / 3 + 60, y});
    w.settle();
}

void session(tests::Window& w) {
    for (int i = 0; i < 4; ++i) {
        w.find<QPushButton>("new-correction")->menu()->actions().first()->trigger();
        w.settle();
        for (int stroke = 0; stroke < 4; ++stroke) paintStroke(w, 7 * i + stroke);
        slide(w, "exposure");
        slide(w, "contrast");
        w.key(Qt::Key_A);
        w.settle();
        for (int undo = 0; undo < 3; ++undo) w.key(Qt::Key_Z, Qt::ControlModifier);
        for (int redo = 0; redo < 3; ++redo) w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        w.settle();
        w.key(Qt::Key_1);
        w.settle();
        paintStroke(w, 50 + i);
        w.key(Qt::Key_0);
        w.settle();
    }
}

}  // namespace

int main(int argc, char** argv) {
    base::keepBlocksInHeap();
    const base::SpareThreads spareThreads;
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    TimedApplication application(argc, argv);
    const QTemporaryDir folder;
    qputenv("XDG_STATE_HOME", folder.filePath("state").toUtf8());
    qputenv("XDG_CACHE_HOME", folder.filePath("cache").toUtf8());
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, folder.path());
    ui::applyTheme(application);
    const std::string photo = folder.filePath("photo.jpg").toStdString();
    const auto& bytes = bench::jpegFile();
    std::ofstream(photo, std::ios::binary)
        .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
    tests::Window w;
    application.startCounting();
    if (!w.open(QString::fromStdString(photo))) return 1;
    session(w);
    w.window.jobs().save(folder.filePath("work.dimhem"));
    w.settle();
    application.report();
    return 0;
}
