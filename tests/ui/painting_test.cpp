#include <gtest/gtest.h>

#include <QComboBox>

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"

namespace dimhem::tests {

namespace {

// A window with a photo and a correction of +1.5 EV that is ready to be painted.
class Painting : public testing::Test {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        w.key(Qt::Key_1);
        ASSERT_TRUE(w.settle());
        setExposure(1.5);
        mask::BrushSettings brush = w.session().brush();
        brush.sizePx = 80;
        w.session().setBrush(brush);
        w.canvas().setFocus();
    }

    void setExposure(double ev) {
        const auto& correction = *w.session().correction();
        w.session().edit("exposure", [&](const document::Document& d) {
            return document::withAdjustment(d, correction.id, correction.adjustments[0].id,
                                            [=](document::AdjustmentUse& use) { use.settings.values[0] = ev; });
        });
        ASSERT_TRUE(w.settle());
    }

    std::size_t strokes() {
        return std::dynamic_pointer_cast<const mask::Brush>(w.session().part()->shape)->strokes().size();
    }
    const mask::Stroke& lastStroke() {
        return *std::dynamic_pointer_cast<const mask::Brush>(w.session().part()->shape)->strokes().back();
    }
    bool isLit(double x, double y) { return w.shown(x, y).red() > 130; }

    TempFolder folder;
    Window w;
};

}  // namespace

TEST_F(Painting, EscTakesARunningStrokeBack) {
    const std::string before = document::toJsonText(*w.session().document());
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, w.screen(200, 200));
    w.moveHeld(w.screen(300, 200));
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isLit(250, 200));
    w.key(Qt::Key_Escape);
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, w.screen(300, 200));
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(isLit(250, 200));
    EXPECT_EQ(document::toJsonText(*w.session().document()), before);
}

TEST_F(Painting, ShiftClickGoesStraightFromTheLastPoint) {
    w.drag({{100, 100}});
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ShiftModifier, w.screen(500, 350));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(strokes(), 2u);
    EXPECT_TRUE(isLit(300, 225)) << "half way";
    EXPECT_FALSE(isLit(500, 100));
}

TEST_F(Painting, RSwitchesToRemoving) {
    w.drag({{200, 200}, {300, 200}});
    w.key(Qt::Key_R);
    EXPECT_TRUE(w.session().brush().removes);
    w.drag({{250, 200}});
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(isLit(250, 200));
    EXPECT_TRUE(isLit(190, 200));
    EXPECT_EQ(w.session().undoName(), "removing brush stroke");
}

TEST_F(Painting, PenPressureIsKeptWithTheStroke) {
    w.pen(QEvent::TabletPress, w.screen(200, 200), 0.25);
    w.pen(QEvent::TabletMove, w.screen(300, 200), 0.75);
    w.pen(QEvent::TabletRelease, w.screen(300, 200), 0);
    ASSERT_EQ(strokes(), 1u);
    EXPECT_DOUBLE_EQ(lastStroke().points()[0].pressure, 0.25);
    EXPECT_DOUBLE_EQ(lastStroke().points()[1].pressure, 0.75);
}

TEST_F(Painting, TheKeysChangeTheBrush) {
    const mask::BrushSettings before = w.session().brush();
    w.key(Qt::Key_BracketRight);
    EXPECT_GT(w.session().brush().sizePx, before.sizePx);
    w.key(Qt::Key_BracketLeft);
    EXPECT_NEAR(w.session().brush().sizePx, before.sizePx, 1);
    w.key(Qt::Key_BracketRight, Qt::ControlModifier);
    EXPECT_EQ(w.session().brush().strengthPct, 100);
    w.key(Qt::Key_BracketLeft, Qt::ControlModifier);
    EXPECT_EQ(w.session().brush().strengthPct, 90);
}

TEST_F(Painting, WeakStrengthsAreReachedByKeysOnePercentAtATime) {
    std::vector<double> seen;
    for (int i = 0; i < 16; ++i) {
        w.key(Qt::Key_BracketLeft, Qt::ControlModifier);
        seen.push_back(w.session().brush().strengthPct);
    }
    EXPECT_EQ(seen, (std::vector<double>{90, 80, 70, 60, 50, 40, 30, 20, 15, 10, 7, 5, 4, 3, 2, 1}));
    w.key(Qt::Key_BracketLeft, Qt::ControlModifier);
    EXPECT_EQ(w.session().brush().strengthPct, 1);
    mask::BrushSettings between = w.session().brush();
    between.strengthPct = 33;
    w.session().setBrush(between);
    w.key(Qt::Key_BracketRight, Qt::ControlModifier);
    EXPECT_EQ(w.session().brush().strengthPct, 40);
}

TEST_F(Painting, TheWheelWithModifiersSetsTheBrushAndNothingElse) {
    ASSERT_TRUE(w.settle());
    const mask::BrushSettings before = w.session().brush();
    const double zoom = w.canvas().viewport().zoom();
    const base::Point centre = w.canvas().viewport().centre();
    const auto turn = [&](int notches, Qt::KeyboardModifiers held, bool sideways = false) {
        const QPointF at = w.screen(200, 200);
        const QPoint by = sideways ? QPoint(120 * notches, 0) : QPoint(0, 120 * notches);
        QWheelEvent wheel(at, w.canvas().mapToGlobal(at), {}, by, {}, held, Qt::NoScrollPhase, false);
        QApplication::sendEvent(&w.canvas(), &wheel);
    };
    turn(2, Qt::AltModifier, true);  // as Alt turns it
    EXPECT_NEAR(w.session().brush().sizePx, before.sizePx * 1.21, 2);
    turn(-2, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_NEAR(w.session().brush().sizePx, before.sizePx, 2);
    turn(1, Qt::AltModifier | Qt::ShiftModifier, true);
    EXPECT_EQ(w.session().brush().softnessPct, before.softnessPct + 5);
    turn(-1, Qt::AltModifier | Qt::ControlModifier, true);
    EXPECT_EQ(w.session().brush().strengthPct, 90);
    EXPECT_EQ(w.canvas().viewport().zoom(), zoom);
    EXPECT_EQ(w.canvas().viewport().centre(), centre);
    EXPECT_EQ(strokes(), 0u);
    const mask::BrushSettings set = w.session().brush();
    w.session().setHeld(ui::Session::Held::allOff);
    turn(3, Qt::AltModifier, true);
    EXPECT_EQ(w.session().brush(), set) << "no ring is in sight";
    w.session().setHeld(ui::Session::Held::nothing);
    turn(1, Qt::ControlModifier);
    EXPECT_GT(w.canvas().viewport().zoom(), zoom) << "with Ctrl alone it zooms";
}

TEST_F(Painting, ADragWithItsKeyHeldSetsTheBrushWhereItIs) {
    const mask::BrushSettings before = w.session().brush();
    QTest::keyPress(&w.canvas(), Qt::Key_Q);
    const QPoint at = w.screen(200, 200);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, at);
    QTest::mouseMove(&w.canvas(), at + QPoint(120, -50));
    EXPECT_NEAR(w.session().brush().sizePx, 2 * before.sizePx, 1);
    EXPECT_NEAR(w.session().brush().softnessPct, before.softnessPct + 20, 1);
    w.key(Qt::Key_Escape);
    EXPECT_EQ(w.session().brush(), before) << "given up";
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, at);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, at);
    QTest::keyRelease(&w.canvas(), Qt::Key_Q);  // the drag goes on until its button is up
    QTest::mouseMove(&w.canvas(), at + QPoint(-120, 0));
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, at + QPoint(-120, 0));
    EXPECT_NEAR(w.session().brush().sizePx, before.sizePx / 2, 1);
    EXPECT_EQ(strokes(), 0u) << "nothing was painted";
    w.drag({{200, 200}, {240, 200}});
    EXPECT_EQ(strokes(), 1u);
}

TEST_F(Painting, RemovingKeepsASizeSoftnessAndStrengthOfItsOwn) {
    const double size = w.session().brush().sizePx;
    w.key(Qt::Key_R);
    for (int i = 0; i < 5; ++i) w.key(Qt::Key_BracketLeft);
    w.key(Qt::Key_BracketLeft, Qt::ControlModifier);
    const double removing = w.session().brush().sizePx;
    EXPECT_LT(removing, size);
    w.key(Qt::Key_R);
    EXPECT_EQ(w.session().brush().sizePx, size);
    EXPECT_EQ(w.session().brush().strengthPct, 100);
    w.drag({{200, 200}, {300, 200}});
    w.drag({{220, 200}, {260, 200}}, Qt::ControlModifier);
    EXPECT_TRUE(lastStroke().brush().removes);
    EXPECT_EQ(lastStroke().brush().sizePx, removing) << "also for one stroke with Ctrl";
    EXPECT_EQ(lastStroke().brush().strengthPct, 90);
    EXPECT_EQ(w.session().brush().sizePx, size);
}

TEST_F(Painting, FFlipsTheSelectedPartAndGStepsThroughTheMaskViews) {
    w.drag({{200, 200}});
    w.key(Qt::Key_F);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(isLit(200, 200));
    EXPECT_TRUE(isLit(500, 400));
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_G);  // tint, stitch, plate
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().maskView(), render::MaskView::plate);
    EXPECT_EQ(w.shown(500, 400), QColor(Qt::white));
    EXPECT_EQ(w.shown(200, 200), QColor(Qt::black));
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_G, Qt::ShiftModifier);
    EXPECT_EQ(w.session().maskView(), render::MaskView::none);
}

TEST_F(Painting, PushShowsThreeTimesTheStrength) {
    w.drag({{200, 200}});
    setExposure(0.3);
    const int plain = w.shown(200, 200).red();
    QTest::keyPress(&w.canvas(), Qt::Key_P);
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.shown(200, 200).red() - 120, 3 * (plain - 120), 4);
    QTest::keyRelease(&w.canvas(), Qt::Key_P);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(200, 200).red(), plain);
}

TEST_F(Painting, ZoomedInTheInsetShowsTheWholePhotoAndPaintingStillLandsUnderThePointer) {
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.canvas().zoomBy(2);
    ASSERT_TRUE(w.settle());
    QWidget* inset = nullptr;
    for (QWidget* child : w.canvas().findChildren<QWidget*>()) {
        if (child->accessibleName() == "Whole photo") inset = child;
    }
    ASSERT_TRUE(inset);
    EXPECT_TRUE(inset->isVisible());
    const base::Point place = w.canvas().viewport().centre();
    w.drag({place});
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isLit(place.x, place.y));
    EXPECT_EQ(lastStroke().points()[0].at.x, w.canvas().viewport().toPhoto(w.screen(place.x, place.y)).x);
    w.canvas().fit();
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(inset->isVisible());
    EXPECT_TRUE(isLit(place.x, place.y));
}

TEST_F(Painting, AGradientIsLaidWidenedMovedAndTurnedByItsGrips) {
    w.key(Qt::Key_2);
    ASSERT_TRUE(w.settle());
    const auto gradient = [&] {
        return std::dynamic_pointer_cast<const mask::LinearGradient>(w.session().part()->shape);
    };
    ASSERT_TRUE(gradient());
    w.drag({{320, 400}, {320, 430}, {320, 460}});  // laid anew, away from every grip
    EXPECT_NEAR(gradient()->full().y, 400, 1);
    EXPECT_NEAR(gradient()->none().y, 460, 1);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isLit(320, 300));
    EXPECT_FALSE(isLit(320, 475));
    w.drag({{360, 400}, {360, 250}, {360, 100}});  // the full line, taken beside the spine
    EXPECT_NEAR(gradient()->full().y, 100, 1.5);
    EXPECT_NEAR(gradient()->none().y, 460, 1);
    w.drag({{320, 280}, {350, 280}, {370, 300}});  // the middle of the spine
    EXPECT_NEAR(gradient()->full().x, 370, 1.5);
    EXPECT_NEAR(gradient()->full().y, 120, 2);
    const QPointF end = w.canvas().viewport().toScreen(gradient()->full()) + QPointF(130, 0);
    const base::Point grip = w.canvas().viewport().toPhoto(end);
    const double before = gradient()->full().x;
    w.drag({grip, {grip.x + 30, grip.y + 60}, {grip.x + 40, grip.y + 90}});
    EXPECT_GT(std::abs(gradient()->full().x - before), 10);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NEAR(gradient()->full().x, before, 1e-9);
}

TEST_F(Painting, BlendModeIsChosenInTheWhatPanelAndUndone) {
    mask::Mask everywhere;
    everywhere.startsEverywhere = true;
    w.session().addCorrection(everywhere, "new");
    ASSERT_TRUE(w.settle());
    const int before = w.shown(300, 300).red();
    auto* modes = w.find<QComboBox>("blend");
    ASSERT_TRUE(modes);
    EXPECT_EQ(modes->count(), 16);
    EXPECT_EQ(modes->currentText(), "Normal");
    const int multiply = modes->findText("Multiply");
    modes->setCurrentIndex(multiply);
    Q_EMIT modes->activated(multiply);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().correction()->blend, kernel::BlendMode::multiply);
    EXPECT_NEAR(w.shown(300, 300).red(), before * before / 255.0, 1) << "the photo multiplied by itself";
    EXPECT_EQ(w.session().undoName(), "change blend mode");
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(300, 300).red(), before);
    EXPECT_EQ(modes->currentText(), "Normal");
}

TEST_F(Painting, PickingANeutralSetsTheWhiteBalance) {
    const auto* kind = &*std::find_if(adjust::adjustmentKinds().begin(), adjust::adjustmentKinds().end(),
                                      [](auto* k) { return k->id == "white-balance"; });
    QImage warm(640, 480, QImage::Format_RGB32);
    warm.fill(QColor(150, 120, 95));
    const QString path = QString::fromStdString((folder / "warm.png").string());
    warm.save(path);
    w.session().markSaved(w.session().document(), folder / "x.dimhem", {});
    ASSERT_TRUE(w.open(path));
    mask::Mask everywhere;
    everywhere.startsEverywhere = true;
    w.session().addCorrection(everywhere, "new");
    w.session().edit("add", [&](const document::Document& d) {
        return document::withNewAdjustment(d, w.session().selectedCorrection(), **kind).document;
    });
    ASSERT_TRUE(w.settle());
    auto* pick = w.find<QPushButton>("pick-neutral");
    ASSERT_TRUE(pick);
    QTest::mouseClick(pick, Qt::LeftButton);
    EXPECT_TRUE(w.session().asked());
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(300, 300));
    ASSERT_TRUE(w.settle());
    const QColor now = w.shown(300, 300);
    const auto castOf = [](const QColor& c) { return c.redF() - c.blueF(); };
    EXPECT_NEAR(castOf(now) / castOf(QColor(150, 120, 95)), 0.1, 0.04) << "a touch is left";
    EXPECT_EQ(w.session().undoName(), "pick a neutral");
}

}  // namespace dimhem::tests
