// What is chosen once for all photos (session/preferences.h).
#pragma once

#include <QDialog>
#include <filesystem>
#include <memory>

#include "core/io/found_folder.h"

class QFormLayout;

namespace dimhem::ui {

class PreferencesDialog final : public QDialog {
    Q_OBJECT

public:
    // `found` may be null.
    PreferencesDialog(const std::filesystem::path& recoveryFolder, const std::shared_ptr<io::FoundFolder>& found,
                      QWidget* parent);

Q_SIGNALS:
    void surroundChanged();
    void ceilingChanged();
    void foundLimitChosen(quint64 bytes);  // removing what is too much may take a while

private:
    void addSurround(QFormLayout* form);
    void addSize(QFormLayout* form);
    void addPen(QFormLayout* form);
    void addMemory(QFormLayout* form);
    void addCeiling(QFormLayout* form);
    void addFound(QFormLayout* form, const std::shared_ptr<io::FoundFolder>& found);
    void addRecovery(QFormLayout* form, const std::filesystem::path& folder);
};

}  // namespace dimhem::ui
