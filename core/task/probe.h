// Small readings of the picture: the colour at a place, and the colours under a mask.
#pragma once

#include <optional>
#include <vector>

#include "core/check/thread_colour.h"
#include "core/colour/types.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// One pixel of planes of encoded colour.
colour::EncodedRgb pixelOf(const image::EncodedPlanes& planes, int x, int y);

// A rectangle of the picture, at a level of at most a quarter of a million pixels; nothing where it lies outside.
std::optional<image::EncodedPlanes> pictureIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect);

// The mean of the pixels within `radiusPx` of a place of the photo (a square), averaged in linear light; nothing where
// all of it lies outside the photo.
std::optional<colour::LinearRgb> colourAt(const render::Renderer& renderer, const render::Sequence& sequence,
                                          base::Point place, int radiusPx);

// The mean of a rectangle of the photo, in linear light; nothing where it lies outside.
std::optional<colour::LinearRgb> meanColourIn(const render::Renderer& renderer, const render::Sequence& sequence,
                                              const base::Rect& photoRect);

// Which hues a rectangle of the photo has: their middle and spread about it, degrees, every pixel weighed by its
// chroma. Nothing where it has no colour, or lies outside.
struct Hues {
    double middleDeg, spreadDeg;
};
std::optional<Hues> huesIn(const render::Renderer& renderer, const render::Sequence& sequence,
                           const base::Rect& photoRect);

// max - min channel.
double chromaOf(const colour::EncodedRgb& colour);

// How many pixels of the picture have each tone: 100 bins of L* 0..100, counted at a level of at most about 400 pixels.
std::vector<double> toneHistogram(const render::Renderer& renderer, const render::Sequence& sequence);

// The thread colour for a correction: the one that contrasts most with the photo under its mask and that no other
// correction wears. Its present one where it was chosen by hand or the mask is empty.
int suitableThreadColour(const render::Renderer& renderer, const document::DocumentPtr& document,
                         document::Id correction);

}  // namespace dimhem::task
