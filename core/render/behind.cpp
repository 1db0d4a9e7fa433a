#include "core/render/behind.h"

#include <algorithm>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/bilinear.h"

namespace dimhem::render {

namespace {

// Encoded grey of the weave at a pixel of the level: threads 6 pixels wide, over and under by turns, each darker
// towards its sides.
float weaveAt(int x, int y) {
    constexpr int threadPx = 6;
    const bool warpOnTop = ((x / threadPx) + (y / threadPx)) % 2 == 0;
    const int across = (warpOnTop ? x : y) % threadPx;
    const bool side = across == 0 || across == threadPx - 1;
    return (warpOnTop ? 0.44f : 0.38f) - (side ? 0.05f : 0.0f);
}

// `behind(x, y, channel)` gives the encoded value behind a pixel of the level.
template <class Behind>
void layOver(const PhotoSource& photo, const mask::Area& area, image::EncodedPlanes& picture, Behind behind) {
    image::EncodedPlanes colours(area.rect.size());
    image::Plane<float> alpha(area.rect.size());
    photo.read(area.rect, area.level, colours, &alpha);
    image::Plane<float>* planes[] = {&picture.red, &picture.green, &picture.blue};
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            const float covered = alpha.view().at(x, y);
            if (covered >= 1) continue;
            for (int c = 0; c < 3; ++c) {
                float& pixel = planes[c]->view().at(x, y);
                const float under = behind(x + area.rect.x0, y + area.rect.y0, c);
                pixel = under + (pixel - under) * covered;
            }
        }
    }
}

// The coarsest level of a picture that still has a pixel for each asked for.
int levelFor(const PhotoSource& source, double pixelsPerPixel) {
    return image::finestLevel([=](int level) { return 2.0 * (1 << level) > pixelsPerPixel; }, source.levels() - 1);
}

}  // namespace

void layOverWeave(const PhotoSource& photo, const mask::Area& area, image::EncodedPlanes& picture) {
    layOver(photo, area, picture, [](int x, int y, int) { return weaveAt(x, y); });
}

void layOverColour(const PhotoSource& photo, const mask::Area& area, const colour::EncodedRgb& colour,
                   image::EncodedPlanes& picture) {
    const float channels[] = {static_cast<float>(colour.r), static_cast<float>(colour.g), static_cast<float>(colour.b)};
    layOver(photo, area, picture, [&](int, int, int c) { return channels[c]; });
}

void layOverPicture(const PhotoSource& photo, const mask::Area& area, const PhotoSource& behind,
                    image::EncodedPlanes& picture) {
    const base::Size to = photo.size(), from = behind.size();
    // Pixels of the picture behind for one of the photo, so that it just covers the photo.
    const double scale =
        std::min(static_cast<double>(from.width) / to.width, static_cast<double>(from.height) / to.height);
    const double perPixel = scale * (1 << area.level);
    const int level = levelFor(behind, perPixel);
    const double step = perPixel / (1 << level);
    const double left = (from.width - to.width * scale) / 2 / (1 << level),
                 top = (from.height - to.height * scale) / 2 / (1 << level);
    const auto placeX = [&](double x) { return left + (x + 0.5) * step; };
    const auto placeY = [&](double y) { return top + (y + 0.5) * step; };
    const base::Rect whole = base::rectOf(image::levelSize(from, level));
    const auto within = [](double v, int most) { return std::clamp(static_cast<int>(std::floor(v)), 0, most - 1); };
    const base::Rect rect{within(placeX(area.rect.x0) - 1, whole.x1), within(placeY(area.rect.y0) - 1, whole.y1),
                          within(placeX(area.rect.x1) + 1, whole.x1) + 1,
                          within(placeY(area.rect.y1) + 1, whole.y1) + 1};
    image::EncodedPlanes read(rect.size());
    behind.read(rect, level, read);
    const image::Plane<float>* planes[] = {&read.red, &read.green, &read.blue};
    layOver(photo, area, picture, [&](int x, int y, int c) {
        return static_cast<float>(kernel::bilinear(*planes[c], placeX(x) - rect.x0, placeY(y) - rect.y0));
    });
}

}  // namespace dimhem::render
