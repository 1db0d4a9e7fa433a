// A sheet to choose one of many from: grouped, each with a name, a line about it and, where there is one, a picture;
// what is typed narrows it down. It opens below or above what asks for it and goes when something is chosen, with Esc,
// or by a press elsewhere.
#pragma once

#include <QFrame>
#include <QIcon>
#include <QImage>
#include <QList>

class QLineEdit;
class QListWidget;
class QListWidgetItem;

namespace dimhem::ui {

class ChoiceSheet final : public QFrame {
    Q_OBJECT

public:
    struct Choice {
        QString id, group, name, line;
        QIcon icon = {};
        QString key = {};  // that does the same
    };
    // `pictures`: room is left for one beside each.
    ChoiceSheet(const QString& title, const QList<Choice>& choices, bool pictures, QWidget* parent);

    void setPicture(const QString& id, const QImage& picture);
    void openBeside(QWidget* opener);

Q_SIGNALS:
    void chosen(const QString& id);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void narrow(const QString& typed);
    void choose(QListWidgetItem* item);
    void step(int by);

    QLineEdit* search_;
    QListWidget* list_;
};

}  // namespace dimhem::ui
