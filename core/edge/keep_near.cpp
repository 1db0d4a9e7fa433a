#include "core/edge/keep_near.h"

#include <algorithm>
#include <vector>

#include "core/kernel/components.h"

namespace dimhem::edge {

namespace {

// Ones on the pieces of `was` that would lose most of themselves; empty where there is none.
Sides lostPieces(const Sides& was, const Sides& moved) {
    constexpr double leastKept = 0.5;
    const base::Size size = was.size();
    image::Plane<std::uint8_t> ones(size);
    for (int y = 0; y < size.height; ++y) {
        std::transform(was.row(y).begin(), was.row(y).end(), ones.row(y).begin(),
                       [](Side side) { return side == Side::inside ? 1 : 0; });
    }
    image::Plane<std::int32_t> labels(size);
    const auto pieces = kernel::components(ones, 8, labels);
    std::vector<int> kept(pieces.size());
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const std::int32_t label = labels.row(y)[x];
            if (label && moved.row(y)[x] == Side::inside) ++kept[static_cast<std::size_t>(label - 1)];
        }
    }
    // Of a piece that goes on beyond what is looked at nothing can be said.
    const auto isWhole = [&](const kernel::Component& piece) {
        const base::Rect& b = piece.bounds;
        return b.x0 > 0 && b.y0 > 0 && b.x1 < size.width && b.y1 < size.height;
    };
    bool any = false;
    Sides out(size);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const auto label = static_cast<std::size_t>(labels.row(y)[x]);
            const bool lost =
                label && isWhole(pieces[label - 1]) && kept[label - 1] < leastKept * pieces[label - 1].pixels;
            out.row(y)[x] = lost ? Side::inside : Side::outside;
            any = any || lost;
        }
    }
    return any ? std::move(out) : Sides();
}

void restore(const Sides& was, const image::Plane<float>& distance, double least, double most, Sides& moved) {
    for (int y = 0; y < was.size().height; ++y) {
        for (int x = 0; x < was.size().width; ++x) {
            const double d = double{distance.row(y)[x]};
            if (d > least && d <= most) moved.row(y)[x] = was.row(y)[x];
        }
    }
}

}  // namespace

bool keepNear(const Sides& was, double mostPx, Sides& moved) {
    constexpr double everywhere = 1e9;
    restore(was, distanceToEdge(was, mostPx), mostPx, everywhere, moved);
    const Sides lost = lostPieces(was, moved);
    if (lost.size().empty()) return false;
    restore(was, distanceToEdge(lost, mostPx), -1, mostPx, moved);
    for (int y = 0; y < was.size().height; ++y) {
        for (int x = 0; x < was.size().width; ++x) {
            if (lost.row(y)[x] == Side::inside) moved.row(y)[x] = Side::inside;
        }
    }
    return true;
}

}  // namespace dimhem::edge
