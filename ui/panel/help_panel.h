// The help: short pages and all keys, in a panel at the right of the window, searched as one types. Keys are changed
// here as well.
#pragma once

#include <QWidget>

class QKeySequenceEdit;
class QLabel;
class QTextBrowser;
class QUrl;

namespace dimhem::ui {

class EntryField;

class HelpPanel final : public QWidget {
    Q_OBJECT

public:
    explicit HelpPanel(QWidget* parent);

    // Opens at the page of the panel the widget is in, or closes. A panel names its page in the property "help".
    void toggleFor(const QWidget* widget);

Q_SIGNALS:
    void keysChanged();

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void showFound();
    void follow(const QUrl& link);
    void beginChoosing(const QString& id);
    void showClashes();
    void choose();

    EntryField* search_;
    QTextBrowser* text_;
    QWidget* chooser_;  // of another key, there while one is being chosen
    QLabel *chooserWords_, *clashes_;
    QKeySequenceEdit* key_;
    QString page_, choosing_;  // ids
};

}  // namespace dimhem::ui
