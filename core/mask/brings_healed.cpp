#include <array>

#include "core/kernel/bilinear.h"
#include "core/mask/bringer.h"
#include "core/repair/found_source.h"
#include "core/repair/membrane.h"

namespace dimhem::mask {

namespace {

using image::EncodedPlanes;
using image::Plane;
using repair::Hole;
using repair::holeIn;

// What heals a stroke: the difference of tone over all of it, on a level where that is worked out in a moment.
struct Healing {
    base::Rect rect;
    int level = 0;
    std::array<Plane<float>, 3> tone;
    std::size_t bytes() const { return 3 * tone[0].bytes(); }
};

constexpr auto heal = [](const BeforeStroke& before, base::Point offset) {
    const base::Rect rect = base::intersected(base::grown(before.target(), 2), base::rectOf(before.size()));
    Healing out{rect, before.level(), {}};
    if (rect.empty()) return out;
    const Hole hole = holeIn(before.coverage(rect));
    const EncodedPlanes below = before.picture(rect),
                        source = before.taken(rect, [&](base::Point place) { return place + offset; });
    const auto differenceOf = [&](const Plane<float>& a, const Plane<float>& b) {
        return image::planeOf(rect.size(), [&](int x, int y) {
            return hole.view().at(x, y) ? 0.0f : a.view().at(x, y) - b.view().at(x, y);
        });
    };
    out.tone = {differenceOf(below.red, source.red), differenceOf(below.green, source.green),
                differenceOf(below.blue, source.blue)};
    Plane<float>* const planes[] = {&out.tone[0], &out.tone[1], &out.tone[2]};
    repair::fillMembrane(planes, hole);
    return out;
};

std::shared_ptr<const Healing> healingOf(const BeforeStroke& before, base::Point offset) {
    constexpr double mostPixels = 5e5;
    const base::Rect& target = before.target();
    if (static_cast<double>(target.width()) * target.height() > mostPixels && before.level() < image::maxLevel)
        return healingOf(before.onLevel(before.level() + 1), offset);
    return stage::kept(before.store(), staged<Healing>("healing", heal, before, offset)).value();
}

constexpr auto findSource = [](const BeforeStroke& before) {
    const base::Rect rect = base::intersected(base::grown(before.target(), repair::sourceReach(before.target().size())),
                                              base::rectOf(before.size()));
    std::optional<base::Point> offset;
    if (!rect.empty())
        offset = repair::findSource(before.picture(rect), holeIn(before.coverage(rect)), before.brings().rank);
    if (offset) *offset = *offset * (1 << before.level());
    return offset;
};

// Of a stroke that is being painted: looked for once, where it begins, and anew when it is done.
std::optional<base::Point> offsetOfItsBeginning(const BeforeStroke& before) {
    const StrokePoint first[] = {before.stroke()->points()[0]};
    return offsetOf(before.withStroke(Stroke::through(before.stroke()->brush(), first)->finished()));
}

base::Rect looksAt(const Stroke& stroke, const base::Rect& target, int level) {
    constexpr int patchPx = 16;
    const std::optional<base::Point>& offset = stroke.brush().brings.offset;
    if (offset) return base::grown(base::united(target, moved(target, *offset * (1.0 / (1 << level)))), readBetweenPx);
    return base::grown(target, repair::sourceReach(target.size()) + patchPx + readBetweenPx);
}

EncodedPlanes healed(const BeforeStroke& before, const base::Rect& tile) {
    const auto offset = offsetOf(before);
    if (!offset) return before.picture(tile);
    EncodedPlanes out = before.taken(tile, [&](base::Point place) { return place + *offset; });
    const auto healing = healingOf(before, *offset);
    if (healing->rect.empty()) return out;
    const double scale = 1.0 / (1 << (healing->level - before.level()));
    Plane<float>* const channels[] = {&out.red, &out.green, &out.blue};
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 0; y < tile.height(); ++y) {
            for (int x = 0; x < tile.width(); ++x)
                channels[c]->view().at(x, y) += static_cast<float>(
                    kernel::bilinear(healing->tone[c], (tile.x0 + x + 0.5) * scale - healing->rect.x0,
                                     (tile.y0 + y + 0.5) * scale - healing->rect.y0));
        }
    }
    return out;
}

}  // namespace

// Looked for on a level of its own, which goes by the size of the stroke: the same for every view.
std::optional<base::Point> offsetOf(const BeforeStroke& before) {
    const Brings& brings = before.brings();
    if (brings.kind != BringKind::heal) return std::nullopt;
    if (brings.offset) return brings.offset;
    if (!before.stroke()->isFinished()) return offsetOfItsBeginning(before);
    constexpr double sidePx = 48;
    const base::Rect& bounds = before.stroke()->bounds();
    const int level = image::levelOfLength(std::max(bounds.width(), bounds.height()), sidePx);
    if (level != before.level()) return offsetOf(before.onLevel(level));
    return *stage::keptForGood(before.store(), staged<std::optional<base::Point>>("found source", findSource, before))
                .value();
}

const Bringer bringsHealed = {.looksAt = looksAt, .over = healed};

}  // namespace dimhem::mask
