// What a view does to the picture of an area before it is shown: each a step (core/stage/staged.h), so that what is
// shown is known by what it is made of.
#pragma once

#include <optional>

#include "core/image/area.h"
#include "core/mask/coverage.h"
#include "core/render/view.h"
#include "core/stage/staged.h"

namespace dimhem::render {

using ViewStep = stage::Step<image::EncodedPlanes>;
using PictureReading = stage::Reading<image::EncodedPlanes>;

// The difference to the picture without something, pushFactor times.
ViewStep pushedFrom(PictureReading without);
// Dithered for 8 bits where it differs from the photo.
ViewStep ditheredFrom(PictureReading photo, const image::Area& area);
// The difference to another picture, amplified, about mid grey.
ViewStep changeFrom(PictureReading without, double gain);
// The coverage as the view shows it, but for its change.
ViewStep withMask(stage::Staged<mask::Coverage> coverage, const View& view, int threadColour);
// Only some tones shine, where there is coverage, if any is given.
ViewStep withTones(const Shine& shine, std::optional<stage::Staged<mask::Coverage>> coverage);
// The same by the tones of another picture.
ViewStep withTonesOf(const Shine& shine, PictureReading tones, std::optional<stage::Staged<mask::Coverage>> coverage);
// What is lost against a picture before shines.
ViewStep withLost(PictureReading before, stage::Keyed<WrittenColours> written);

}  // namespace dimhem::render
