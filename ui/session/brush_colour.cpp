#include "ui/session/brush_colour.h"

#include <algorithm>
#include <cmath>

#include "core/colour/srgb.h"
#include "core/task/probe.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

void pickBrushColour(Session& session, base::Point place) {
    render::Comparison arriving;
    arriving.stopBefore = session.selectedCorrection();
    readInBackground(
        session,
        [renderer = session.sharedRenderer(), document = session.document(), arriving, place,
         px = session.bringing().pickerPx] {
            return task::colourAt(*renderer, render::Sequence(document, arriving), place, (px - 1) / 2);
        },
        [&session](const std::optional<colour::LinearRgb>& picked) {
            if (!picked) return;
            // Four digits are finer than any file's own steps, and read well in a document.
            const auto held = [](double v) { return std::round(std::clamp(v, 0.0, 1.0) * 1e4) / 1e4; };
            const colour::EncodedRgb encoded = colour::encodedFromLinear(*picked);
            setBrushColour(session, {held(encoded.r), held(encoded.g), held(encoded.b)});
        });
}

void setBrushColour(Session& session, const colour::EncodedRgb& colour) {
    Bringing bringing = session.bringing();
    const auto isIt = [&](const colour::EncodedRgb& c) {
        return c.r == colour.r && c.g == colour.g && c.b == colour.b;
    };
    bringing.colours.removeIf(isIt);
    bringing.colours.prepend(colour);
    if (bringing.colours.size() > Bringing::mostColours) bringing.colours.resize(Bringing::mostColours);
    mask::BrushSettings brush = session.brush();
    brush.brings.kind = mask::BringKind::colour;
    brush.brings.colour = colour;
    session.setBrush(brush);
    session.setBringing(bringing);
}

}  // namespace dimhem::ui
