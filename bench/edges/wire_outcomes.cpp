// Wires of known width clicked along: hanging ropes over photos, three places each, up to four pixels off.
#include <cstdio>
#include <filesystem>

#include "bench/edges/drawn.h"
#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"
#include "core/mask/wire.h"

namespace dimhem::edges {

namespace {

constexpr double fromX = 80, toX = 1120;

struct Rope {
    double y, sag, width;
    double at(double x) const { return y + sag * (1 - std::pow((x - 600) / 520, 2)); }
    bool covers(double x, double py) const {
        const double slope = -2 * sag * (x - 600) / (520.0 * 520);
        return x > fromX && x < toX && std::abs(py - at(x)) / std::hypot(1, slope) < width / 2;
    }
    image::Plane<float> matte() const {
        return image::planeOf(compositeSize, [&](int x, int y) {
            if (std::abs(y - at(x)) > width + 3) return 0.0f;
            int inside = 0;
            for (int i = 0; i < 64; ++i) inside += covers(x + (i % 8 + 0.5) / 8, y + (i / 8 + 0.5) / 8) ? 1 : 0;
            return static_cast<float>(inside) / 64;
        });
    }
};

}  // namespace

void wireOutcomes(const std::string& demo, std::uint32_t seed) {
    std::vector<image::Photo> photos;
    for (const char* name : {"bay-gradient", "headlands", "tower-dusk", "harmonium"})
        photos.push_back(load(demo + "/" + name + ".jpg"));
    const std::string more = "/usr/share/backgrounds/mate/nature/";
    for (const char* name : {"Wood", "Garden", "Storm", "Aqua"}) {
        if (std::filesystem::exists(more + name + ".jpg")) photos.push_back(load(more + name + ".jpg"));
    }
    std::printf("\nWires clicked along, over %zu photos: spill / short in %%, median and worst\n\n", photos.size());
    for (const double width : {1.0, 1.5, 2.0, 3.0, 4.0, 6.0, 8.0, 12.0}) {
        std::vector<double> spill, missing;
        Random random(seed);
        for (const image::Photo& photo : photos) {
            const Rope rope{random.between(150, 500), random.between(20, 120), width};
            const float colour[3] = {0.05f, 0.045f, 0.04f};
            const Scene scene =
                composite("rope", Difficulty::thin, shaded(colour, random), linearCrop(photo, 200, 100, compositeSize),
                          rope.matte(), 0, 2.0 / 255, random);
            mask::WireLine line{{}, 8};
            for (const double x : {fromX, 600.0, toX}) line.points.push_back({x, rope.at(x) + random.between(-4, 4)});
            const Error error =
                errorOf(maskOf(scene.photo, documentWith(std::make_shared<mask::Wire>(std::vector{line}, 100))),
                        scene.matte, nullptr);
            spill.push_back(error.spillPct);
            missing.push_back(error.shortPct);
        }
        std::printf("%4.1f px wide   %5.1f / %5.1f   worst %5.1f / %5.1f\n", width, median(spill), median(missing),
                    *std::ranges::max_element(spill), *std::ranges::max_element(missing));
        std::fflush(stdout);
    }
}

}  // namespace dimhem::edges
