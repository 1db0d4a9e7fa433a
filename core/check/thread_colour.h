// Which thread colour suits a mask.
#pragma once

#include <span>

#include "core/colour/thread_colours.h"
#include "core/colour/types.h"

namespace dimhem::check {

// A colour of the photo and how much of the mask lies on it.
struct Sample {
    colour::Lab lab;
    double weight;
};

// The mean CIEDE2000 difference between a thread colour and what lies under the mask; 0 without any weight.
double contrast(const colour::ThreadColour& thread, std::span<const Sample> under);

// The index of the thread colour that contrasts most with what lies under the mask, among those not `taken`
// by other corrections (all of them where all are taken). `current` is kept unless another one is clearly better
// (more than 1.4 times the contrast), so that it does not flicker while the mask grows.
int chooseThreadColour(std::span<const Sample> under, std::span<const int> taken, int current);

}  // namespace dimhem::check
