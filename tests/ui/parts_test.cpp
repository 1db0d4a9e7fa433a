// Every kind of part made, moved by its grips, combined, undone, saved and reopened, with real events and pixels
// checked.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/task/matte_file.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/range_strip.h"
#include "ui/control/theme.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

// A photo of three fields: dark red on the left, mid grey, light blue on the right.
QString fields(const TempFolder& folder) {
    QImage image(640, 480, QImage::Format_RGB32);
    for (int y = 0; y < 480; ++y) {
        for (int x = 0; x < 640; ++x) {
            image.setPixelColor(x, y,
                                x < 213   ? QColor(90, 30, 30)
                                : x < 426 ? QColor(120, 120, 120)
                                          : QColor(150, 180, 220));
        }
    }
    const QString path = QString::fromStdString((folder / "fields.png").string());
    image.save(path);
    return path;
}

class Parts : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(fields(folder)));
        w.canvas().setFocus();
    }
    void expectSameWhenReopened() {
        const std::string before = document::toJsonText(*w.session().document());
        const QString path = QString::fromStdString((folder / "parts.dimhem").string());
        w.window.jobs().save(path);
        ASSERT_TRUE(w.settle());
        Window again;
        ASSERT_TRUE(again.open(path));
        again.session().selectCorrection(w.session().selectedCorrection());
        again.session().setMaskView(render::MaskView::plate);
        w.session().setMaskView(render::MaskView::plate);
        ASSERT_TRUE(again.settle() && w.settle());
        for (int y = 20; y < 480; y += 60) {
            for (int x = 20; x < 640; x += 60) EXPECT_EQ(again.shown(x, y), w.shown(x, y)) << x << " " << y;
        }
    }
};

}  // namespace

TEST_F(Parts, RadialGradient) {
    w.key(Qt::Key_3);
    ASSERT_TRUE(shape<mask::RadialGradient>());
    w.drag({{60, 400}, {100, 430}, {140, 460}});  // laid anew from its centre
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().centre.x, 60, 1.5);
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().halfWidthPx, 80, 2);
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().halfHeightPx, 60, 2);
    EXPECT_EQ(plate(60, 400), 255);
    EXPECT_EQ(plate(300, 200), 0);
    w.drag({{60, 400}, {200, 300}, {320, 240}});  // the centre
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().centre.x, 320, 2);
    w.drag({{400, 240}, {450, 240}, {520, 240}});  // the right knob
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().halfWidthPx, 200, 3);
    w.drag({{520, 240}, {500, 240}, {460, 240}}, Qt::ShiftModifier);
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().halfWidthPx, shape<mask::RadialGradient>()->oval().halfHeightPx,
                1e-9);
    w.drag({{20, 20}, {60, 60}, {220, 120}}, Qt::AltModifier);  // anew, from its corner
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().centre.x, 120, 2);
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().halfWidthPx, 100, 2);
    w.session().undo();
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().centre.x, 320, 2);
    expectSameWhenReopened();
}

TEST_F(Parts, ColourRangeByPicks) {
    w.key(Qt::Key_4);
    EXPECT_EQ(plate(100, 200), 0);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(100, 200));
    EXPECT_EQ(plate(50, 400), 255);
    EXPECT_EQ(plate(300, 200), 0);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(300, 200));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(shape<mask::ColourRange>()->values().picks.size(), 2u);
    EXPECT_EQ(plate(300, 300), 255);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ControlModifier, w.screen(102, 202));
    EXPECT_EQ(plate(50, 400), 0);
    EXPECT_EQ(plate(300, 300), 255);
    w.drag({{480, 100}, {500, 120}, {560, 180}});  // an area
    EXPECT_EQ(plate(600, 400), 255);
    for (int i = 0; i < 4; ++i) w.session().undo();
    EXPECT_TRUE(shape<mask::ColourRange>()->values().picks.empty());
    for (int i = 0; i < 4; ++i) w.session().redo();
    expectSameWhenReopened();
}

TEST_F(Parts, ColourRangeByHue) {
    w.key(Qt::Key_4);
    ASSERT_TRUE(w.settle());
    for (auto* button : w.window.findChildren<QPushButton*>()) {
        if (button->accessibleName() == "Chosen by: hues") QTest::mouseClick(button, Qt::LeftButton);
    }
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(plate(100, 200), 255) << "a new band lies about red";
    EXPECT_EQ(plate(300, 200), 0) << "grey has no hue";
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(550, 200));
    EXPECT_EQ(plate(550, 200), 255);
    EXPECT_EQ(plate(100, 200), 0);
    auto* strip = w.find<ui::RangeStrip>("hues");
    ASSERT_TRUE(strip);
    const mask::Range before = strip->range();
    strip->setFocus();
    QTest::keyClick(strip, Qt::Key_Left, Qt::ShiftModifier);
    EXPECT_NEAR(strip->range().points[0], before.points[0] - 10, 1e-9);
    EXPECT_TRUE(w.waitFor([&] { return !w.session().hasGesture(); }));
    EXPECT_EQ(w.session().undoName(), "change hues of range");
    expectSameWhenReopened();
}

TEST_F(Parts, LuminosityRange) {
    w.key(Qt::Key_5);
    ASSERT_TRUE(w.settle());
    // Press on the mid grey and widen a little: neither the red nor the blue.
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, w.screen(320, 200));
    w.moveHeld(w.screen(320, 200) + QPoint(20, 0));
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, w.screen(320, 200) + QPoint(20, 0));
    EXPECT_EQ(w.session().undoName(), "set tones on photo");
    EXPECT_EQ(plate(320, 400), 255);
    EXPECT_EQ(plate(100, 400), 0);
    EXPECT_EQ(plate(550, 400), 0);
    auto* strip = w.find<ui::RangeStrip>("tones");
    ASSERT_TRUE(strip);
    const mask::Range before = strip->range();
    const auto x = [&](double tone) { return static_cast<int>(8 + tone / 100 * (strip->width() - 16)); };
    const int from = x(before.points[3]);
    QTest::mousePress(strip, Qt::LeftButton, {}, QPoint(from, 30));
    QMouseEvent move(QEvent::MouseMove, QPointF(from + 15, 30), strip->mapToGlobal(QPointF(from + 15, 30)),
                     Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(strip, &move);
    QTest::mouseRelease(strip, Qt::LeftButton, {}, QPoint(from + 15, 30));
    EXPECT_GT(shape<mask::LuminosityRange>()->values().tones.points[3], before.points[3] + 3);
    EXPECT_EQ(w.session().undoName(), "change tones of range");
    expectSameWhenReopened();
}

TEST_F(Parts, OutlineFreehandAndByClicks) {
    w.key(Qt::Key_6);
    w.drag({{100, 100}, {300, 100}, {300, 300}, {100, 300}, {100, 120}});
    EXPECT_EQ(w.session().undoName(), "draw outline");
    EXPECT_EQ(plate(200, 200), 255);
    EXPECT_EQ(plate(400, 200), 0);
    w.session().undo();
    for (const auto& [x, y] : {std::pair{350, 100}, {600, 100}, {600, 400}, {350, 400}}) {
        QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(x, y));
    }
    w.key(Qt::Key_Return);
    ASSERT_EQ(shape<mask::Outline>()->points().size(), 4u);
    EXPECT_EQ(plate(500, 250), 255);
    EXPECT_EQ(plate(200, 250), 0);
    w.drag({{350, 400}, {250, 420}, {150, 440}});  // a corner
    EXPECT_EQ(w.session().undoName(), "move point");
    EXPECT_EQ(plate(290, 410), 255);
    // Clicking that is given up leaves what was there.
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(30, 30));
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(60, 30));
    w.key(Qt::Key_Escape);
    EXPECT_EQ(plate(500, 250), 255);
    expectSameWhenReopened();
}

TEST_F(Parts, MatteFromAPicture) {
    QImage matte(64, 48, QImage::Format_Grayscale8);
    matte.fill(0);
    for (int y = 0; y < 48; ++y) {
        for (int x = 32; x < 64; ++x) matte.setPixel(x, y, qRgb(255, 255, 255));
    }
    const auto path = folder / "matte.png";
    matte.save(QString::fromStdString(path.string()));
    w.key(Qt::Key_7);
    EXPECT_EQ(plate(600, 200), 0) << "this photo has no alpha";
    const auto read = task::readMatte(path);
    ASSERT_TRUE(read) << read.error().message;
    w.session().edit("choose matte", [&](const document::Document& d) {
        return document::withPart(d, w.session().selectedCorrection(), w.session().selectedPart(),
                                  [&](mask::Part& p) { p.shape = *read; });
    });
    EXPECT_EQ(plate(600, 200), 255);
    EXPECT_EQ(plate(40, 200), 0);
    std::filesystem::remove(path);  // the document carries it along
    const QString saved = QString::fromStdString((folder / "parts.dimhem").string());
    w.window.jobs().save(saved);
    ASSERT_TRUE(w.settle());
    Window again;
    ASSERT_TRUE(again.open(saved));
    again.session().setMaskView(render::MaskView::plate);
    ASSERT_TRUE(again.settle());
    EXPECT_EQ(again.shown(600, 200), QColor(Qt::white));
}

TEST_F(Parts, BorrowedMaskFollowsItsLenderAndLoopsAreRefused) {
    w.key(Qt::Key_1);
    const document::Id lender = w.session().selectedCorrection();
    w.session().addCorrection(mask::Mask{}, "second");
    const document::Id borrower = w.session().selectedCorrection();
    w.key(Qt::Key_9);
    ASSERT_TRUE(w.settle());
    auto* from = w.find<QComboBox>("borrow-from");
    ASSERT_TRUE(from);
    const auto choose = [&](document::Id id) {
        auto* box = w.find<QComboBox>("borrow-from");
        const int index = box->findData(QVariant::fromValue(id));
        box->setCurrentIndex(index);
        Q_EMIT box->activated(index);
    };
    choose(lender);
    EXPECT_EQ(shape<mask::BorrowedMask>()->from(), lender);
    EXPECT_EQ(plate(320, 240), 0);
    w.session().selectCorrection(lender);
    w.drag({{320, 240}});
    w.session().selectCorrection(borrower);
    EXPECT_EQ(plate(320, 240), 255) << "what is painted there shows here";
    w.key(Qt::Key_F);
    EXPECT_EQ(plate(320, 240), 0);
    EXPECT_EQ(plate(600, 20), 255);
    w.session().selectCorrection(lender);
    w.key(Qt::Key_9);
    ASSERT_TRUE(w.settle());
    choose(borrower);
    EXPECT_TRUE(w.window.message().contains("borrows")) << w.window.message().toStdString();
    EXPECT_EQ(shape<mask::BorrowedMask>()->from(), 0);
    w.session().selectCorrection(borrower);
    ASSERT_TRUE(w.settle());
    expectSameWhenReopened();
}

TEST_F(Parts, GradientLessBrushOverlappedByTonesAndFeathered) {
    w.key(Qt::Key_2);
    w.drag({{320, 60}, {320, 200}, {320, 420}});
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    w.combinePart(1, mask::Combine::subtract);
    w.drag({{320, 100}, {320, 150}});
    EXPECT_EQ(plate(320, 120), 0) << "painted out of the gradient";
    EXPECT_GT(plate(100, 70), 250);
    w.key(Qt::Key_5);
    ASSERT_TRUE(w.settle());
    w.combinePart(2, mask::Combine::overlap);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(550, 200));  // only the light field
    EXPECT_EQ(plate(100, 70), 0);
    EXPECT_GT(plate(550, 70), 250);
    auto* feather = w.find<ui::ValueSlider>("refine-feather");
    ASSERT_TRUE(feather);
    feather->field()->setFocus();
    feather->field()->selectAll();
    QTest::keyClicks(feather->field(), "60");
    QTest::keyClick(feather->field(), Qt::Key_Return);
    const int edge = plate(426, 70);
    EXPECT_GT(edge, 90);
    EXPECT_LT(edge, 165);
    expectSameWhenReopened();
}

TEST_F(Parts, StitchAndChangeViewsShowWhatTheySay) {
    w.key(Qt::Key_6);
    w.drag({{100, 100}, {500, 100}, {500, 350}, {100, 350}, {100, 120}});
    const auto& correction = *w.session().correction();
    w.session().edit("exposure", [&](const document::Document& d) {
        return document::withAdjustment(d, correction.id, correction.adjustments[0].id,
                                        [](document::AdjustmentUse& use) { use.settings.values[0] = 0.5; });
    });
    w.session().setMaskView(render::MaskView::change);
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.shown(600, 400).red(), 128, 1) << "nothing changes out here";
    EXPECT_GT(w.shown(300, 200).red(), 170);
    w.session().setMaskView(render::MaskView::stitch);
    ASSERT_TRUE(w.settle());
    QTest::mouseMove(&w.canvas(), QPoint(5, 5));
    const ui::Gesture noGrips = w.session().begin({.stepName = {}, .hidesGrips = true});  // nothing over the stitches
    const QImage shot = w.canvas().grab().toImage();
    const QColor thread = ui::threadColour(w.session().correction()->threadColour);
    int stitches = 0;
    for (int y = w.screen(0, 150).y(); y < w.screen(0, 300).y(); ++y) {
        for (int x = w.screen(494, 0).x(); x <= w.screen(506, 0).x(); ++x) {
            const QColor c = shot.pixelColor(x, y);
            stitches += std::abs(c.red() - thread.red()) + std::abs(c.green() - thread.green()) +
                            std::abs(c.blue() - thread.blue()) <
                        60;
        }
    }
    EXPECT_GT(stitches, 40) << "along the right edge";
}

TEST_F(Parts, PartsAndMasksAreCopiedToOtherCorrections) {
    w.key(Qt::Key_3);
    const document::Id first = w.session().selectedCorrection();
    const mask::PartId part = w.session().selectedPart();
    w.session().addCorrection(mask::Mask{}, "second");
    const document::Id second = w.session().selectedCorrection();
    const auto copied = document::withCopyOfPart(*w.session().document(), first, part, second);
    EXPECT_EQ(document::findCorrection(*copied.document, second)->mask.parts.size(), 1u);
    EXPECT_NE(document::findCorrection(*copied.document, second)->mask.parts[0]->id, part);
    const auto masked = document::withCopyOfMask(*copied.document, first, second);
    EXPECT_EQ(document::findCorrection(*masked, second)->mask.parts.size(), 1u);
    EXPECT_EQ(document::findCorrection(*masked, first)->mask.parts[0]->id, part);
}

// An oval for one tone only: three fields lie under it, one of them is covered.
TEST_F(Parts, APartIsKeptToARangeOfItsOwn) {
    w.key(Qt::Key_3);
    w.session().edit("lay oval", [&](const document::Document& d) {
        return document::withPart(
            d, w.session().selectedCorrection(), w.session().selectedPart(), [](mask::Part& part) {
                part.shape = std::make_shared<mask::RadialGradient>(mask::Oval{{320, 240}, 300, 220, 0, 20});
            });
    });
    ASSERT_TRUE(w.settle());
    EXPECT_GT(plate(300, 240), 200);
    auto* kinds = w.find<QComboBox>("limit-kind");
    ASSERT_TRUE(kinds);
    const int steps = w.session().stepNames().size();
    const int tones = kinds->findData("luminosity-range");
    kinds->setCurrentIndex(tones);
    Q_EMIT kinds->activated(tones);
    ASSERT_TRUE(w.session().part()->limit);
    EXPECT_EQ(w.session().stepNames().size(), steps + 1);
    EXPECT_TRUE(w.session().worksOnLimit());
    // A press on the photo sets the range; the oval stays as it is.
    const mask::Oval oval = shape<mask::RadialGradient>()->oval();
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(300, 240));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(shape<mask::RadialGradient>()->oval().centre.x, oval.centre.x);
    EXPECT_GT(plate(300, 240), 200) << "the grey";
    EXPECT_LT(plate(150, 240), 10) << "the dark red";
    EXPECT_LT(plate(480, 240), 10) << "the light blue";
    // Ctrl takes nothing away beside it.
    w.drag({{480, 240}, {481, 240}}, Qt::ControlModifier);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().correction()->mask.parts.size(), 1u);
    EXPECT_GT(plate(480, 240), 200);
    expectSameWhenReopened();
    // Esc goes back to the oval, which is moved by its middle.
    w.key(Qt::Key_Escape);
    EXPECT_FALSE(w.session().worksOnLimit());
    w.drag({{320, 240}, {330, 245}, {340, 250}});
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().centre.x, 340, 2);
    // Freed, it covers all again; undone, it is kept to the range.
    kinds = w.find<QComboBox>("limit-kind");
    kinds->setCurrentIndex(0);
    Q_EMIT kinds->activated(0);
    EXPECT_FALSE(w.session().part()->limit);
    EXPECT_GT(plate(250, 240), 200);
    w.session().undo();
    EXPECT_TRUE(w.session().part()->limit);
}

TEST_F(Parts, WhatIsSolvedHasNoLimit) {
    w.key(Qt::Key_3);
    w.drag({{320, 240}, {400, 300}});
    w.session().addPart(mask::Brush::fineDetail);
    QApplication::processEvents();
    EXPECT_FALSE(w.find<QComboBox>("limit-kind"));
}

}  // namespace dimhem::tests
