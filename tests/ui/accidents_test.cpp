// What a hand does by accident, or in passing: nothing is changed that was not meant, and nothing that is done is done
// to something else than what is seen.
#include <QComboBox>
#include <QLabel>
#include <QSettings>
#include <QSpinBox>

#include "core/adjust/light.h"
#include "core/document/edits.h"
#include "core/mask/outline.h"
#include "core/mask/registry.h"
#include "core/mask/wire.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/drag_field.h"
#include "ui/control/entry_field.h"
#include "ui/control/segmented.h"
#include "ui/control/value_slider.h"
#include "ui/panel/export_dialog.h"
#include "ui/panel/message_bar.h"
#include "ui/session/frame_thread.h"

namespace dimhem::tests {

class Accidents : public WindowTest {
protected:
    void SetUp() override {
        QSettings().clear();
        ASSERT_TRUE(w.open(greyPhoto(folder)));
    }
    void addPainted() {
        w.key(Qt::Key_1);
        ASSERT_TRUE(w.settle());
    }
    void press(Qt::MouseButton button, QPoint at) { QTest::mousePress(&w.canvas(), button, {}, at); }
    void release(Qt::MouseButton button, QPoint at) { QTest::mouseRelease(&w.canvas(), button, {}, at); }
    void moveWith(Qt::MouseButtons buttons, QPoint at) {
        QMouseEvent event(QEvent::MouseMove, QPointF(at), w.canvas().mapToGlobal(QPointF(at)), Qt::NoButton, buttons,
                          {});
        QApplication::sendEvent(&w.canvas(), &event);
    }
    static void wheel(QWidget* over, int notches, Qt::KeyboardModifiers modifiers = {}) {
        const QPointF at = over->rect().center();
        QWheelEvent event(at, over->mapToGlobal(at), {}, QPoint(0, 120 * notches), Qt::NoButton, modifiers,
                          Qt::NoScrollPhase, false);
        QApplication::sendEvent(over, &event);
    }
    std::size_t strokes() {
        const auto brush = shape<mask::Brush>();
        return brush ? brush->strokes().size() : 0;
    }
    int steps() { return w.session().step(); }
};

// ---- what is shown is what is worked on

TEST_F(Accidents, NothingIsPaintedWhileSomethingElseIsShown) {
    addPainted();
    w.drag({{100, 100}, {150, 120}});
    ASSERT_EQ(strokes(), 1u);
    const int before = steps();
    const auto expectRefused = [&](const char* what) {
        w.drag({{200, 200}, {260, 220}});
        EXPECT_EQ(strokes(), 1u) << what;
        EXPECT_EQ(steps(), before) << what;
        EXPECT_TRUE(w.window.message().endsWith(".")) << what;
    };
    w.session().setLook(ui::Look::before);
    ASSERT_TRUE(w.settle());
    expectRefused("before");
    // The message leads back.
    ASSERT_TRUE(w.offer());
    QTest::mouseClick(w.offer(), Qt::LeftButton);
    EXPECT_EQ(w.session().look(), ui::Look::result);
    for (const Qt::Key key : {Qt::Key_A, Qt::Key_P, Qt::Key_C}) {
        QTest::keyPress(&w.canvas(), key);
        expectRefused("a held key");
        QTest::keyRelease(&w.canvas(), key);
    }
    w.session().edit("keep", [](const document::Document& d) { return document::withStateKept(d, "kept"); });
    w.session().setShownState(0);
    const int kept = steps();
    w.drag({{200, 200}, {260, 220}});
    EXPECT_EQ(strokes(), 1u) << "a kept state";
    EXPECT_EQ(steps(), kept);
    w.session().setShownState(std::nullopt);
    w.drag({{200, 200}, {260, 220}});
    EXPECT_EQ(strokes(), 2u) << "and on the result it goes on";
}

TEST_F(Accidents, NothingIsPickedWhileSomethingElseIsShown) {
    bool asked = false;
    ui::PhotoGesture gesture;
    gesture.done = [&](const ui::PhotoDrag&) { asked = true; };
    w.session().ask(gesture);
    w.session().setLook(ui::Look::before);
    w.drag({{100, 100}, {101, 101}});
    EXPECT_FALSE(asked);
    w.session().setLook(ui::Look::result);
    w.drag({{100, 100}, {101, 101}});
    EXPECT_TRUE(asked);
}

// ---- a press belongs to what it began with

TEST_F(Accidents, AnotherButtonNeitherStealsAStrokeNorEndsIt) {
    addPainted();
    const QPoint from = w.screen(100, 100), to = w.screen(200, 150), far = w.screen(300, 300);
    press(Qt::LeftButton, from);
    moveWith(Qt::LeftButton, to);
    press(Qt::MiddleButton, to);
    moveWith(Qt::LeftButton | Qt::MiddleButton, to + QPoint(10, 0));
    release(Qt::LeftButton, to + QPoint(10, 0));
    moveWith(Qt::MiddleButton, far);
    release(Qt::MiddleButton, far);
    EXPECT_FALSE(w.session().hasGesture()) << "a stroke hangs on";
    ASSERT_EQ(strokes(), 1u);
    moveWith(Qt::NoButton, far);
    w.drag({{400, 300}, {420, 310}});
    EXPECT_EQ(strokes(), 2u) << "the next stroke is one of its own";
    // The other way round: a hand that pans paints nothing.
    press(Qt::MiddleButton, from);
    press(Qt::LeftButton, from);
    moveWith(Qt::LeftButton | Qt::MiddleButton, to);
    release(Qt::MiddleButton, to);
    release(Qt::LeftButton, to);
    EXPECT_EQ(strokes(), 2u);
    EXPECT_FALSE(w.session().hasGesture());
}

TEST_F(Accidents, DeleteGivesUpTheStrokeInHandAndKeepsTheCorrection) {
    addPainted();
    press(Qt::LeftButton, w.screen(100, 100));
    moveWith(Qt::LeftButton, w.screen(150, 100));
    ASSERT_EQ(strokes(), 1u);
    w.key(Qt::Key_Delete);
    release(Qt::LeftButton, w.screen(160, 100));
    EXPECT_EQ(strokes(), 0u);
    EXPECT_EQ(w.session().document()->corrections.size(), 1u);
    w.key(Qt::Key_Delete);
    EXPECT_TRUE(w.session().document()->corrections.empty());
}

TEST_F(Accidents, AReleaseThatWasLostEndsTheStrokeAtTheNextMove) {
    addPainted();
    press(Qt::LeftButton, w.screen(100, 100));
    moveWith(Qt::LeftButton, w.screen(150, 100));
    moveWith(Qt::NoButton, w.screen(300, 300));  // the button came up over another window
    EXPECT_FALSE(w.session().hasGesture());
    ASSERT_EQ(strokes(), 1u);
    EXPECT_LT(shape<mask::Brush>()->strokes()[0]->points().back().at.x, 200);
}

TEST_F(Accidents, BesideEachOtherAStrokeStaysOnTheSideItBeganOn) {
    addPainted();
    w.session().setLook(ui::Look::beside);
    ASSERT_TRUE(w.settle());
    const int half = w.canvas().width() / 2, y = w.canvas().height() / 2;
    press(Qt::LeftButton, QPoint(half - 60, y));
    for (int x = half - 60; x <= half + 60; x += 10) moveWith(Qt::LeftButton, QPoint(x, y));
    release(Qt::LeftButton, QPoint(half + 60, y));
    ASSERT_EQ(strokes(), 1u);
    const auto stroke = shape<mask::Brush>()->strokes()[0];
    const double wide = 120 / w.canvas().viewport().zoom();
    EXPECT_NEAR(stroke->points().back().at.x - stroke->points()[0].at.x, wide, wide / 20) << "as far as the hand went";
}

// ---- wheel and keys

TEST_F(Accidents, AScrollingHandChangesNoSetting) {
    addPainted();
    const int before = steps();
    const document::DocumentPtr document = w.session().document();
    const mask::BrushSettings brush = w.session().brush();
    for (auto* combo : w.window.findChildren<QComboBox*>()) {
        combo->setFocus();
        const int index = combo->currentIndex();
        for (const int notches : {-2, 1}) wheel(combo, notches);
        EXPECT_EQ(combo->currentIndex(), index) << combo->accessibleName().toStdString();
    }
    for (auto* slider : w.window.findChildren<ui::ValueSlider*>()) {
        slider->track()->setFocus();
        const double value = slider->value();
        wheel(slider->track(), -2);
        EXPECT_EQ(slider->value(), value) << slider->objectName().toStdString();
    }
    EXPECT_EQ(w.session().document(), document);
    EXPECT_EQ(w.session().brush(), brush);
    EXPECT_EQ(steps(), before);
    // Meant, it turns the setting: with Ctrl.
    auto* strength = w.find<ui::ValueSlider>("correction-strength");
    wheel(strength->track(), -2, Qt::ControlModifier);
    EXPECT_LT(strength->value(), 100);
}

TEST_F(Accidents, LettersOnAListStayKeysOfTheWindow) {
    addPainted();
    auto* blend = w.find<QComboBox>("blend");
    ASSERT_TRUE(blend);
    blend->setFocus(Qt::TabFocusReason);
    QTest::keyClick(blend, Qt::Key_M);  // "Multiply" begins so
    EXPECT_EQ(blend->currentIndex(), 0);
    EXPECT_EQ(w.session().correction()->blend, kernel::BlendMode::normal);
}

TEST_F(Accidents, EnterInANumberGivesTheKeysBackToThePhoto) {
    addPainted();
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    exposure->field()->setFocus();
    exposure->field()->selectAll();
    QTest::keyClicks(exposure->field(), "1,5");
    QTest::keyClick(exposure->field(), Qt::Key_Return);
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 1.5) << "with a decimal comma";
    EXPECT_TRUE(w.waitFor([&] { return w.canvas().hasFocus(); }));
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_S);
    EXPECT_EQ(w.session().look(), ui::Look::split) << "a key of the window, not of the number";
}

TEST_F(Accidents, EveryNumberTakesADecimalComma) {
    addPainted();
    static constexpr base::ParamSpec spec = {
        .id = "of-the-test", .label = "Of the test", .min = -100, .max = 100, .step = 0.5, .decimals = 1, .tip = {}};
    ui::DragField field(spec, nullptr);
    field.show();
    field.setFocus();
    QTest::keyClicks(&field, "1");
    auto* typed = field.findChild<QLineEdit*>();
    ASSERT_TRUE(typed);
    QTest::keyClicks(typed, ",5");
    QTest::keyClick(typed, Qt::Key_Return);
    EXPECT_EQ(field.value(), 1.5);
}

// ---- outlines and wires

class Drawn : public Accidents {
protected:
    void click(double x, double y, Qt::KeyboardModifiers modifiers = {}) {
        QTest::mouseMove(&w.canvas(), w.screen(x, y));
        QTest::mouseClick(&w.canvas(), Qt::LeftButton, modifiers, w.screen(x, y));
    }
    void addOutline() {
        w.session().addPart(mask::Outline::kindInfo);
        ASSERT_TRUE(w.settle());
    }
    const std::vector<base::Point>& points() { return shape<mask::Outline>()->points(); }
    void drawSquare() {
        addOutline();
        for (const auto& [x, y] : {std::pair{100, 100}, {300, 100}, {300, 300}, {100, 300}}) click(x, y);
        w.key(Qt::Key_Return);
        ASSERT_EQ(points().size(), 4u);
    }
};

TEST_F(Drawn, UndoTakesBackTheLastClickAndNothingBefore) {
    addPainted();
    w.drag({{400, 400}, {420, 410}});
    addOutline();
    const int before = steps();
    for (const auto& [x, y] : {std::pair{100, 100}, {300, 100}, {300, 300}, {100, 300}, {60, 200}}) click(x, y);
    w.key(Qt::Key_Backspace);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(steps(), before) << "no step was taken back";
    w.key(Qt::Key_Return);
    EXPECT_EQ(points().size(), 3u) << "two clicks were";
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(points().empty());
    EXPECT_EQ(steps(), before);
    // Of an outline that is only begun all of it can be taken back, and then the step before.
    click(100, 100);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(w.session().hasGesture());
    EXPECT_EQ(steps(), before);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(steps(), before - 1);
}

TEST_F(Drawn, AnOutlineIsNotLostByAPressBesideIt) {
    drawSquare();
    const int before = steps();
    w.drag({{400, 350}, {450, 380}, {420, 440}, {380, 400}});
    EXPECT_EQ(points().size(), 4u);
    EXPECT_EQ(steps(), before);
    EXPECT_TRUE(w.window.message().contains("once more")) << w.window.message().toStdString();
    w.drag({{400, 350}, {450, 380}, {420, 440}, {380, 400}});
    EXPECT_GT(points().size(), 2u);
    EXPECT_GT(points()[0].x, 350) << "the second press draws it anew";
    w.session().undo();
    EXPECT_EQ(points().size(), 4u);
}

TEST_F(Drawn, ANewOutlineIsDrawnWithoutASecondPress) {
    drawSquare();
    ASSERT_TRUE(w.settle());
    QTest::mouseClick(w.find<QPushButton>("new-outline"), Qt::LeftButton);
    EXPECT_TRUE(points().empty());
    w.drag({{400, 350}, {450, 380}, {420, 440}, {380, 400}});
    EXPECT_GE(points().size(), 3u);
    w.session().undo();
    w.session().undo();
    EXPECT_EQ(points().size(), 4u);
}

// Of a document that is opened there is something true at once, told as what it is, and in the end what it must be.
TEST_F(Accidents, OpeningShowsThePhotoThenItsCorrections) {
    w.session().edit("light", [](const document::Document& d) {
        const auto added = document::withNewCorrection(d, 0);
        return document::withCorrection(*added.document, added.id, [](document::Correction& c) {
            c.mask.startsEverywhere = true;
            adjust::Settings settings = adjust::neutralSettings(adjust::light);
            settings.values[0] = 1;
            c.adjustments.push_back({99, &adjust::light, true, settings});
        });
    });
    ui::FrameThread frames;
    ui::ViewRequest request;
    request.renderer =
        std::make_shared<const render::Renderer>(w.session().origin().photo, std::make_shared<render::TileCache>());
    request.frame = {w.session().document(), {}, 0, {0, 0, 640, 480}, {}};
    request.isFirst = true;
    request.overviewLevel = 1;
    QStringList heard;
    QObject context;
    QObject::connect(
        &frames, &ui::FrameThread::tileReady, &context, [&](int level, const QRect&, const QImage& pixels) {
            const QString tile =
                QString("%1 %2").arg(level).arg(pixels.pixelColor(3, 3).red() > 130 ? "corrected" : "photo");
            if (heard.isEmpty() || heard.back() != tile) heard << tile;
        });
    QObject::connect(&frames, &ui::FrameThread::photoShown, &context, [&] { heard << "photo shown"; });
    QObject::connect(&frames, &ui::FrameThread::correctionsShown, &context, [&] { heard << "corrections shown"; });
    QObject::connect(&frames, &ui::FrameThread::finished, &context, [&] { heard << "finished"; });
    frames.request(request);
    ASSERT_TRUE(w.waitFor([&] { return heard.contains("finished"); }));
    EXPECT_EQ(heard,
              (QStringList{"0 photo", "photo shown", "2 corrected", "corrections shown", "0 corrected", "finished"}))
        << heard.join(", ").toStdString();
}

TEST_F(Drawn, PointsAreAddedMovedAndTakenAway) {
    drawSquare();
    const int before = steps();
    w.drag({{200, 100}, {200, 60}});  // from the line between the first two
    ASSERT_EQ(points().size(), 5u);
    EXPECT_NEAR(points()[1].x, 200, 3);
    EXPECT_NEAR(points()[1].y, 60, 3);
    EXPECT_EQ(steps(), before + 1);
    w.drag({{200, 60}, {220, 40}});
    EXPECT_NEAR(points()[1].x, 220, 3);
    click(220, 40, Qt::ControlModifier);
    EXPECT_EQ(points().size(), 4u);
    click(100, 300, Qt::ControlModifier);
    EXPECT_EQ(points().size(), 3u);
    click(100, 100, Qt::ControlModifier);
    EXPECT_EQ(points().size(), 3u) << "fewer are no outline";
    EXPECT_TRUE(w.window.message().contains("three")) << w.window.message().toStdString();
}

TEST_F(Drawn, AnOutlineIsCurvedAndItsCornersGoWithTheirPoints) {
    drawSquare();
    const int straight = plate(200, 95);
    EXPECT_LT(straight, 30);
    w.session().setMaskView(render::MaskView::none);
    auto* lines = w.find<ui::Segmented>("outline-lines");
    ASSERT_TRUE(lines);
    Q_EMIT lines->chosen(1);
    ASSERT_TRUE(shape<mask::Outline>()->joining().curved);
    EXPECT_GT(plate(200, 95), 200) << "it bulges between its points";
    w.session().setMaskView(render::MaskView::none);
    const int before = steps();
    click(100, 100, Qt::ShiftModifier);
    click(300, 100, Qt::ShiftModifier);
    EXPECT_EQ(shape<mask::Outline>()->joining().corners, (std::vector<std::size_t>{0, 1}));
    EXPECT_EQ(steps(), before + 2);
    EXPECT_LT(plate(200, 95), 30) << "straight between two corners";
    w.session().setMaskView(render::MaskView::none);
    click(100, 100, Qt::ShiftModifier);
    EXPECT_EQ(shape<mask::Outline>()->joining().corners, (std::vector<std::size_t>{1}));
    w.session().undo();
    EXPECT_EQ(shape<mask::Outline>()->joining().corners, (std::vector<std::size_t>{0, 1}));
    // A press on the curve, beside the straight way between its points, adds one; corners keep to theirs.
    ASSERT_TRUE(w.settle());
    const mask::Course course = shape<mask::Outline>()->course();
    const base::Point onCurve = course.line[(course.starts[2] + course.starts[3]) / 2];
    EXPECT_GT(onCurve.y, 306);
    w.drag({onCurve, {onCurve.x, onCurve.y + 20}});
    ASSERT_EQ(points().size(), 5u);
    EXPECT_NEAR(points()[3].y, onCurve.y + 20, 3);
    click(100, 100, Qt::ControlModifier);
    EXPECT_EQ(shape<mask::Outline>()->joining().corners, (std::vector<std::size_t>{0}));
    Q_EMIT lines->chosen(0);
    EXPECT_FALSE(shape<mask::Outline>()->joining().curved);
}

TEST_F(Drawn, AWireTakesBackClicksAndGetsPlacesBetween) {
    w.session().addPart(mask::Wire::kindInfo);
    ASSERT_TRUE(w.settle());
    const int before = steps();
    click(100, 100);
    click(300, 110);
    click(500, 200);
    w.key(Qt::Key_Backspace);
    w.key(Qt::Key_Return);
    const auto lines = [&] { return shape<mask::Wire>()->lines(); };
    ASSERT_EQ(lines().size(), 1u);
    EXPECT_EQ(lines()[0].points.size(), 2u);
    EXPECT_EQ(steps(), before + 1);
    ASSERT_TRUE(w.settle());
    w.drag({{200, 105}, {200, 130}});
    ASSERT_EQ(lines()[0].points.size(), 3u);
    EXPECT_NEAR(lines()[0].points[1].y, 130, 3);
}

// ---- brushes, starters, dialogs, messages

TEST_F(Accidents, AFreshBrushPaints) {
    addPainted();
    w.drag({{100, 100}, {150, 120}});
    mask::BrushSettings brush = w.session().brush();
    brush.removes = brush.holds = true;
    w.session().setBrush(brush);
    w.session().addCorrection({}, "another");
    w.session().addPart(mask::Brush::kindInfo);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(w.session().brush().removes);
    EXPECT_FALSE(w.session().brush().holds);
    w.drag({{200, 200}, {250, 220}});
    ASSERT_EQ(strokes(), 1u);
    EXPECT_FALSE(shape<mask::Brush>()->strokes()[0]->brush().removes);
    // Where there is nothing to remove, the part takes away instead, and that is said.
    w.session().undo();
    brush = w.session().brush();
    brush.removes = true;
    w.session().setBrush(brush);
    const int before = steps();
    w.drag({{200, 200}, {250, 220}});
    EXPECT_EQ(steps(), before + 1);
    EXPECT_EQ(w.session().part()->combine, mask::Combine::subtract);
    EXPECT_TRUE(w.window.message().contains("takes away")) << w.window.message().toStdString();
}

TEST_F(Accidents, AStarterIsReadyToBePainted) {
    document::Starter starter;
    starter.name = "Yellowed";
    document::Correction correction;
    for (const mask::ShapeKind* kind : {&mask::Brush::kindInfo, mask::shapeKinds()[3]}) {
        mask::Part part;
        part.shape = kind->makeFor({640, 480});
        correction.mask.parts.push_back(std::make_shared<const mask::Part>(part));
    }
    starter.correction = std::make_shared<const document::Correction>(correction);
    w.session().addFromStarter(starter);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().part());
    EXPECT_EQ(&w.session().part()->shape->kind(), &mask::Brush::kindInfo);
    w.drag({{200, 200}, {250, 220}});
    EXPECT_EQ(strokes(), 1u) << "the first press paints";
}

TEST_F(Accidents, ASmallPhotoShrinksNoLaterExport) {
    QSettings().setValue("export/long-side", 2000);
    const image::Photo& photo = w.session().renderer().photo().photo();
    {
        ui::ExportDialog dialog(photo, false, {}, nullptr);
        dialog.remember();
    }
    EXPECT_EQ(QSettings().value("export/long-side").toInt(), 2000) << "640 was never asked for";
    ui::ExportDialog dialog(photo, false, {}, nullptr);
    dialog.findChild<QSpinBox*>("export-long-side")->setValue(300);
    dialog.remember();
    EXPECT_EQ(QSettings().value("export/long-side").toInt(), 300);
}

// Each of two has the room it needs: the second got none while the first was there.
TEST_F(Accidents, ARemarkBesideAWarningCanBeRead) {
    w.session().warn("The document was not saved.", "Try again", [] {});
    QApplication::processEvents();
    w.session().say("The hem check has found no place to look at.");
    QApplication::processEvents();
    auto* bar = w.window.findChild<ui::MessageBar*>();
    for (const char* name : {"warning", "remark"}) {
        const auto* row = bar->findChild<QWidget*>(name);
        ASSERT_TRUE(row && row->isVisible()) << name;
        EXPECT_GE(row->height(), row->fontMetrics().height() + 16) << name;
        EXPECT_TRUE(bar->rect().contains(row->geometry())) << name;
    }
}

TEST_F(Accidents, AWarningStaysUntilItIsAnswered) {
    auto* bar = w.window.findChild<ui::MessageBar*>();
    int answered = 0;
    w.session().warn("The document was not saved.", "Try again", [&] { ++answered; });
    w.session().say("A remark.");
    EXPECT_EQ(bar->sentences(), (QStringList{"The document was not saved.", "A remark."})) << "two can stand";
    w.session().say("Another remark.");
    EXPECT_EQ(bar->sentences(), (QStringList{"The document was not saved.", "Another remark."}));
    w.session().warn("The export failed.");
    w.session().warn("The export failed.");
    for (auto* timer : bar->findChildren<QTimer*>()) {
        if (timer->isActive()) QMetaObject::invokeMethod(timer, "timeout", Qt::DirectConnection);
    }
    EXPECT_FALSE(bar->sentences().contains("Another remark.")) << "it passes";
    EXPECT_EQ(bar->sentences(), (QStringList{"The document was not saved.", "The export failed."}));
    for (auto* button : bar->findChildren<QPushButton*>()) {
        if (button->text() == "Try again" && button->isVisible()) QTest::mouseClick(button, Qt::LeftButton);
    }
    EXPECT_EQ(answered, 1);
    EXPECT_EQ(bar->sentences(), QStringList{"The export failed."});
}

TEST_F(Accidents, TheHemLineEndsOnThePhotoCard) {
    addPainted();
    w.drag({{100, 100}, {200, 150}});
    w.session().selectCorrection(0);
    ASSERT_TRUE(w.settle());
    bool shown = false;
    for (auto* label : w.window.findChildren<QLabel*>())
        shown = shown || (label->isVisible() && label->text() == "Hem …");
    EXPECT_FALSE(shown);
}

TEST_F(Accidents, APlaceUnderThePointerFollowsTheView) {
    QTest::mouseMove(&w.canvas(), w.screen(100, 100));
    moveWith(Qt::NoButton, w.screen(100, 100));
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.key(Qt::Key_0, Qt::ControlModifier);
    w.key(Qt::Key_Plus);
    const auto place = w.canvas().pointedAt();
    ASSERT_TRUE(place);
    const base::Point now = w.canvas().viewport().toPhoto(w.canvas().viewport().toScreen(*place));
    EXPECT_NEAR(now.x, place->x, 1e-6);
    w.key(Qt::Key_0, Qt::ControlModifier);
    EXPECT_NEAR(w.canvas().pointedAt()->x, 100, 2) << "where the pointer stands now";
}

// The photo is closed under the hand that drags a card or a part, before it lets go and before the lists hear of it.
TEST_F(Accidents, ADragOutlivesThePhotoItBeganOn) {
    for (const char* name : {"sequence", "parts"}) {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        addPainted();
        const int row = std::string(name) == "sequence" ? 1 : 0;
        QWidget* view = w.list(name)->viewport();
        const QPoint from = w.item(name, row).topLeft() + QPoint(20, 10), to(0, 12);
        QTest::mousePress(view, Qt::LeftButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, QPointF(to), view->mapToGlobal(QPointF(to)), Qt::NoButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(view, &move);
        w.session().close();
        QTest::mouseRelease(view, Qt::LeftButton, {}, to);
        ASSERT_TRUE(w.settle());
        EXPECT_FALSE(w.session().isOpen());
    }
}

// ---- frames

// A frame made ahead of what a key will show is given up for the hand at any moment, in the middle of a tile as well.
TEST_F(Accidents, WhatIsMadeReadyIsGivenUpAtAnyMoment) {
    addPainted();
    w.drag({{100, 100}, {200, 150}});
    ui::FrameThread frames;
    ui::ViewRequest request;
    request.renderer = w.session().sharedRenderer();
    request.frame = {w.session().document(), {}, 0, {0, 0, 640, 480}, {}};
    for (int i = 0; i < 60; ++i) {
        // Nothing is found in the cache: each version is another.
        const document::DocumentPtr next =
            document::withCorrection(*w.session().document(), w.session().selectedCorrection(),
                                     [i](document::Correction& c) { c.strengthPct = 20 + i; });
        request.frame.document = next;
        request.ready.assign(3, request.frame);
        request.ready[1].view.comparison.allOff = true;
        request.ready[2].view.comparison.without = w.session().selectedCorrection();
        request.overviewLevel = 1;
        frames.request(request);
        ASSERT_TRUE(w.waitFor([&] { return frames.isIdle(); }));
        QThread::usleep(static_cast<unsigned long>(i * 37 % 900));
    }
    EXPECT_TRUE(w.waitFor([&] { return frames.isAtRest(); }));
}

}  // namespace dimhem::tests
