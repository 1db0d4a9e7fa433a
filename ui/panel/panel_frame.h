// A side panel, as wide as its inner border is dragged to: a heading with the thread line of the selected correction,
// and a body that scrolls.
//
// The body is built anew when its structure changes, and only has its values refreshed otherwise, so that a control
// in use stays in place. The keyboard focus survives both: it goes back to the control of the same object name.
#pragma once

#include <QWidget>
#include <functional>

#include "ui/panel/panel_border.h"

class QLabel;
class QVBoxLayout;

namespace dimhem::ui {

class StitchLine;

class PanelFrame : public QWidget {
    Q_OBJECT

public:
    PanelFrame(const QString& heading, PanelBorder::Edge border, const QString& settingsKey, QWidget* parent);

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* object, QEvent* event) override;
    void setAside(const QString& text);    // right of the heading
    void setThread(const QColor& colour);  // invalid: none
    // To be called when anything may have changed; does nothing more where `structure` is what was built last.
    void showBody(const QString& structure);
    virtual void build(QVBoxLayout* layout, QWidget* body) = 0;
    // Before the body is thrown away: what is to be used again is taken out of it.
    virtual void saveFromBody() {}
    void onRefresh(std::function<void()> refresh) { refreshers_.append(std::move(refresh)); }
    // Stays in sight under what scrolls; its folds give way where what scrolls would otherwise not fit.
    void addBelow(QWidget* widget);
    void showInBody(QWidget* control);      // scrolled to, with something of what stands below it
    void rebuildNext() { built_.reset(); }  // even where the structure is the same

    static QLabel* quietLabel(const QString& text, QWidget* parent);
    static QWidget* separator(QWidget* parent);

private:
    void shareRoom();
    QWidget* freshBody();
    QString focusedName() const;
    void showAside();

    QList<std::function<void()>> refreshers_;
    QList<QWidget*> below_;
    std::optional<QString> built_;
    class QScrollArea* scroll_;
    QLabel* aside_;
    QString asideText_;
    PanelBorder* border_;
    StitchLine* thread_;
};

}  // namespace dimhem::ui
