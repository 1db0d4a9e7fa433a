#include "ui/session/small_pictures.h"

#include "core/image/tiles.h"
#include "ui/session/frame_thread.h"

namespace dimhem::ui {

namespace {

constexpr int picturePauseMs = 40;
constexpr int sidePx = 150;  // at least this long, where the photo is

// `told` hears of the set each time there is one more in it.
PictureSet make(const render::Renderer& renderer, const document::DocumentPtr& document, document::Id selected,
                const base::CancelToken& cancel, const std::function<void(const PictureSet&)>& told) {
    const base::Size photo = renderer.photo().size();
    const int level = image::levelOfLeastSide(photo, sidePx);
    const mask::Area all{base::rectOf(image::levelSize(photo, level)), level};
    render::Comparison asItWas;
    asItWas.allOff = true;
    const render::Sequence before(document, asItWas, cancel), after(document, {}, cancel);
    PictureSet set;
    set.photo = imageOf(*renderer.display(before, {}, all));
    told(set);
    for (const document::CorrectionPtr& correction : document->corrections) {
        render::View view;
        view.selected = correction->id;
        view.maskView = render::MaskView::cutOut;
        set.corrections[correction->id] = imageOf(*renderer.display(after, view, all));
        told(set);
        if (correction->id != selected) continue;
        for (const mask::PartPtr& part : correction->mask.parts) {
            view.maskView = render::MaskView::plate;
            view.part = part->id;
            set.parts[part->id] = imageOf(*renderer.display(after, view, all));
            told(set);
        }
    }
    set.result = imageOf(*renderer.display(after, {}, all));
    return set;
}

}  // namespace

SmallPictures::SmallPictures(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, picturePauseMs, this) {
    connect(&watch_, &Watch::due, this, &SmallPictures::start);
    connect(&session_, &Session::opened, &watch_, &Watch::later);
    connect(&session_, &Session::documentChanged, &watch_, &Watch::later);
    connect(&session_, &Session::selectionChanged, &watch_, &Watch::later);
}

void SmallPictures::start() {
    if (!session_.isOpen() || opening_ != session_.opening()) pictures_ = {};
    opening_ = session_.opening();
    if (!session_.isOpen()) return;
    const auto told = [self = QPointer(this), opening = opening_](const PictureSet& set) {
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [self, opening, set] {
                if (self) self->takeSome(set, opening);
            },
            Qt::QueuedConnection);
    };
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document(), selected = session_.selectedCorrection(),
         told](const base::CancelToken& token) { return make(*renderer, document, selected, token, told); },
        [this](base::Result<PictureSet> set) {
            if (!set) return;  // those that were made before stay
            pictures_ = std::move(*set);
            Q_EMIT changed();
        });
}

// Those that are made take the place of what was there; what is not made yet stays.
void SmallPictures::takeSome(const PictureSet& set, quint64 opening) {
    if (session_.opening() != opening) return;
    if (!set.photo.isNull()) pictures_.photo = set.photo;
    if (!set.result.isNull()) pictures_.result = set.result;
    for (auto it = set.corrections.begin(); it != set.corrections.end(); ++it)
        pictures_.corrections[it.key()] = it.value();
    for (auto it = set.parts.begin(); it != set.parts.end(); ++it) pictures_.parts[it.key()] = it.value();
    Q_EMIT changed();
}

}  // namespace dimhem::ui
