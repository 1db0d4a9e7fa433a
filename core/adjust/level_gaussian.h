// A Gaussian blur of any size for the models of spatial operations, on the level where its sigma is at most 8 pixels.
//
// What it leaves of the picture has nothing finer than that level. The pixels of a level are means already, of squares
// of 2^level; their variance, 1/12 of the square of that, is taken off.
#pragma once

#include <span>

#include "core/base/content_key.h"
#include "core/image/plane.h"

namespace dimhem::adjust {

class LevelGaussian {
public:
    explicit LevelGaussian(double sigmaPx) : sigmaPx_(sigmaPx) {}  // in pixels of the photo

    void addTo(base::KeyBuilder& key) const { key.add(sigmaPx_); }
    int modelLevel(int level) const;
    int reach(int modelLevel) const;
    // Of planes that are larger than the model by the reach on every side.
    void blur(image::LinearPlanes around, int modelLevel, std::span<image::Plane<float>> model) const;

private:
    double sigmaOn(int level) const;
    double sigmaPx_;
};

}  // namespace dimhem::adjust
