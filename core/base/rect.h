// Integer rectangles and sizes, and points of the photo.
//
// Rectangles are half open: [x0, x1) x [y0, y1). Pixel (x, y) covers [x, x+1) x [y, y+1), so its centre lies
// at (x + 0.5, y + 0.5); a Point is a place in that continuous plane, in pixels of the full-size photo.
#pragma once

#include <algorithm>

namespace dimhem::base {

struct Size {
    int width = 0;
    int height = 0;
    bool empty() const { return width <= 0 || height <= 0; }
    friend bool operator==(const Size&, const Size&) = default;
};

struct Point {
    double x = 0;
    double y = 0;
    friend bool operator==(const Point&, const Point&) = default;
    friend Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
    friend Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
    friend Point operator*(Point a, double k) { return {a.x * k, a.y * k}; }
};

struct Rect {
    int x0 = 0;
    int y0 = 0;
    int x1 = 0;
    int y1 = 0;

    int width() const { return x1 - x0; }
    int height() const { return y1 - y0; }
    Size size() const { return {width(), height()}; }
    bool empty() const { return x1 <= x0 || y1 <= y0; }
    bool contains(int x, int y) const { return x >= x0 && x < x1 && y >= y0 && y < y1; }
    friend bool operator==(const Rect&, const Rect&) = default;
};

inline Rect rectOf(Size size) {
    return {0, 0, size.width, size.height};
}

inline Rect intersected(const Rect& a, const Rect& b) {
    const Rect both{std::max(a.x0, b.x0), std::max(a.y0, b.y0), std::min(a.x1, b.x1), std::min(a.y1, b.y1)};
    return both.empty() ? Rect{} : both;
}

inline Rect grown(const Rect& r, int by) {
    return {r.x0 - by, r.y0 - by, r.x1 + by, r.y1 + by};
}

// The quotient rounded down, also of what lies left of or above the origin; by > 0.
inline int floorDiv(int v, int by) {
    return v >= 0 ? v / by : (v - by + 1) / by;
}

// The smallest rectangle that holds both; an empty one counts for nothing.
inline Rect united(const Rect& a, const Rect& b) {
    if (a.empty()) return b;
    if (b.empty()) return a;
    return {std::min(a.x0, b.x0), std::min(a.y0, b.y0), std::max(a.x1, b.x1), std::max(a.y1, b.y1)};
}

}  // namespace dimhem::base
