#include "core/kernel/components.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace dimhem::kernel {

namespace {

constexpr int steps[8][2] = {{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {1, -1}, {-1, 1}, {-1, -1}};

struct Place {
    int x, y;
};

// Goes from place to place over ones that `visit` takes for the first time.
template <class Visit>
void spread(const image::Plane<std::uint8_t>& ones, Place start, int neighbours, Visit visit) {
    std::vector<Place> open;
    if (visit(start.x, start.y)) open.push_back(start);
    while (!open.empty()) {
        const Place at = open.back();
        open.pop_back();
        for (int i = 0; i < neighbours; ++i) {
            const int x = at.x + steps[i][0], y = at.y + steps[i][1];
            if (!base::rectOf(ones.size()).contains(x, y) || !ones.row(y)[static_cast<std::size_t>(x)]) continue;
            if (visit(x, y)) open.push_back({x, y});
        }
    }
}

template <class T>
void clear(image::Plane<T>& plane) {
    for (int y = 0; y < plane.size().height; ++y) std::fill(plane.row(y).begin(), plane.row(y).end(), T{0});
}

}  // namespace

image::Plane<std::uint8_t> floodedFrom(const image::Plane<std::uint8_t>& ones, std::span<const base::Point> places) {
    image::Plane<std::uint8_t> reached(ones.size());
    clear(reached);
    for (const base::Point& place : places) {
        const Place start{static_cast<int>(std::floor(place.x)), static_cast<int>(std::floor(place.y))};
        if (!base::rectOf(ones.size()).contains(start.x, start.y) ||
            !ones.row(start.y)[static_cast<std::size_t>(start.x)])
            continue;
        spread(ones, start, 8, [&](int x, int y) {
            std::uint8_t& seen = reached.row(y)[static_cast<std::size_t>(x)];
            return std::exchange(seen, std::uint8_t{1}) == 0;
        });
    }
    return reached;
}

std::vector<Component> components(const image::Plane<std::uint8_t>& ones, int neighbours,
                                  image::Plane<std::int32_t>& labels) {
    clear(labels);
    std::vector<Component> found;
    for (int y = 0; y < ones.size().height; ++y) {
        for (int x = 0; x < ones.size().width; ++x) {
            if (!ones.row(y)[static_cast<std::size_t>(x)] || labels.row(y)[static_cast<std::size_t>(x)]) continue;
            const auto label = static_cast<std::int32_t>(found.size() + 1);
            Component piece;
            spread(ones, {x, y}, neighbours, [&](int px, int py) {
                std::int32_t& at = labels.row(py)[static_cast<std::size_t>(px)];
                if (at) return false;
                at = label;
                piece.bounds = base::united(piece.bounds, {px, py, px + 1, py + 1});
                ++piece.pixels;
                return true;
            });
            found.push_back(piece);
        }
    }
    return found;
}

}  // namespace dimhem::kernel
