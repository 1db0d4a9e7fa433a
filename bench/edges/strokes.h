// Strokes along and over a subject whose matte is known.
#pragma once

#include <random>
#include <vector>

#include "core/image/plane.h"
#include "core/mask/brush.h"
#include "core/render/renderer.h"

namespace dimhem::edges {

// A stroke of about 3.3 radii along the subject's edge, its centre 0.2 to 0.4 radii inside, so that its rim reaches 60
// to 80 % of the radius past the edge; empty where there is no room for one. `closePx`: its centre only so far inside.
std::vector<mask::StrokePoint> rimStroke(const image::Plane<float>& matte, double radius, std::mt19937& random,
                                         double closePx = 0);

// Rows of strokes all over the subject, no centre nearer than `insidePx` to its edge.
std::vector<std::vector<mask::StrokePoint>> overTheWhole(const image::Plane<float>& matte, double radius,
                                                         double insidePx);

// A document with one correction whose mask holds this shape.
document::DocumentPtr documentWith(mask::ShapePtr shape);

// Its mask over the whole photo.
image::Plane<float> maskOf(const std::shared_ptr<const render::PhotoSource>& photo,
                           const document::DocumentPtr& document);

mask::ShapePtr brushOf(const std::vector<std::vector<mask::StrokePoint>>& strokes, const mask::BrushSettings& settings);

}  // namespace dimhem::edges
