// The course of a closed line through points: straight from one to the next, or in curves.
//
// Curves are centripetal Catmull-Rom splines (Yuksel, Schaefer, Keyser, "Parameterization and applications of
// Catmull-Rom curves", 2011), which neither loop nor have cusps between two points; at a corner the curve ends and the
// next begins.
#pragma once

#include <cstddef>
#include <vector>

#include "core/base/rect.h"

namespace dimhem::mask {

// How the points of an outline are joined.
struct Joining {
    bool curved = false;
    std::vector<std::size_t> corners;  // which points stay corners where it is curved; rising

    bool isCorner(std::size_t point) const;
    void turn(std::size_t point);  // a corner into none, or the other way round
    // What becomes of the corners where a point is put in, or taken out.
    void insertedAt(std::size_t point);
    void removedAt(std::size_t point);
    friend bool operator==(const Joining&, const Joining&) = default;
};

struct Course {
    std::vector<base::Point> line;    // closed by itself, as many places as it takes
    std::vector<std::size_t> starts;  // which of them are the points, in their order
};

// Straight pieces that are nowhere further than a sixteenth of a pixel from the curve.
Course courseThrough(const std::vector<base::Point>& points, const Joining& joining);

}  // namespace dimhem::mask
