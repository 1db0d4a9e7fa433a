// Shadows and veils of known strength laid over clean pictures: what is left of them inside, in the soft border and
// outside, beside one correction of exposure at its best.
#include <cmath>
#include <cstdio>

#include "bench/surroundings/outcomes.h"
#include "bench/surroundings/pictures.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/coverage.h"
#include "core/task/measuring.h"

namespace dimhem::surroundings {

namespace {

// A gradient that is full at the left of it and none at its right.
struct Border {
    double middle, width;
    double at(int x) const { return std::clamp((middle + width / 2 - x - 0.5) / width, 0.0, 1.0); }
};

using Law = std::function<double(double light, double covered, std::size_t channel)>;

image::EncodedPlanes laidOver(const image::EncodedPlanes& clean, const Border& border, const Law& law) {
    image::LinearPlanes light = kernel::decoded(copied(clean));
    image::Plane<float>* planes[3] = {&light.red, &light.green, &light.blue};
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 0; y < clean.size().height; ++y) {
            for (int x = 0; x < clean.size().width; ++x) {
                float& v = planes[c]->row(y)[static_cast<std::size_t>(x)];
                v = static_cast<float>(law(double{v}, border.at(x), c));
            }
        }
    }
    return withNoise(
        kernel::encoded(std::move(light)), [](double) { return 0.5; }, 5);
}

document::DocumentPtr under(const Border& border, const std::string& correction) {
    char mask[300];
    std::snprintf(
        mask, sizeof mask,
        R"("mask": {"parts": [{"kind": "linear-gradient", "full": [%f, 0], "none": [%f, 0], "profile": "linear"}]})",
        border.middle - border.width / 2, border.middle + border.width / 2);
    const auto document = document::fromJsonText(
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"}, "corrections": [{)" +
        std::string(mask) + ", " + correction + "}]}");
    if (!document) throw std::runtime_error(document.error().message);
    return *document;
}

image::EncodedPlanes rendered(const render::Renderer& renderer, const document::DocumentPtr& document) {
    image::EncodedPlanes out(renderer.photo().size());
    renderer.picture(render::Sequence(document, {}), {base::rectOf(out.size()), 0}, out);
    return out;
}

// With what the adjustment's own measuring finds.
document::DocumentPtr measuredFirst(const render::Renderer& renderer, const document::DocumentPtr& document) {
    const document::Correction& only = *document->corrections[0];
    const document::Id use = only.adjustments[0].id;
    const auto found = task::measured(renderer, document, only.id, use);
    return found ? document::withAdjustment(*document, only.id, use,
                                            [&](document::AdjustmentUse& u) { u.settings = found->settings; })
                 : document;
}

struct Left {
    double inside, border, outside;
};

Left leftOf(const image::EncodedPlanes& picture, const image::EncodedPlanes& clean, const Border& border) {
    const auto where = [&](auto matters) {
        return image::planeOf(clean.size(), [&](int x, int) { return matters(border.at(x)) ? 1.0f : 0.0f; });
    };
    return {differenceOf(picture, clean, where([](double m) { return m == 1; })).deltaE,
            differenceOf(picture, clean, where([](double m) { return m > 0.03 && m < 0.97; })).deltaE,
            differenceOf(picture, clean, where([](double m) { return m == 0; })).deltaE};
}

std::string wordsOf(const Left& left) {
    char text[60];
    std::snprintf(text, sizeof text, "%5.2f %5.2f %5.2f", left.inside, left.border, left.outside);
    return text;
}

// The best of some exposures, inside.
Left bestExposure(const render::Renderer& renderer, const image::EncodedPlanes& clean, const Border& border) {
    Left best{1e9, 0, 0};
    for (const double stops : {-1.0, -0.5, 0.5, 1.0, 1.5}) {
        const Left now = leftOf(rendered(renderer, under(border, R"("adjustments": [{"kind": "light", "exposure": )" +
                                                                     std::to_string(stops) + "}]")),
                                clean, border);
        if (now.inside < best.inside) best = now;
    }
    return best;
}

void compare(const std::string& name, const image::EncodedPlanes& clean, const Border& border, const Law& law,
             const std::string& adjustment) {
    const auto photo = photoOf(laidOver(clean, border, law));
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
    const document::DocumentPtr document =
        measuredFirst(renderer, under(border, R"("adjustments": [)" + adjustment + "]"));
    std::printf("%-24s %5.0f   %s   %s   %s", name.c_str(), border.width,
                wordsOf(leftOf(pictureOf(*photo), clean, border)).c_str(),
                wordsOf(bestExposure(renderer, clean, border)).c_str(),
                wordsOf(leftOf(rendered(renderer, document), clean, border)).c_str());
    for (const double value : document->corrections[0]->adjustments[0].settings.values) std::printf(" %.2f", value);
    std::printf("\n");
    std::fflush(stdout);
}

}  // namespace

void lightOverOutcomes(const std::string& demo) {
    std::printf(
        "\nShadow lift and veil: mean CIEDE2000 inside, in the border and outside, as it is, by one exposure at "
        "its best, corrected as measured; the settings\n");
    constexpr double gains[3] = {3.2, 2.8, 2.3}, veil[3] = {0.75, 0.6, 0.4};
    for (const std::string name :
         {"bay-gradient", "figurehead", "chart-table", "harmonium", "tower-dusk", "headlands"}) {
        const image::EncodedPlanes clean = readPicture(demo + "/truth/" + name + "-clean.jpg");
        const double middle = 0.45 * clean.size().width;
        for (const double width : {10.0, 40.0, 120.0}) {
            compare(
                name + " shadow", clean, {middle, width},
                [&](double v, double m, std::size_t c) { return v * (1 - m + m / gains[c]); },
                R"({"kind": "shadow-lift", "amount": 100})");
        }
        for (const double width : {300.0, 1200.0}) {
            compare(
                name + " veil", clean, {middle, width},
                [&](double v, double m, std::size_t c) { return (1 - 0.7 * m) * v + 0.7 * m * veil[c]; },
                R"({"kind": "veil", "amount": 100})");
        }
    }
}

}  // namespace dimhem::surroundings
