// How long the hand waits for the tools that keep to edges, on a photo of 24 megapixels.
#pragma once

#include "bench/edges/scenes.h"

namespace dimhem::edges {

// `scene` is enlarged to 6000 x 4000. Prints milliseconds, median and 95th percentile, and the median over the time
// that copying 24 megapixels of RGBA float takes in the same run.
void printLatencies(const Scene& scene);

}  // namespace dimhem::edges
