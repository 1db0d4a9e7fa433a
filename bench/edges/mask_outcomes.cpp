#include <cmath>
#include <cstdio>
#include <random>

#include "bench/edges/baselines.h"
#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"
#include "core/check/contours.h"
#include "core/document/edits.h"
#include "core/kernel/signed_distance.h"
#include "core/mask/outline.h"
#include "core/mask/region.h"

namespace dimhem::edges {

namespace {

// Five short drags well inside the subject, seeded.
mask::ShapePtr regionIn(const image::Plane<float>& matte, std::uint32_t seed, double reachPct) {
    const kernel::DistanceField field = kernel::signedDistance(matte);
    std::mt19937 random(seed);
    const auto uniform = [&] { return random() / 4294967296.0; };
    std::vector<mask::RegionDrag> drags;
    const base::Size size = matte.size();
    for (int attempt = 0; attempt < 200000 && drags.size() < 5; ++attempt) {
        const double x = uniform() * size.width, y = uniform() * size.height, angle = uniform() * 6.283;
        const base::Point to{x + std::cos(angle) * 90, y + std::sin(angle) * 90};
        bool inside = true;
        for (int i = 0; i <= 30; ++i) {
            const int px = static_cast<int>(x + (to.x - x) * i / 30), py = static_cast<int>(y + (to.y - y) * i / 30);
            inside = inside && px >= 0 && py >= 0 && px < size.width && py < size.height &&
                     field.distance.row(py)[static_cast<std::size_t>(px)] < -10;
        }
        if (inside) drags.push_back({{{x, y}, to}, false});
    }
    return std::make_shared<mask::Region>(std::move(drags), reachPct);
}

// The same drags for GrabCut: what they cross is surely inside, the picture's border surely outside.
image::Plane<std::uint8_t> trimapOf(const mask::Region& region, base::Size size) {
    image::Plane<std::uint8_t> out(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(out.row(y).data(), size.width, std::uint8_t{2});
    for (const mask::RegionDrag& drag : region.drags()) {
        const base::Point a = drag.points[0], b = drag.points[1];
        for (int i = 0; i <= 100; ++i) {
            for (int j = -3; j <= 3; ++j) {
                for (int k = -3; k <= 3; ++k)
                    out.row(static_cast<int>(a.y + (b.y - a.y) * i / 100) +
                            j)[static_cast<std::size_t>(a.x + (b.x - a.x) * i / 100) + static_cast<std::size_t>(k + 3) -
                               3] = 1;
            }
        }
    }
    return out;
}

// The matte's longest outline, wobbling 0.4 to 1.6 times `off` outside it.
std::vector<base::Point> wobblingOutline(const image::Plane<float>& matte, double off, std::uint32_t seed) {
    image::Plane<float> wide(matte.size());
    const kernel::DistanceField field = kernel::signedDistance(matte);
    std::mt19937 random(seed);
    const double p0 = random() / 4294967296.0 * 6.28, p1 = random() / 4294967296.0 * 6.28;
    image::Plane<std::uint16_t> values(matte.size());
    for (int y = 0; y < matte.size().height; ++y) {
        for (int x = 0; x < matte.size().width; ++x) {
            const double wobble = 1 + 0.4 * std::sin(x / 47.0 + p0) + 0.2 * std::sin(y / 31.0 + p1);
            const double d = double{field.distance.row(y)[static_cast<std::size_t>(x)]} - off * wobble;
            const bool border = x == 0 || y == 0 || x == matte.size().width - 1 || y == matte.size().height - 1;
            values.row(y)[static_cast<std::size_t>(x)] =
                border ? std::uint16_t{0} : static_cast<std::uint16_t>(std::clamp(32768 - d * 8000, 0.0, 65535.0));
        }
    }
    std::vector<base::Point> longest;
    for (auto& line : check::contours(values, 32768)) {
        if (line.size() > longest.size()) longest = std::move(line);
    }
    std::vector<base::Point> thinned;
    for (std::size_t i = 0; i < longest.size(); i += 8) thinned.push_back(longest[i]);
    return thinned;
}

}  // namespace

void printRow(const char* scene, const char* method, const Error& e) {
    std::printf("%-13s %-22s spill %7.2f short %7.2f band %.3f IoU %.4f\n", scene, method, e.spillPct, e.shortPct,
                e.band, e.iou);
    std::fflush(stdout);
}

std::shared_ptr<const mask::Matte> movedMatte(const image::Plane<float>& matte, double off) {
    const kernel::DistanceField field = kernel::signedDistance(matte);
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(matte.size());
    for (int y = 0; y < matte.size().height; ++y) {
        std::transform(
            field.distance.row(y).begin(), field.distance.row(y).end(), pixels->row(y).begin(),
            [&](float d) { return static_cast<std::uint16_t>(std::clamp(off - double{d} + 0.5, 0.0, 1.0) * 65535); });
    }
    return std::make_shared<mask::Matte>("moved.png", pixels);
}

void regionOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        if (scene.difficulty == Difficulty::thin) continue;
        const auto region = regionIn(scene.matte, seed, 50);
        const double seconds = secondsOf([&] {
            printRow(scene.name.c_str(), "region",
                     errorOf(maskOf(scene.photo, documentWith(region)), scene.matte, nullptr));
        });
        std::printf("   %.2f s\n", seconds);
        printRow(scene.name.c_str(), "grabCut alone",
                 errorOf(grabCutAlone(*scene.photo, trimapOf(dynamic_cast<const mask::Region&>(*region), scene.size())),
                         scene.matte, nullptr));
    }
}

void outlineOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        if (scene.difficulty == Difficulty::thin) continue;
        for (const double off : {5.0, 15.0, 40.0}) {
            const auto points = wobblingOutline(scene.matte, off, seed);
            const auto drawn = maskOf(scene.photo, documentWith(std::make_shared<mask::Outline>(points, 0)));
            const auto snapped = maskOf(scene.photo, documentWith(std::make_shared<mask::Outline>(points, 0, off)));
            char name[64];
            std::snprintf(name, sizeof name, "outline %.0f px off", off);
            printRow(scene.name.c_str(), name, errorOf(drawn, scene.matte, nullptr));
            printRow(scene.name.c_str(), "  snapped", errorOf(snapped, scene.matte, nullptr));
            if (off != 15) continue;
            printRow(scene.name.c_str(), "  guided filter alone",
                     errorOf(guidedFilterAlone(*scene.photo, drawn, 30), scene.matte, nullptr));
            image::Plane<std::uint8_t> trimap(scene.size());
            for (int y = 0; y < scene.size().height; ++y)
                std::transform(drawn.row(y).begin(), drawn.row(y).end(), trimap.row(y).begin(),
                               [](float v) { return v > 0.5f ? std::uint8_t{3} : std::uint8_t{0}; });
            printRow(scene.name.c_str(), "  grabCut alone",
                     errorOf(grabCutAlone(*scene.photo, trimap), scene.matte, nullptr));
        }
    }
}

void snapOutcomes(const std::vector<Scene>& all) {
    for (const Scene& scene : all) {
        if (scene.difficulty == Difficulty::thin) continue;
        for (const double off : {3.0, 8.0, 20.0}) {
            const auto before = documentWith(movedMatte(scene.matte, off));
            const auto id = before->corrections.front()->id;
            const auto after =
                document::withCorrection(*before, id, [&](document::Correction& c) { c.mask.refine.edgeSnapPx = off; });
            const auto drawn = maskOf(scene.photo, before);
            const Error was = errorOf(drawn, scene.matte, nullptr),
                        is = errorOf(maskOf(scene.photo, after), scene.matte, nullptr);
            const Error gf =
                errorOf(guidedFilterAlone(*scene.photo, drawn, static_cast<int>(3 * off)), scene.matte, nullptr);
            std::printf(
                "%-13s edge snap %2.0f px: spill %6.2f -> %5.2f (-%.1f %%) short %.2f -> %.2f band %.3f; guided filter "
                "spill %.2f\n",
                scene.name.c_str(), off, was.spillPct, is.spillPct, 100 * (1 - is.spillPct / was.spillPct),
                was.shortPct, is.shortPct, is.band, gf.spillPct);
            std::fflush(stdout);
        }
    }
}

void rightOutcomes(const std::vector<Scene>& all) {
    for (const Scene& scene : all) {
        auto pixels = std::make_shared<image::Plane<std::uint16_t>>(scene.size());
        for (int y = 0; y < scene.size().height; ++y) {
            std::transform(scene.matte.row(y).begin(), scene.matte.row(y).end(), pixels->row(y).begin(),
                           [](float a) { return static_cast<std::uint16_t>(std::lround(double{a} * 65535)); });
        }
        const auto before = documentWith(std::make_shared<mask::Matte>("right.png", pixels));
        const auto id = before->corrections.front()->id;
        std::printf("%-20s right mask, changed by edge snap: ", scene.name.c_str());
        for (const double reach : {3.0, 8.0, 20.0}) {
            const auto after = document::withCorrection(
                *before, id, [&](document::Correction& c) { c.mask.refine.edgeSnapPx = reach; });
            const Error error = errorOf(maskOf(scene.photo, after), scene.matte, nullptr);
            std::printf("  %2.0f px %.2f / %.2f band %.3f", reach, error.spillPct, error.shortPct, error.band);
        }
        std::printf("\n");
        std::fflush(stdout);
    }
}

}  // namespace dimhem::edges
