// The window as a whole: the room it gives the photo, words that fit in any language, and what keys, pens and screen
// readers find there.
#include <gtest/gtest.h>

#include <QAccessible>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QScrollArea>
#include <QSettings>
#include <QSpinBox>
#include <QTextBrowser>
#include <QToolButton>
#include <QTranslator>
#include <QUrl>

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "core/mask/registry.h"
#include "tests/ui/photos.h"
#include "tests/ui/small_demo.h"
#include "tests/ui/window.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/control/value_slider.h"
#include "ui/panel/panel_border.h"
#include "ui/panel/sequence_panel.h"
#include "ui/panel/what_panel.h"
#include "ui/panel/where_panel.h"
#include "ui/session/key_table.h"
#include "ui/session/preferences.h"

namespace dimhem::tests {

namespace {

// Every text three tenths longer, as a translation may be (common practice: 30 % for short texts into German).
class LongerWords final : public QTranslator {
public:
    bool isEmpty() const override { return false; }
    QString translate(const char*, const char* source, const char*, int) const override {
        QString text = QString::fromUtf8(source);
        // In words: what is added to a sentence can be wrapped as the sentence can.
        constexpr int wordLength = 7;
        const qsizetype more = std::max<qsizetype>(1, text.size() * 3 / 10);
        for (qsizetype i = 0; i < more; ++i) text += i % wordLength == wordLength - 1 ? QChar(' ') : QChar('e');
        return text;
    }
};

class LongerWordsInstalled {
public:
    LongerWordsInstalled() { QCoreApplication::installTranslator(&words_); }
    ~LongerWordsInstalled() { QCoreApplication::removeTranslator(&words_); }

private:
    LongerWords words_;
};

bool isInPanel(const QWidget* widget) {
    for (; widget; widget = widget->parentWidget()) {
        if (qobject_cast<const ui::PanelFrame*>(widget)) return true;
    }
    return false;
}

QString widestIn(const QWidget* body) {
    const QWidget* widest = body;
    int width = 0;
    for (const auto* widget : body->findChildren<QWidget*>()) {
        if (widget->findChildren<QWidget*>().isEmpty() && widget->isVisible() &&
            widget->minimumSizeHint().width() > width) {
            widest = widget;
            width = widget->minimumSizeHint().width();
        }
    }
    return widest->objectName() + " " + widest->accessibleName();
}

// What is cut off: buttons and labels narrower than their words, and bodies wider than what they scroll in.
QStringList cutOff(const QWidget& window) {
    QStringList cut;
    for (const auto* button : window.findChildren<QAbstractButton*>()) {
        if (!button->isVisible() || button->text().isEmpty() || !isInPanel(button)) continue;
        if (button->width() < button->minimumSizeHint().width()) cut << "button " + button->text();
    }
    for (const auto* label : window.findChildren<QLabel*>()) {
        if (!label->isVisible() || label->wordWrap() || label->text().isEmpty() || !isInPanel(label)) continue;
        if (label->textFormat() == Qt::AutoText &&
            label->width() < label->fontMetrics().horizontalAdvance(label->text()))
            cut << "label " + label->text();
    }
    for (const auto* area : window.findChildren<QScrollArea*>()) {
        if (area->isVisible() && isInPanel(area) && area->widget()->width() > area->viewport()->width())
            cut << QString("body of %1 by %2 px: %3")
                       .arg(area->parentWidget()->accessibleName())
                       .arg(area->widget()->width() - area->viewport()->width())
                       .arg(widestIn(area->widget()));
    }
    return cut;
}

}  // namespace

class Interface : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        w.session().addCorrection({}, "new");
        ASSERT_TRUE(w.settle());
    }
    // Every kind of part, every adjustment.
    void expectAllFits();
    void expectOnScreen(Window& other, QSize screen, const std::string& where);
};

TEST_F(Interface, ThePhotoGetsMoreThanHalfTheWindow) {
    QSettings().remove("panel");
    const double window = w.window.width() * w.window.height(), photo = w.canvas().width() * w.canvas().height();
    EXPECT_GE(photo / window, 0.56);
    w.key(Qt::Key_Apostrophe);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.canvas().width(), w.window.width());
    EXPECT_GE(w.canvas().height(), w.window.height() - 44) << "all of it but the bar above";
    w.key(Qt::Key_Apostrophe);
}

TEST_F(Interface, PanelsAreDraggedWiderAndComeBack) {
    auto* panel = w.window.findChild<ui::WherePanel*>();
    auto* border = panel->findChild<ui::PanelBorder*>();
    const int before = panel->width();
    QTest::mousePress(border, Qt::LeftButton, {}, QPoint(3, 100));
    QMouseEvent move(QEvent::MouseMove, QPointF(63, 100), border->mapToGlobal(QPointF(63, 100)), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(border, &move);
    QTest::mouseRelease(border, Qt::LeftButton, {}, QPoint(3, 100));
    EXPECT_EQ(panel->width(), before + 60);
    ASSERT_TRUE(w.settle());
    Window again;
    EXPECT_EQ(again.window.findChild<ui::WherePanel*>()->width(), before + 60) << "remembered";
    QTest::mouseDClick(border, Qt::LeftButton, {}, QPoint(3, 100));
    EXPECT_EQ(panel->width(), before);
    for (int i = 0; i < 200; ++i) QTest::keyClick(border, Qt::Key_Right);
    EXPECT_EQ(panel->width(), ui::PanelBorder::most);
    QTest::mouseDClick(border, Qt::LeftButton, {}, QPoint(3, 100));
}

// A part with its settings must be worked with without scrolling, at 1280 x 800.
TEST_F(Interface, SettingsOfEveryKindOfPartAreInSight) {
    QSettings().remove("fold");
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        w.session().addPart(*kind);
        ASSERT_TRUE(w.settle());
        const auto* area = w.window.findChild<ui::WherePanel*>()->findChild<QScrollArea*>();
        EXPECT_LE(area->widget()->minimumSizeHint().height(), area->viewport()->height()) << kind->id;
        w.session().undo();
        ASSERT_TRUE(w.settle());
    }
}

TEST_F(Interface, NothingIsCutOff) {
    expectAllFits();
}

TEST_F(Interface, NothingIsCutOffInLongerWords) {
    const LongerWordsInstalled longer;
    expectAllFits();
}

// With all that folds open.
void Interface::expectAllFits() {
    for (const char* fold : {"more", "refine", "blending", "colours", "probes"})
        QSettings().setValue(QString("fold/") + fold, true);
    Window other;
    ASSERT_TRUE(other.open(greyPhoto(folder, QColor(120, 120, 120), {96, 64})));
    other.session().addCorrection({}, "new");
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        other.session().addPart(*kind);
        ASSERT_TRUE(other.settle());
        EXPECT_EQ(cutOff(other.window).join("; ").toStdString(), "") << kind->id;
        other.session().undo();
    }
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        other.session().edit("adjustment", [&](const document::Document& d) {
            const auto plain = document::withCorrection(d, other.session().selectedCorrection(),
                                                        [](document::Correction& c) { c.adjustments.clear(); });
            return document::withNewAdjustment(*plain, other.session().selectedCorrection(), *kind).document;
        });
        ASSERT_TRUE(other.settle());
        EXPECT_EQ(cutOff(other.window).join("; ").toStdString(), "") << kind->id;
    }
    QSettings().remove("fold");
}

// At any size of the interface all of it is on the screen, and nothing is cut off.
TEST_F(Interface, AllOfItIsOnTheScreenAtAnySize) {
    const SmallDemo bay("bay-gradient");
    for (const int percent : {75, 100, 150, 200}) {
        ui::applyTheme(*qApp, percent);
        {
            Window other;
            ASSERT_TRUE(other.open(bay.document()));
            for (const QSize screen : {QSize(1280, 800), QSize(1920, 1080), QSize(3840, 2160)})
                expectOnScreen(other, screen, std::to_string(percent) + " % of " + std::to_string(screen.width()));
        }
    }
    ui::applyTheme(*qApp, 100);
}

void Interface::expectOnScreen(Window& other, QSize screen, const std::string& where) {
    other.window.resize(screen);
    ASSERT_TRUE(other.settle());
    EXPECT_LE(other.window.width(), screen.width()) << where;
    EXPECT_LE(other.window.height(), screen.height()) << where;
    const QRect whole(QPoint(), other.window.size());
    for (const char* name : {"menu", "compare", "add-adjustment", "new-correction", "sequence", "parts"}) {
        auto* control = other.find<QWidget>(name);
        ASSERT_TRUE(control && control->isVisible()) << name << ", " << where;
        const QRect at(control->mapTo(&other.window, QPoint()), control->size());
        EXPECT_TRUE(at.left() >= 0 && at.right() <= whole.right()) << name << ", " << where;
        EXPECT_TRUE(at.top() >= 0 && at.bottom() <= whole.bottom()) << name << ", " << where;
    }
    EXPECT_GE(other.canvas().width(), screen.width() / 4) << where;
    EXPECT_EQ(cutOff(other.window).join("; ").toStdString(), "") << where;
}

TEST_F(Interface, EveryControlHasANameARoleAndRoomForAFinger) {
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    constexpr int leastPx = 24;  // WCAG 2.2, 2.5.8 target size (minimum)
    for (auto* widget : w.window.findChildren<QWidget*>()) {
        if (!widget->isVisible() || widget->focusPolicy() == Qt::NoFocus || qobject_cast<QScrollArea*>(widget))
            continue;
        const std::string which = widget->objectName().toStdString() + " of " + widget->metaObject()->className();
        const QAccessibleInterface* spoken = QAccessible::queryAccessibleInterface(widget);
        ASSERT_TRUE(spoken) << which;
        EXPECT_FALSE(spoken->text(QAccessible::Name).isEmpty()) << which;
        EXPECT_NE(spoken->role(), QAccessible::NoRole) << which;
        EXPECT_NE(spoken->role(), QAccessible::Client) << which;
        if (auto* button = qobject_cast<QAbstractButton*>(widget)) {
            EXPECT_GE(button->width(), leastPx) << which;
            EXPECT_GE(button->height(), leastPx - 3) << which << ": rows of a panel lie below each other";
        }
        if (qobject_cast<ui::SliderTrack*>(widget)) {
            const auto* value = const_cast<QAccessibleInterface*>(spoken)->valueInterface();
            ASSERT_TRUE(value) << which;
            EXPECT_LT(value->minimumValue().toDouble(), value->maximumValue().toDouble()) << which;
        }
    }
}

TEST_F(Interface, AScreenReaderSetsAValueAsOneStep) {
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    QAccessible::queryAccessibleInterface(exposure->track())->valueInterface()->setCurrentValue(1.5);
    EXPECT_EQ(exposure->value(), 1.5);
    ASSERT_TRUE(w.settle());
    w.session().undo();
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 0);
}

TEST_F(Interface, TheFocusGoesRoundEverything) {
    w.canvas().setFocus();
    QSet<QWidget*> met;
    bool back = false;
    for (int i = 0; i < 400 && !back; ++i) {
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
        back = QApplication::focusWidget() == &w.canvas();
        met.insert(QApplication::focusWidget());
    }
    EXPECT_TRUE(back) << "Tab comes back to the photo";
    for (const char* name : {"menu", "new-correction", "add-adjustment", "add-brush", "sequence", "parts"})
        EXPECT_TRUE(met.contains(w.window.findChild<QWidget*>(name))) << name;
}

TEST(KeyTable, HasEachKeyOnce) {
    QHash<QString, QString> whose;
    for (const ui::KeyEntry& entry : ui::keyTable()) {
        EXPECT_FALSE(entry.words.isEmpty()) << entry.id.toStdString();
        const QString key = entry.standard.toString();
        EXPECT_FALSE(whose.contains(key)) << key.toStdString() << ": " << entry.id.toStdString();
        whose[key] = entry.id;
    }
}

TEST_F(Interface, AnotherKeyIsChosenAndTheOneItClashesWithLosesIt) {
    w.key(Qt::Key_F1);
    ASSERT_TRUE(w.find<QWidget>("help-text")->isVisible());
    ui::chooseKey("fit", QKeySequence("G"));
    const QList<ui::KeyEntry> clashes = ui::clashesOf("fit", QKeySequence("G"));
    ASSERT_EQ(clashes.size(), 1);
    EXPECT_EQ(clashes[0].id, "next-mask-view");
    ui::forgetChosenKeys();
    EXPECT_EQ(ui::keyText("fit"), "Ctrl+0");
    EXPECT_TRUE(ui::clashesOf("fit", QKeySequence("Ctrl+0")).isEmpty());
}

TEST_F(Interface, TheHelpGivesAKeyAnotherPlace) {
    w.key(Qt::Key_F1);
    auto* text = w.find<QTextBrowser>("help-text");
    ASSERT_TRUE(text->isVisible());
    EXPECT_TRUE(text->toPlainText().contains("Next mask view"));
    Q_EMIT text->anchorClicked(QUrl("key:next-mask-view"));
    auto* edit = w.window.findChild<QKeySequenceEdit*>();
    ASSERT_TRUE(edit && edit->isVisible());
    edit->setKeySequence(QKeySequence("U"));
    EXPECT_TRUE(w.find<QLabel>("key-clashes")->text().contains("surround"));
    QTest::mouseClick(w.find<QPushButton>("use-key"), Qt::LeftButton);
    EXPECT_EQ(ui::keyText("next-mask-view"), "U");
    EXPECT_EQ(ui::keyText("surround"), "") << "taken from it";
    const render::MaskView before = w.session().maskView();
    w.key(Qt::Key_G);
    EXPECT_EQ(w.session().maskView(), before) << "no longer a key";
    w.key(Qt::Key_U);
    EXPECT_NE(w.session().maskView(), before);
    Q_EMIT text->anchorClicked(QUrl("standard:"));
    const render::MaskView then = w.session().maskView();
    w.key(Qt::Key_G);
    EXPECT_NE(w.session().maskView(), then);
    w.find<QLineEdit>("help-search")->setText("zzzz");
    EXPECT_TRUE(text->toPlainText().contains("zzzz")) << "nothing found is said";
}

// Settings written by hand, or by another version.
// "0" on the way to a number removes nothing.
TEST_F(Interface, HowMuchOfFoundMasksIsKeptIsChosen) {
    w.key(Qt::Key_Comma, Qt::ControlModifier);
    auto* kept = w.find<QSpinBox>("found-masks");
    ASSERT_TRUE(kept && kept->isVisible());
    const auto before = w.session().found()->mostBytes();
    EXPECT_GT(before, 0u);
    kept->setFocus();
    kept->selectAll();
    QTest::keyClicks(kept, "0");
    EXPECT_TRUE(w.settle());
    EXPECT_EQ(w.session().found()->mostBytes(), before);
    kept->interpretText();
    EXPECT_TRUE(w.waitFor([&] { return w.session().found()->mostBytes() == 0; }));
}

TEST(Preferences, NonsenseInTheSettingsComesToSomethingUsable) {
    QSettings settings;
    const QStringList keys{"preferences/surround",
                           "preferences/interface-size",
                           "preferences/pen",
                           "preferences/cache",
                           "inset/corner",
                           "panel/where",
                           "keys/fit",
                           "fold/more"};
    for (const QVariant& nonsense :
         {QVariant("abc"), QVariant(-7), QVariant(1000000000), QVariant(QVariantList{1, 2})}) {
        for (const QString& key : keys) settings.setValue(key, nonsense);
        const int surround = static_cast<int>(ui::surround());
        EXPECT_TRUE(surround >= 0 && surround < ui::surrounds);
        EXPECT_TRUE(ui::cacheMiB() >= ui::leastCacheMiB && ui::cacheMiB() <= ui::mostCacheMiB);
        EXPECT_GE(ui::interfaceSizePct(), ui::leastInterfaceSizePct);
        EXPECT_LE(ui::interfaceSizePct(), ui::mostInterfaceSizePct);
        EXPECT_LE(ui::pressureFelt(0.5), 1);
        Window w;
        const int width = w.window.findChild<ui::WherePanel*>()->width();
        EXPECT_TRUE(width >= ui::PanelBorder::least && width <= ui::PanelBorder::most) << width;
    }
    for (const QString& key : keys) settings.remove(key);
}

TEST(Preferences, PressureIsMonotoneAndKeepsItsEnds) {
    for (const ui::PenFeel feel : {ui::PenFeel::soft, ui::PenFeel::even, ui::PenFeel::hard}) {
        ui::setPenFeel(feel);
        EXPECT_EQ(ui::penFeel(), feel);
        EXPECT_EQ(ui::pressureFelt(0), 0);
        EXPECT_EQ(ui::pressureFelt(1), 1);
        for (double p = 0; p < 1; p += 0.05) EXPECT_LT(ui::pressureFelt(p), ui::pressureFelt(p + 0.05));
    }
    ui::setPenFeel(ui::PenFeel::soft);
    EXPECT_GT(ui::pressureFelt(0.5), 0.5);
    ui::setPenFeel(ui::PenFeel::even);
}

TEST_F(Interface, TheSurroundIsSteppedThrough) {
    const QColor mid = ui::surroundColour();
    QSet<QRgb> seen;
    for (int i = 0; i < ui::surrounds; ++i) {
        w.key(Qt::Key_U);
        ASSERT_TRUE(w.settle());
        const QColor shown = w.canvas().grab().toImage().pixelColor(3, 3);
        EXPECT_EQ(shown, ui::surroundColour());
        seen.insert(shown.rgb());
    }
    EXPECT_EQ(seen.size(), ui::surrounds);
    EXPECT_EQ(ui::surroundColour(), mid);
}

TEST_F(Interface, StepsAreGoneBackToByName) {
    const QStringList before = w.session().stepNames();
    w.key(Qt::Key_2);
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    const QStringList names = w.session().stepNames();
    ASSERT_EQ(names.size(), before.size() + 2);
    EXPECT_EQ(names.back(), "add part: Brush");
    w.session().goToStep(0);
    EXPECT_TRUE(w.session().document()->corrections.empty());
    w.session().goToStep(static_cast<int>(names.size()) - 1);
    ASSERT_TRUE(w.session().correction()) << "what came back is selected";
    EXPECT_EQ(w.session().correction()->mask.parts.size(), 2u);
    EXPECT_EQ(w.session().document()->corrections[0]->mask.parts.size(), 2u);
    EXPECT_FALSE(w.session().canRedo());
}

TEST_F(Interface, KeysAlonePaintOnThePhoto) {
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    w.canvas().setFocus();
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Left, Qt::ShiftModifier);
    const auto strokes = [&] { return shape<mask::Brush>()->strokes().size(); };
    ASSERT_EQ(strokes(), 0u);
    QTest::keyPress(&w.canvas(), Qt::Key_Space);
    EXPECT_TRUE(w.session().hasGesture());
    for (int i = 0; i < 20; ++i) w.key(Qt::Key_Right);
    QTest::keyRelease(&w.canvas(), Qt::Key_Space);
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(strokes(), 1u);
    const auto& points = shape<mask::Brush>()->strokes()[0]->points();
    EXPECT_NEAR((points.back().at.x - points[0].at.x) * w.canvas().viewport().zoom(), 120, 2);
    QTest::keyPress(&w.canvas(), Qt::Key_Space);
    w.find<QToolButton>("menu")->setFocus();
    EXPECT_FALSE(w.session().hasGesture()) << "a lost focus lets go";
    EXPECT_EQ(strokes(), 2u);
}

TEST_F(Interface, CardsMoveTogetherByKeysAndAreSelectedWithShift) {
    w.session().addCorrection({}, "new");
    w.session().addCorrection({}, "new");
    ASSERT_TRUE(w.settle());
    const auto order = [&] {
        QList<document::Id> ids;
        for (const auto& c : w.session().document()->corrections) ids << c->id;
        return ids;
    };
    const QList<document::Id> before = order();
    ASSERT_EQ(before.size(), 3);
    w.clickItem("sequence", 2);
    w.clickItem("sequence", 3, Qt::ShiftModifier);
    QTest::keyClick(w.list("sequence"), Qt::Key_Left, Qt::AltModifier);
    EXPECT_EQ(order(), (QList<document::Id>{before[1], before[2], before[0]}));
    w.session().undo();
    EXPECT_EQ(order(), before) << "one step";
}

}  // namespace dimhem::tests
