#include "ui/panel/export_dialog.h"

#include <QBuffer>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QSettings>

#include "core/io/registry.h"
#include "ui/control/combo_box.h"
#include "ui/control/spin_box.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

constexpr char formatKey[] = "export/format", depthKey[] = "export/depth", qualityKey[] = "export/quality",
               longSideKey[] = "export/long-side";
constexpr int ownSize = 0;

QString depthName(image::SampleType type) {
    switch (type) {
        case image::SampleType::u8: return QObject::tr("8 bit");
        case image::SampleType::u16: return QObject::tr("16 bit");
        case image::SampleType::f32: return QObject::tr("32 bit float");
    }
    return {};
}

}  // namespace

ExportDialog::ExportDialog(const image::Photo& photo, bool hasBackdrop, const QImage& small, QWidget* parent)
    : QDialog(parent),
      photo_(photo.samples.size()),
      photoType_(photo.samples.type()),
      small_(small),
      format_(new ComboBox(this)),
      depth_(new ComboBox(this)),
      quality_(new SpinBox(this)),
      longSide_(new SpinBox(this)),
      size_(new QLabel(this)),
      behind_(new ComboBox(this)) {
    setWindowTitle(tr("Export"));
    for (const io::Format* format : io::formats()) {
        if (format->write)
            format_->addItem(idText(format->name), QVariant::fromValue(static_cast<const void*>(format)));
        const QString wanted = QSettings().value(formatKey, idText(photo.format)).toString();
        if (format->write && idText(format->name) == wanted) format_->setCurrentIndex(format_->count() - 1);
    }
    format_->setAccessibleName(tr("Format"));
    depth_->setAccessibleName(tr("Depth"));
    depth_->setToolTip(tr("An untouched photo comes back bit for bit at its own depth"));
    quality_->setRange(1, 100);
    quality_->setValue(QSettings().value(qualityKey, task::ExportSettings().quality).toInt());
    quality_->setAccessibleName(tr("Quality"));
    quality_->setToolTip(
        tr("JPEG only. 92 is hard to tell from the original; from 95 on, colours keep their full resolution"));
    longSide_->setRange(ownSize, std::max(photo_.width, photo_.height));
    longSide_->setSingleStep(100);
    longSide_->setSuffix(tr(" px"));
    longSide_->setSpecialValueText(tr("as the photo"));
    longSide_->setValue(QSettings().value(longSideKey, ownSize).toInt());
    longSide_->setObjectName("export-long-side");
    longSide_->setAccessibleName(tr("Longest side, in pixels"));
    longSide_->setToolTip(
        tr("Makes the picture smaller: corrected at its full size, then averaged in linear light. 0 leaves it as it "
           "is"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
    buttons->addButton(tr("Choose file…"), QDialogButtonBox::AcceptRole);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* form = new QFormLayout(this);
    form->addRow(tr("Format"), format_);
    form->addRow(tr("Depth"), depth_);
    form->addRow(tr("Quality"), quality_);
    form->addRow(tr("Longest side"), longSide_);
    size_->setObjectName("expected-size");
    size_->setProperty("quiet", true);
    size_->setToolTip(tr("Judged from a small version of the picture"));
    form->addRow(tr("Result"), size_);
    behind_->addItems({tr("Transparent, without the backdrop"), tr("Over the backdrop")});
    behind_->setAccessibleName(tr("Cut-out"));
    behind_->setObjectName("export-backdrop");
    behind_->setToolTip(
        tr("Whether the backdrop goes into the file; a format without transparency gets white instead"));
    if (hasBackdrop) form->addRow(tr("Cut-out"), behind_);
    behind_->setVisible(hasBackdrop);
    form->addRow(buttons);
    connect(format_, &QComboBox::currentIndexChanged, this, &ExportDialog::showDepths);
    connect(depth_, &QComboBox::currentIndexChanged, this, &ExportDialog::showSize);
    connect(quality_, &QSpinBox::valueChanged, this, &ExportDialog::showSize);
    connect(longSide_, &QSpinBox::valueChanged, this, &ExportDialog::showSize);
    showDepths();
    const int depth = depth_->findData(QSettings().value(depthKey, static_cast<int>(photoType_)).toInt());
    if (depth >= 0) depth_->setCurrentIndex(depth);
}

void ExportDialog::remember() const {
    QSettings().setValue(formatKey, idText(format()->name));
    QSettings().setValue(depthKey, depth_->currentData());
    QSettings().setValue(qualityKey, quality_->value());
    // Less is asked for of a photo that is smaller; that is no choice for the next one.
    const int asked = QSettings().value(longSideKey, ownSize).toInt();
    if (longSide_->value() != std::min(asked, longSide_->maximum()))
        QSettings().setValue(longSideKey, longSide_->value());
}

const io::Format* ExportDialog::format() const {
    return static_cast<const io::Format*>(format_->currentData().value<const void*>());
}

// Of as many bytes a pixel as the small picture takes, or of the samples as they are.
double ExportDialog::expectedBytes() const {
    constexpr int channels = 3;
    const auto type = static_cast<image::SampleType>(depth_->currentData().toInt());
    const base::Size size = task::exportedSize(photo_, settings());
    const double pixels = double(size.width) * size.height, sampleBytes = static_cast<double>(image::bytesOf(type));
    if (small_.isNull() || (format()->name != "JPEG" && format()->name != "PNG"))
        return pixels * channels * sampleBytes;
    QByteArray bytes;
    QBuffer file(&bytes);
    file.open(QIODevice::WriteOnly);
    small_.save(&file, idText(format()->name).toLatin1().constData(),
                format()->name == "JPEG" ? quality_->value() : -1);
    return static_cast<double>(bytes.size()) / (double(small_.width()) * small_.height()) * pixels * sampleBytes;
}

void ExportDialog::showSize() {
    if (depth_->count() == 0) return;
    const base::Size size = task::exportedSize(photo_, settings());
    size_->setText(tr("%1 × %2 px, about %3")
                       .arg(size.width)
                       .arg(size.height)
                       .arg(QLocale::c().formattedDataSize(qint64(expectedBytes()), 0)));
}

void ExportDialog::showDepths() {
    depth_->clear();
    for (const image::SampleType type : format()->depths) {
        depth_->addItem(depthName(type), static_cast<int>(type));
        if (type == photoType_) depth_->setCurrentIndex(depth_->count() - 1);
    }
    depth_->setEnabled(depth_->count() > 1);
    quality_->setEnabled(format()->name == "JPEG");
    showSize();
}

task::ExportSettings ExportDialog::settings() const {
    task::ExportSettings settings;
    settings.format = format();
    settings.type = static_cast<image::SampleType>(depth_->currentData().toInt());
    settings.quality = quality_->value();
    if (longSide_->value() != ownSize) settings.longSidePx = longSide_->value();
    settings.overBackdrop = behind_->currentIndex() == 1;
    return settings;
}

}  // namespace dimhem::ui
