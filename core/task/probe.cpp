#include "core/task/probe.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/colour/hsl.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/colour_range.h"

namespace dimhem::task {

namespace {

constexpr int samplingSidePx = 96;  // of the level the mask is sampled at

template <class Use>
void forEachPixel(const image::EncodedPlanes& picture, Use use) {
    for (int y = 0; y < picture.size().height; ++y) {
        for (int x = 0; x < picture.size().width; ++x) use(pixelOf(picture, x, y));
    }
}

}  // namespace

colour::EncodedRgb pixelOf(const image::EncodedPlanes& planes, int x, int y) {
    const auto column = static_cast<std::size_t>(x);
    return {planes.red.row(y)[column], planes.green.row(y)[column], planes.blue.row(y)[column]};
}

std::optional<image::EncodedPlanes> pictureIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect) {
    constexpr double mostPixels = 250'000;
    const base::Size size = renderer.photo().size();
    const base::Rect inside = base::intersected(photoRect, base::rectOf(size));
    if (inside.empty()) return std::nullopt;
    const int level = image::levelOfAtMost(inside.size(), mostPixels, renderer.photo().levels() - 1);
    const mask::Area area{
        base::intersected(image::levelRect(inside, level), base::rectOf(image::levelSize(size, level))), level};
    image::EncodedPlanes picture(area.rect.size());
    renderer.picture(sequence, area, picture);
    return picture;
}

std::optional<colour::LinearRgb> colourAt(const render::Renderer& renderer, const render::Sequence& sequence,
                                          base::Point place, int radiusPx) {
    const int x = static_cast<int>(std::floor(place.x)), y = static_cast<int>(std::floor(place.y));
    return meanColourIn(renderer, sequence, {x - radiusPx, y - radiusPx, x + radiusPx + 1, y + radiusPx + 1});
}

std::optional<colour::LinearRgb> meanColourIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect) {
    const std::optional<image::EncodedPlanes> picture = pictureIn(renderer, sequence, photoRect);
    if (!picture) return std::nullopt;
    colour::LinearRgb sum;
    forEachPixel(*picture, [&](const colour::EncodedRgb& encoded) {
        const colour::LinearRgb pixel = colour::linearFromEncoded(encoded);
        sum = {sum.r + pixel.r, sum.g + pixel.g, sum.b + pixel.b};
    });
    const double count = static_cast<double>(picture->size().width) * picture->size().height;
    return colour::LinearRgb{sum.r / count, sum.g / count, sum.b / count};
}

double chromaOf(const colour::EncodedRgb& c) {
    return std::max({c.r, c.g, c.b}) - std::min({c.r, c.g, c.b});
}

std::optional<Hues> huesIn(const render::Renderer& renderer, const render::Sequence& sequence,
                           const base::Rect& photoRect) {
    constexpr double least = 0.02;  // mean chroma below which there is no colour to speak of
    constexpr double perDegree = std::numbers::pi / 180;
    const std::optional<image::EncodedPlanes> picture = pictureIn(renderer, sequence, photoRect);
    if (!picture) return std::nullopt;
    double x = 0, y = 0, weight = 0, count = 0;
    forEachPixel(*picture, [&](const colour::EncodedRgb& c) {
        const double hue = colour::hslHueDeg(c) * perDegree, chroma = chromaOf(c);
        x += chroma * std::cos(hue);
        y += chroma * std::sin(hue);
        weight += chroma;
        ++count;
    });
    if (weight < least * count) return std::nullopt;
    // The circular standard deviation, sqrt(-2 ln R) with R the length of the mean direction (Mardia and Jupp,
    // Directional Statistics, 2000).
    const double length = std::clamp(std::hypot(x, y) / weight, 1e-6, 1.0);
    const double middle = std::atan2(y, x) / perDegree;
    return Hues{middle < 0 ? middle + 360 : middle, std::sqrt(-2 * std::log(length)) / perDegree};
}

std::vector<double> toneHistogram(const render::Renderer& renderer, const render::Sequence& sequence) {
    constexpr int sidePx = 400;
    const int level = image::levelOfSide(renderer.photo().size(), sidePx, renderer.photo().levels() - 1);
    const mask::Area area{base::rectOf(image::levelSize(renderer.photo().size(), level)), level};
    image::EncodedPlanes picture(area.rect.size());
    renderer.picture(sequence, area, picture);
    std::vector<double> bins(100);
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            const double tone = colour::labFromEncoded(pixelOf(picture, x, y)).l;
            ++bins[static_cast<std::size_t>(std::clamp(tone, 0.0, 99.999))];
        }
    }
    return bins;
}

int suitableThreadColour(const render::Renderer& renderer, const document::DocumentPtr& document,
                         document::Id correction) {
    const document::Correction* found = document::findCorrection(*document, correction);
    if (!found || found->threadColourChosen) return found ? found->threadColour : 0;
    const int level = image::levelOfSide(renderer.photo().size(), samplingSidePx, renderer.photo().levels() - 1);
    const mask::Area area{base::rectOf(image::levelSize(renderer.photo().size(), level)), level};
    const mask::CoveragePtr coverage = renderer.coverage(render::Sequence(document, {}), correction, area);
    if (coverage->isEmpty()) return found->threadColour;
    image::EncodedPlanes photo(area.rect.size());
    renderer.photo().read(area.rect, level, photo);
    std::vector<check::Sample> under;
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            const std::uint16_t covered = coverage->isConstant() ? coverage->value() : coverage->row(y)[x];
            if (covered > 0)
                under.push_back({colour::labFromEncoded(pixelOf(photo, x, y)), covered / double{kernel::fullCoverage}});
        }
    }
    std::vector<int> taken;
    for (const document::CorrectionPtr& other : document->corrections) {
        if (other->id != correction) taken.push_back(other->threadColour);
    }
    return check::chooseThreadColour(under, taken, found->threadColour);
}

}  // namespace dimhem::task
