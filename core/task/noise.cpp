#include "core/task/noise.h"

#include "core/image/tiles.h"

namespace dimhem::task {

adjust::NoiseLevel photoNoise(const render::PhotoSource& photo, const base::CancelToken& cancel) {
    constexpr int windowPx = 128, mostAcross = 12;  // multiples of 8
    const image::TileGrid grid(photo.size(), windowPx);
    const int stepX = (grid.columns() + mostAcross - 1) / mostAcross,
              stepY = (grid.rows() + mostAcross - 1) / mostAcross;
    adjust::NoiseMeter meter;
    for (int row = stepY / 2; row < grid.rows(); row += stepY) {
        for (int column = stepX / 2; column < grid.columns(); column += stepX) {
            base::throwIfCancelled(cancel);
            const base::Rect window = grid.tile(column, row);
            image::EncodedPlanes picture(window.size());
            photo.read(window, 0, picture);
            meter.add(picture);
        }
    }
    return meter.level();
}

}  // namespace dimhem::task
