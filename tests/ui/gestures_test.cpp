// One gesture, one owner: whatever comes in the middle of a stroke, a drag, a run of keys or an outline being clicked.
#include <gtest/gtest.h>

#include "core/adjust/hue_bands.h"
#include "core/adjust/light.h"
#include "core/adjust/tone_curve.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/outline.h"
#include "core/mask/wire.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/curve_field.h"
#include "ui/control/drag_field.h"
#include "ui/control/entry_field.h"
#include "ui/control/range_strip.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

class Gestures : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        w.key(Qt::Key_1);  // a correction with a brush
        ASSERT_TRUE(w.settle());
        mask::BrushSettings brush = w.session().brush();
        brush.sizePx = 80;
        w.session().setBrush(brush);
        w.canvas().setFocus();
    }

    void press(double x, double y) { QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, w.screen(x, y)); }
    void release(double x, double y) { QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, w.screen(x, y)); }
    void move(double x, double y) { w.moveHeld(w.screen(x, y)); }
    void click(double x, double y) {
        press(x, y);
        release(x, y);
    }

    std::string text() { return document::toJsonText(*w.session().document()); }
    std::size_t strokes(document::Id correction) {
        const auto& part = *document::findCorrection(*w.session().document(), correction)->mask.parts[0];
        return std::dynamic_pointer_cast<const mask::Brush>(part.shape)->strokes().size();
    }
    document::Id add(const adjust::AdjustmentKind& kind) {
        document::Id id = 0;
        w.session().edit("add", [&](const document::Document& d) {
            const document::Added added = document::withNewAdjustment(d, w.session().selectedCorrection(), kind);
            id = added.id;
            return added.document;
        });
        EXPECT_TRUE(w.settle());
        return id;
    }
};

}  // namespace

TEST_F(Gestures, AStrokeStaysOnTheCorrectionItBeganOn) {
    const document::Id painted = w.session().selectedCorrection();
    w.session().addCorrection({}, "new");
    w.key(Qt::Key_2);  // a gradient in the other correction
    ASSERT_TRUE(w.settle());
    const document::Id other = w.session().selectedCorrection();
    const auto gradient = document::findCorrection(*w.session().document(), other)->mask.parts[0]->shape;
    w.session().selectCorrection(painted);
    ASSERT_TRUE(w.settle());
    press(100, 100);
    move(200, 120);
    w.key(Qt::Key_Period);  // the next correction, in the middle of the stroke
    ASSERT_EQ(w.session().selectedCorrection(), other);
    move(300, 140);
    release(300, 140);
    EXPECT_EQ(strokes(painted), 1u) << "what was painted is kept";
    EXPECT_EQ(document::findCorrection(*w.session().document(), other)->mask.parts[0]->shape, gradient)
        << "and nothing else is touched";
    EXPECT_EQ(w.session().undoName(), "brush stroke");
}

TEST_F(Gestures, UndoInMidStrokeTakesTheStrokeBackAndTheNextUndoTheStepBefore) {
    const std::string fresh = text();
    w.drag({{100, 100}, {200, 100}});
    const std::string one = text();
    press(100, 300);
    move(200, 300);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(text(), one);
    move(300, 300);
    release(300, 300);
    EXPECT_EQ(text(), one) << "the hand went on in vain";
    w.key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(text(), fresh);
    w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(text(), one);
}

TEST_F(Gestures, AnEditInMidStrokeIsAStepAfterTheStroke) {
    const document::Id correction = w.session().selectedCorrection();
    press(100, 100);
    move(200, 120);
    w.key(Qt::Key_F);
    release(200, 120);
    EXPECT_EQ(strokes(correction), 1u);
    EXPECT_TRUE(w.session().part()->flipped);
    w.session().undo();
    EXPECT_FALSE(w.session().part()->flipped);
    EXPECT_EQ(strokes(correction), 1u);
    w.session().undo();
    EXPECT_EQ(strokes(correction), 0u);
}

TEST_F(Gestures, AnOutlineBeingClickedNeverReachesAnotherPart) {
    const document::Id correction = w.session().selectedCorrection();
    const mask::PartId brush = w.session().selectedPart();
    w.key(Qt::Key_6);
    ASSERT_TRUE(w.settle());
    const mask::PartId outline = w.session().selectedPart();
    for (const auto& [x, y] : {std::pair(100, 100), {200, 100}, {200, 200}}) click(x, y);
    w.session().selectPart(brush);
    EXPECT_FALSE(w.session().hasGesture());
    click(400, 300);  // paints
    EXPECT_EQ(strokes(correction), 1u) << "still a brush part";
    const auto& part = *mask::findPart(w.session().correction()->mask, outline);
    EXPECT_EQ(std::dynamic_pointer_cast<const mask::Outline>(part.shape)->points().size(), 3u) << "closed as it was";
    // With less than a triangle there is nothing to keep.
    w.session().selectPart(outline);
    w.drag({{300, 300}, {303, 303}});
    click(500, 100);
    click(550, 120);
    w.session().selectPart(brush);
    EXPECT_NE(
        std::dynamic_pointer_cast<const mask::Outline>(mask::findPart(w.session().correction()->mask, outline)->shape)
            ->points()
            .size(),
        2u);
    ASSERT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, AWireIsClickedEndedDraggedAndShortened) {
    w.key(Qt::Key_W);
    ASSERT_TRUE(w.settle());
    const auto wire = [&] { return std::dynamic_pointer_cast<const mask::Wire>(w.session().part()->shape); };
    ASSERT_TRUE(wire());
    for (const auto& [x, y] : {std::pair(100, 100), {200, 110}, {300, 100}}) click(x, y);
    EXPECT_TRUE(w.session().hasGesture());
    w.key(Qt::Key_Return);
    EXPECT_FALSE(w.session().hasGesture());
    ASSERT_EQ(wire()->lines().size(), 1u);
    EXPECT_EQ(wire()->lines()[0].points.size(), 3u);
    EXPECT_EQ(w.session().undoName(), "follow wire");
    // A second one, ended by a double click.
    click(100, 200);
    click(300, 220);
    click(300, 220);
    EXPECT_FALSE(w.session().hasGesture());
    ASSERT_EQ(wire()->lines().size(), 2u);
    // A single place is none.
    click(400, 300);
    w.key(Qt::Key_Return);
    EXPECT_EQ(wire()->lines().size(), 2u);
    w.drag({{200, 110}, {210, 130}});
    EXPECT_NEAR(wire()->lines()[0].points[1].y, 130, 2);
    EXPECT_EQ(wire()->lines()[0].points.size(), 3u);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ControlModifier, w.screen(100, 100));
    EXPECT_EQ(wire()->lines()[0].points.size(), 2u);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ControlModifier, w.screen(300, 100));
    EXPECT_EQ(wire()->lines().size(), 1u) << "of a line with one place left nothing is";
    for (int i = 0; i < 5; ++i) w.session().undo();
    EXPECT_TRUE(wire()->lines().empty());
    // Esc takes back a line in hand.
    click(100, 100);
    click(200, 110);
    w.key(Qt::Key_Escape);
    EXPECT_TRUE(wire()->lines().empty());
    ASSERT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, AShortFreehandDragMakesNoOutlineOfTwoPoints) {
    w.key(Qt::Key_6);
    ASSERT_TRUE(w.settle());
    press(100, 100);
    move(110, 100);
    release(110, 100);
    ASSERT_TRUE(document::fromJsonText(text())) << "a document with two points could not be opened again";
}

TEST_F(Gestures, NothingOfOneDocumentReachesTheNext) {
    w.key(Qt::Key_6);
    ASSERT_TRUE(w.settle());
    for (const auto& [x, y] : {std::pair(100, 100), {200, 100}, {200, 200}}) click(x, y);
    ASSERT_TRUE(w.session().hasGesture());
    QImage other(320, 200, QImage::Format_RGB32);
    other.fill(Qt::blue);
    const QString path = QString::fromStdString((folder / "other.png").string());
    other.save(path);
    w.session().endGesture();
    w.session().markSaved(w.session().document(), folder / "x.dimhem", {});
    ASSERT_TRUE(w.open(path));
    click(50, 50);
    w.key(Qt::Key_Return);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.session().document()->corrections.empty());
    EXPECT_EQ(w.session().document()->photo.size, (base::Size{320, 200}));
}

TEST_F(Gestures, ASlidersPauseIsAStepThoughItsPanelGoes) {
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    ASSERT_TRUE(exposure);
    const document::Id correction = w.session().selectedCorrection();
    exposure->track()->setFocus();
    QTest::keyClick(exposure->track(), Qt::Key_Up, Qt::ShiftModifier);
    const double set = document::findCorrection(*w.session().document(), correction)->adjustments[0].settings.values[0];
    ASSERT_NE(set, 0);
    EXPECT_FALSE(w.session().isSaved()) << "within the pause";
    w.session().selectCorrection(0);  // the panel is built anew
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.session().canUndo());
    EXPECT_TRUE(w.session().undoName().contains("exposure", Qt::CaseInsensitive))
        << w.session().undoName().toStdString();
    w.session().undo();
    EXPECT_EQ(document::findCorrection(*w.session().document(), correction)->adjustments[0].settings.values[0], 0);
}

TEST_F(Gestures, ASliderEditsWhatItWasMadeFor) {
    const document::Id first = w.session().selectedCorrection();
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    QTest::mousePress(exposure->track(), Qt::LeftButton, {}, QPoint(60, 10));
    w.session().addCorrection({}, "new");  // in the middle of the drag; the panel will be built anew
    QMouseEvent held(QEvent::MouseMove, QPointF(20, 10), exposure->track()->mapToGlobal(QPointF(20, 10)), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(exposure->track(), &held);
    ASSERT_TRUE(w.settle());
    const document::Correction* second = w.session().correction();
    ASSERT_NE(second->id, first);
    EXPECT_EQ(second->adjustments[0].settings.values[0], 0) << "the new correction is untouched";
    EXPECT_NE(document::findCorrection(*w.session().document(), first)->adjustments[0].settings.values[0], 0);
}

TEST_F(Gestures, ACurveGestureEndsWithAnUndoAndReadsNothingThatIsGone) {
    add(adjust::toneCurve);
    auto* field = w.find<ui::CurveField>("curve");
    ASSERT_TRUE(field);
    QTest::mousePress(field, Qt::LeftButton, {}, QPoint(100, 60));
    w.session().undo();  // the point
    w.session().undo();  // the curve itself
    QMouseEvent held(QEvent::MouseMove, QPointF(110, 40), field->mapToGlobal(QPointF(110, 40)), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(field, &held);
    const document::Id hue = add(adjust::hueBands);
    EXPECT_TRUE(document::findAdjustment(*w.session().correction(), hue));
    ASSERT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, BendingOnThePhotoSurvivesUndoAndOtherAdjustments) {
    add(adjust::toneCurve);
    auto* bend = w.find<QPushButton>("bend-on-photo");
    ASSERT_TRUE(bend);
    QTest::mouseClick(bend, Qt::LeftButton);
    press(200, 200);
    move(200, 180);
    ASSERT_TRUE(w.settle());
    w.session().undo();
    w.session().undo();
    add(adjust::hueBands);
    move(200, 150);
    release(200, 150);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, EditorsOfAnotherAdjustmentAreBuiltThoughIdsLookAlike) {
    add(adjust::hueBands);
    for (int i = 0; i < 3; ++i) {
        auto* band = w.find<QPushButton>("add-band");
        ASSERT_TRUE(band);
        QTest::mouseClick(band, Qt::LeftButton);
        ASSERT_TRUE(w.settle());
    }
    for (int i = 0; i < 4; ++i) w.session().undo();
    add(adjust::toneCurve);  // a chosen band must not become a chosen curve
    EXPECT_TRUE(w.find<ui::CurveField>("curve"));
    QTest::mouseClick(w.find<ui::CurveField>("curve"), Qt::LeftButton, {}, QPoint(100, 60));
    EXPECT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, PicksThatAreStillBeingReadAreNotLost) {
    w.key(Qt::Key_4);
    ASSERT_TRUE(w.settle());
    for (const int x : {100, 300, 500}) click(x, 200);  // faster than they are read
    ASSERT_TRUE(w.settle());
    const auto range = std::dynamic_pointer_cast<const mask::ColourRange>(w.session().part()->shape);
    EXPECT_EQ(range->values().picks.size(), 3u);
}

TEST_F(Gestures, A65thPickIsSaidAndNotTaken) {
    w.key(Qt::Key_4);
    w.session().edit("many", [&](const document::Document& d) {
        return document::withPart(d, w.session().selectedCorrection(), w.session().selectedPart(),
                                  [](mask::Part& part) {
                                      mask::ColourRangeValues values;
                                      values.picks.assign(mask::mostPicks, {{5, 5}, {50, 0, 0}});
                                      part.shape = std::make_shared<mask::ColourRange>(values);
                                  });
    });
    ASSERT_TRUE(w.settle());
    click(300, 200);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.window.message().contains("64")) << w.window.message().toStdString();
    EXPECT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, AnOutlineOfAnyLengthCanBeSaved) {
    w.key(Qt::Key_6);
    ASSERT_TRUE(w.settle());
    press(100, 100);
    for (std::size_t i = 0; i < mask::mostOutlinePoints + 500; ++i)
        move(100 + 10.0 * static_cast<double>(i % 50), 150 + 20.0 * (i % 2));
    release(100, 200);
    const auto outline = std::dynamic_pointer_cast<const mask::Outline>(w.session().part()->shape);
    EXPECT_GT(outline->points().size(), mask::mostOutlinePoints / 2);
    EXPECT_LE(outline->points().size(), mask::mostOutlinePoints);
    EXPECT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, FloorAndCeilingPushEachOther) {
    auto* floor = w.find<ui::ValueSlider>("refine-floor");
    ASSERT_TRUE(floor);
    w.session().edit("ceiling", [&](const document::Document& d) {
        return document::withCorrection(d, w.session().selectedCorrection(),
                                        [](document::Correction& c) { c.mask.refine.ceilingPct = 30; });
    });
    ASSERT_TRUE(w.settle());
    floor = w.find<ui::ValueSlider>("refine-floor");
    floor->field()->setFocus();
    floor->field()->selectAll();
    QTest::keyClicks(floor->field(), "70");
    QTest::keyClick(floor->field(), Qt::Key_Return);
    EXPECT_EQ(w.session().correction()->mask.refine.floorPct, 70);
    EXPECT_EQ(w.session().correction()->mask.refine.ceilingPct, 70);
    EXPECT_TRUE(document::fromJsonText(text()));
}

TEST_F(Gestures, EscInAFieldGivesUpWhatWasTyped) {
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    exposure->field()->setFocus();
    exposure->field()->selectAll();
    QTest::keyClicks(exposure->field(), "3");
    QTest::keyClick(exposure->field(), Qt::Key_Escape);
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 0);
    exposure->track()->setFocus();
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 0) << "nor when the field is left";
    EXPECT_FALSE(exposure->field()->text().contains("3"));
}

TEST_F(Gestures, DigitsInAFocusedSliderAreItsNumber) {
    const std::size_t parts = w.session().correction()->mask.parts.size();
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    exposure->track()->setFocus();
    QTest::keyClicks(exposure->track(), "1");
    ASSERT_TRUE(exposure->field()->hasFocus());
    QTest::keyClicks(exposure->field(), ".5");
    QTest::keyClick(exposure->field(), Qt::Key_Return);
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 1.5);
    EXPECT_EQ(w.session().correction()->mask.parts.size(), parts);
}

TEST_F(Gestures, DigitsAfterADragByHandAreKeysOfTheWindow) {
    const std::size_t parts = w.session().correction()->mask.parts.size();
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    ui::SliderTrack* track = exposure->track();
    const QPoint from(track->width() / 2, track->height() - 3);
    QTest::mousePress(track, Qt::LeftButton, {}, from);
    QTest::mouseMove(track, from + QPoint(20, 0));
    QTest::mouseRelease(track, Qt::LeftButton, {}, from + QPoint(20, 0));
    const double dragged = w.session().correction()->adjustments[0].settings.values[0];
    ASSERT_GT(dragged, 0);
    ASSERT_TRUE(track->hasFocus()) << "the arrows go on with it";
    QTest::keyClick(track, Qt::Key_2);
    EXPECT_FALSE(exposure->field()->hasFocus());
    ASSERT_EQ(w.session().correction()->mask.parts.size(), parts + 1);
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], dragged);
    // Reached by Tab it takes them again.
    w.canvas().setFocus();
    track = w.find<ui::ValueSlider>("exposure")->track();
    track->setFocus(Qt::TabFocusReason);
    QTest::keyClick(track, Qt::Key_2);
    EXPECT_TRUE(w.find<ui::ValueSlider>("exposure")->field()->hasFocus());
    EXPECT_EQ(w.session().correction()->mask.parts.size(), parts + 1);
}

TEST_F(Gestures, ACellTakesDigitsOncePressedButNotAfterADrag) {
    static constexpr base::ParamSpec spec = {
        .id = "of-the-test", .label = "Of the test", .min = -100, .max = 100, .tip = {}};
    ui::DragField field(spec, nullptr);
    field.show();
    field.setFocus();
    const QPoint middle = field.rect().center();
    const auto typed = [&] {
        QTest::keyClicks(&field, "3");
        return field.findChild<QLineEdit*>() != nullptr;
    };
    QTest::mousePress(&field, Qt::LeftButton, {}, middle);
    QTest::mouseMove(&field, middle + QPoint(30, 0));
    QTest::mouseRelease(&field, Qt::LeftButton, {}, middle + QPoint(30, 0));
    ASSERT_NE(field.value(), 0);
    EXPECT_FALSE(typed());
    QTest::mouseClick(&field, Qt::LeftButton, {}, middle);
    EXPECT_TRUE(typed());
}

TEST_F(Gestures, DeleteOnAFocusedCardRemovesThatCard) {
    const document::Id first = w.session().selectedCorrection();
    w.session().addCorrection({}, "new");
    ASSERT_TRUE(w.settle());
    const document::Id second = w.session().selectedCorrection();
    w.clickItem("sequence", 1);
    QTest::keyClick(w.list("sequence"), Qt::Key_Delete);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(document::findCorrection(*w.session().document(), first));
    EXPECT_TRUE(document::findCorrection(*w.session().document(), second));
}

namespace {

// What a pen does, as the platform reports it.
class Pen {
public:
    explicit Pen(Window& window, QPointingDevice::PointerType end = QPointingDevice::PointerType::Pen)
        : w_(window),
          device_("pen", 7, QInputDevice::DeviceType::Stylus, end,
                  QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 1) {}
    void send(QEvent::Type type, QPointF at, quint64 timeMs) {
        QTabletEvent event(type, &device_, at, w_.canvas().mapToGlobal(at), 0.5, 0, 0, 0, 0, 0, {}, Qt::LeftButton,
                           type == QEvent::TabletRelease ? Qt::NoButton : Qt::LeftButton);
        event.setTimestamp(timeMs);
        QApplication::sendEvent(&w_.canvas(), &event);
    }
    void tap(QPointF at, quint64 timeMs) {
        send(QEvent::TabletPress, at, timeMs);
        send(QEvent::TabletRelease, at, timeMs + 40);
    }

private:
    Window& w_;
    QPointingDevice device_;
};

}  // namespace

TEST_F(Gestures, TapsOfAPenDrawAndCloseAnOutline) {
    w.key(Qt::Key_6);
    ASSERT_TRUE(w.settle());
    Pen pen(w);
    quint64 now = 1000;
    for (const auto& [x, y] : {std::pair(100, 100), {300, 100}, {300, 300}}) pen.tap(w.screen(x, y), now += 2000);
    EXPECT_TRUE(w.session().hasGesture());
    pen.tap(w.screen(100, 100), now += 2000);  // on the first point
    EXPECT_FALSE(w.session().hasGesture());
    EXPECT_EQ(shape<mask::Outline>()->points().size(), 3u);
    w.session().undo();
    for (const auto& [x, y] : {std::pair(100, 100), {300, 100}, {300, 300}, {100, 300}})
        pen.tap(w.screen(x, y), now += 2000);
    pen.tap(w.screen(100, 300), now + 100);  // twice in the same place
    EXPECT_FALSE(w.session().hasGesture());
    EXPECT_EQ(shape<mask::Outline>()->points().size(), 4u);
}

TEST_F(Gestures, TheEraserEndOfAPenRemoves) {
    w.drag({{200, 200}, {300, 200}});
    Pen eraser(w, QPointingDevice::PointerType::Eraser);
    eraser.send(QEvent::TabletPress, w.screen(220, 200), 1000);
    eraser.send(QEvent::TabletMove, w.screen(260, 200), 1020);
    eraser.send(QEvent::TabletRelease, w.screen(260, 200), 1040);
    EXPECT_EQ(w.session().undoName(), "removing brush stroke");
    EXPECT_FALSE(w.session().brush().removes) << "the brush itself stays as it is";
    EXPECT_LT(plate(240, 200), 128);
}

TEST_F(Gestures, AHeldKeyIsLetGoWhateverElseIsHeld) {
    QTest::keyPress(&w.canvas(), Qt::Key_A);
    EXPECT_EQ(w.session().held(), ui::Session::Held::allOff);
    QTest::keyRelease(&w.canvas(), Qt::Key_A, Qt::ControlModifier);
    EXPECT_EQ(w.session().held(), ui::Session::Held::nothing);
}

}  // namespace dimhem::tests
