#include "core/render/weave.h"

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

}  // namespace

void layOverWeave(const PhotoSource& photo, const mask::Area& area, image::RgbPlanes& picture) {
    image::RgbPlanes colours(area.rect.size());
    image::Plane<float> alpha(area.rect.size());
    photo.read(area.rect, area.level, colours, &alpha);
    for (int y = 0; y < area.rect.height(); ++y) {
        for (int x = 0; x < area.rect.width(); ++x) {
            const float weave = weaveAt(x + area.rect.x0, y + area.rect.y0);
            const float covered = alpha.view().at(x, y);
            for (image::Plane<float>* plane : {&picture.red, &picture.green, &picture.blue}) {
                float& pixel = plane->view().at(x, y);
                pixel = weave + (pixel - weave) * covered;
            }
        }
    }
}

}  // namespace dimhem::render
