// Where in the photo a mask lies, for looking at it closely.
#pragma once

#include <optional>

#include "core/base/cancel.h"
#include "core/render/renderer.h"

namespace dimhem::task {

// The rectangle, in pixels of the photo, within which a correction's mask, or one of its parts alone, covers a
// twentieth or more, seen at a level small enough to be looked at whole. Nothing where it covers less everywhere.
std::optional<base::Rect> coveredBounds(const render::Renderer& renderer, const document::DocumentPtr& document,
                                        document::Id correction, mask::PartId part = 0,
                                        const base::CancelToken& cancel = {});

}  // namespace dimhem::task
