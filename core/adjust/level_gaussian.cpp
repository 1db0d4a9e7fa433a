#include "core/adjust/level_gaussian.h"

#include <algorithm>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/gaussian.h"

namespace dimhem::adjust {

int LevelGaussian::modelLevel(int level) const {
    constexpr double mostSigma = 8;
    return std::max(level, image::levelOfLength(sigmaPx_, mostSigma));
}

int LevelGaussian::reach(int modelLevel) const {
    return kernel::gaussianReach(sigmaOn(modelLevel));
}

void LevelGaussian::blur(image::LinearPlanes around, int modelLevel, std::span<image::Plane<float>> model) const {
    const int by = reach(modelLevel);
    const base::Rect own{by, by, by + model[0].size().width, by + model[0].size().height};
    image::Plane<float>* from[] = {&around.red, &around.green, &around.blue};
    for (std::size_t c = 0; c < 3; ++c) {
        kernel::gaussianBlur(*from[c], sigmaOn(modelLevel));
        image::copyShared(*from[c], base::rectOf(from[c]->size()), model[c], own);
    }
}

double LevelGaussian::sigmaOn(int level) const {
    const double sigma = sigmaPx_ / (1 << level), ofPixels = level > 0 ? 1.0 / 12 : 0;
    return std::sqrt(std::max(0.0, sigma * sigma - ofPixels));
}

}  // namespace dimhem::adjust
