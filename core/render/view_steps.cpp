#include "core/render/view_steps.h"

#include <algorithm>
#include <array>

#include "core/colour/thread_colours.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/dither_rows.h"

namespace dimhem::render {

namespace {

using image::EncodedPlanes;
using image::Plane;

// Each value with that of another picture.
template <class Change>
void changeEach(EncodedPlanes& picture, const EncodedPlanes& other, Change change) {
    for (const auto& [now, was] : {std::pair{&picture.red, &other.red}, std::pair{&picture.green, &other.green},
                                   std::pair{&picture.blue, &other.blue}}) {
        for (int y = 0; y < now->size().height; ++y)
            std::transform(now->row(y).begin(), now->row(y).end(), was->row(y).begin(), now->row(y).begin(), change);
    }
}

float coverageAt(const mask::Coverage& coverage, int x, int y) {
    const std::uint16_t value = coverage.isConstant() ? coverage.value() : coverage.row(y)[x];
    return static_cast<float>(value) / kernel::fullCoverage;
}

// A value of a picture under coverage, 0..1.
float shownUnder(MaskView how, float value, float covered, float colour, float opacity) {
    constexpr float cutOutGrey = 0.32f;
    switch (how) {
        case MaskView::none:
        case MaskView::stitch:
        case MaskView::change: break;
        case MaskView::tint: return value + (colour - value) * covered * opacity;
        case MaskView::plate: return covered;
        case MaskView::cutOut: return cutOutGrey + (value - cutOutGrey) * covered;
    }
    return value;
}

constexpr auto showMask = [](EncodedPlanes& picture, const mask::Coverage& coverage, MaskView how, double gain,
                             double opacity, int threadColour) {
    const colour::ThreadColour& thread = colour::threadColours[static_cast<std::size_t>(threadColour)];
    const std::pair<Plane<float>*, int> channels[] = {
        {&picture.red, thread.red}, {&picture.green, thread.green}, {&picture.blue, thread.blue}};
    for (const auto& [plane, colour] : channels) {
        for (int y = 0; y < picture.size().height; ++y) {
            for (int x = 0; x < picture.size().width; ++x) {
                const float covered = std::min(1.0f, coverageAt(coverage, x, y) * static_cast<float>(gain));
                float& value = plane->view().at(x, y);
                value = shownUnder(how, value, covered, static_cast<float>(colour) / 255, static_cast<float>(opacity));
            }
        }
    }
};

}  // namespace

ViewStep pushedFrom(PictureReading without) {
    return stage::step<EncodedPlanes>(
        "pushed",
        [](EncodedPlanes& picture, const EncodedPlanes& without) {
            constexpr auto factor = static_cast<float>(pushFactor);
            changeEach(picture, without, [](float with, float before) { return before + (with - before) * factor; });
        },
        std::move(without));
}

ViewStep ditheredFrom(PictureReading photo, const image::Area& area) {
    return stage::step<EncodedPlanes>(
        "dithered",
        [](EncodedPlanes& picture, const EncodedPlanes& photo, const image::Area& area) {
            for (int y = 0; y < area.rect.height(); ++y)
                kernel::addDither(kernel::rowOf(picture, y), kernel::rowOf(photo, y),
                                  static_cast<std::size_t>(area.rect.width()), area.rect.x0, area.rect.y0 + y,
                                  kernel::eightBitStep);
        },
        std::move(photo), area);
}

ViewStep changeFrom(PictureReading without, double gain) {
    return stage::step<EncodedPlanes>(
        "change",
        [](EncodedPlanes& picture, const EncodedPlanes& without, double gain) {
            const auto by = static_cast<float>(gain);
            changeEach(picture, without, [by](float with, float before) { return 0.5f + (with - before) * by; });
        },
        std::move(without), gain);
}

ViewStep withMask(stage::Staged<mask::Coverage> coverage, const View& view, int threadColour) {
    return stage::step<EncodedPlanes>("mask", showMask, std::move(coverage), view.maskView, view.maskGain,
                                      view.tintOpacity, threadColour);
}

ViewStep withTones(const Shine& shine, std::optional<stage::Staged<mask::Coverage>> coverage) {
    return stage::step<EncodedPlanes>(
        "tones that shine",
        [](EncodedPlanes& picture, const Shine& shine, const std::optional<stage::Staged<mask::Coverage>>& coverage) {
            const mask::CoveragePtr under = coverage ? coverage->value() : nullptr;
            shineTones(shine, under.get(), nullptr, picture);
        },
        shine, std::move(coverage));
}

ViewStep withTonesOf(const Shine& shine, PictureReading tones, std::optional<stage::Staged<mask::Coverage>> coverage) {
    return stage::step<EncodedPlanes>(
        "tones of another picture that shine",
        [](EncodedPlanes& picture, const Shine& shine, const EncodedPlanes& tones,
           const std::optional<stage::Staged<mask::Coverage>>& coverage) {
            const mask::CoveragePtr under = coverage ? coverage->value() : nullptr;
            shineTones(shine, under.get(), &tones, picture);
        },
        shine, std::move(tones), std::move(coverage));
}

ViewStep withLost(PictureReading before, stage::Keyed<WrittenColours> written) {
    return stage::step<EncodedPlanes>(
        "what is lost shines",
        [](EncodedPlanes& picture, const EncodedPlanes& before, const WrittenColours& written) {
            shineLost(written, before, picture);
        },
        std::move(before), written);
}

}  // namespace dimhem::render
