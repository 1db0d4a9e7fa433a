#include "core/check/contours.h"

#include <array>
#include <unordered_map>

namespace dimhem::check {

namespace {

// An edge between neighbouring pixel centres, numbered: twice the pixel's index, plus 1 for the edge downward.
using Edge = std::int64_t;

class Tracer {
public:
    Tracer(const image::Plane<std::uint16_t>& values, double value)
        : values_(values), value_(value), size_(values.size()) {}

    std::vector<std::vector<base::Point>> trace() {
        for (int y = 0; y + 1 < size_.height; ++y) {
            for (int x = 0; x + 1 < size_.width; ++x) cutCell(x, y);
        }
        std::vector<std::vector<base::Point>> lines;
        for (const auto& [edge, ends] : links_) {
            if (!done_[edge] && ends[1] < 0) lines.push_back(follow(edge));  // lines that run out begin at their ends
        }
        for (const auto& [edge, ends] : links_) {
            if (!done_[edge]) lines.push_back(follow(edge));
        }
        return lines;
    }

private:
    double at(int x, int y) const { return values_.row(y)[static_cast<std::size_t>(x)]; }
    Edge right(int x, int y) const { return 2 * (std::int64_t{y} * size_.width + x); }
    Edge down(int x, int y) const { return right(x, y) + 1; }

    // The cell between four pixel centres: one line through it, or two where opposite corners are alike.
    void cutCell(int x, int y) {
        const bool a = at(x, y) > value_, b = at(x + 1, y) > value_, c = at(x + 1, y + 1) > value_,
                   d = at(x, y + 1) > value_;
        const Edge top = right(x, y), bottom = right(x, y + 1), left = down(x, y), rightEdge = down(x + 1, y);
        std::array<Edge, 4> cut{};
        int count = 0;
        if (a != b) cut[static_cast<std::size_t>(count++)] = top;
        if (b != c) cut[static_cast<std::size_t>(count++)] = rightEdge;
        if (c != d) cut[static_cast<std::size_t>(count++)] = bottom;
        if (d != a) cut[static_cast<std::size_t>(count++)] = left;
        if (count == 2) link(cut[0], cut[1]);
        if (count != 4) return;
        const bool middle = (at(x, y) + at(x + 1, y) + at(x + 1, y + 1) + at(x, y + 1)) / 4 > value_;
        if (middle == a) {
            link(top, rightEdge);
            link(bottom, left);
        } else {
            link(top, left);
            link(bottom, rightEdge);
        }
    }

    void link(Edge a, Edge b) {
        for (const auto& [from, to] : {std::pair{a, b}, {b, a}}) {
            auto [found, isNew] = links_.try_emplace(from, std::array<Edge, 2>{-1, -1});
            found->second[found->second[0] < 0 ? 0 : 1] = to;
        }
    }

    base::Point pointOn(Edge edge) const {
        const std::int64_t index = edge / 2;
        const int x = static_cast<int>(index % size_.width), y = static_cast<int>(index / size_.width);
        const bool isDown = edge % 2;
        const double here = at(x, y), there = isDown ? at(x, y + 1) : at(x + 1, y);
        const double t = (value_ - here) / (there - here);
        return {x + 0.5 + (isDown ? 0 : t), y + 0.5 + (isDown ? t : 0)};
    }

    std::vector<base::Point> follow(Edge start) {
        std::vector<base::Point> line;
        Edge at = start, before = -1;
        while (at >= 0 && !done_[at]) {
            done_[at] = true;
            line.push_back(pointOn(at));
            const auto& ends = links_.at(at);
            const Edge next = ends[0] != before ? ends[0] : ends[1];
            before = at;
            at = next;
        }
        if (at == start && line.size() > 2) line.push_back(line.front());
        return line;
    }

    const image::Plane<std::uint16_t>& values_;
    double value_;
    base::Size size_;
    std::unordered_map<Edge, std::array<Edge, 2>> links_;
    std::unordered_map<Edge, bool> done_;
};

}  // namespace

std::vector<std::vector<base::Point>> contours(const image::Plane<std::uint16_t>& values, double value) {
    return Tracer(values, value).trace();
}

std::vector<base::Point> longestOutline(const base::Rect& bounds, const std::function<bool(int x, int y)>& in) {
    image::Plane<std::uint16_t> values({bounds.width() + 2, bounds.height() + 2});
    for (int y = 0; y < values.size().height; ++y) {
        for (int x = 0; x < values.size().width; ++x) {
            const int px = bounds.x0 + x - 1, py = bounds.y0 + y - 1;
            const bool within = px >= bounds.x0 && py >= bounds.y0 && px < bounds.x1 && py < bounds.y1;
            values.row(y)[x] = within && in(px, py) ? 65535 : 0;
        }
    }
    std::vector<base::Point> longest;
    for (auto& line : contours(values, 32768)) {
        if (line.size() > longest.size()) longest = std::move(line);
    }
    for (base::Point& p : longest) p = {p.x + bounds.x0 - 1, p.y + bounds.y0 - 1};
    return longest;
}

}  // namespace dimhem::check
