#include "ui/session/unsure_watch.h"

namespace dimhem::ui {

UnsureWatch::UnsureWatch(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::opened, this, [this] {
        asked_.reset();
        look();
    });
    connect(&session_, &Session::pictureChanged, this, &UnsureWatch::look);
    connect(&session_, &Session::selectionChanged, this, &UnsureWatch::look);
}

void UnsureWatch::look() {
    const mask::Part* part = session_.isOpen() ? session_.part() : nullptr;
    const auto region = part ? std::dynamic_pointer_cast<const mask::Region>(part->shape) : nullptr;
    if (region == asked_) return;
    asked_ = region;
    places_.clear();
    Q_EMIT changed();
    if (!region) return;
    job_.request(
        [region, renderer = session_.sharedRenderer(), document = session_.document(),
         correction = session_.selectedCorrection()](const base::CancelToken& token) {
            const render::Sequence sequence(document, {}, token);
            return region->unsurePlaces(renderer->maskContext(sequence, correction)->photo());
        },
        [this, region](base::Result<std::vector<mask::Region::UnsurePlace>> found) {
            if (!found || region != asked_) return;
            places_ = std::move(*found);
            Q_EMIT changed();
        });
}

}  // namespace dimhem::ui
