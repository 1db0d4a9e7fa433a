// Puts known, seeded faults into the clean renders of the demo scenes and writes photo and truth.
//
//   demo_faults RENDERS OUT [NAME]    RENDERS holds what demo/render.sh made; only the photo of that name, or all
#include <cstdio>
#include <string_view>

#include "demo/faults/picture.h"

int main(int argc, char** argv) {
    using namespace dimhem::demo;
    if (argc < 3 || argc > 4) {
        std::fprintf(stderr, "usage: demo_faults RENDERS OUT [NAME]\n");
        return 2;
    }
    struct Maker {
        std::string_view name;
        void (*make)(const fs::path& renders, const fs::path& out);
    };
    constexpr Maker makers[] = {
        {"tower-dusk", makeTowerDusk},   {"bay-gradient", makeBayGradient}, {"harmonium", makeHarmonium},
        {"figurehead", makeFigurehead},  {"green-sweep", makeGreenSweep},   {"boathouse-print", makeBoathousePrint},
        {"chart-table", makeChartTable}, {"headlands", makeHeadlands},
    };
    fs::create_directories(fs::path(argv[2]) / "truth");
    for (const Maker& maker : makers) {
        if (argc == 3 || maker.name == argv[3]) maker.make(argv[1], argv[2]);
    }
}
