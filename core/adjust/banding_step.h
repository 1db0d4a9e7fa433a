// The steps of a banded picture: whether the values of its smooth places keep to a ladder, and how far its rungs lie
// apart, for each channel.
//
//   blocks     8 x 8, of which those count that lie on one step of the channel, or nearly so
//   density    their means by eighths of a level of 255, each divided by the density about it, so that rare tones count
//              as much as frequent ones
//   strength   | sum w exp(2 pi i v / step) | / sum w: 1 where all lie on rungs; for steps of 0.9 to 7 levels
//   chosen     of the steps near the greatest strength the largest, since halves and thirds of a step fit as well, with
//              four rungs on end that blocks lie on
//
// A photo without bands has some step of some strength in a channel. It is taken for banded where two channels agree
// on a step that is stronger than chance.
#pragma once

#include <array>
#include <vector>

#include "core/image/plane.h"

namespace dimhem::adjust {

// Of a channel, in levels of 255: rungs at phase + n step; no step: none was found. `grain` is the sigma of the noise
// that lies on them.
struct BandingStep {
    double step = 0, phase = 0, grain = 0;
};
using BandingSteps = std::array<BandingStep, 3>;  // red, green, blue

// Gathers blocks from pieces of a picture at level 0.
class StepMeter {
public:
    // A block counts where the coverage, 0..1 and of the picture's size, is more than 0.9 on its mean. An empty
    // coverage means all of it.
    void add(const image::EncodedPlanes& picture, const image::Plane<float>& coverage = {});
    BandingSteps steps() const;
    std::size_t blocks() const { return blocks_.size(); }

private:
    struct OfChannel {
        float mean, deviation, grain;  // levels of 255
    };
    using Block = std::array<OfChannel, 3>;
    std::vector<Block> blocks_;
};

}  // namespace dimhem::adjust
