#include "ui/panel/look_bar.h"

#include <QAction>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>

#include "ui/control/entry_field.h"
#include "ui/control/icon.h"
#include "ui/control/segmented.h"
#include "ui/control/theme.h"
#include "ui/control/value_slider.h"
#include "ui/panel/compare_menu.h"
#include "ui/session/key_table.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

constexpr int heightPx = 38;
constexpr base::ParamSpec zoomSpec = {.id = "zoom",
                                      .label = "Zoom",
                                      .unit = "%",
                                      .min = 1,
                                      .max = 3200,
                                      .neutral = 100,
                                      .tip = "Screen pixels for each pixel of the photo."};
constexpr base::ParamSpec tintSpec = {.id = "tint",
                                      .label = "Cover",
                                      .unit = "%",
                                      .min = 10,
                                      .max = 100,
                                      .neutral = 60,
                                      .step = 5,
                                      .tip = "How strongly the thread colour covers the photo."};
constexpr base::ParamSpec gainSpec = {.id = "gain",
                                      .label = "Amplify",
                                      .unit = "x",
                                      .min = 1,
                                      .max = 16,
                                      .neutral = 4,
                                      .tip = "How much the change is amplified.",
                                      .scale = base::Scale::logarithmic};

QToolButton* buttonFor(QAction* action, QWidget* parent) {
    auto* button = new QToolButton(parent);
    button->setDefaultAction(action);
    button->setIconSize(QSize(16, 16) * theme::scaled(100) / 100);
    button->setFocusPolicy(Qt::TabFocus);
    button->setAccessibleName(action->text());
    return button;
}

}  // namespace

LookBar::LookBar(Session& session, const LookActions& actions, QWidget* parent)
    : QWidget(parent),
      session_(session),
      menu_(new QToolButton(this)),
      name_(new QLabel(this)),
      saved_(new QLabel(this)),
      zoom_(new EntryField({}, this)),
      againstButton_(new QToolButton(this)) {
    setFixedHeight(theme::scaled(heightPx));
    setProperty("help", "look");
    name_->setProperty("heading", true);
    saved_->setProperty("quiet", true);
    compare_ = new Segmented(tr("Show"),
                             {{tr("Result"), tr("The photo with all corrections that are on")},
                              {tr("Before"), {}},
                              {tr("Split"), {}},
                              {tr("Beside"), {}},
                              {tr("Blink"), {}}},
                             this);
    setKeyTip(compare_->button(1),
              tr("The photo as it was. Hold %1 for a look; hold %2 to leave out only the selected correction"),
              {"before", "selected-off"});
    setKeyTip(compare_->button(2), tr("Both, either side of a line that can be dragged and turned (%1)"), {"split"});
    setKeyTip(compare_->button(3), tr("Both, next to each other (%1)"), {"beside"});
    setKeyTip(compare_->button(4), tr("Both by turns, until something is touched (%1)"), {"blink"});
    compare_->setObjectName("compare");
    against_ = new CompareMenu(session_, this);
    againstButton_->setObjectName("against");
    againstButton_->setIcon(icon("chevron-down"));
    againstButton_->setIconSize({12, 12});
    againstButton_->setMinimumWidth(26);
    againstButton_->setAccessibleName(tr("What the result is held against"));
    againstButton_->setFocusPolicy(Qt::TabFocus);
    againstButton_->setPopupMode(QToolButton::InstantPopup);
    againstButton_->setMenu(against_);
    maskView_ = new Segmented(tr("Mask"),
                              {{tr("No mask"), tr("The photo alone")},
                               {tr("Thread"), tr("The mask in its thread colour over the photo")},
                               {tr("Stitch"), tr("Its contours: dashes at 50 %, dots at 10 % and 90 %")},
                               {tr("Plate"), tr("The mask itself: white is full, black is none")},
                               {tr("Cut-out"), tr("The masked area alone, on grey")},
                               {tr("Change"), tr("What the correction changes, amplified")}},
                              this);
    for (int i = 0; i < static_cast<int>(std::size(maskViewOrder)); ++i)
        setKeyTip(maskView_->button(i), tr("%1 (next mask view: %2)").arg(maskView_->button(i)->toolTip(), "%1"),
                  {"next-mask-view"});
    for (Segmented* choice : {compare_, maskView_}) choice->makeRoomy();
    connect(compare_, &Segmented::chosen, this, [this](int index) { session_.setLook(static_cast<Look>(index)); });
    connect(maskView_, &Segmented::chosen, this, [this](int index) { session_.setMaskView(maskViewOrder[index]); });

    tint_ = new ValueSlider(tintSpec, this);
    gain_ = new ValueSlider(gainSpec, this);
    for (ValueSlider* slider : {tint_, gain_}) slider->setFixedWidth(theme::scaled(110));
    connect(tint_, &ValueSlider::changed, this, [this](double percent) { session_.setTintOpacity(percent / 100); });
    connect(gain_, &ValueSlider::changed, &session_, &Session::setChangeGain);

    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(8, 0, 12, 0);
    layout->setSpacing(4);
    menu_->setIcon(icon("menu"));
    menu_->setIconSize(QSize(16, 16) * theme::scaled(100) / 100);
    menu_->setObjectName("menu");
    menu_->setAccessibleName(tr("Menu"));
    setKeyTip(menu_, tr("Everything that has no button (%1)"), {"menu"});
    menu_->setFocusPolicy(Qt::TabFocus);
    menu_->setPopupMode(QToolButton::InstantPopup);
    menu_->setMenu(actions.menu);
    layout->addWidget(menu_);
    for (QAction* action : {actions.open, actions.save, actions.exportPicture})
        layout->addWidget(buttonFor(action, this));
    layout->addSpacing(6);
    for (QAction* action : {actions.undo, actions.redo}) layout->addWidget(buttonFor(action, this));
    layout->addSpacing(10);
    layout->addWidget(name_);
    layout->addSpacing(6);
    layout->addWidget(saved_);
    layout->addStretch(1);
    layout->addWidget(compare_);
    layout->addWidget(againstButton_);
    layout->addSpacing(10);
    layout->addWidget(maskView_);
    layout->addWidget(tint_);
    layout->addWidget(gain_);
    layout->addStretch(1);
    for (QAction* action : {actions.fit, actions.actualSize}) layout->addWidget(buttonFor(action, this));
    zoom_->setFixedWidth(theme::scaled(58));
    zoom_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    zoom_->setObjectName("zoom");
    zoom_->setProperty("flat", true);
    zoom_->setToolTip(tr("Zoom: screen pixels for each pixel of the photo. Type one, or turn the wheel with Ctrl."));
    connect(zoom_, &EntryField::entered, this, &LookBar::takeZoom);
    connect(zoom_, &EntryField::givenUp, this, [this] {
        zoom_->setText(zoomShown_);
        zoom_->clearFocus();
    });
    layout->addWidget(zoom_);
    setMinimumWidth(1);  // what has no room becomes short (showShort)
    for (const auto signal :
         {&Session::opened, &Session::savedChanged, &Session::viewChanged, &Session::pictureChanged}) {
        connect(&session_, signal, this, &LookBar::refresh);
    }
    refresh();
}

void LookBar::refresh() {
    const bool open = session_.isOpen();
    name_->setText(open ? name_->fontMetrics().elidedText(session_.name(), Qt::ElideMiddle, 220) : QString());
    saved_->setText(!open ? QString() : session_.isSaved() ? tr("saved") : tr("not saved"));
    if (open && session_.isSaved() && session_.origin().documentPath.empty()) saved_->setText(tr("no corrections"));
    compare_->setEnabled(open);
    maskView_->setEnabled(open && session_.correction());
    compare_->setCurrent(session_.held() == Session::Held::allOff ? 1 : static_cast<int>(session_.look()));
    againstButton_->setEnabled(open);
    againstButton_->setToolTip(
        tr("Held against: %1. Other sides to hold it against, and states to keep.").arg(CompareMenu::nameOf(session_)));
    for (int i = 0; i < static_cast<int>(std::size(maskViewOrder)); ++i) {
        if (maskViewOrder[i] == session_.maskView()) maskView_->setCurrent(i);
    }
    tint_->setVisible(open && session_.maskView() == render::MaskView::tint);
    gain_->setVisible(open && session_.maskView() == render::MaskView::change);
    zoom_->setEnabled(open);
    if (!open) zoom_->clear();
    showShort();
}

// Where the bar has no room for all words, choices become one button each, which opens them; then the name goes.
void LookBar::showShort() {
    if (isFitting_) return;
    isFitting_ = true;
    for (Segmented* choice : {compare_, maskView_}) choice->setShort(false);
    name_->setVisible(true);
    saved_->setVisible(true);
    const auto fits = [this] {
        layout()->invalidate();
        return layout()->sizeHint().width() <= width();
    };
    if (!fits()) maskView_->setShort(true);
    if (!fits()) compare_->setShort(true);
    if (!fits()) saved_->setVisible(false);
    if (!fits()) name_->setVisible(false);
    isFitting_ = false;
}

void LookBar::resizeEvent(QResizeEvent*) {
    showShort();
}

void LookBar::openMenu() {
    menu_->showMenu();
}

void LookBar::setZoom(double zoom, bool fit) {
    zoomShown_ = tr("%1 %").arg(zoom * 100, 0, 'f', zoom < 0.1 ? 1 : 0);
    if (!zoom_->isModified()) zoom_->setText(zoomShown_);  // else it is being typed
    zoom_->setAccessibleName(fit ? tr("Zoom, fit") : tr("Zoom"));
}

void LookBar::takeZoom() {
    const auto percent = typedValue(zoomSpec, zoom_->text());
    zoom_->setText(zoomShown_);
    if (percent) Q_EMIT zoomWanted(*percent / 100);
}

void LookBar::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), QColor(theme::bar));
}

}  // namespace dimhem::ui
