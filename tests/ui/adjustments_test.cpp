// The adjustments in the window, used as a person uses them.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QScrollArea>
#include <QStandardPaths>
#include <algorithm>

#include "core/adjust/colour_balance.h"
#include "core/adjust/haze.h"
#include "core/adjust/hue_bands.h"
#include "core/adjust/ink_table.h"
#include "core/adjust/match_area.h"
#include "core/adjust/noise.h"
#include "core/adjust/registry.h"
#include "core/adjust/shadow_lift.h"
#include "core/adjust/spill_suppression.h"
#include "core/adjust/tone_curve.h"
#include "core/adjust/veil.h"
#include "core/colour/hsl.h"
#include "core/colour/srgb.h"
#include "core/document/edits.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/outline.h"
#include "tests/ui/window.h"
#include "ui/control/curve_field.h"
#include "ui/control/drag_field.h"
#include "ui/control/entry_field.h"
#include "ui/control/range_strip.h"
#include "ui/control/value_slider.h"
#include "ui/panel/colour_meter.h"
#include "ui/panel/starters_dialog.h"
#include "ui/panel/starters_menu.h"
#include "ui/panel/what_panel.h"
#include "ui/session/starter_set.h"

namespace dimhem::tests {

namespace {

// Four plain quarters: red above left, orange above right, green below left, grey below right.
constexpr QRgb quarters[] = {qRgb(170, 70, 60), qRgb(200, 150, 90), qRgb(60, 150, 80), qRgb(120, 120, 120)};

// Grey without noise on the left half, with noise on the right.
QString noisyOnTheRight(const TempFolder& folder) {
    QImage noisy(640, 480, QImage::Format_RGB32);
    for (int y = 0; y < 480; ++y) {
        for (int x = 0; x < 640; ++x) {
            const int grey = 120 + (x < 320 ? 0 : std::rand() % 21 - 10);
            noisy.setPixel(x, y, qRgb(grey, grey, grey));
        }
    }
    const QString path = QString::fromStdString((folder / "noisy.png").string());
    noisy.save(path);
    return path;
}

class Adjustments : public WindowTest {
protected:
    void SetUp() override {
        QImage image(640, 480, QImage::Format_RGB32);
        for (int y = 0; y < 480; ++y) {
            for (int x = 0; x < 640; ++x) image.setPixel(x, y, quarters[(x >= 320) + 2 * (y >= 240)]);
        }
        const QString path = QString::fromStdString((folder / "quarters.png").string());
        image.save(path);
        ASSERT_TRUE(w.open(path));
    }

    // A correction everywhere with one adjustment of that kind.
    void begin(const adjust::AdjustmentKind& kind) {
        mask::Mask everywhere;
        everywhere.startsEverywhere = true;
        w.session().addCorrection(everywhere, "new");
        ASSERT_TRUE(w.session().correction());
        ASSERT_FALSE(w.session().correction()->adjustments.empty());
        const document::Id light = w.session().correction()->adjustments[0].id, id = w.session().selectedCorrection();
        w.session().edit("add", [&](const document::Document& d) {
            return document::withNewAdjustment(*document::withoutAdjustment(d, id, light), id, kind).document;
        });
        ASSERT_TRUE(w.settle());
        ASSERT_FALSE(w.session().correction()->adjustments.empty());
    }
    const adjust::Settings& settings() { return w.session().correction()->adjustments[0].settings; }
    void click(const QString& name) {
        auto* button = w.find<QAbstractButton>(name);
        ASSERT_TRUE(button) << name.toStdString();
        QTest::mouseClick(button, Qt::LeftButton);
        QApplication::processEvents();
    }
    static QPoint inCurve(const ui::CurveField& field, double in, double out) {
        constexpr double side = 7;
        return QPointF(side + in / 100 * (field.width() - 2 * side),
                       field.height() - side - out / 100 * (field.height() - 2 * side))
            .toPoint();
    }
};

}  // namespace

TEST_F(Adjustments, TheCurveTakesPointsAndGivesThemUp) {
    begin(adjust::toneCurve);
    auto* field = w.find<ui::CurveField>("curve");
    ASSERT_TRUE(field);
    const int before = w.shown(600, 450).red();
    QTest::mousePress(field, Qt::LeftButton, {}, inCurve(*field, 50, 50));
    QTest::mouseMove(field, inCurve(*field, 50, 70));
    QTest::mouseRelease(field, Qt::LeftButton, {}, inCurve(*field, 50, 70));
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(settings().tables[0].size(), 6u);
    EXPECT_NEAR(settings().tables[0][3], 70, 2);
    EXPECT_GT(w.shown(600, 450).red(), before + 25);
    EXPECT_EQ(w.session().undoName(), "Tone curve: move point");
    field = w.find<ui::CurveField>("curve");
    field->setFocus();
    QTest::keyClick(field, Qt::Key_Tab);
    QTest::keyClick(field, Qt::Key_Delete);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(adjust::isNeutral(adjust::toneCurve, settings()));
    EXPECT_EQ(w.shown(600, 450).red(), before);
}

TEST_F(Adjustments, TheCurveIsBentOnThePhotoItself) {
    begin(adjust::toneCurve);
    click("bend-on-photo");
    ASSERT_TRUE(w.session().asked());
    const QPoint grey = w.screen(500, 380);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, grey);
    w.moveHeld(grey - QPoint(0, 60));
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, grey - QPoint(0, 60));
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(settings().tables[0].size(), 6u);
    EXPECT_NEAR(settings().tables[0][2], 100 * 120 / 255.0, 1) << "the tone pressed on";
    EXPECT_NEAR(settings().tables[0][3], 100 * 120 / 255.0 + 15, 1.5);
    EXPECT_NEAR(w.shown(500, 380).red(), 120 + 0.15 * 255, 4);
    EXPECT_TRUE(w.session().asked()) << "for the next tone";
    w.key(Qt::Key_Escape);
    EXPECT_FALSE(w.session().asked());
}

TEST_F(Adjustments, TheToneUnderThePointerComesFromTheSession) {
    begin(adjust::toneCurve);
    QTest::mouseMove(&w.canvas(), w.screen(500, 380));
    ASSERT_TRUE(w.settle());
    QApplication::processEvents();
    ASSERT_TRUE(w.session().pointer());
    EXPECT_NEAR(w.session().pointer()->arriving.r, 120 / 255.0, 0.01);
}

TEST_F(Adjustments, ABandIsShownGlaringlyWhileItsPointIsDragged) {
    begin(adjust::hueBands);
    auto* strip = w.find<ui::RangeStrip>("band-hues");
    ASSERT_TRUE(strip);
    const QColor red = w.shown(100, 100), grey = w.shown(500, 380);
    const double perDegree = (strip->width() - 16) / 360.0;
    const QPoint inner(static_cast<int>(8 + (60 + 20) * perDegree), strip->height() - 8);
    QTest::mousePress(strip, Qt::LeftButton, {}, inner);
    QTest::mouseMove(strip, inner + QPoint(6, 0));
    ASSERT_TRUE(w.settle());
    EXPECT_GT(w.shown(100, 100).blue(), red.blue() + 40) << "turned to its opposite";
    EXPECT_EQ(w.shown(500, 380), grey);
    QTest::mouseRelease(strip, Qt::LeftButton, {}, inner + QPoint(6, 0));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(100, 100), red) << "the band itself does nothing yet";
    EXPECT_GT(settings().tables[0][2], 24);
    EXPECT_EQ(w.session().undoName(), "Hue bands: change band");
}

TEST_F(Adjustments, ABandIsTakenFromThePhoto) {
    begin(adjust::hueBands);
    click("pick-band");
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(100, 380));
    ASSERT_TRUE(w.settle());
    const double green = colour::hslHueDeg({60, 150, 80});
    EXPECT_NEAR((settings().tables[0][1] + settings().tables[0][2]) / 2, green, 0.5);
    EXPECT_NEAR(settings().tables[0][2] - settings().tables[0][1], 40, 0.1) << "as wide as it was";
    click("pick-band");
    w.drag({{60, 60}, {200, 200}});
    ASSERT_TRUE(w.settle());
    EXPECT_LT(settings().tables[0][2] - settings().tables[0][1], 10) << "as wide as the hues of the area";
    click("pick-band");
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(500, 380));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().undoName(), "Hue bands: pick band on the photo") << "a grey has no hue: nothing new";
}

TEST_F(Adjustments, BandsComeAndGo) {
    begin(adjust::hueBands);
    click("add-band");
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(settings().tables[0].size(), 2u * adjust::bandColumns);
    EXPECT_EQ(adjust::hueBands.invalidReason(settings()), nullptr);
    click("remove-band");
    ASSERT_TRUE(w.settle());
    click("remove-band");
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(settings().tables[0].empty());
    for (int i = 0; i < 8; ++i) {
        click("add-band");
        ASSERT_TRUE(w.settle());
        EXPECT_EQ(adjust::hueBands.invalidReason(settings()), nullptr) << i;
    }
    EXPECT_EQ(settings().tables[0].size(), 8u * adjust::bandColumns);
}

TEST_F(Adjustments, InkCellsAreDraggedTypedAndStepped) {
    begin(adjust::inkTable);
    const auto value = [&](std::size_t family, std::size_t ink) {
        return settings().values[adjust::inkParam(family, ink)];
    };
    auto* cell = w.find<ui::DragField>("neutrals-black");
    ASSERT_TRUE(cell);
    const int before = w.shown(500, 380).red();
    QTest::mousePress(cell, Qt::LeftButton, {}, cell->rect().center());
    QTest::mouseMove(cell, cell->rect().center() + QPoint(33, 0));
    QTest::mouseRelease(cell, Qt::LeftButton, {}, cell->rect().center() + QPoint(33, 0));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(value(7, 3), 30);
    EXPECT_LT(w.shown(500, 380).red(), before - 8);
    cell = w.find<ui::DragField>("whites-yellow");
    cell->setFocus();
    QTest::keyClicks(cell, "-");
    QTest::keyClicks(QApplication::focusWidget(), "25");
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(value(6, 2), -25);
    EXPECT_EQ(w.session().undoName(), "Ink table: Whites: yellow");
    cell->setFocus();
    QTest::keyClick(cell, Qt::Key_Up, Qt::ShiftModifier);
    EXPECT_EQ(cell->value(), -15);
    QTest::mouseDClick(cell, Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(value(6, 2), 0);
}

TEST_F(Adjustments, AnAreaIsMatchedToAnother) {
    begin(adjust::matchArea);
    auto* words = w.find<QLabel>("match-difference");
    ASSERT_TRUE(words);
    EXPECT_FALSE(words->text().contains("CIEDE2000"));
    click("mark-reference");
    w.drag({{400, 300}, {600, 440}});
    const auto measured = [&] { return adjust::measuredIn(settings(), adjust::MatchTable::reference).has_value(); };
    ASSERT_TRUE(w.waitFor(measured));
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(adjust::measuredIn(settings(), adjust::MatchTable::reference)->mean[1], 0, 0.1) << "grey";
    EXPECT_EQ(settings().values[0], 70);
    words = w.find<QLabel>("match-difference");
    ASSERT_TRUE(w.waitFor([&] { return words->text().contains("CIEDE2000"); })) << words->text().toStdString();
    const QColor now = w.shown(100, 100);
    EXPECT_LT(now.red() - now.blue(), 80) << "nearer to grey than " << 170 - 60;
    EXPECT_FALSE(words->text().contains("measure it again"));
    // Another mask has other colours under it.
    w.session().edit("add a gradient", [&](const document::Document& d) {
        return document::withNewPart(d, w.session().selectedCorrection(),
                                     mask::LinearGradient::kindInfo.makeFor({640, 480}), mask::Combine::overlap)
            .document;
    });
    ASSERT_TRUE(w.settle());
    words = w.find<QLabel>("match-difference");
    EXPECT_TRUE(w.waitFor([&] { return words->text().contains("measure it again"); })) << words->text().toStdString();
    click("measure-again");
    ASSERT_TRUE(w.settle());
    words = w.find<QLabel>("match-difference");
    EXPECT_TRUE(w.waitFor([&] { return !words->text().contains("measure it again"); })) << words->text().toStdString();
}

TEST_F(Adjustments, NoiseIsMeasuredWithoutAStepOfItsOwn) {
    ASSERT_TRUE(w.open(noisyOnTheRight(folder)));
    begin(adjust::noise);
    const auto isMeasured = [&] { return !adjust::lacksMeasuring(adjust::noise, settings()); };
    ASSERT_TRUE(w.waitFor(isMeasured));
    auto* words = w.find<QLabel>("measured-noise");
    ASSERT_TRUE(w.waitFor([&] { return words->text().contains("levels of 255"); })) << words->text().toStdString();
    const QString step = w.session().undoName();
    // Taken back and done again it is still measured, and an undo takes the adjustment back, not the measuring.
    w.session().undo();
    w.session().redo();
    EXPECT_TRUE(isMeasured());
    EXPECT_EQ(w.session().undoName(), step);
    const adjust::Settings whole = settings();
    click("measure-here");
    w.drag({{350, 270}, {600, 440}});
    ASSERT_TRUE(w.waitFor([&] { return w.session().undoName() != step; }));
    ASSERT_TRUE(w.settle());
    w.session().undo();
    EXPECT_EQ(settings(), whole);
}

TEST_F(Adjustments, WhatIsMeasuredWhileItIsSavedOrAfterwardsLeavesItSaved) {
    begin(adjust::haze);
    const auto isMeasured = [&] { return !adjust::lacksMeasuring(adjust::haze, settings()); };
    const auto forget = [&](double strength) {
        w.session().edit("forget", [&](const document::Document& d) {
            const document::Correction& c = *d.corrections[0];
            return document::withAdjustment(d, c.id, c.adjustments[0].id, [&](document::AdjustmentUse& use) {
                use.settings.values[0] = strength;
                for (std::size_t i = 0; i < use.settings.tables.size(); ++i) {
                    if (use.kind->tables[i].measured) use.settings.tables[i].clear();
                }
            });
        });
        ASSERT_FALSE(isMeasured());
    };
    forget(31);
    const document::DocumentPtr written = w.session().beginSaving();
    ASSERT_TRUE(w.waitFor(isMeasured)) << "meanwhile";
    w.session().markSaved(written, folder / "a.dimhem", {});
    EXPECT_TRUE(w.session().isSaved());
    forget(32);
    EXPECT_FALSE(w.session().isSaved());
    w.session().markSaved(w.session().beginSaving(), folder / "a.dimhem", {});
    ASSERT_TRUE(w.waitFor(isMeasured)) << "afterwards";
    EXPECT_TRUE(w.session().isSaved());
    // The same as it happens by itself, whichever comes first.
    forget(33);
    const QString place = QString::fromStdString((folder / "b.dimhem").string());
    w.window.jobs().save(place);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.waitFor(isMeasured));
    EXPECT_TRUE(w.session().isSaved());
    EXPECT_TRUE(QFile::exists(place));
}

TEST_F(Adjustments, HazeIsFoundPickedAndMarked) {
    begin(adjust::haze);
    const auto isMeasured = [&] { return !adjust::lacksMeasuring(adjust::haze, settings()); };
    ASSERT_TRUE(w.waitFor(isMeasured));
    const auto press = [&](const QString& button, double x, double y) {
        click(button);
        w.drag({{x, y}});
        ASSERT_TRUE(w.settle());
        ASSERT_TRUE(w.waitFor(isMeasured));
    };
    press("pick-air", 480, 120);
    EXPECT_GT(adjust::airLightOf(settings())->r, adjust::airLightOf(settings())->b) << "orange";
    press("mark-near", 100, 400);
    press("mark-far", 500, 100);
    EXPECT_EQ(settings().tables[static_cast<std::size_t>(adjust::HazeTable::near)].size(), 2U);
    EXPECT_EQ(settings().tables[static_cast<std::size_t>(adjust::HazeTable::far)].size(), 3U);
    click("mark-distance");
    w.drag({{320, 460}, {320, 40}});
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.waitFor(isMeasured));
    EXPECT_EQ(settings().tables[static_cast<std::size_t>(adjust::HazeTable::depths)].size(), 12U);
    const auto air = settings().tables[static_cast<std::size_t>(adjust::HazeTable::colour)];
    click("no-marks");
    ASSERT_TRUE(w.waitFor(isMeasured));
    EXPECT_TRUE(settings().tables[static_cast<std::size_t>(adjust::HazeTable::near)].empty());
    click("find-air");
    ASSERT_TRUE(w.waitFor(isMeasured));
    w.session().undo();
    EXPECT_EQ(settings().tables[static_cast<std::size_t>(adjust::HazeTable::colour)], air);
}

TEST_F(Adjustments, AShadowsGainsAreToldByTwoPlaces) {
    begin(adjust::shadowLift);
    click("gains-from-border");
    ASSERT_TRUE(w.waitFor([&] { return w.window.message().contains("border"); })) << "everywhere has none";
    click("gains-from-places");
    w.drag({{100, 100}, {500, 100}});  // from the red quarter to the orange one
    ASSERT_TRUE(w.waitFor([&] { return settings().values[0] == 100; }));
    const auto gain = [](int dark, int light) {
        return colour::linearFromEncoded(light / 255.0) / colour::linearFromEncoded(dark / 255.0);
    };
    const colour::LinearRgb gains = adjust::gainsOf(settings());
    EXPECT_NEAR(gains.r, gain(170, 200), 0.02);
    EXPECT_NEAR(gains.g, gain(70, 150), 0.05);
    EXPECT_NEAR(gains.b, gain(60, 90), 0.02);
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.shown(100, 100).red(), 200, 1);
    EXPECT_NEAR(w.shown(100, 100).green(), 150, 1);
}

TEST_F(Adjustments, AVeilsLightIsPickedWhereSomethingWithoutOneIsNear) {
    begin(adjust::veil);
    click("pick-veil");
    w.drag({{100, 100}});
    ASSERT_TRUE(w.waitFor([&] { return w.window.message().contains("no veil"); })) << "all is veiled";
    // Over the left half, 60 % dense; beside it the red quarter goes on as the orange one.
    w.session().edit("mask", [&](const document::Document& d) {
        const document::DocumentPtr nowhere = document::withCorrection(
            d, w.session().selectedCorrection(), [](document::Correction& c) { c.mask.startsEverywhere = false; });
        return document::withNewPart(*nowhere, w.session().selectedCorrection(),
                                     std::make_shared<mask::LinearGradient>(base::Point{300, 0}, base::Point{310, 0}),
                                     mask::Combine::add)
            .document;
    });
    ASSERT_TRUE(w.settle());
    click("pick-veil");
    w.drag({{100, 100}});
    ASSERT_TRUE(w.waitFor([&] { return settings().values[0] == 100; }));
    ASSERT_TRUE(w.settle());
    const colour::LinearRgb veil = adjust::veilColourOf(settings());
    EXPECT_NEAR(veil.r, colour::linearFromEncoded(170 / 255.0), 0.01) << "as dense as can be: what is seen";
    EXPECT_TRUE(w.find<QLabel>("noise-gain")->text().contains("33.3"))
        << w.find<QLabel>("noise-gain")->text().toStdString();
}

// At the window's usual size nothing lies beyond the panel's edge.
TEST_F(Adjustments, EveryEditorFitsThePanel) {
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        begin(*kind);
        const auto areas = w.window.findChild<ui::WhatPanel*>()->findChildren<QScrollArea*>();
        ASSERT_FALSE(areas.isEmpty());
        for (const QScrollArea* area : areas) EXPECT_LE(area->widget()->width(), area->viewport()->width()) << kind->id;
        while (w.session().canUndo()) w.session().undo();
    }
}

TEST_F(Adjustments, TheMixingLawIsChosen) {
    begin(adjust::shadowLift);
    auto* laws = w.find<QComboBox>("mixing");
    ASSERT_TRUE(laws);
    ASSERT_EQ(laws->count(), 3);
    laws->setFocus();
    QTest::keyClick(laws, Qt::Key_End);
    EXPECT_EQ(w.session().correction()->mixing, kernel::MixingLaw::shadow);
    EXPECT_EQ(w.session().undoName(), "change mixing");
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.find<QComboBox>("mixing")->currentIndex(), 0);
}

TEST_F(Adjustments, TheScreenIsPickedOrFound) {
    begin(adjust::spillSuppression);
    click("pick-screen");
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, w.screen(100, 380));
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(settings().values.back(), adjust::screenHueOf({60, 150, 80}), 1);
    EXPECT_EQ(settings().values[0], 100);
    const QColor green = w.shown(100, 380);
    EXPECT_LT(green.green() - (green.red() + green.blue()) / 2, 30);
    click("find-screen");
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(settings().values.back(), adjust::screenHueOf({170, 70, 60}), 4) << "the strongest colour here";
}

TEST_F(Adjustments, AnAreaThatShouldBeNeutralSetsTheColourBalance) {
    begin(adjust::colourBalance);
    const auto castOf = [](const QColor& c) {
        return std::max({c.red(), c.green(), c.blue()}) - std::min({c.red(), c.green(), c.blue()});
    };
    const int before = castOf(w.shown(500, 100));
    auto* leave = w.find<ui::ValueSlider>("leave");
    ASSERT_TRUE(leave);
    EXPECT_EQ(leave->value(), 10);
    click("pick-neutral");
    w.drag({{400, 60}, {600, 200}});
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(castOf(w.shown(500, 100)), 0.1 * before, 0.08 * before) << "a touch is left of " << before;
    EXPECT_EQ(w.session().undoName(), "pick a neutral");
}

TEST_F(Adjustments, OneCanActEarlier) {
    begin(adjust::inkTable);
    w.session().edit("add", [&](const document::Document& d) {
        return document::withNewAdjustment(d, w.session().selectedCorrection(), adjust::spillSuppression).document;
    });
    ASSERT_TRUE(w.settle());
    const document::Id second = w.session().correction()->adjustments[1].id;
    click(QString("earlier-%1").arg(second));
    EXPECT_EQ(w.session().correction()->adjustments[0].id, second);
    EXPECT_EQ(w.session().undoName(), "move earlier: Spill suppression");
}

TEST_F(Adjustments, TheMeterSaysWhenItHasGoneTooFar) {
    task::MaskedColours colours;
    colours.before.lab.mean = {60, 2, 14};
    colours.after.lab.mean = {64, 1, 5};
    EXPECT_TRUE(ui::meterWords(colours).contains("14.1"));
    EXPECT_FALSE(ui::meterWords(colours).contains("past"));
    colours.after.lab.mean = {64, -1, -4};
    EXPECT_TRUE(ui::meterWords(colours).contains("past neutral"));
    colours.after.lab.mean = {64, 0.2, 0.3};
    EXPECT_TRUE(ui::meterWords(colours).contains("no colour is left"));
    colours.newlyPct[static_cast<std::size_t>(check::Fault::clipped)] = 3;
    EXPECT_TRUE(ui::meterWords(colours).contains("3.0 % newly clipped"));
}

TEST_F(Adjustments, TheBackdropShowsThroughACutOut) {
    QImage cut(200, 100, QImage::Format_ARGB32);
    cut.fill(QColor(0, 0, 0, 0));
    for (int x = 0; x < 100; ++x) {
        for (int y = 0; y < 100; ++y) cut.setPixelColor(x, y, QColor(200, 100, 50));
    }
    const QString path = QString::fromStdString((folder / "cut.png").string());
    cut.save(path);
    w.session().markSaved(w.session().document(), folder / "x.dimhem", {});
    ASSERT_TRUE(w.open(path));
    w.session().edit("backdrop colour", [&](const document::Document& d) {
        return document::withBackdrop(d, colour::EncodedRgb{0, 0.5, 1});
    });
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.shown(150, 50).blue(), 255, 2);
    EXPECT_NEAR(w.shown(150, 50).red(), 0, 2);
    EXPECT_NEAR(w.shown(50, 50).red(), 200, 2);
    w.session().selectCorrection(0);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.find<QWidget>("backdrop")) << "offered with the photo selected";
}

class Starters : public Adjustments {
protected:
    void SetUp() override {
        qputenv("XDG_DATA_HOME", (folder / "data").string().c_str());
        Adjustments::SetUp();
    }
    void TearDown() override { qunsetenv("XDG_DATA_HOME"); }
    // Chosen from the sheet as it would be shown now, or only looked for there.
    bool offers(const QString& name, bool begins = false) {
        w.key(Qt::Key_Y);
        auto* list = w.find<QListWidget>("choices");
        const auto found = list->findItems(name, Qt::MatchExactly);
        if (found.size() == 1 && begins) {
            QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(found[0]).center());
        } else {
            list->window()->close();
        }
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        return found.size() == 1;
    }
    // The entry of the menu of starters, as it would be shown now.
    QAction* entry(const QString& text) {
        auto* menu = w.find<ui::StartersMenu>("starters");
        Q_EMIT menu->aboutToShow();
        for (QAction* action : menu->actions()) {
            if (action->text() == text) return action;
        }
        return nullptr;
    }
};

TEST_F(Starters, BeginACorrectionWithBrushAndParts) {
    ASSERT_TRUE(offers("Green bounce", true));
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().correction());
    EXPECT_EQ(w.session().correction()->name, "Green bounce");
    EXPECT_EQ(w.session().correction()->adjustments[0].kind, &adjust::spillSuppression);
    EXPECT_TRUE(w.session().part()) << "ready to paint";
    EXPECT_EQ(w.session().brush().strengthPct, 10);
    EXPECT_NEAR(w.session().brush().sizePx, 0.04 * 640, 0.01);
    EXPECT_EQ(w.session().undoName(), "starter Green bounce");
}

TEST_F(Starters, YourOwnIsSavedRenamedDeletedAndPutBack) {
    ASSERT_TRUE(offers("Green bounce", true));
    ASSERT_TRUE(w.settle());
    w.session().edit("rename", [&](const document::Document& d) {
        return document::withCorrection(d, w.session().selectedCorrection(),
                                        [](document::Correction& c) { c.name = "Lawn light"; });
    });
    entry("Save the selected correction as a starter")->trigger();
    ASSERT_TRUE(offers("Lawn light"));
    ui::StartersDialog dialog(w.session(), &w.window);
    auto* list = dialog.findChild<QListWidget*>("own-starters");
    const int shipped = static_cast<int>(task::startersIn(ui::shippedStartersFolder()).size());
    ASSERT_EQ(list->count(), 1 + shipped) << "the person's own first";
    list->item(0)->setText("From the lawn");
    QApplication::processEvents();
    EXPECT_TRUE(offers("From the lawn"));
    EXPECT_FALSE(offers("Lawn light"));
    const QString copy = QString::fromStdString((folder / "copy.json").string());
    dialog.exportTo(copy);
    std::function<void()> putBack;
    QObject::connect(&w.session(), &ui::Session::said, &dialog,
                     [&](const ui::Message& message) { putBack = message.action; });
    QTest::mouseClick(dialog.findChild<QPushButton*>("delete-starter"), Qt::LeftButton);
    EXPECT_FALSE(offers("From the lawn"));
    ASSERT_TRUE(putBack);
    EXPECT_EQ(list->count(), shipped);
    EXPECT_FALSE(dialog.findChild<QPushButton*>("delete-starter")->isEnabled()) << "those that come with the program";
    putBack();
    EXPECT_TRUE(offers("From the lawn"));
    EXPECT_EQ(list->count(), 1 + shipped) << "shown again in the list";
    dialog.importFrom(copy);
    EXPECT_EQ(task::startersIn(ui::ownStartersFolder()).size(), 2u);
    QString said;
    QObject::connect(&w.session(), &ui::Session::said, &dialog,
                     [&](const ui::Message& message) { said = message.sentence; });
    dialog.importFrom(QString::fromStdString((folder / "quarters.png").string()));
    EXPECT_TRUE(said.endsWith(".")) << said.toStdString();
}

// Noise on the right half only: measured on the left, then the mask goes to the right.
TEST_F(Adjustments, WhatWasMeasuredUnderAnotherMaskIsMeasuredAgain) {
    ASSERT_TRUE(w.open(noisyOnTheRight(folder)));
    begin(adjust::noise);
    const auto half = [&](double x0, double x1) {
        w.session().edit("half", [&](const document::Document& d) {
            return document::withCorrection(d, w.session().selectedCorrection(), [&](document::Correction& c) {
                c.mask = {};
                c.mask.parts.push_back(std::make_shared<const mask::Part>(
                    mask::Part{777, "half", mask::Combine::add, false, true, 100,
                               std::make_shared<mask::Outline>(
                                   std::vector<base::Point>{{x0, 0}, {x1, 0}, {x1, 480}, {x0, 480}}, 0)}));
            });
        });
    };
    const auto noise = [&] { return adjust::measuredNoise(settings(), 0, adjust::NoisePlane::y)[7]; };
    half(0, 300);
    ASSERT_TRUE(w.waitFor([&] { return !adjust::lacksMeasuring(adjust::noise, settings()); }));
    ASSERT_TRUE(w.settle());
    EXPECT_LT(noise(), 1);
    const int steps = w.session().stepNames().size();
    half(340, 640);
    ASSERT_TRUE(w.waitFor([&] { return noise() > 3; })) << noise();
    EXPECT_EQ(w.session().stepNames().size(), steps + 1) << "no step of its own";
    ASSERT_TRUE(w.settle());
    w.session().undo();
    EXPECT_LT(noise(), 1) << "as it was under that mask";
    EXPECT_TRUE(w.settle());
}

}  // namespace dimhem::tests
