// Rows of a panel that can be folded away under their name, which says in a few words what is set among them. Whether
// it is open is remembered by its name in the settings. Where room is short it can be told to give way: it then folds
// for as long as that lasts, unless the person opens it all the same.
#pragma once

#include <QWidget>

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace dimhem::ui {

class Fold final : public QWidget {
    Q_OBJECT

public:
    enum class First { folded, open };  // until the person has chosen
    Fold(const QString& name, const QString& settingsKey, const QString& tip, QWidget* parent,
         First first = First::folded);

    QVBoxLayout* rows() const { return rows_; }
    QWidget* body() const { return body_; }
    void setSummary(const QString& summary);  // shown while it is folded
    bool isOpen() const;
    void giveWay(bool roomIsShort);
    int foldedHeight() const;
    int openHeight() const;  // as it would be, or is, where the person has it open

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void setOpen(bool open);
    void showSummary();
    bool isWantedOpen() const;

    QString key_;
    First first_;
    bool gaveWay_ = false, insists_ = false;
    QToolButton* head_;
    QLabel* summaryLabel_;
    QString summary_;
    QWidget* body_;
    QVBoxLayout* rows_;
};

}  // namespace dimhem::ui
