#include "ui/panel/photo_facts.h"

#include <QColorDialog>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>

#include "core/colour/icc.h"
#include "core/document/edits.h"
#include "core/io/metadata.h"
#include "core/task/backdrop_file.h"
#include "core/task/chosen_files.h"
#include "core/task/state_folder.h"
#include "ui/control/segmented.h"
#include "ui/control/theme.h"
#include "ui/session/background.h"

namespace dimhem::ui {

namespace {

QString depthWords(const image::Photo& photo) {
    switch (photo.samples.type()) {
        case image::SampleType::u8: return QObject::tr("8 bits a channel");
        case image::SampleType::u16: return QObject::tr("16 bits a channel");
        case image::SampleType::f32: return photo.linear ? QObject::tr("float, linear light") : QObject::tr("float");
    }
    return {};
}

void setBackdrop(Session& session, document::Backdrop backdrop, const QString& step) {
    if (session.isOpen())
        session.edit(step, [&](const document::Document& d) { return document::withBackdrop(d, std::move(backdrop)); });
}

}  // namespace

PhotoFacts::PhotoFacts(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    const image::Photo& photo = session_.renderer().photo().photo();
    addFact(layout, tr("Format"), QString::fromStdString(photo.format));
    addFact(layout, tr("Size"), tr("%1 × %2 px").arg(photo.size().width).arg(photo.size().height));
    addFact(layout, tr("Depth"), depthWords(photo));
    addFact(
        layout, tr("Profile"),
        photo.profile.empty() ? tr("none, taken as sRGB") : QString::fromStdString(colour::profileName(photo.profile)));
    addFact(layout, tr("Alpha"), photo.samples.hasAlpha() ? tr("yes") : tr("no"));
    for (const auto& [name, value] : io::readableFacts(photo.metadata))
        addFact(layout, QString::fromStdString(name), QString::fromStdString(value));
    if (photo.samples.hasAlpha()) addBackdrop(layout);
    layout->addSpacing(10);
    auto* promise = new QLabel(tr("The photo's file is never changed."), this);
    promise->setProperty("quiet", true);
    promise->setWordWrap(true);
    layout->addWidget(promise);
}

void PhotoFacts::addFact(QVBoxLayout* layout, const QString& name, const QString& value) {
    auto* row = new QHBoxLayout;
    auto* label = new QLabel(name, this);
    label->setProperty("quiet", true);
    label->setFixedWidth(theme::scaled(76));
    auto* text = new QLabel(value, this);
    text->setWordWrap(true);
    text->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(label, 0, Qt::AlignTop);
    row->addWidget(text, 1);
    layout->addLayout(row);
}

// What stands behind the cut-out, so that it is judged where it will stand.
void PhotoFacts::addBackdrop(QVBoxLayout* layout) {
    layout->addSpacing(12);
    auto* label = new QLabel(tr("Backdrop"), this);
    label->setProperty("heading", true);
    layout->addWidget(label);
    backdrop_ = new Segmented(tr("Backdrop"),
                              {{tr("None"), tr("Nothing behind: the weave shows what is transparent")},
                               {tr("Colour…"), tr("One colour behind the cut-out")},
                               {tr("Picture…"), tr("A picture behind the cut-out, scaled to cover it")}},
                              this);
    backdrop_->setObjectName("backdrop");
    connect(backdrop_, &Segmented::chosen, this, &PhotoFacts::chooseBackdrop);
    layout->addWidget(backdrop_);
    refresh();
}

void PhotoFacts::refresh() {
    if (backdrop_ && session_.isOpen()) backdrop_->setCurrent(static_cast<int>(session_.document()->backdrop.index()));
}

void PhotoFacts::chooseBackdrop(int kind) {
    refresh();  // giving up in the chooser leaves things as they are
    if (kind == 0) setBackdrop(session_, {}, tr("no backdrop"));
    if (kind == 1) chooseColour();
    if (kind == 2) choosePicture();
}

void PhotoFacts::chooseColour() {
    auto* chooser = new QColorDialog(QColor(128, 128, 128), window());
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &QColorDialog::colorSelected, &session_, [&session = session_](const QColor& c) {
        setBackdrop(session, colour::EncodedRgb{c.redF(), c.greenF(), c.blueF()}, tr("backdrop colour"));
    });
    chooser->open();
}

void PhotoFacts::choosePicture() {
    auto* chooser = new QFileDialog(window(), tr("Backdrop"));
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    chooser->setFileMode(QFileDialog::ExistingFile);
    connect(chooser, &QFileDialog::fileSelected, &session_, [&session = session_](const QString& path) {
        session.background().run(
            &session,
            [path, ceiling = session.ceiling()] {
                return task::readBackdrop(path.toStdString(), {{}, {}, ceiling});
            },
            [&session](const base::Result<document::BackdropPicture>& picture) {
                if (!picture) return session.warn(picture.error());
                session.hold(picture->path);
                task::rememberChosen(picture->path, task::stateFolder());
                setBackdrop(session, *picture, tr("backdrop picture"));
            });
    });
    chooser->open();
}

}  // namespace dimhem::ui
