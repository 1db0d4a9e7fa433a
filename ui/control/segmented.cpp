#include "ui/control/segmented.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>

namespace dimhem::ui {

namespace {

constexpr int leastPx = 24;  // WCAG 2.2, 2.5.8 target size (minimum)
constexpr char look[] = R"(
QPushButton { background: transparent; border: 1px solid #5a5a5a; border-left-width: 0; border-radius: 0; padding: 3px 4px; }
QPushButton[roomy="true"] { padding: 3px 9px; }
QPushButton[first="true"] { border-left-width: 1px; border-top-left-radius: 4px; border-bottom-left-radius: 4px; }
QPushButton[last="true"] { border-top-right-radius: 4px; border-bottom-right-radius: 4px; }
QPushButton:hover { background: #3a3a3a; }
QPushButton:checked { background: #e0e0e0; color: #181818; }
QPushButton:focus { border: 1px solid #ffffff; }
QPushButton:disabled { color: #808080; }
QPushButton:checked:disabled { background: #6a6a6a; color: #303030; }
)";

class ChoiceButton final : public QPushButton {
public:
    using QPushButton::QPushButton;
    QSize sizeHint() const override { return QPushButton::sizeHint().expandedTo({leastPx, 0}); }
    QSize minimumSizeHint() const override { return QPushButton::minimumSizeHint().expandedTo({leastPx, 0}); }
};

}  // namespace

Segmented::Segmented(const QString& name, const QList<Choice>& choices, QWidget* parent)
    : QWidget(parent), group_(new QButtonGroup(this)) {
    setAccessibleName(name);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    for (int i = 0; i < choices.size(); ++i) {
        auto* button = new ChoiceButton(choices[i].label, this);
        button->setCheckable(true);
        button->setToolTip(choices[i].tip);
        button->setAccessibleName(name + ": " + choices[i].label);
        button->setFocusPolicy(Qt::TabFocus);
        button->setProperty("first", i == 0);
        button->setProperty("last", i + 1 == choices.size());
        button->setStyleSheet(look);
        group_->addButton(button, i);
        layout->addWidget(button);
    }
    group_->button(0)->setChecked(true);
    connect(group_, &QButtonGroup::idClicked, this, [this](int index) {
        showChosen();
        Q_EMIT chosen(index);
    });
}

void Segmented::setShort(bool isShort) {
    if (!short_) {
        if (!isShort) return;
        short_ = new QToolButton(this);
        short_->setPopupMode(QToolButton::InstantPopup);
        short_->setFocusPolicy(Qt::TabFocus);
        short_->setToolTip(accessibleName());
        short_->setStyleSheet("QToolButton { border: 1px solid #5a5a5a; padding: 3px 9px; }");
        auto* menu = new QMenu(short_);
        menu->setToolTipsVisible(true);
        for (QAbstractButton* button : group_->buttons()) {
            QAction* action = menu->addAction(button->text(), button, &QAbstractButton::click);
            connect(menu, &QMenu::aboutToShow, action, [action, button] {
                action->setCheckable(true);
                action->setChecked(button->isChecked());
                action->setToolTip(button->toolTip());
            });
        }
        short_->setMenu(menu);
        layout()->addWidget(short_);
    }
    for (QAbstractButton* button : group_->buttons()) button->setVisible(!isShort);
    short_->setVisible(isShort);
    showChosen();
}

void Segmented::showChosen() {
    if (!short_) return;
    const QString text = group_->checkedButton() ? group_->checkedButton()->text() : QString();
    short_->setText(text);
    short_->setAccessibleName(accessibleName() + ": " + text);
}

void Segmented::makeRoomy() {
    for (QAbstractButton* button : group_->buttons()) {
        button->setProperty("roomy", true);
        button->setStyleSheet(look);  // looked at anew
    }
}

QWidget* Segmented::button(int index) const {
    return group_->button(index);
}

int Segmented::current() const {
    return group_->checkedId();
}

void Segmented::setCurrent(int index) {
    group_->button(index)->setChecked(true);
    showChosen();
}

}  // namespace dimhem::ui
