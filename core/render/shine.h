// Views that make some pixels of the picture shine: those of certain tones, and those of which something is lost.
#pragma once

#include "core/image/plane.h"
#include "core/mask/coverage.h"
#include "core/render/written_colours.h"

namespace dimhem::render {

struct Shine {
    enum class Of { nothing, tones, lost } of = Of::nothing;
    // Of tones: a channel within [from, to), L* as a part of 100, the others encoded; the ends take what lies beyond.
    enum class Channel { lightness, red, green, blue, luminance } channel = Channel::lightness;
    double from = 0, to = 1;
    // Whose tones: those of what is shown, of what arrives at the selected correction, or of the untouched photo.
    enum class Tones { shown, arriving, photo } tones = Tones::shown;
    bool underMask = false;  // only where the selected correction's mask covers
    // Of what is lost: by all corrections together, else by the selected one.
    bool byAll = false;
    friend bool operator==(const Shine&, const Shine&) = default;
};
inline void addTo(base::KeyBuilder& key, const Shine& shine) {
    key.add(shine.of).add(shine.channel).add(shine.from).add(shine.to).add(shine.tones);
    key.add(shine.underMask).add(shine.byAll);
}

// What does not shine is darkened. `coverage` is null where the mask does not matter; `tones` is the picture whose
// tones count, null: what is shown.
void shineTones(const Shine& shine, const mask::Coverage* coverage, const image::EncodedPlanes* tones,
                image::EncodedPlanes& picture);

// What is newly clipped, blocked or outside the file's profile in its colour, over the picture in grey.
void shineLost(const WrittenColours& written, const image::EncodedPlanes& before, image::EncodedPlanes& picture);

// Told apart by every kind of colour vision (Okabe and Ito, 2008; values from memory): yellow, bluish green, purple.
struct LostColour {
    check::Fault fault;
    int red, green, blue;
};
inline constexpr LostColour lostColours[] = {{check::Fault::clipped, 240, 228, 66},
                                             {check::Fault::blocked, 0, 158, 115},
                                             {check::Fault::outside, 204, 121, 167}};

}  // namespace dimhem::render
