#include "core/document/judging.h"

#include <algorithm>
#include <cmath>

namespace dimhem::document {

namespace {

struct KindInfo {
    NoteKind kind;
    std::string_view id;
};
constexpr KindInfo kinds[] = {
    {NoteKind::clipped, "clipped"},    {NoteKind::blocked, "blocked"},
    {NoteKind::outside, "outside"},    {NoteKind::greyed, "greyed"},
    {NoteKind::overshot, "overshot"},  {NoteKind::beyondPrint, "beyond-print"},
    {NoteKind::opposed, "opposed"},    {NoteKind::emptyMask, "empty-mask"},
    {NoteKind::fullMask, "full-mask"}, {NoteKind::movedMask, "moved-mask"},
    {NoteKind::noEffect, "no-effect"}, {NoteKind::noise, "noise"},
    {NoteKind::seam, "seam"},
};

}  // namespace

base::Rect Probe::rect() const {
    if (area) return *area;
    const int x = static_cast<int>(std::floor(place.x)), y = static_cast<int>(std::floor(place.y)), r = sizePx / 2;
    return {x - r, y - r, x + r + 1, y + r + 1};
}

base::Point middleOf(const Probe& probe) {
    if (!probe.area) return probe.place;
    return {(probe.area->x0 + probe.area->x1) / 2.0, (probe.area->y0 + probe.area->y1) / 2.0};
}

Probe moved(Probe probe, base::Point by) {
    probe.place = probe.place + by;
    if (probe.area) {
        const int x = static_cast<int>(std::lround(by.x)), y = static_cast<int>(std::lround(by.y));
        const base::Rect a = *probe.area;
        probe.area = base::Rect{a.x0 + x, a.y0 + y, a.x1 + x, a.y1 + y};
    }
    return probe;
}

std::span<const NoteKind> noteKinds() {
    static const auto all = [] {
        std::array<NoteKind, std::size(kinds)> list{};
        std::ranges::transform(kinds, list.begin(), &KindInfo::kind);
        return list;
    }();
    return all;
}

std::string_view idOf(NoteKind kind) {
    return std::ranges::find(kinds, kind, &KindInfo::kind)->id;
}

std::optional<NoteKind> noteKindOf(std::string_view id) {
    const auto found = std::ranges::find(kinds, id, &KindInfo::id);
    return found == std::end(kinds) ? std::nullopt : std::optional(found->kind);
}

}  // namespace dimhem::document
