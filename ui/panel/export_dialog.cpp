#include "ui/panel/export_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QPushButton>
#include <QSpinBox>

#include "core/io/registry.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

QString depthName(image::SampleType type) {
    switch (type) {
        case image::SampleType::u8: return QObject::tr("8 bit");
        case image::SampleType::u16: return QObject::tr("16 bit");
        case image::SampleType::f32: return QObject::tr("32 bit float");
    }
    return {};
}

}  // namespace

ExportDialog::ExportDialog(const image::Photo& photo, bool hasBackdrop, QWidget* parent)
    : QDialog(parent),
      photoType_(photo.samples.type()),
      format_(new QComboBox(this)),
      depth_(new QComboBox(this)),
      quality_(new QSpinBox(this)),
      behind_(new QComboBox(this)) {
    setWindowTitle(tr("Export"));
    for (const io::Format* format : io::formats()) {
        if (format->write)
            format_->addItem(idText(format->name), QVariant::fromValue(static_cast<const void*>(format)));
        if (format->write && format->name == photo.format) format_->setCurrentIndex(format_->count() - 1);
    }
    format_->setAccessibleName(tr("Format"));
    depth_->setAccessibleName(tr("Depth"));
    depth_->setToolTip(tr("An untouched photo comes back bit for bit at its own depth"));
    quality_->setRange(1, 100);
    quality_->setValue(92);
    quality_->setAccessibleName(tr("Quality"));
    quality_->setToolTip(
        tr("JPEG only. 92 is hard to tell from the original; from 95 on, colours keep their full resolution"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
    buttons->addButton(tr("Choose file…"), QDialogButtonBox::AcceptRole);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* form = new QFormLayout(this);
    form->addRow(tr("Format"), format_);
    form->addRow(tr("Depth"), depth_);
    form->addRow(tr("Quality"), quality_);
    behind_->addItems({tr("Transparent, without the backdrop"), tr("Over the backdrop")});
    behind_->setAccessibleName(tr("Cut-out"));
    behind_->setObjectName("export-backdrop");
    behind_->setToolTip(
        tr("Whether the backdrop goes into the file; a format without transparency gets white instead"));
    if (hasBackdrop) form->addRow(tr("Cut-out"), behind_);
    behind_->setVisible(hasBackdrop);
    form->addRow(buttons);
    connect(format_, &QComboBox::currentIndexChanged, this, &ExportDialog::showDepths);
    showDepths();
}

void ExportDialog::showDepths() {
    const auto* format = static_cast<const io::Format*>(format_->currentData().value<const void*>());
    depth_->clear();
    for (const image::SampleType type : format->depths) {
        depth_->addItem(depthName(type), static_cast<int>(type));
        if (type == photoType_) depth_->setCurrentIndex(depth_->count() - 1);
    }
    depth_->setEnabled(depth_->count() > 1);
    quality_->setEnabled(format->name == "JPEG");
}

task::ExportSettings ExportDialog::settings() const {
    task::ExportSettings settings;
    settings.format = static_cast<const io::Format*>(format_->currentData().value<const void*>());
    settings.type = static_cast<image::SampleType>(depth_->currentData().toInt());
    settings.quality = quality_->value();
    settings.overBackdrop = behind_->currentIndex() == 1;
    return settings;
}

}  // namespace dimhem::ui
