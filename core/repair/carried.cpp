#include "core/repair/carried.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <vector>

#include "core/kernel/box_sum.h"
#include "core/repair/membrane.h"
#include "core/repair/patches.h"

namespace dimhem::repair {

namespace {

using image::Plane;

// Where a line goes, a unit vector, and how sure that is, 0..1.
struct Direction {
    float x = 0, y = 0, sure = 0;
};

// One for each pixel, worked out once however many lines pass it.
class Directions {
public:
    Directions(base::Size size, std::vector<Direction> each) : size_(size), each_(std::move(each)) {}
    Direction at(double x, double y) const {
        const int px = std::clamp(static_cast<int>(x), 0, size_.width - 1),
                  py = std::clamp(static_cast<int>(y), 0, size_.height - 1);
        return each_[static_cast<std::size_t>(py) * static_cast<std::size_t>(size_.width) +
                     static_cast<std::size_t>(px)];
    }

private:
    base::Size size_;
    std::vector<Direction> each_;
};

double squareDistance(const Mark& mark, base::Point at) {
    const base::Point way = mark.to - mark.from, off = at - mark.from;
    const double length = way.x * way.x + way.y * way.y;
    const double along = length > 0 ? std::clamp((off.x * way.x + off.y * way.y) / length, 0.0, 1.0) : 0;
    const base::Point rest = off - way * along;
    return rest.x * rest.x + rest.y * rest.y;
}

// By marks, inside the hole.
Directions markedDirections(std::span<const Mark> marks, const Hole& hole, const std::function<void()>& pause) {
    // A direction and its opposite are one: twice the angle.
    std::vector<base::Point> doubled;
    for (const Mark& mark : marks) {
        const base::Point way = mark.to - mark.from;
        const double twice = 2 * std::atan2(way.y, way.x);
        doubled.push_back({std::cos(twice), std::sin(twice)});
    }
    std::vector<Direction> each(static_cast<std::size_t>(hole.size().width) *
                                static_cast<std::size_t>(hole.size().height));
    auto out = each.begin();
    for (int y = 0; y < hole.size().height; ++y) {
        pause();
        for (int x = 0; x < hole.size().width; ++x, ++out) {
            if (!hole.view().at(x, y)) continue;
            base::Point sum;
            for (std::size_t i = 0; i < marks.size(); ++i)
                sum = sum + doubled[i] * (1 / (squareDistance(marks[i], {x + 0.5, y + 0.5}) + 1));
            // The half of the sum's angle, by the half-angle formulae.
            const double length = std::hypot(sum.x, sum.y), cos2 = length > 0 ? sum.x / length : 1;
            *out = {static_cast<float>(std::sqrt(std::max(0.0, (1 + cos2) / 2))),
                    static_cast<float>(std::copysign(std::sqrt(std::max(0.0, (1 - cos2) / 2)), sum.y)), 1};
        }
    }
    return {hole.size(), std::move(each)};
}

// From the structure tensor of what is known, spread into the hole: at several widths, the narrower the heavier, so
// that what is near decides.
class Structure {
public:
    Structure(const image::EncodedPlanes& planes, const Hole& hole) : size_(hole.size()) {
        tensor_ = {image::filled(size_, 0.0f), image::filled(size_, 0.0f), image::filled(size_, 0.0f)};
        for (const Plane<float>* plane : {&planes.red, &planes.green, &planes.blue})
            addGradients(*plane, hole, tensor_);
        for (Plane<float>& one : tensor_) one = spreadOut(one);
    }

    Directions directions() const {
        std::vector<Direction> each;
        for (int y = 0; y < size_.height; ++y) {
            for (int x = 0; x < size_.width; ++x)
                each.push_back(
                    weakest(tensor_[0].view().at(x, y), tensor_[1].view().at(x, y), tensor_[2].view().at(x, y)));
        }
        return {size_, std::move(each)};
    }

private:
    Plane<float> spreadOut(const Plane<float>& from) const {
        Plane<float> out = image::filled(size_, 0.0f);
        float weight = 1;
        for (int radius = 2; radius < std::max(size_.width, size_.height); radius *= 2) {
            add(kernel::boxMean(kernel::boxMean(from, radius), radius), weight, out);
            weight /= 16;
        }
        return out;
    }

    // Of the tensor [a b; b c]: the direction across that of the steepest change, and how much that stands out.
    static Direction weakest(float a, float b, float c) {
        if (!(a + c > 0)) return {1, 0, 0};
        const float apart = std::hypot(a - c, 2 * b), angle = std::atan2(2 * b, a - c) / 2;
        const float coherence = apart / (a + c);
        return {-std::sin(angle), std::cos(angle), std::clamp((coherence - 0.3f) / 0.4f, 0.0f, 1.0f)};
    }

    static void addGradients(const Plane<float>& plane, const Hole& hole, std::array<Plane<float>, 3>& tensor) {
        const auto known = [&](int x, int y) { return hole.view().at(x, y) == 0; };
        const auto value = [&](int x, int y) { return plane.view().at(x, y); };
        for (int y = 1; y + 1 < hole.size().height; ++y) {
            for (int x = 1; x + 1 < hole.size().width; ++x) {
                if (!known(x - 1, y) || !known(x + 1, y) || !known(x, y - 1) || !known(x, y + 1)) continue;
                const float gx = value(x + 1, y) - value(x - 1, y), gy = value(x, y + 1) - value(x, y - 1);
                tensor[0].view().at(x, y) += gx * gx;
                tensor[1].view().at(x, y) += gx * gy;
                tensor[2].view().at(x, y) += gy * gy;
            }
        }
    }

    static void add(const Plane<float>& from, float weight, Plane<float>& to) {
        for (int y = 0; y < to.size().height; ++y)
            std::transform(from.row(y).begin(), from.row(y).end(), to.row(y).begin(), to.row(y).begin(),
                           [=](float more, float sum) { return sum + weight * more; });
    }

    base::Size size_;
    std::array<Plane<float>, 3> tensor_;
};

using Colour = std::array<float, 3>;

// What a line meets, and how far off.
struct End {
    Colour colour;
    float distance;
};

class Walk {
public:
    Walk(const image::EncodedPlanes& planes, const Hole& hole, const Directions& directions, double evenPx)
        : planes_(planes), hole_(hole), directions_(directions), reach_(static_cast<int>(std::ceil(2 * evenPx))) {
        for (int i = 0; i <= reach_; ++i)
            weights_.push_back(i == 0 ? 1 : static_cast<float>(std::exp(-i * i / (2 * evenPx * evenPx))));
    }

    // From a pixel on, the way of `first` or against it.
    std::optional<End> to(int x, int y, const Direction& first, float sign) const {
        double px = x + 0.5, py = y + 0.5;
        float dx = sign * first.x, dy = sign * first.y;
        const int most = 2 * (hole_.size().width + hole_.size().height);
        for (int step = 1; step <= most; ++step) {
            px += double{dx};
            py += double{dy};
            if (!(px >= 0 && py >= 0 && px < hole_.size().width && py < hole_.size().height)) return std::nullopt;
            const int ix = static_cast<int>(px), iy = static_cast<int>(py);
            if (!hole_.view().at(ix, iy)) return End{meanAcross(px, py, dx, dy), static_cast<float>(step)};
            const Direction next = directions_.at(px, py);
            if (next.sure == 0) continue;  // straight on
            const float turn = next.x * dx + next.y * dy < 0 ? -1.0f : 1.0f;
            dx = turn * next.x;
            dy = turn * next.y;
        }
        return std::nullopt;
    }

private:
    // Of known pixels about a line's end, across it.
    Colour meanAcross(double px, double py, float dx, float dy) const {
        Colour sum{};
        float all = 0;
        for (int i = -reach_; i <= reach_; ++i) {
            const int x = static_cast<int>(std::floor(px - double{dy} * i)),
                      y = static_cast<int>(std::floor(py + double{dx} * i));
            const bool inside = x >= 0 && y >= 0 && x < hole_.size().width && y < hole_.size().height;
            if (!inside || hole_.view().at(x, y)) continue;
            const float weight = weights_[static_cast<std::size_t>(std::abs(i))];
            sum[0] += weight * planes_.red.view().at(x, y);
            sum[1] += weight * planes_.green.view().at(x, y);
            sum[2] += weight * planes_.blue.view().at(x, y);
            all += weight;
        }
        for (float& channel : sum) channel /= all;  // the end itself is known
        return sum;
    }

    const image::EncodedPlanes& planes_;
    const Hole& hole_;
    const Directions& directions_;
    int reach_;
    std::vector<float> weights_;
};

Colour between(const End& a, const End& b) {
    const float part = a.distance / (a.distance + b.distance);
    Colour out;
    for (std::size_t c = 0; c < 3; ++c) out[c] = a.colour[c] + part * (b.colour[c] - a.colour[c]);
    return out;
}

}  // namespace

void fillAlong(image::EncodedPlanes& planes, const Hole& hole, std::span<const Mark> marks, double evenPx,
               Elsewhere elsewhere, const std::function<void()>& pause) {
    const Directions directions =
        marks.empty() ? Structure(planes, hole).directions() : markedDirections(marks, hole, pause);
    image::EncodedPlanes out(planes.size());
    const base::Rect all = base::rectOf(planes.size());
    image::copyShared(planes, all, out, all);
    if (elsewhere == Elsewhere::patches) {
        fillWithPatches(out, hole, image::filled(hole.size(), std::uint8_t{1}), pause);
    } else {
        Plane<float>* const channels[] = {&out.red, &out.green, &out.blue};
        fillMembrane(channels, hole, pause);
    }
    const Walk walk(planes, hole, directions, evenPx);
    for (int y = 0; y < hole.size().height; ++y) {
        pause();
        for (int x = 0; x < hole.size().width; ++x) {
            if (!hole.view().at(x, y)) continue;
            const Direction way = directions.at(x + 0.5, y + 0.5);
            if (way.sure == 0) continue;
            const auto one = walk.to(x, y, way, 1), other = walk.to(x, y, way, -1);
            if (!one && !other) continue;
            const Colour colour = one && other ? between(*one, *other) : (one ? one : other)->colour;
            float* const at[] = {&out.red.view().at(x, y), &out.green.view().at(x, y), &out.blue.view().at(x, y)};
            for (std::size_t c = 0; c < 3; ++c) *at[c] += way.sure * (colour[c] - *at[c]);
        }
    }
    planes = std::move(out);
}

}  // namespace dimhem::repair
