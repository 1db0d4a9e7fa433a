#include "core/render/reader.h"

#include <algorithm>

#include "core/render/beyond_edge.h"

namespace dimhem::render {

base::ContentKey Action::key() const {
    base::KeyBuilder key;
    key.add(operations_.first);
    key.add(operations_.last == step_->operations.size() ? step_->key : step_->beforeKeys[operations_.last]);
    addTo(key, mask_);
    addTo(key, models_);
    addTo(key, own_);
    return key.key();
}

Acting Action::value() const {
    const std::span<const adjust::Operation> all = step_->operations;
    Acting acting{step_,
                  all.subspan(operations_.first, operations_.last - operations_.first),
                  mask_ ? mask_->value() : nullptr,
                  own_ ? own_->value() : nullptr,
                  {},
                  false};
    for (const Staged<Model>& model : models_) acting.models.push_back(model.value());
    const bool isWhole = acting.operations.size() == all.size();
    acting.replaces = isWhole && replaces(*step_, *acting.coverage);
    return acting;
}

base::ContentKey Reader::photoKey(const Area& area) const {
    return mask::keyOf(area).add(photo_->key()).key();
}

Reading<image::EncodedPlanes> Reader::photoOver(const Area& area) const {
    return stage::reading<image::EncodedPlanes>(
        "photo",
        [](const PhotoSource& photo, const Area& area) {
            image::EncodedPlanes out(area.rect.size());
            photo.read(area.rect, area.level, out);
            return out;
        },
        stage::keyed(photo_->key(), *photo_), area);
}

Reading<image::EncodedPlanes> goneOn(Reading<image::EncodedPlanes> inside, const Area& from, const Area& to) {
    if (from == to) return inside;
    return stage::reading<image::EncodedPlanes>(
        "gone on",
        [](const image::EncodedPlanes& inside, const Area& from, const Area& to) {
            image::EncodedPlanes out(to.rect.size());
            extend(inside, from, out, to);
            return out;
        },
        std::move(inside), from, to);
}

Staged<mask::Coverage> Reader::mask(document::Id correction, const Area& area) const {
    const document::Correction* found = document::findCorrection(sequence_->document(), correction);
    if (!found) return mask::uniformCoverage(0);
    const std::shared_ptr<mask::Context> context = contextOf(correction);
    return mask::over(found->mask, area, *context).owning(context);
}

std::optional<Action> Reader::actionOn(std::size_t index, const Area& tile) const {
    base::throwIfCancelled(sequence_->cancel());
    const Sequence::Step& step = sequence_->steps()[index];
    const Staged<mask::Coverage> mask = this->mask(step.correction->id, tile);
    const mask::CoveragePtr coverage = mask.value();
    if (coverage->isEmpty()) return std::nullopt;
    std::optional<Staged<OwnColours>> own;
    if (cleansEdge(step, *coverage)) {
        const std::shared_ptr<mask::Context> context = contextOf(step.correction->id);
        own = ownColours(step.correction->mask, tile, *context).owning(context);
    }
    const OperationRange all{0, step.operations.size()};
    return Action(step, all, mask, models(index, all, tile), std::move(own));
}

std::vector<Action> Reader::actionsOn(const Area& tile) const {
    std::vector<Action> out;
    for (std::size_t i = 0; i < sequence_->steps().size(); ++i) {
        if (auto action = actionOn(i, tile)) out.push_back(std::move(*action));
    }
    return out;
}

base::ContentKey Reader::keyAfter(const std::vector<Action>& actions, const Area& tile) const {
    base::ContentKey key = photoKey(tile);
    for (const Action& action : actions) key = base::KeyBuilder().add(key).add(action.key()).key();
    return key;
}

}  // namespace dimhem::render
