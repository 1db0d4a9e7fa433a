// Settings of an export: format, depth, quality, and for a cut-out before a backdrop whether with it. The place is
// asked for afterwards, by the file chooser.
#pragma once

#include <QDialog>

#include "core/task/export.h"

class QComboBox;
class QSpinBox;

namespace dimhem::ui {

class ExportDialog final : public QDialog {
    Q_OBJECT

public:
    ExportDialog(const image::Photo& photo, bool hasBackdrop, QWidget* parent);
    task::ExportSettings settings() const;

private:
    void showDepths();
    image::SampleType photoType_;
    QComboBox *format_, *depth_;
    QSpinBox* quality_;
    QComboBox* behind_;  // 0 transparent, 1 over the backdrop
};

}  // namespace dimhem::ui
