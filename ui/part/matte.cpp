#include "ui/part/kinds.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QPushButton>

#include "core/mask/matte.h"
#include "core/task/chosen_files.h"
#include "core/task/matte_file.h"
#include "core/task/state_folder.h"
#include "ui/part/rows.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

// The picture becomes the part's matte once it has been read.
void takeMatte(const SettingsBuilder& b, const QString& path) {
    readInBackground(
        b.session,
        [path = path.toStdString(), ceiling = b.session.ceiling()] {
            return task::readMatte(path, {{}, {}, ceiling});
        },
        [b](const std::shared_ptr<const mask::Matte>& matte) {
            b.session.hold(matte->file());
            task::rememberChosen(matte->file(), task::stateFolder());
            editShape<mask::Matte>(b, QObject::tr("choose matte"), [&](const mask::Matte&) { return matte; });
        });
}

}  // namespace

void addMatte(const SettingsBuilder& b) {
    const auto shape = shapeOf<mask::Matte>(b);
    if (!shape) return;
    const bool hasAlpha = b.session.renderer().photo().photo().samples.hasAlpha();
    addHint(b, shape->isAlpha() ? (hasAlpha ? QObject::tr("The photo's own alpha.")
                                            : QObject::tr("This photo has no alpha of its own: choose a picture."))
                                : QObject::tr("From %1, scaled to the photo.")
                                      .arg(QFileInfo(QString::fromStdString(shape->file())).fileName()));
    auto* choose = new QPushButton(QObject::tr("Choose a picture…"), b.body);
    choose->setAccessibleName(choose->text());
    choose->setToolTip(QObject::tr("A grey picture of 8 or 16 bits: white is full, black is none"));
    choose->setObjectName("choose-matte");
    QObject::connect(choose, &QAbstractButton::clicked, b.body, [b] {
        auto* chooser = new QFileDialog(b.body->window(), QObject::tr("Choose a matte"), {},
                                        QObject::tr("Pictures (*.png *.tif *.tiff *.jpg *.webp);;All files (*)"));
        chooser->setFileMode(QFileDialog::ExistingFile);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        QObject::connect(chooser, &QFileDialog::fileSelected, &b.session,
                         [b](const QString& path) { takeMatte(b, path); });
        chooser->open();
    });
    b.layout->addSpacing(6);
    b.layout->addWidget(choose, 0, Qt::AlignLeft);
}

}  // namespace dimhem::ui
