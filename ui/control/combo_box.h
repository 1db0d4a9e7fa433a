// A list to choose from. Nothing is chosen by accident: the wheel scrolls what the list stands in, and letters stay
// keys of the window; a choice is made in the open list, or with the cursor keys while it has the focus by Tab.
#pragma once

#include <QComboBox>

namespace dimhem::ui {

class ComboBox final : public QComboBox {
    Q_OBJECT

public:
    explicit ComboBox(QWidget* parent);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
};

}  // namespace dimhem::ui
