#include "core/mask/course.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace dimhem::mask {

namespace {

constexpr double tolerancePx = 1.0 / 16;
constexpr double mostPlaces = 2e6;  // of a course: curves between many points far apart are a little coarser

int deepestFor(std::size_t points) {
    return static_cast<int>(std::clamp(std::log2(mostPlaces / static_cast<double>(points)), 3.0, 10.0));
}

double lengthOf(base::Point way) {
    return std::hypot(way.x, way.y);
}

// A cubic Bezier curve, halved so often at most until its control points are as good as on the way (de Casteljau).
void flatten(const std::array<base::Point, 4>& c, int halvings, std::vector<base::Point>& out) {
    const base::Point way = c[3] - c[0];
    const double length = lengthOf(way);
    // The curve stays within the hull of its points; a Bezier curve leaves its chord by at most three quarters of that.
    const auto off = [&](base::Point p) {
        const base::Point to = p - c[0];
        if (length == 0) return lengthOf(to);
        const double along = std::clamp((to.x * way.x + to.y * way.y) / (length * length), 0.0, 1.0);
        return lengthOf(to - way * along);
    };
    if (halvings == 0 || 0.75 * std::max(off(c[1]), off(c[2])) <= tolerancePx) {
        out.push_back(c[3]);
        return;
    }
    const auto middle = [](base::Point a, base::Point b) { return (a + b) * 0.5; };
    const base::Point ab = middle(c[0], c[1]), bc = middle(c[1], c[2]), cd = middle(c[2], c[3]);
    const base::Point abc = middle(ab, bc), bcd = middle(bc, cd), at = middle(abc, bcd);
    flatten({c[0], ab, abc, at}, halvings - 1, out);
    flatten({at, bcd, cd, c[3]}, halvings - 1, out);
}

// From p1 to p2, p0 before and p3 after them; the control points of the same curve as a Bezier.
std::array<base::Point, 4> bezier(base::Point p0, base::Point p1, base::Point p2, base::Point p3) {
    // Times between the points, by the root of their distance.
    const double before = std::sqrt(lengthOf(p1 - p0)), here = std::sqrt(lengthOf(p2 - p1)),
                 after = std::sqrt(lengthOf(p3 - p2));
    if (here == 0) return {p1, p1, p2, p2};
    const auto slope = [](base::Point a, base::Point b, base::Point c, double ab, double bc) {
        if (ab == 0 || bc == 0) return (c - a) * (1 / std::max(ab + bc, 1e-12));
        return (b - a) * (1 / ab) - (c - a) * (1 / (ab + bc)) + (c - b) * (1 / bc);
    };
    const base::Point out = slope(p0, p1, p2, before, here), in = slope(p1, p2, p3, here, after);
    return {p1, p1 + out * (here / 3), p2 - in * (here / 3), p2};
}

}  // namespace

bool Joining::isCorner(std::size_t point) const {
    return std::binary_search(corners.begin(), corners.end(), point);
}

void Joining::turn(std::size_t point) {
    const auto place = std::lower_bound(corners.begin(), corners.end(), point);
    if (place != corners.end() && *place == point)
        corners.erase(place);
    else
        corners.insert(place, point);
}

void Joining::insertedAt(std::size_t point) {
    for (std::size_t& corner : corners) corner += corner >= point ? 1 : 0;
}

void Joining::removedAt(std::size_t point) {
    std::erase(corners, point);
    for (std::size_t& corner : corners) corner -= corner > point ? 1 : 0;
}

Course courseThrough(const std::vector<base::Point>& points, const Joining& joining) {
    Course course;
    const std::size_t count = points.size();
    if (!joining.curved || count < 3) {
        course.line = points;
        for (std::size_t i = 0; i < count; ++i) course.starts.push_back(i);
        return course;
    }
    const int deepest = deepestFor(count);
    for (std::size_t i = 0; i < count; ++i) {
        const std::size_t next = (i + 1) % count;
        const base::Point from = points[i], to = points[next];
        course.starts.push_back(course.line.size());
        course.line.push_back(from);
        // Beyond a corner it goes on as if mirrored: it leaves and comes in without a bend of its own.
        const base::Point before = joining.isCorner(i) ? from - (to - from) : points[(i + count - 1) % count];
        const base::Point after = joining.isCorner(next) ? to + (to - from) : points[(next + 1) % count];
        flatten(bezier(before, from, to, after), deepest, course.line);
        course.line.pop_back();  // the next point, which begins its own piece
    }
    return course;
}

}  // namespace dimhem::mask
