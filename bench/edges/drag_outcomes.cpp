// Region as a hand in a hurry uses it: few drags over the middle, one drag that takes away beside the thing, and Reach
// moved over its range.
#include <cmath>
#include <cstdio>
#include <random>

#include "bench/edges/baselines.h"
#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"
#include "core/kernel/signed_distance.h"
#include "core/mask/region.h"

namespace dimhem::edges {

namespace {

// Where all of a straight way lies at least `apart` pixels inside (outside: past the edge, by at most `most`).
bool isClear(const kernel::DistanceField& field, base::Point from, base::Point to, double least, double most) {
    const base::Size size = field.distance.size();
    for (int i = 0; i <= 40; ++i) {
        const int x = static_cast<int>(from.x + (to.x - from.x) * i / 40),
                  y = static_cast<int>(from.y + (to.y - from.y) * i / 40);
        if (x < 0 || y < 0 || x >= size.width || y >= size.height) return false;
        const double d = double{field.distance.row(y)[static_cast<std::size_t>(x)]};
        if (d < least || d > most) return false;
    }
    return true;
}

// Up to `count` straight drags of that length whose distance past the edge lies within these bounds.
std::vector<mask::RegionDrag> dragsAt(const kernel::DistanceField& field, int count, double length, double least,
                                      double most, bool removes, std::mt19937& random) {
    std::vector<mask::RegionDrag> drags;
    const base::Size size = field.distance.size();
    for (int attempt = 0; attempt < 200000 && static_cast<int>(drags.size()) < count; ++attempt) {
        const double x = random() / 4294967296.0 * size.width, y = random() / 4294967296.0 * size.height,
                     angle = random() / 4294967296.0 * 6.283;
        const base::Point to{x + std::cos(angle) * length, y + std::sin(angle) * length};
        if (isClear(field, {x, y}, to, least, most)) drags.push_back({{{x, y}, to}, removes});
    }
    return drags;
}

image::Plane<std::uint8_t> trimapOf(const std::vector<mask::RegionDrag>& drags, base::Size size) {
    image::Plane<std::uint8_t> out(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(out.row(y).data(), size.width, std::uint8_t{2});
    for (const mask::RegionDrag& drag : drags) {
        for (int i = 0; i <= 200; ++i) {
            const base::Point at = drag.points[0] + (drag.points[1] - drag.points[0]) * (i / 200.0);
            for (int j = -3; j <= 3; ++j) {
                for (int k = -3; k <= 3; ++k) {
                    const int x = static_cast<int>(at.x) + k, y = static_cast<int>(at.y) + j;
                    if (x >= 0 && y >= 0 && x < size.width && y < size.height)
                        out.row(y)[static_cast<std::size_t>(x)] = drag.removes ? 0 : 1;
                }
            }
        }
    }
    return out;
}

Error regionError(const Scene& scene, const std::vector<mask::RegionDrag>& drags, double reachPct) {
    return errorOf(maskOf(scene.photo, documentWith(std::make_shared<mask::Region>(drags, reachPct))), scene.matte,
                   nullptr);
}

}  // namespace

void dragOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    std::vector<double> worstFew, worstMore;
    for (const Scene& scene : all) {
        const kernel::DistanceField field = kernel::signedDistance(scene.matte);
        std::mt19937 random(seed);
        const auto few = dragsAt(field, 3, 260, -1e9, -20, false, random);
        auto more = dragsAt(field, 8, 90, -1e9, -10, false, random);
        more.insert(more.end(), few.begin(), few.end());
        auto taking = few;
        const auto beside = dragsAt(field, 1, 60, 8, 30, true, random);
        taking.insert(taking.end(), beside.begin(), beside.end());
        auto both = few;
        const auto away = dragsAt(field, 3, 160, 40, 1e9, true, random);
        both.insert(both.end(), away.begin(), away.end());
        const Error ofFew = regionError(scene, few, 50), ofMore = regionError(scene, more, 50),
                    ofTaking = regionError(scene, taking, 50), ofBoth = regionError(scene, both, 50),
                    cut = errorOf(grabCutAlone(*scene.photo, trimapOf(few, scene.size())), scene.matte, nullptr),
                    cutBoth = errorOf(grabCutAlone(*scene.photo, trimapOf(both, scene.size())), scene.matte, nullptr);
        std::printf(
            "%-20s 3 drags %.3f (%.1f/%.1f)  11 %.3f (%.1f/%.1f)  3, 1 beside %.3f (%.1f/%.1f)  3, 3 away %.3f "
            "(%.1f/%.1f)  GrabCut %.3f, %.3f  Reach",
            scene.name.c_str(), ofFew.iou, ofFew.spillPct, ofFew.shortPct, ofMore.iou, ofMore.spillPct, ofMore.shortPct,
            ofTaking.iou, ofTaking.spillPct, ofTaking.shortPct, ofBoth.iou, ofBoth.spillPct, ofBoth.shortPct, cut.iou,
            cutBoth.iou);
        for (const double reach : {10.0, 30.0, 40.0, 60.0, 70.0, 90.0})
            std::printf(" %.2f", regionError(scene, few, reach).iou);
        std::printf("\n");
        std::fflush(stdout);
        worstFew.push_back(ofFew.iou);
        worstMore.push_back(ofMore.iou);
    }
    std::printf("3 drags: median %.3f, worst %.3f; 11: %.3f, %.3f\n", median(worstFew),
                *std::min_element(worstFew.begin(), worstFew.end()), median(worstMore),
                *std::min_element(worstMore.begin(), worstMore.end()));
}

}  // namespace dimhem::edges
