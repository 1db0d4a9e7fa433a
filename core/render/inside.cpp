// The picture inside a step, after some of its operations. What stands before an operation by coverage is mixed by it;
// what comes after the last such is not mixed yet.
#include "core/render/reader.h"
#include "core/stage/kept.h"

namespace dimhem::render {

namespace {

// So many operations before these, from whose outcome these go on; it is kept in tiles, so that a long chain costs what
// there is of it. It must be one picture: an operation by coverage mixes what its group made with what that began from.
std::size_t begunFrom(const Sequence::Step& step, std::size_t operations) {
    constexpr std::size_t betweenKept = 4;
    std::size_t group = 0;
    for (std::size_t i = 0; i + 1 < operations; ++i) {
        if (adjust::isByCoverage(step.operations[i])) group = i + 1;
    }
    if (adjust::isByCoverage(step.operations[operations - 1])) return group;
    return group + (operations - 1 - group) / betweenKept * betweenKept;
}

}  // namespace

Staged<StagePicture> Reader::insideTile(std::size_t step, std::size_t operations, const Area& tile) const {
    const auto context = contextOf(sequence_->steps()[step].correction->id);
    const auto picture = stage::staged<StagePicture>(
        "inside, kept", [](image::EncodedPlanes picture) { return StagePicture(std::move(picture)); },
        inside(step, operations, tile));
    return stage::kept(*context, picture).owning(context);
}

Reading<image::EncodedPlanes> Reader::inside(std::size_t step, std::size_t operations, const Area& area) const {
    if (operations == 0) return arriving(step, area);
    const auto question = mask::keyOf(area).add("inside").add(step).add(operations).key();
    return stage::asked(*sequence_, question, [reader = *this, step, operations, area] {
        const Sequence::Step& now = reader.sequence().steps()[step];
        const OperationRange range{begunFrom(now, operations), operations};
        std::vector<stage::Placed<StagePicture>> tiles;
        if (range.first > 0) {
            reader.gridOf(area.level).forEach(area.rect, [&](const base::Rect& tile) {
                tiles.push_back({tile, reader.insideTile(step, range.first, {tile, area.level})});
            });
        }
        std::optional<Staged<mask::Coverage>> mask;
        if (adjust::isByCoverage(now.operations[operations - 1])) mask = reader.mask(now.correction->id, area);
        return stage::reading<image::EncodedPlanes>(
            "inside",
            [](image::EncodedPlanes picture, const Acting& acting) {
                runInside(acting, picture);
                return picture;
            },
            range.first > 0 ? pictureFrom(std::move(tiles), area.rect) : reader.arriving(step, area),
            Action(now, range, std::move(mask), reader.models(step, range, area)));
    });
}

}  // namespace dimhem::render
