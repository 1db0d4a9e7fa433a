#include <algorithm>
#include <cstdio>

#include "bench/edges/baselines.h"
#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"

namespace dimhem::edges {

namespace {

mask::BrushSettings brushOfRadius(double radius, bool holds) {
    mask::BrushSettings brush;
    brush.sizePx = 2 * radius;
    brush.softnessPct = 50;
    brush.holds = holds;
    return brush;
}

}  // namespace

void brushOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    std::mt19937 random(seed);
    std::vector<double> spills, shorts;
    for (const Scene& scene : all) {
        std::vector<double> spill[2], missing[2], band[2];
        for (const double radius : {50.0, 150.0, 400.0}) {
            for (int i = 0; i < 3; ++i) {
                const auto points = rimStroke(scene.matte, radius, random);
                if (points.empty()) continue;
                const auto plain = maskOf(scene.photo, documentWith(brushOf({points}, brushOfRadius(radius, false))));
                const auto held = maskOf(scene.photo, documentWith(brushOf({points}, brushOfRadius(radius, true))));
                const Error errors[2] = {errorOf(plain, scene.matte, &plain), errorOf(held, scene.matte, &plain)};
                for (int k = 0; k < 2; ++k) {
                    spill[k].push_back(errors[k].spillPct);
                    missing[k].push_back(errors[k].shortPct);
                    band[k].push_back(errors[k].band);
                }
                spills.push_back(errors[1].spillPct);
                shorts.push_back(errors[1].shortPct);
            }
        }
        for (int k = 0; k < 2; ++k) {
            std::printf("%-13s %-8s n %zu spill %6.2f (%.2f) short %6.2f (%.2f) band %.3f\n", scene.name.c_str(),
                        k ? "held" : "plain", spill[k].size(), mean(spill[k]), median(spill[k]), mean(missing[k]),
                        median(missing[k]), mean(band[k]));
        }
        std::fflush(stdout);
    }
    std::printf("all held: spill mean %.2f median %.2f, short mean %.2f median %.2f\n", mean(spills), median(spills),
                mean(shorts), median(shorts));
}

// As a hand follows an edge: the centre 5 to 8 pixels inside it.
void closeOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    std::mt19937 random(seed);
    std::vector<double> spills, shorts;
    for (const Scene& scene : all) {
        std::vector<double> spill, missing;
        for (int i = 0; i < 8; ++i) {
            const auto points = rimStroke(scene.matte, 100, random, 5 + i % 4);
            if (points.empty()) continue;
            const auto plain = maskOf(scene.photo, documentWith(brushOf({points}, brushOfRadius(100, false))));
            const auto held = maskOf(scene.photo, documentWith(brushOf({points}, brushOfRadius(100, true))));
            const Error error = errorOf(held, scene.matte, &plain);
            spill.push_back(error.spillPct);
            missing.push_back(error.shortPct);
        }
        if (spill.empty()) continue;
        spills.insert(spills.end(), spill.begin(), spill.end());
        shorts.insert(shorts.end(), missing.begin(), missing.end());
        std::printf("%-13s close    n %zu spill %6.2f worst %6.2f   short %6.2f worst %6.2f\n", scene.name.c_str(),
                    spill.size(), median(spill), *std::max_element(spill.begin(), spill.end()), median(missing),
                    *std::max_element(missing.begin(), missing.end()));
        std::fflush(stdout);
    }
    std::printf("all close: spill mean %.2f median %.2f, short mean %.2f median %.2f\n", mean(spills), median(spills),
                mean(shorts), median(shorts));
}

void wholeOutcomes(const std::vector<Scene>& all) {
    for (const Scene& scene : all) {
        const auto strokes = overTheWhole(scene.matte, 120, 15);
        if (strokes.empty()) continue;
        const auto plain = maskOf(scene.photo, documentWith(brushOf(strokes, brushOfRadius(120, false))));
        image::Plane<float> held;
        const double seconds = secondsOf(
            [&] { held = maskOf(scene.photo, documentWith(brushOf(strokes, brushOfRadius(120, true)))); });
        std::printf("%-13s %zu strokes in %.2f s\n", scene.name.c_str(), strokes.size(), seconds);
        printRow(scene.name.c_str(), "plain brush", errorOf(plain, scene.matte, &plain));
        printRow(scene.name.c_str(), "held brush", errorOf(held, scene.matte, &plain));
        printRow(scene.name.c_str(), "guided filter alone",
                 errorOf(guidedFilterAlone(*scene.photo, plain, 8), scene.matte, &plain));
    }
}

}  // namespace dimhem::edges
