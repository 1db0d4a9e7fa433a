#include "core/task/probe.h"

#include <algorithm>
#include <cmath>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"

namespace dimhem::task {

namespace {

constexpr int samplingSidePx = 96;  // of the level the mask is sampled at

int levelOfAbout(base::Size photo, int levels, int sidePx) {
    int level = 0;
    while (level + 1 < levels && std::max(photo.width, photo.height) >> level > sidePx) ++level;
    return level;
}

colour::EncodedRgb pixelOf(const image::RgbPlanes& planes, int x, int y) {
    const auto column = static_cast<std::size_t>(x);
    return {planes.red.row(y)[column], planes.green.row(y)[column], planes.blue.row(y)[column]};
}

}  // namespace

std::optional<colour::LinearRgb> colourAt(const render::Renderer& renderer, const render::Sequence& sequence,
                                          base::Point place, int radiusPx) {
    const int x = static_cast<int>(std::floor(place.x)), y = static_cast<int>(std::floor(place.y));
    const base::Rect rect = base::intersected({x - radiusPx, y - radiusPx, x + radiusPx + 1, y + radiusPx + 1},
                                              base::rectOf(renderer.photo().size()));
    if (rect.empty()) return std::nullopt;
    image::RgbPlanes picture(rect.size());
    renderer.picture(sequence, {rect, 0}, picture);
    colour::LinearRgb sum;
    for (int row = 0; row < rect.height(); ++row) {
        for (int column = 0; column < rect.width(); ++column) {
            const colour::LinearRgb pixel = colour::linearFromEncoded(pixelOf(picture, column, row));
            sum = {sum.r + pixel.r, sum.g + pixel.g, sum.b + pixel.b};
        }
    }
    const double count = static_cast<double>(rect.width()) * rect.height();
    return colour::LinearRgb{sum.r / count, sum.g / count, sum.b / count};
}

std::vector<double> toneHistogram(const render::Renderer& renderer, const render::Sequence& sequence) {
    constexpr int sidePx = 400;
    const int level = levelOfAbout(renderer.photo().size(), renderer.photo().levels(), sidePx);
    const mask::Area area{base::rectOf(image::levelSize(renderer.photo().size(), level)), level};
    image::RgbPlanes picture(area.rect.size());
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
    const int level = levelOfAbout(renderer.photo().size(), renderer.photo().levels(), samplingSidePx);
    const mask::Area area{base::rectOf(image::levelSize(renderer.photo().size(), level)), level};
    const mask::CoveragePtr coverage = renderer.coverage(render::Sequence(document, {}), correction, area);
    if (coverage->isEmpty()) return found->threadColour;
    image::RgbPlanes photo(area.rect.size());
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
