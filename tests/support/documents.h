// Documents for tests, written as a person would write them.
#pragma once

#include <string>

#include "core/document/json_format.h"

namespace dimhem::tests {

inline document::DocumentPtr documentOf(const std::string& corrections) {
    const auto document = document::fromJsonText(
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"}, "corrections": )" +
        corrections + "}");
    if (!document) throw std::runtime_error(document.error().message);
    return *document;
}

// Three corrections for a photo of about 400 x 300: a gradient less a stroke, a painted one, one everywhere but weak.
inline document::DocumentPtr threeCorrections() {
    return documentOf(R"([
      {"name": "Sky", "mask": {"parts": [
         {"kind": "linear-gradient", "full": [200, 20], "none": [210, 180]},
         {"kind": "brush", "combine": "subtract", "strokes": [{"size": 60, "softness": 40, "points": [[120, 20], [130, 160]]}]}]},
       "adjustments": [{"kind": "light", "exposure": -1.2, "contrast": 20, "hold-colour": true}]},
      {"name": "Spot", "strength": 70, "mask": {"parts": [
         {"kind": "brush", "strokes": [{"size": 90, "softness": 70, "strength": 60, "points": [[250, 200], [330, 240]]},
                                       {"size": 40, "softness": 0, "removes": true, "points": [[290, 210]]}]}]},
       "adjustments": [{"kind": "white-balance", "temperature": 8200, "tint": 6}, {"kind": "light", "shadow-lift": 40}]},
      {"name": "All", "strength": 15, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 0.5, "highlight-hold": 50}]}
    ])");
}

}  // namespace dimhem::tests
