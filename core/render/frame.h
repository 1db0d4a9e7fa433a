// One frame of the view: every visible tile of one level, over several threads, those nearest to the eye first.
#pragma once

#include <functional>

#include "core/base/parallel.h"
#include "core/render/renderer.h"

namespace dimhem::render {

struct FrameRequest {
    document::DocumentPtr document;
    View view;
    int level = 0;
    base::Rect rect;    // what is visible, in pixels of the level
    base::Point focus;  // where the person looks, in pixels of the level
};

// Calls `done(tile's rectangle in pixels of the level, its pixels)` for each tile, from any of the threads. False
// where cancelled.
bool renderFrame(const Renderer& renderer, const FrameRequest& request, const base::Workers& workers,
                 const base::CancelToken& cancel,
                 const std::function<void(const base::Rect&, const std::shared_ptr<const DisplayTile>&)>& done);

}  // namespace dimhem::render
