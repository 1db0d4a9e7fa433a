#include "ui/control/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QProxyStyle>
#include <QStyleOption>
#include <algorithm>

#include "core/colour/thread_colours.h"
#include "ui/control/icon.h"

namespace dimhem::ui {

namespace {

constexpr char styleSheet[] = R"(
QToolTip { color: #e6e6e6; background: #141414; border: 1px solid #5a5a5a; padding: 4px; }
QMenu { background: #242424; border: 1px solid #5a5a5a; padding: 4px; }
QMenu::item { padding: 5px 22px 5px 14px; border-radius: 3px; }
QMenu::item:selected { background: #444444; }
QMenu::item:disabled { color: #8a8a8a; }
QMenu::separator { height: 1px; background: #424242; margin: 4px 8px; }
QLineEdit { background: #1a1a1a; border: 1px solid transparent; border-radius: 3px; padding: 2px 5px; selection-background-color: #6a6a6a; }
QLineEdit[flat="true"] { background: transparent; padding: 0 2px; }
QLineEdit[flat="true"]:hover { background: #1a1a1a; }
QLineEdit[flat="true"]:focus { background: #1a1a1a; }
QLineEdit:focus { border-color: #d0d0d0; }
QPushButton { background: #383838; border: 1px solid #5a5a5a; border-radius: 4px; padding: 4px 9px; }
QPushButton:hover { background: #444444; }
QPushButton:pressed { background: #505050; }
QPushButton:checked { background: #5c5c5c; border-color: #e0e0e0; }
QPushButton:focus { border-color: #d0d0d0; }
QPushButton:disabled { color: #8a8a8a; }
QPushButton[stitched="true"] { background: transparent; border: 1px dashed #7a7a7a; }
QPushButton[stitched="true"]:hover { border-color: #c0c0c0; }
QToolButton { background: transparent; border: 1px solid transparent; border-radius: 4px; padding: 3px; }
QToolButton:hover { background: #3c3c3c; }
QToolButton[plain="true"]:checked { background: transparent; }
QToolButton:pressed, QToolButton:checked { background: #4a4a4a; }
QToolButton:focus { border-color: #d0d0d0; }
QToolButton::menu-indicator, QPushButton::menu-indicator { image: none; }
QComboBox { background: #1a1a1a; border: 1px solid #424242; border-radius: 3px; padding: 3px 8px; }
QComboBox:focus { border-color: #d0d0d0; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 8px; }
QScrollBar:horizontal { background: transparent; height: 8px; }
QScrollBar::handle { background: #4e4e4e; border-radius: 3px; min-height: 24px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QLabel[quiet="true"] { color: #a8a8a8; }
QLabel[heading="true"] { font-weight: 600; }
)";

// Buttons of dialogs without the style's coloured pictures, and the arrows of lists as the shipped icon. The style's
// own arrows are kept in Qt's cache for every palette there has been, which is one for each list ever made.
class NeutralStyle final : public QProxyStyle {
public:
    NeutralStyle() : QProxyStyle("Fusion") {}
    void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                       const QWidget* widget) const override {
        if (element != PE_IndicatorArrowDown) return QProxyStyle::drawPrimitive(element, option, painter, widget);
        const bool enabled = option->state & State_Enabled;
        icon("chevron-down").paint(painter, option->rect, Qt::AlignCenter, enabled ? QIcon::Normal : QIcon::Disabled);
    }
    int styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                  QStyleHintReturn* data) const override {
        return hint == SH_DialogButtonBox_ButtonsHaveIcons ? 0 : QProxyStyle::styleHint(hint, option, widget, data);
    }
};

QPalette neutralPalette() {
    QPalette palette;
    palette.setColor(QPalette::Window, QColor(theme::panel));
    palette.setColor(QPalette::WindowText, QColor(theme::text));
    palette.setColor(QPalette::Base, QColor(theme::field));
    palette.setColor(QPalette::AlternateBase, QColor(theme::panel));
    palette.setColor(QPalette::Text, QColor(theme::text));
    palette.setColor(QPalette::Button, QColor(theme::raised));
    palette.setColor(QPalette::ButtonText, QColor(theme::text));
    palette.setColor(QPalette::BrightText, QColor(theme::bright));
    palette.setColor(QPalette::Highlight, QColor(0x6a, 0x6a, 0x6a));
    palette.setColor(QPalette::HighlightedText, QColor(theme::bright));
    palette.setColor(QPalette::PlaceholderText, QColor(theme::quiet));
    palette.setColor(QPalette::Link, QColor(theme::bright));
    palette.setColor(QPalette::ToolTipBase, QColor(0x14, 0x14, 0x14));
    palette.setColor(QPalette::ToolTipText, QColor(theme::text));
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText}) {
        palette.setColor(QPalette::Disabled, role, QColor(theme::off));
    }
    return palette;
}

}  // namespace

int theme::scaled(int px) {
    constexpr double usualPx = 12;
    return qRound(px * QFontInfo(QApplication::font()).pixelSize() / usualPx);
}

int theme::rowHeight() {
    constexpr int usual = 26, aboutText = 11;
    return std::max(usual, QFontMetrics(QApplication::font()).height() + aboutText);
}

void applyTheme(QApplication& application, int sizePct) {
    constexpr int leastPx = 8, mostPx = 64;
    // As it was before the first call: the size counts from the system's, however often it is set.
    if (!application.property("systemPx").isValid())
        application.setProperty("systemPx", QFontInfo(QApplication::font()).pixelSize());
    const int systemPx = application.property("systemPx").toInt();
    application.setStyle(new NeutralStyle);
    QFontDatabase::addApplicationFont(":/fonts/Inter-Regular.otf");
    QFontDatabase::addApplicationFont(":/fonts/Inter-SemiBold.otf");
    QFont font("Inter");
    font.setPixelSize(std::clamp(systemPx * sizePct / 100, leastPx, mostPx));
    application.setFont(font);
    application.setPalette(neutralPalette());
    application.setStyleSheet(styleSheet);
}

QColor threadColour(int index) {
    const colour::ThreadColour& thread = colour::threadColours[static_cast<std::size_t>(index)];
    return {thread.red, thread.green, thread.blue};
}

}  // namespace dimhem::ui
