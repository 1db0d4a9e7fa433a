// Settings of an export: format, depth, quality, size, and for a cut-out before a backdrop whether with it; begins with
// those of the last export. The file is asked for afterwards, by the chooser.
#pragma once

#include <QDialog>
#include <QImage>

#include "core/task/export.h"

class QComboBox;
class QLabel;
class QSpinBox;

namespace dimhem::ui {

class ExportDialog final : public QDialog {
    Q_OBJECT

public:
    // `small`: the finished picture, small, to tell from it how large the file will be about.
    ExportDialog(const image::Photo& photo, bool hasBackdrop, const QImage& small, QWidget* parent);
    void remember() const;  // for the next export
    task::ExportSettings settings() const;

private:
    const io::Format* format() const;
    void showDepths();
    void showSize();
    double expectedBytes() const;
    base::Size photo_;
    image::SampleType photoType_;
    QImage small_;
    QComboBox *format_, *depth_;
    QSpinBox *quality_, *longSide_;  // the latter at its least: the photo's own size
    QLabel* size_;
    QComboBox* behind_;  // 0 transparent, 1 over the backdrop
};

}  // namespace dimhem::ui
