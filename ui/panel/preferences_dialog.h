// What is chosen once for all photos (session/preferences.h).
#pragma once

#include <QDialog>
#include <filesystem>

class QFormLayout;

namespace dimhem::ui {

class PreferencesDialog final : public QDialog {
    Q_OBJECT

public:
    PreferencesDialog(const std::filesystem::path& recoveryFolder, QWidget* parent);

Q_SIGNALS:
    void surroundChanged();
    void ceilingChanged();

private:
    void addSurround(QFormLayout* form);
    void addSize(QFormLayout* form);
    void addPen(QFormLayout* form);
    void addMemory(QFormLayout* form);
    void addCeiling(QFormLayout* form);
    void addRecovery(QFormLayout* form, const std::filesystem::path& folder);
};

}  // namespace dimhem::ui
