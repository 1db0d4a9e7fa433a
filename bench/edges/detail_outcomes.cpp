// Fine detail painted over carelessly, from a mask that is only the thing's hull.
#include <chrono>
#include <cstdio>

#include "bench/edges/baselines.h"
#include "bench/edges/detail_scenes.h"
#include "bench/edges/outcomes.h"
#include "core/edge/found_band.h"
#include "core/edge/guided_filter.h"
#include "core/edge/solved_matte.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::edges {

namespace {

constexpr int side = Detailed::side;

double offNear(const Detailed& scene, const image::Plane<float>& mask) {
    double sum = 0, count = 1e-9;
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) {
            if (!scene.near.view().at(x, y)) continue;
            sum += std::abs(double{mask.view().at(x, y)} - double{scene.matte.view().at(x, y)});
            count += 1;
        }
    }
    return sum / count;
}

// With nothing painted: in the band found at half the size.
image::Plane<float> solvedInFound(const Detailed& scene, double noise) {
    const base::Size half{side / 2, side / 2};
    const auto halved = [&](const image::Plane<float>& from) {
        return image::planeOf(half, [&](int x, int y) {
            float sum = 0;
            for (int k = 0; k < 4; ++k) sum += from.view().at(2 * x + k % 2, 2 * y + k / 2);
            return sum / 4;
        });
    };
    image::LinearPlanes picture;
    picture.red = halved(scene.picture.red);
    picture.green = halved(scene.picture.green);
    picture.blue = halved(scene.picture.blue);
    const image::Plane<std::uint8_t> band = edge::foundBand(picture, halved(scene.hull), noise / 2);
    image::Plane<std::uint8_t> zone({side, side});
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) zone.view().at(x, y) = band.view().at(x / 2, y / 2);
    }
    return edge::solvedMatte(scene.picture, {0, 0}, scene.hull, zone, base::rectOf({side, side}), {3, 0.2, noise});
}

}  // namespace

void detailOutcomes(const std::string& demo, std::uint32_t seed) {
    const std::vector<DetailKind> kinds = detailKinds();
    const std::vector<cv::Mat> grounds = detailGrounds(demo);
    std::printf(
        "\nFine detail painted over, mean |mask - matte| near it: the hull it began from, the guided filter on that, "
        "solved; median and worst of %zu pictures\n\n",
        grounds.size());
    for (const DetailKind& kind : kinds) {
        for (const double noise : {0.0, 10.0}) {
            std::vector<double> hull, filtered, solved, found, seconds;
            for (std::size_t i = 0; i < grounds.size(); ++i) {
                const Detailed made = detailed(kind, grounds[i], grounds[(i + 1) % grounds.size()], noise,
                                               seed + static_cast<std::uint32_t>(i));
                hull.push_back(offNear(made, made.hull));
                image::LinearPlanes light({side, side});
                image::copyShared(made.picture, base::rectOf({side, side}), light, base::rectOf({side, side}));
                const edge::Guide guide = edge::guideFrom(kernel::encoded(std::move(light)));
                filtered.push_back(offNear(made, edge::guided(guide, made.hull, 12, 1e-5)));
                const auto begun = std::chrono::steady_clock::now();
                const image::Plane<float> matte =
                    edge::solvedMatte(made.picture, {0, 0}, made.hull, made.zone, base::rectOf({side, side}),
                                      {3, 0.2, edge::noiseOf(guide.l)});
                double area = 0;
                for (int y = 0; y < side; ++y) {
                    for (const std::uint8_t z : made.zone.row(y)) area += z;
                }
                seconds.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count() /
                                  area * 1e6);
                solved.push_back(offNear(made, matte));
                found.push_back(offNear(made, solvedInFound(made, edge::noiseOf(guide.l))));
            }
            const auto worst = [](const std::vector<double>& v) { return *std::max_element(v.begin(), v.end()); };
            std::printf(
                "%-12s noise %2.0f   hull %.3f   guided filter %.3f   solved %.3f worst %.3f (asked %.2f)   "
                "in the band found %.3f worst %.3f   %4.1f s/MP\n",
                kind.name, noise, median(hull), median(filtered), median(solved), worst(solved), kind.target,
                median(found), worst(found), median(seconds));
        }
    }
}

}  // namespace dimhem::edges
