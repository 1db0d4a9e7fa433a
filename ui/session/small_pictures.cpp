#include "ui/session/small_pictures.h"

#include "core/image/tiles.h"
#include "ui/session/background.h"
#include "ui/session/frame_thread.h"

namespace dimhem::ui {

namespace {

constexpr int sidePx = 150;  // at least this long, where the photo is

PictureSet make(const render::Renderer& renderer, const document::DocumentPtr& document, document::Id selected) {
    const base::Size photo = renderer.photo().size();
    const int level = image::levelOfLeastSide(photo, sidePx);
    const mask::Area all{base::rectOf(image::levelSize(photo, level)), level};
    render::Comparison asItWas;
    asItWas.allOff = true;
    const render::Sequence before(document, asItWas), after(document, {});
    PictureSet set;
    set.photo = imageOf(*renderer.display(before, {}, all));
    set.result = imageOf(*renderer.display(after, {}, all));
    for (const document::CorrectionPtr& correction : document->corrections) {
        render::View view;
        view.selected = correction->id;
        view.maskView = render::MaskView::cutOut;
        set.corrections[correction->id] = imageOf(*renderer.display(after, view, all));
        if (correction->id != selected) continue;
        for (const mask::PartPtr& part : correction->mask.parts) {
            view.maskView = render::MaskView::plate;
            view.part = part->id;
            set.parts[part->id] = imageOf(*renderer.display(after, view, all));
        }
    }
    return set;
}

}  // namespace

SmallPictures::SmallPictures(Session& session, QObject* parent) : QObject(parent), session_(session) {
    pause_.setSingleShot(true);
    pause_.setInterval(40);
    connect(&pause_, &QTimer::timeout, this, &SmallPictures::start);
    const auto soon = [this] { pause_.start(); };
    connect(&session_, &Session::opened, this, soon);
    connect(&session_, &Session::documentChanged, this, soon);
    connect(&session_, &Session::selectionChanged, this, soon);
}

void SmallPictures::start() {
    if (!session_.isOpen()) {
        pictures_ = {};
        return;
    }
    if (running_) {
        again_ = true;
        return;
    }
    running_ = true;
    again_ = false;
    runInBackground(
        this,
        [renderer = session_.sharedRenderer(), document = session_.document(),
         selected = session_.selectedCorrection()] { return make(*renderer, document, selected); },
        [this](PictureSet set) {
            running_ = false;
            pictures_ = std::move(set);
            Q_EMIT changed();
            if (again_) start();
        });
}

}  // namespace dimhem::ui
