// Rows of a panel that can be folded away under their name, which says in a few words what is set among them. Whether
// it is open is remembered by its name in the settings.
#pragma once

#include <QWidget>

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace dimhem::ui {

class Fold final : public QWidget {
    Q_OBJECT

public:
    Fold(const QString& name, const QString& settingsKey, const QString& tip, QWidget* parent);

    QVBoxLayout* rows() const { return rows_; }
    QWidget* body() const { return body_; }
    void setSummary(const QString& summary);  // shown while it is folded

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void setOpen(bool open);
    void showSummary();

    QToolButton* head_;
    QLabel* summaryLabel_;
    QString summary_;
    QWidget* body_;
    QVBoxLayout* rows_;
};

}  // namespace dimhem::ui
