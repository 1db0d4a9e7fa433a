// The inner border of a side panel: drag it, or with the focus on it left and right, to make the panel wider or
// narrower; a double click gives back the width a screen of this size begins with. What was chosen is remembered.
#pragma once

#include <QWidget>

#include "ui/control/spoken.h"

namespace dimhem::ui {

class PanelBorder final : public QWidget, public Spoken {
    Q_OBJECT

public:
    enum class Edge { left, right };  // of the panel, which side the border is on

    static constexpr int least = 200, most = 480;

    PanelBorder(Edge edge, const QString& settingsKey, QWidget* panel);
    QAccessible::Role spokenRole() const override { return QAccessible::Splitter; }
    std::optional<SpokenValue> spokenValue() const override;
    void setSpokenValue(double width) override { setPanelWidth(static_cast<int>(width), true); }
    void place();  // to be called when the panel is resized

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    int defaultWidth() const;
    void setPanelWidth(int width, bool remembered);

    Edge edge_;
    QString key_;
    QWidget* panel_;
    int grabbedAt_ = 0, grabbedWidth_ = 0;
};

}  // namespace dimhem::ui
