// A list to choose from. Nothing is chosen by accident: the wheel scrolls what the list stands in, and letters stay
// keys of the window; a choice is made in the open list, or with the cursor keys while it has the focus by Tab.
#pragma once

#include <QComboBox>

namespace dimhem::ui {

class ComboBox final : public QComboBox {
    Q_OBJECT

public:
    // As wide as its widest entry, or as what it stands in gives it: beside a label, say.
    enum class Width { ofEntries, given };
    explicit ComboBox(QWidget* parent, Width width = Width::ofEntries);

    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

private:
    const Width width_;
};

}  // namespace dimhem::ui
