#include "core/edge/transmission.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/kernel/extreme_filter.h"

namespace dimhem::edge {

namespace {

constexpr int closingPx = 7, radius = 16;  // of the closing and of the guided filter, either side
constexpr double flatLight = 1e-5;         // variance of linear light
constexpr float leastBound = 0.02f;

float boundOf(float r, float g, float b, const float (&air)[3], const float (&scale)[3]) {
    return std::max({(air[0] - r) * scale[0], (air[1] - g) * scale[1], (air[2] - b) * scale[2]});
}

}  // namespace

colour::LinearRgb airLight(const image::LinearPlanes& picture) {
    const base::Size size = picture.size();
    const image::Plane<float> darkest = kernel::leastAround(
        image::planeOf(size,
                       [&](int x, int y) {
                           const auto i = static_cast<std::size_t>(x);
                           return std::min({picture.red.row(y)[i], picture.green.row(y)[i], picture.blue.row(y)[i]});
                       }),
        closingPx);
    struct Place {
        float dark;
        int x, y;
    };
    std::vector<Place> places;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) places.push_back({darkest.row(y)[static_cast<std::size_t>(x)], x, y});
    }
    const auto few = std::max<std::size_t>(1, places.size() / 1000);
    std::nth_element(places.begin(), places.begin() + static_cast<std::ptrdiff_t>(few - 1), places.end(),
                     [](const Place& a, const Place& b) { return a.dark > b.dark; });
    std::vector<colour::LinearRgb> colours;
    for (std::size_t i = 0; i < few; ++i) {
        const auto x = static_cast<std::size_t>(places[i].x);
        const int y = places[i].y;
        colours.push_back(
            {double{picture.red.row(y)[x]}, double{picture.green.row(y)[x]}, double{picture.blue.row(y)[x]}});
    }
    std::sort(colours.begin(), colours.end(),
              [](const auto& a, const auto& b) { return colour::luminance(a) > colour::luminance(b); });
    colours.resize((colours.size() + 1) / 2);
    colour::LinearRgb sum{};
    for (const colour::LinearRgb& c : colours) sum = {sum.r + c.r, sum.g + c.g, sum.b + c.b};
    const auto count = static_cast<double>(colours.size());
    return {sum.r / count, sum.g / count, sum.b / count};
}

image::Plane<float> hazeBound(const image::LinearPlanes& picture, const colour::LinearRgb& air) {
    const float of[3] = {static_cast<float>(air.r), static_cast<float>(air.g), static_cast<float>(air.b)};
    float scale[3];
    for (int c = 0; c < 3; ++c) scale[c] = 1 / std::max(0.01f, of[c] - static_cast<float>(hazeBlack));
    return image::planeOf(picture.size(), [&](int x, int y) {
        const auto i = static_cast<std::size_t>(x);
        const float bound = boundOf(picture.red.row(y)[i], picture.green.row(y)[i], picture.blue.row(y)[i], of, scale);
        return std::clamp(bound, leastBound, 1.0f);
    });
}

int transmissionReach() {
    return 2 * closingPx + 2 * radius;
}

Lines transmissionLines(const image::LinearPlanes& picture, const colour::LinearRgb& air) {
    image::Plane<float> bound = hazeBound(picture, air);
    const image::Plane<float> closed = kernel::leastAround(kernel::greatestAround(bound, closingPx), closingPx);
    for (int y = 0; y < bound.size().height; ++y) {
        float* to = bound.row(y).data();
        const float* from = closed.row(y).data();
        for (int x = 0; x < bound.size().width; ++x) to[x] = std::min(from[x], static_cast<float>(hazeCap) * to[x]);
    }
    Guide guide{image::copied(picture.red), image::copied(picture.green), image::copied(picture.blue)};
    return Guiding(std::move(guide), radius, flatLight).linesFor(bound);
}

namespace {

// By the lines, but about as much as the bound says.
void hold(image::Plane<float>& t, const image::Plane<float>& bound) {
    for (int y = 0; y < t.size().height; ++y) {
        float* to = t.row(y).data();
        const float* by = bound.row(y).data();
        for (int x = 0; x < t.size().width; ++x)
            to[x] = std::clamp(to[x], 0.98f * by[x], std::min(1.0f, static_cast<float>(hazeCap) * by[x]));
    }
}

}  // namespace

image::Plane<float> transmission(const image::LinearPlanes& picture, const Lines& lines, const colour::LinearRgb& air) {
    image::Plane<float> t(picture.size());
    for (int y = 0; y < t.size().height; ++y) {
        const float *r = picture.red.row(y).data(), *g = picture.green.row(y).data(), *b = picture.blue.row(y).data();
        const float *sr = lines.slope[0].row(y).data(), *sg = lines.slope[1].row(y).data(),
                    *sb = lines.slope[2].row(y).data(), *offset = lines.offset.row(y).data();
        float* to = t.row(y).data();
        for (int x = 0; x < t.size().width; ++x) to[x] = sr[x] * r[x] + sg[x] * g[x] + sb[x] * b[x] + offset[x];
    }
    hold(t, hazeBound(picture, air));
    return t;
}

image::Plane<float> transmissionOver(const image::LinearPlanes& finer, const Lines& lines, const colour::LinearRgb& air,
                                     const base::Rect& rect, int levelsBefore) {
    const double step = 1.0 / (1 << levelsBefore);
    const Guide guide{image::copied(finer.red), image::copied(finer.green), image::copied(finer.blue)};
    image::Plane<float> t = lines.over(guide, {(rect.x0 + 0.5) * step, (rect.y0 + 0.5) * step}, step);
    hold(t, hazeBound(finer, air));
    return t;
}

}  // namespace dimhem::edge
