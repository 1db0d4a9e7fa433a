// A long day in little: a photo opened, painted on, undone, saved, exported and closed, over and over in one window.
// The program's memory stays what it was.
//
// DIMHEM_SOAK_MINUTES makes it go on for so long, and prints a line a minute.
#include <gtest/gtest.h>
#include <malloc.h>

#include <chrono>
#include <cstdio>

#include "core/base/memory_ceiling.h"
#include "core/mask/brush.h"
#include "tests/ui/window.h"

namespace dimhem::tests {

namespace {

using Clock = std::chrono::steady_clock;

class Day {
public:
    Day() {
        QImage photo(1000, 750, QImage::Format_RGB32);
        for (int y = 0; y < 750; ++y) {
            for (int x = 0; x < 1000; ++x)
                photo.setPixelColor(x, y, QColor(60 + x / 8, (x / 40 + y / 40) % 2 ? 150 : 90, 40 + y / 5));
        }
        photo.save(pathOf("photo.png"));
    }

    // What a person does with one photo.
    void round(int number) {
        ASSERT_TRUE(w_.open(pathOf("photo.png")));
        w_.session().addCorrection({}, "correction");
        w_.session().addPart(mask::Brush::kindInfo);
        ASSERT_TRUE(w_.settle());
        mask::BrushSettings brush = w_.session().brush();
        brush.holds = number % 2 == 0;
        w_.session().setBrush(brush);
        for (int stroke = 0; stroke < 8; ++stroke) {
            const double y = 80.0 + 75 * stroke;
            w_.drag({{100, y}, {300, y + 40}, {600, y - 30}, {850, y + 20}});
        }
        ASSERT_TRUE(w_.settle());
        for (int i = 0; i < 6; ++i) w_.session().undo();
        for (int i = 0; i < 3; ++i) w_.session().redo();
        w_.canvas().actualSize();
        ASSERT_TRUE(w_.settle());
        w_.canvas().fit();
        ASSERT_TRUE(w_.settle());
        w_.window.jobs().save(pathOf("work.dimhem"), {});
        w_.window.jobs().exportTo(pathOf("out.jpg"), {});
        ASSERT_TRUE(w_.waitFor([&] { return !w_.window.jobs().isBusy(); }));
        ASSERT_TRUE(w_.session().isSaved());
        w_.session().close();
        ASSERT_TRUE(w_.settle());
    }

private:
    QString pathOf(const char* name) { return QString::fromStdString((folder_ / name).string()); }
    TempFolder folder_;
    Window w_;
};

// By the program's own account; 0 where the heap is another's (a sanitizer's).
double allocatedMb() {
    const struct mallinfo2 heap = ::mallinfo2();
    return static_cast<double>(heap.uordblks + heap.hblkhd) / (1 << 20);
}

double meanOf(const std::vector<double>& values, std::size_t from, std::size_t to) {
    double sum = 0;
    for (std::size_t i = from; i < to; ++i) sum += values[i];
    return sum / static_cast<double>(to - from);
}

}  // namespace

TEST(Soak, MemoryStaysFlat) {
    const int minutes = qEnvironmentVariableIntValue("DIMHEM_SOAK_MINUTES");
    const auto begun = Clock::now();
    auto said = begun;
    std::vector<double> allocated, resident;
    Day day;
    constexpr int leastRounds = 6;
    for (int i = 0; i < leastRounds || Clock::now() - begun < std::chrono::minutes(minutes); ++i) {
        ASSERT_NO_FATAL_FAILURE(day.round(i)) << "round " << i;
        allocated.push_back(allocatedMb());
        resident.push_back(static_cast<double>(base::memoryInUse()) / (1 << 20));
        if (minutes == 0 || Clock::now() - said < std::chrono::minutes(1)) continue;
        said = Clock::now();
        std::printf("round %d: %.2f MB allocated, %.1f MB resident\n", i, allocated.back(), resident.back());
        std::fflush(stdout);
    }
    // What is freed stays with the heap for a while: what is allocated tells of the least that is not given back.
    for (const auto& [values, most] : {std::pair{&allocated, 1.02}, {&resident, minutes > 0 ? 1.02 : 1.5}}) {
        const std::size_t half = values->size() / 2, late = half + (values->size() - half) / 2;
        const double before = meanOf(*values, half, late), after = meanOf(*values, late, values->size());
        std::printf("%zu rounds: %.2f MB, then %.2f MB\n", values->size(), before, after);
        EXPECT_LE(after, most * before);
    }
}

}  // namespace dimhem::tests
