// Readings of probes: the colour of a place before the corrections and after them.
#pragma once

#include <optional>

#include "core/colour/types.h"
#include "core/document/judging.h"
#include "core/render/renderer.h"

namespace dimhem::task {

struct ProbeColour {
    colour::EncodedRgb mean;  // of linear light, encoded
    colour::Lab lab;          // of that mean
    double spread = 0;        // the mean distance from it, CIELAB units
};

struct ProbeReading {
    ProbeColour before, after;
    double difference = 0;  // CIEDE2000 of the two
};

// Read at the photo's own pixels up to a quarter of a million of them; nothing where the probe lies outside.
std::optional<ProbeColour> readProbe(const render::Renderer& renderer, const render::Sequence& sequence,
                                     const document::Probe& probe);
std::optional<ProbeReading> readProbe(const render::Renderer& renderer, const document::DocumentPtr& document,
                                      const document::Probe& probe);

}  // namespace dimhem::task
