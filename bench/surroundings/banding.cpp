// Bands of known steps on clean pictures, and the banded sky of the demo set against its truth.
#include <cmath>
#include <cstdio>

#include "bench/surroundings/outcomes.h"
#include "bench/surroundings/pictures.h"
#include "core/adjust/banding.h"

namespace dimhem::surroundings {

namespace {

constexpr auto noiseOff = R"({"kind": "noise", "luminance": 100, "colour": 100, "blotches": 100})",
               bandsOff = R"({"kind": "banding", "amount": 100})",
               bandsOffEvenly = R"({"kind": "banding", "amount": 100, "keep-texture": 0})";

// The root mean square of the difference of means over squares of 12, in levels of 255: what is left of bands.
double blockError(const image::EncodedPlanes& a, const image::EncodedPlanes& b, const image::Plane<float>& where) {
    constexpr int side = 12;
    double sum = 0, count = 0;
    for (int y = 0; y + side <= a.size().height; y += side) {
        for (int x = 0; x + side <= a.size().width; x += side) {
            double covered = 0, mean[3] = {};
            for (int row = y; row < y + side; ++row) {
                for (auto i = static_cast<std::size_t>(x); i < static_cast<std::size_t>(x + side); ++i) {
                    covered += where.size().empty() ? 1 : double{where.row(row)[i]};
                    mean[0] += double{a.red.row(row)[i] - b.red.row(row)[i]};
                    mean[1] += double{a.green.row(row)[i] - b.green.row(row)[i]};
                    mean[2] += double{a.blue.row(row)[i] - b.blue.row(row)[i]};
                }
            }
            if (covered < 0.95 * side * side) continue;
            for (const double m : mean) sum += (255 * m / (side * side)) * (255 * m / (side * side));
            count += 3;
        }
    }
    return std::sqrt(sum / count);
}

image::EncodedPlanes inSteps(const image::EncodedPlanes& picture, double step) {
    image::EncodedPlanes out = copied(picture);
    for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) {
        for (int y = 0; y < plane->size().height; ++y) {
            for (float& v : plane->row(y)) v = static_cast<float>(step * std::round(255 * v / step) / 255);
        }
    }
    return out;
}

void line(const std::string& name, const image::EncodedPlanes& picture, const image::EncodedPlanes& clean,
          const image::Plane<float>& where, double ms) {
    const Difference d = differenceOf(picture, clean, where);
    std::printf("%-38s %6.2f %6.1f %6.2f %7.0f\n", name.c_str(), blockError(picture, clean, where), d.psnr, d.deltaE,
                ms / megapixels(clean.size()));
    std::fflush(stdout);
}

void corrections(const std::string& name, const std::shared_ptr<const render::PhotoSource>& photo,
                 const image::EncodedPlanes& clean, const image::Plane<float>& where,
                 std::initializer_list<std::pair<const char*, std::string>> made) {
    line(name, pictureOf(*photo), clean, where, 0);
    for (const auto& [what, adjustments] : made) {
        const Corrected outcome = corrected(photo, adjustments);
        line(std::string("  ") + what, outcome.picture, clean, where, outcome.renderingMs);
    }
}

void printSteps(const std::string& name, const image::EncodedPlanes& picture) {
    adjust::StepMeter meter;
    meter.add(picture);
    const adjust::BandingSteps steps = meter.steps();
    std::printf("%-30s", name.c_str());
    for (const adjust::BandingStep& step : steps) std::printf("  %5.2f (%.2f)", step.step, step.grain);
    std::printf("\n");
}

}  // namespace

void bandingOutcomes(const std::string& demo) {
    std::printf("\nBanding: block error in levels, PSNR, mean CIEDE2000 against clean; ms a megapixel\n");
    const image::EncodedPlanes dusk = readPicture(demo + "/tower-dusk.jpg"),
                               clean = readPicture(demo + "/truth/tower-dusk-clean.jpg");
    image::EncodedPlanes sky = readPicture(demo + "/truth/tower-dusk-sky.png");
    corrections("tower-dusk, sky", photoOf(dusk), clean, sky.red,
                {{"banding", bandsOff},
                 {"banding, texture off", bandsOffEvenly},
                 {"noise", noiseOff},
                 {"noise and banding", std::string(noiseOff) + "," + bandsOff},
                 {"noise and banding, texture off", std::string(noiseOff) + "," + bandsOffEvenly}});
    const image::EncodedPlanes bay = readPicture(demo + "/truth/bay-gradient-clean.jpg");
    sky = readPicture(demo + "/truth/bay-gradient-sky.png");
    for (const double step : {1.0, 2.0, 3.0, 4.0, 6.0}) {
        for (const double grain : {0.0, 1.5}) {
            char name[64];
            std::snprintf(name, sizeof name, "bay-gradient, step %.0f, noise %.1f", step, grain);
            const auto photo = photoOf(withNoise(
                inSteps(bay, step), [=](double) { return grain; }, 7));
            corrections(name, photo, bay, sky.red, {{"banding", bandsOff}, {"banding, texture off", bandsOffEvenly}});
        }
    }
    std::printf("\nSteps that are found (grain), in levels of 255\n");
    for (const std::string name :
         {"tower-dusk", "bay-gradient", "figurehead", "chart-table", "harmonium", "headlands", "boathouse-print"})
        printSteps(name, readPicture(demo + "/" + name + ".jpg"));
}

}  // namespace dimhem::surroundings
