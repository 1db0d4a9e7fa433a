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
