// Comparing, probing and noting in the window, with real keys, holds and drags.
#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QSettings>
#include <QToolButton>

#include "core/adjust/light.h"
#include "core/colour/ciede2000.h"
#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/cast_dial.h"
#include "ui/control/histogram.h"
#include "ui/panel/colour_meter.h"
#include "ui/panel/compare_menu.h"
#include "ui/panel/notes_line.h"
#include "ui/panel/probe_list.h"
#include "ui/panel/what_panel.h"
#include "ui/session/preferences.h"

namespace dimhem::tests {

using ui::Against;
using ui::Look;

class Judging : public WindowTest {
protected:
    static constexpr int grey = 120;

    void SetUp() override {
        QSettings().clear();
        ASSERT_TRUE(w.open(greyPhoto(folder)));
    }
    void TearDown() override { QSettings().clear(); }

    void addLight(double exposureEv) {
        w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "new");
        setExposure(exposureEv);
    }
    void setExposure(double exposureEv) {
        w.session().edit("light", [&](const document::Document& d) {
            const document::Id light = w.session().correction()->adjustments[0].id;
            return document::withAdjustment(d, w.session().selectedCorrection(), light,
                                            [=](document::AdjustmentUse& u) { u.settings.values[0] = exposureEv; });
        });
        ASSERT_TRUE(w.settle());
    }
    QImage view() { return w.canvas().grab().toImage(); }
    // The pixel of the view at a part of its width, a little off its middle.
    int viewAt(double x, double y = 0.3) {
        const QImage image = view();
        return image.pixelColor(static_cast<int>(x * image.width()), static_cast<int>(y * image.height())).red();
    }
    void press(int key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyPress(&w.canvas(), static_cast<Qt::Key>(key), modifiers);
        ASSERT_TRUE(w.settle());
    }
    void release(int key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyRelease(&w.canvas(), static_cast<Qt::Key>(key), modifiers);
        ASSERT_TRUE(w.settle());
    }
    QMenu& menu() {
        auto& menu = *w.window.findChild<ui::CompareMenu*>();
        Q_EMIT menu.aboutToShow();
        return menu;
    }
    static QAction* actionOf(const QMenu& menu, const QString& words) {
        for (QAction* action : menu.actions()) {
            if (action->text().startsWith(words)) return action;
            if (action->menu()) {
                if (QAction* found = actionOf(*action->menu(), words)) return found;
            }
        }
        return nullptr;
    }
};

TEST_F(Judging, SplitShowsBothEitherSideOfALine) {
    addLight(1);
    const int result = w.shown(320, 240).red();
    ASSERT_GT(result, grey + 20);
    w.key(Qt::Key_S);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().look(), Look::split);
    EXPECT_EQ(viewAt(0.2), grey);
    EXPECT_EQ(viewAt(0.8), result);
    EXPECT_EQ(w.canvas().otherColour({320, 240}).red(), grey);
    w.key(Qt::Key_X);
    EXPECT_EQ(viewAt(0.2), result) << "swapped";
    EXPECT_EQ(viewAt(0.8), grey);
    w.key(Qt::Key_X);
    // Dragged to the right by its middle.
    const QPoint middle(w.canvas().width() / 2, w.canvas().height() / 2);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, middle);
    w.moveHeld(middle + QPoint(w.canvas().width() / 4, 0));
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, middle + QPoint(w.canvas().width() / 4, 0));
    EXPECT_EQ(viewAt(0.65), grey);
    EXPECT_EQ(viewAt(0.9), result);
    // Turned by its other grip until it lies level: the one side is above the other.
    const QPoint at(w.canvas().width() * 3 / 4, w.canvas().height() / 2);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, at + QPoint(0, 90));
    w.moveHeld(at + QPoint(90, 0));
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, at + QPoint(90, 0));
    EXPECT_NEAR(w.canvas().splitLine().angleDeg(), 0, 1);
    EXPECT_NE(viewAt(0.3, 0.2), viewAt(0.3, 0.8));
    EXPECT_EQ(viewAt(0.3, 0.2), viewAt(0.9, 0.2)) << "all of a row is of one side";
    w.key(Qt::Key_S);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().look(), Look::result);
    EXPECT_EQ(viewAt(0.3, 0.2), result);
    EXPECT_EQ(w.session().undoName(), "light") << "looking is no step";
}

TEST_F(Judging, BesideEachOtherBothCanBeWorkedOn) {
    addLight(1);
    const int result = w.shown(320, 240).red();
    w.key(Qt::Key_B);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.25, 0.5), grey);
    EXPECT_EQ(viewAt(0.75, 0.5), result);
    // Painting on either side paints at the same place of the photo.
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    const auto& viewport = w.canvas().viewport();
    EXPECT_LE(viewport.photoOnScreen().right(), w.canvas().width() / 2.0);
    const QPoint left = viewport.toScreen({200, 200}).toPoint(), right = left + QPoint(w.canvas().width() / 2, 0);
    for (const QPoint at : {left, right}) {
        QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, at);
        w.moveHeld(at + QPoint(4, 0));
        QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, at + QPoint(4, 0));
    }
    ASSERT_TRUE(w.settle());
    const auto brush = shape<mask::Brush>();
    ASSERT_TRUE(brush);
    ASSERT_EQ(brush->strokes().size(), 2u);
    EXPECT_NEAR(brush->strokes()[0]->points()[0].at.x, brush->strokes()[1]->points()[0].at.x, 2);
    EXPECT_NEAR(brush->strokes()[0]->points()[0].at.x, 200, 3);
}

TEST_F(Judging, BlinkTurnsByItselfAndStopsWhenTouched) {
    addLight(1);
    ui::setBlinkMs(ui::blinkRatesMs[0]);
    w.key(Qt::Key_S, Qt::ShiftModifier);
    EXPECT_EQ(w.session().look(), Look::blink);
    const int result = w.shown(320, 240).red();
    ASSERT_TRUE(w.waitFor([&] { return w.canvas().blinksOther() && viewAt(0.5, 0.5) == grey; }));
    ASSERT_TRUE(w.waitFor([&] { return !w.canvas().blinksOther() && viewAt(0.5, 0.5) == result; }));
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, QPoint(5, 5));
    EXPECT_EQ(w.session().look(), Look::result);
    w.key(Qt::Key_S, Qt::ShiftModifier);
    EXPECT_EQ(w.session().look(), Look::blink);
    w.key(Qt::Key_S, Qt::ShiftModifier);
    EXPECT_EQ(w.session().look(), Look::result) << "its own key";
    w.key(Qt::Key_S, Qt::ShiftModifier);
    w.key(Qt::Key_G);
    EXPECT_EQ(w.session().look(), Look::result) << "any other key is a touch";
    w.key(Qt::Key_S, Qt::ShiftModifier);
    setExposure(0.5);
    EXPECT_EQ(w.session().look(), Look::result) << "an edit is a touch too";
}

TEST_F(Judging, HeldKeysEndWithTheKeyTheFocusAndTheWindow) {
    addLight(1);
    const int result = w.shown(320, 240).red();
    press(Qt::Key_A);
    EXPECT_EQ(viewAt(0.5), grey);
    release(Qt::Key_A);
    EXPECT_EQ(viewAt(0.5), result);
    press(Qt::Key_C);
    EXPECT_EQ(w.session().held(), ui::Session::Held::lost);
    QEvent away(QEvent::WindowDeactivate);
    QApplication::sendEvent(&w.window, &away);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().held(), ui::Session::Held::nothing) << "the window was left while it was held";
    EXPECT_EQ(viewAt(0.5), result);
    release(Qt::Key_C);
    EXPECT_EQ(w.session().held(), ui::Session::Held::nothing);
    press(Qt::Key_A);
    w.window.findChild<QToolButton*>("menu")->setFocus();
    QTest::keyRelease(w.window.findChild<QToolButton*>("menu"), Qt::Key_A);
    EXPECT_EQ(w.session().held(), ui::Session::Held::nothing) << "let go of with the focus elsewhere";
    // In split, a held key shows one side whole, and gives the split back.
    w.key(Qt::Key_S);
    press(Qt::Key_A);
    EXPECT_EQ(viewAt(0.9), grey);
    release(Qt::Key_A);
    EXPECT_EQ(viewAt(0.9), result);
    EXPECT_EQ(viewAt(0.1), grey);
}

// Once all is calm the other sides are in the cache: showing them brings nothing new into it.
TEST_F(Judging, WhatAKeyShowsIsMadeReady) {
    addLight(1);
    addLight(0.5);
    // Opened anew, so that no other side has been shown yet.
    const QString path = QString::fromStdString((folder / "two.dimhem").string());
    w.window.jobs().save(path);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.open(path));
    const auto cached = [&] { return w.session().renderer().cache().bytes(); };
    const auto rest = [&] { ASSERT_TRUE(w.waitFor([&] { return w.canvas().isAtRest(); })); };
    rest();
    const std::size_t before = cached();
    for (const auto modifiers : {Qt::KeyboardModifiers(), Qt::KeyboardModifiers(Qt::ShiftModifier)}) {
        press(Qt::Key_A, modifiers);
        rest();
        EXPECT_EQ(cached(), before);
        release(Qt::Key_A, modifiers);
        rest();
        EXPECT_EQ(cached(), before);
    }
    w.key(Qt::Key_S);
    ASSERT_TRUE(w.settle());
    rest();
    EXPECT_EQ(cached(), before) << "the split too";
    press(Qt::Key_C);
    rest();
    EXPECT_GT(cached(), before) << "what nobody could foresee is made when it is asked for";
    release(Qt::Key_C);
}

TEST_F(Judging, ItIsHeldAgainstWhatIsChosen) {
    addLight(1);
    const int one = w.shown(320, 240).red();
    const QString path = QString::fromStdString((folder / "a.dimhem").string());
    w.window.jobs().save(path);
    ASSERT_TRUE(w.settle());
    addLight(0.5);
    const int two = w.shown(320, 240).red();
    ASSERT_GT(two, one);
    w.session().setLook(Look::before);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.5), grey);
    actionOf(menu(), "Without the selected")->trigger();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.5), one) << "all but this one, for as long as it is looked at";
    w.session().selectCorrection(w.session().document()->corrections[0]->id);
    setExposure(0);
    actionOf(menu(), "The document as saved")->trigger();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.5), one) << "as it was saved, before both";
    EXPECT_EQ(w.session().against().what, Against::What::saved);
}

TEST_F(Judging, StatesAreKeptComparedAndGoneBackTo) {
    addLight(1);
    const int one = w.shown(320, 240).red();
    w.key(Qt::Key_K, Qt::ControlModifier);
    setExposure(0.25);
    const int two = w.shown(320, 240).red();
    ASSERT_NE(one, two);
    actionOf(menu(), "State 1")->trigger();
    w.key(Qt::Key_S);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.2), one);
    EXPECT_EQ(viewAt(0.8), two);
    QAction* back = actionOf(*actionOf(menu(), "Go back to")->menu(), "State 1");
    ASSERT_TRUE(back);
    back->trigger();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.8), one);
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.8), two) << "going back is a step like any other";
    // One state against another, until something is edited.
    w.key(Qt::Key_K, Qt::ControlModifier);
    setExposure(2);
    const int three = w.shown(320, 240).red();
    actionOf(*actionOf(menu(), "In the result's place")->menu(), "State 2")->trigger();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(viewAt(0.2), one);
    EXPECT_EQ(viewAt(0.8), two);
    setExposure(2.1);
    EXPECT_GT(viewAt(0.8), three);
    for (int i = 0; i < 6; ++i) w.key(Qt::Key_K, Qt::ControlModifier);
    EXPECT_EQ(w.session().document()->states.size(), document::mostStates);
    EXPECT_TRUE(w.window.message().contains("four")) << w.window.message().toStdString();
    // They are in the document.
    const QString path = QString::fromStdString((folder / "a.dimhem").string());
    w.window.jobs().save(path);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.open(path));
    EXPECT_EQ(w.session().document()->states.size(), document::mostStates);
    EXPECT_EQ(w.session().against().what, Against::What::photo) << "what one photo was held against is forgotten";
}

TEST_F(Judging, ProbesAreDroppedMovedAndRead) {
    addLight(1);
    QTest::mouseMove(&w.canvas(), w.screen(200, 150));
    w.key(Qt::Key_M);
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(w.session().document()->probes.size(), 1u);
    EXPECT_NEAR(w.session().document()->probes[0].place.x, 200, 2);
    const auto& readings = w.window.probes().readings();
    ASSERT_EQ(readings.size(), 1u);
    EXPECT_NEAR(255 * readings[0]->before.mean.r, grey, 0.5);
    EXPECT_NEAR(255 * readings[0]->after.mean.r, w.shown(200, 150).red(), 1);
    auto* list = w.window.findChild<ui::ProbeList*>();
    auto* after = list->findChild<QLabel*>("probe-after-1");
    ASSERT_TRUE(after);
    EXPECT_TRUE(after->text().contains(QString::number(w.shown(200, 150).red()))) << after->text().toStdString();
    // Dragged; one step.
    w.drag({{200, 150}, {400, 300}});
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.session().document()->probes[0].place.x, 400, 3);
    EXPECT_EQ(w.session().undoName(), "move probe");
    w.session().undo();
    EXPECT_NEAR(w.session().document()->probes[0].place.x, 200, 2);
    // By keys alone: the key pointer drops one where it stands.
    w.canvas().setFocus();
    w.key(Qt::Key_Right);
    w.key(Qt::Key_M);
    EXPECT_EQ(w.session().document()->probes.size(), 2u);
    for (int i = 0; i < 9; ++i) w.key(Qt::Key_M);
    EXPECT_EQ(w.session().document()->probes.size(), document::mostProbes);
    EXPECT_TRUE(w.window.message().contains("eight"));
    ASSERT_TRUE(w.settle());
    auto* apart = list->findChild<QLabel*>("probes-apart");
    ASSERT_TRUE(apart);
    EXPECT_TRUE(apart->text().contains("0.0")) << "alike: " << apart->text().toStdString();
    auto* size = list->findChild<QComboBox*>("probe-size-1");
    size->setCurrentIndex(size->findData(51));
    Q_EMIT size->activated(size->currentIndex());
    EXPECT_EQ(w.session().document()->probes[0].sizePx, 51);
    ASSERT_TRUE(w.settle());
    auto* neutral = list->findChild<QToolButton*>("probe-neutral-1");
    neutral->click();
    EXPECT_TRUE(w.session().document()->probes[0].neutral);
    ASSERT_TRUE(w.settle());
    list->findChild<QToolButton*>("remove-probe-1")->click();
    EXPECT_EQ(w.session().document()->probes.size(), document::mostProbes - 1);
}

TEST_F(Judging, NotesSayWhatIsLostAndEaseIt) {
    addLight(3);
    auto* line = w.window.findChild<ui::NotesLine*>();
    ASSERT_TRUE(w.waitFor([&] { return !w.window.notes().items().isEmpty(); }));
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(line->isVisible());
    EXPECT_EQ(w.window.notes().items().front().note.kind, document::NoteKind::clipped);
    w.key(Qt::Key_J, Qt::ControlModifier);
    auto* list = w.window.findChild<QWidget*>("notes-list");
    ASSERT_TRUE(list->isVisible());
    EXPECT_FALSE(list->geometry().intersects(QRect())) << "it has a place";
    auto* ease = list->findChild<QPushButton*>("note-ease");
    ASSERT_TRUE(ease);
    const double eased = *w.window.notes().items().front().easePct;
    ease->click();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().correction()->strengthPct, eased);
    EXPECT_EQ(w.session().undoName(), "ease strength");
    EXPECT_TRUE(w.window.notes().items().isEmpty())
        << "it is no longer said, but " << document::idOf(w.window.notes().items().front().note.kind);
    w.session().undo();
    ASSERT_TRUE(w.waitFor([&] { return !w.window.notes().items().isEmpty(); }));
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(list->isVisible()) << "with no note there was no list";
    w.key(Qt::Key_J, Qt::ControlModifier);
    const auto count = w.window.notes().items().size();
    list->findChild<QPushButton*>("note-dismiss")->click();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().undoName(), "dismiss note");
    EXPECT_EQ(w.window.notes().items().size(), count - 1);
    EXPECT_EQ(w.session().document()->dismissed.size(), 1u);
    auto* back = list->findChild<QPushButton*>("notes-back");
    ASSERT_TRUE(back);
    back->click();
    ASSERT_TRUE(w.waitFor([&] { return w.window.notes().items().size() == count; }));
}

// Once there is a mask it is not said any more that it covers nothing, however long it takes to look again.
TEST_F(Judging, ANoteOfAMaskGoesWithTheMask) {
    w.session().addCorrection({}, "new");
    w.session().addPart(mask::Brush::kindInfo);
    const auto saysEmpty = [&] {
        return std::ranges::any_of(w.window.notes().items(),
                                   [](const auto& item) { return item.note.kind == document::NoteKind::emptyMask; });
    };
    ASSERT_TRUE(w.waitFor(saysEmpty));
    w.drag({{100, 100}, {300, 200}});
    EXPECT_FALSE(saysEmpty());
    w.session().undo();
    ASSERT_TRUE(w.waitFor(saysEmpty));
}

TEST_F(Judging, AQuietCorrectionHasNoNotes) {
    addLight(0.3);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.window.notes().items().isEmpty());
    EXPECT_FALSE(w.window.findChild<ui::NotesLine*>()->isVisible());
}

TEST_F(Judging, PressedTonesShineInThePhoto) {
    addLight(1);
    w.key(Qt::Key_1);  // the mask has a part now, and still covers all
    ASSERT_TRUE(w.settle());
    const int result = w.shown(320, 240).red();
    auto* histogram = w.window.findChild<ui::Histogram*>();
    ASSERT_TRUE(histogram->isVisible());
    QTest::mousePress(histogram, Qt::LeftButton, {}, QPoint(5, 20));
    ASSERT_TRUE(w.settle());
    EXPECT_LT(w.shown(320, 240).red(), result / 2) << "it has no such tones";
    QTest::mouseRelease(histogram, Qt::LeftButton, {}, QPoint(5, 20));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(320, 240).red(), result);
    // By keys: to where its tone is, then Space.
    histogram->setFocus();
    for (int i = 0; i < 50; ++i) QTest::keyClick(histogram, Qt::Key_Left);
    const double lightness = 100 * 0.02 * std::round(67 / 2.0) / 100;
    for (int i = 0; i < static_cast<int>(lightness * 50); ++i) QTest::keyClick(histogram, Qt::Key_Right);
    QTest::keyPress(histogram, Qt::Key_Space);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().shine().of, render::Shine::Of::tones);
    w.canvas().setFocus();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().shine().of, render::Shine::Of::nothing) << "the focus went away while it was held";
    EXPECT_EQ(w.shown(320, 240).red(), result);
}

TEST_F(Judging, PushIsOfTheCorrectionTheMaskOrOneAdjustment) {
    addLight(0.3);
    const int result = w.shown(320, 240).red();
    press(Qt::Key_P);
    EXPECT_GT(w.shown(320, 240).red(), result + 20);
    release(Qt::Key_P);
    // With its mask in sight, the mask is pushed.
    w.session().edit("mask", [&](const document::Document& d) {
        return document::withCorrection(d, w.session().selectedCorrection(), [](document::Correction& c) {
            mask::Part half{
                1000, "Half", mask::Combine::subtract, false, true, 80, mask::Brush::kindInfo.makeFor({640, 480})};
            half.flipped = true;  // all that was not painted is taken away, four fifths of it
            c.mask.parts.push_back(std::make_shared<const mask::Part>(half));
        });
    });
    w.session().setMaskView(render::MaskView::plate);
    ASSERT_TRUE(w.settle());
    const int faint = w.shown(320, 240).red();
    ASSERT_GT(faint, 0);
    ASSERT_LT(faint, 80);
    press(Qt::Key_P);
    EXPECT_NEAR(w.shown(320, 240).red(), 3 * faint, 3);
    release(Qt::Key_P);
    w.session().setMaskView(render::MaskView::none);
    // One adjustment, with the focus on its head.
    const document::Id light = w.session().correction()->adjustments[0].id;
    auto* head = w.window.findChild<QWidget*>(QString("fold-%1").arg(light));
    ASSERT_TRUE(head);
    head->setFocus();
    EXPECT_EQ(w.window.findChild<ui::WhatPanel*>()->adjustmentPointedAt(), light);
    QTest::keyPress(head, Qt::Key_P);
    EXPECT_EQ(w.session().shown().view.pushedAdjustment, light);
    QTest::keyRelease(head, Qt::Key_P);
    EXPECT_EQ(w.session().shown().view.pushedAdjustment, 0);
}

TEST_F(Judging, TheLoupeShowsBothAtActualSize) {
    addLight(1);
    QTest::mouseMove(&w.canvas(), w.screen(320, 200));
    ASSERT_TRUE(w.settle());
    const QImage before = view();
    press(Qt::Key_L);
    ASSERT_TRUE(w.waitFor([&] { return view() != before; }));
    const QImage shown = view();
    // Somewhere below the pointer the photo as it was stands beside the result.
    int greys = 0;
    for (int x = 0; x < shown.width(); x += 4) greys += shown.pixelColor(x, w.screen(320, 200).y() + 120).red() == grey;
    EXPECT_GT(greys, 30);
    release(Qt::Key_L);
    EXPECT_EQ(w.session().look(), Look::result);
    ASSERT_TRUE(w.waitFor([&] { return viewAt(0.5, 0.55) > grey; }));
}

TEST_F(Judging, TheDialSaysWhereACastHasGone) {
    EXPECT_EQ(ui::castDirection({60, 0, 14}), "towards yellow");
    EXPECT_EQ(ui::castDirection({60, -9, 2}), "towards green");
    EXPECT_EQ(ui::castDirection({60, 0, -9}), "towards blue");
    EXPECT_EQ(ui::castDirection({60, 0.2, 0.1}), "");
    // The rings are where CIEDE2000 says.
    for (const double deg : {0.0, 77.0, 200.0, 310.0}) {
        const double chroma = ui::chromaAt(60, deg, 5), turn = deg * 3.14159265358979 / 180;
        EXPECT_NEAR(colour::ciede2000({60, 0, 0}, {60, chroma * std::cos(turn), chroma * std::sin(turn)}), 5, 1e-6);
    }
}

}  // namespace dimhem::tests
