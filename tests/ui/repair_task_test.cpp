// Whole tasks of repair, in the window, on photos of the demo set, judged by what they look like without their faults.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QFile>
#include <QImage>
#include <QLabel>

#include "core/adjust/grain.h"
#include "core/adjust/light.h"
#include "core/adjust/shadow_lift.h"
#include "core/adjust/smooth_fill.h"
#include "core/adjust/veil.h"
#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "core/mask/outline.h"
#include "core/mask/veil_density.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

class RepairTask : public WindowTest {
protected:
    void openDemo(const QString& name) {
        const QString from = QString(DIMHEM_SOURCE_DIR "/demo/") + name + ".jpg";
        const QString to = QString::fromStdString((folder / (name + ".jpg").toStdString()).string());
        ASSERT_TRUE(QFile::copy(from, to));
        ASSERT_TRUE(w.open(to));
        clean_ = QImage(QString(DIMHEM_SOURCE_DIR "/demo/truth/") + name + "-clean.jpg");
        ASSERT_FALSE(clean_.isNull());
    }

    // A correction with a part of a kind and nothing else.
    void beginWith(const mask::ShapeKind& shape) {
        w.session().addCorrection({}, "new");
        const document::Id id = w.session().selectedCorrection(), first = w.session().correction()->adjustments[0].id;
        w.session().edit("take away",
                         [&](const document::Document& d) { return document::withoutAdjustment(d, id, first); });
        w.session().addPart(shape);
        ASSERT_TRUE(w.settle());
    }

    void add(const adjust::AdjustmentKind& kind) {
        const document::Id id = w.session().selectedCorrection();
        w.session().edit(
            "add", [&](const document::Document& d) { return document::withNewAdjustment(d, id, kind).document; });
        ASSERT_TRUE(w.waitFor([&] {
            const auto& uses = w.session().correction()->adjustments;
            return !adjust::lacksMeasuring(*uses.back().kind, uses.back().settings);
        }));
        ASSERT_TRUE(w.settle());
    }

    void set(const QString& slider, const QString& value) {
        auto* found = w.find<ui::ValueSlider>(slider);
        ASSERT_TRUE(found) << slider.toStdString();
        found->field()->setFocus();
        found->field()->selectAll();
        QTest::keyClicks(found->field(), value);
        QTest::keyClick(found->field(), Qt::Key_Return);
        ASSERT_TRUE(w.settle());
    }

    void press(const QString& button) {
        auto* found = w.find<QPushButton>(button);
        ASSERT_TRUE(found && found->isEnabled()) << button.toStdString();
        found->click();
        ASSERT_TRUE(w.waitFor([&] { return !w.session().isReading(); }));
        ASSERT_TRUE(w.settle());
    }

    void bring(const QString& label, double sizePx, double softness = 30, double strength = 100) {
        auto* kinds = w.find<QComboBox>("brings");
        ASSERT_TRUE(kinds);
        kinds->setCurrentText(label);
        Q_EMIT kinds->activated(kinds->currentIndex());
        mask::BrushSettings brush = w.session().brush();
        brush.sizePx = sizePx;
        brush.softnessPct = softness;
        brush.strengthPct = strength;
        w.session().setBrush(brush);
    }

    void pick(double x, double y) {
        QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::AltModifier, w.screen(x, y));
        ASSERT_TRUE(w.waitFor([&] { return !w.session().isReading(); }));
        ASSERT_TRUE(w.settle());
    }

    // The mean difference of three channels from the clean picture, over a rectangle of the photo.
    double off(int x0, int y0, int x1, int y1) {
        double sum = 0, count = 0;
        for (int y = y0; y < y1; y += 5) {
            for (int x = x0; x < x1; x += 5) {
                const QColor a = w.shown(x, y), b = clean_.pixelColor(x, y);
                sum += std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) + std::abs(a.blue() - b.blue());
                count += 3;
            }
        }
        return sum / count;
    }

    QImage clean_;
};
using LongRepairTask = RepairTask;

}  // namespace

TEST_F(LongRepairTask, AnOldPrintIsMendedWholly) {
    openDemo("boathouse-print");
    const double leakBefore = off(1700, 1050, 2300, 1500), foldBefore = off(300, 743, 800, 753),
                 plainBefore = off(100, 900, 700, 1400);
    // The leak: two presses tell its density, and one button its light.
    w.key(Qt::Key_V);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(shape<mask::VeilDensity>());
    w.drag({{2024, 1500}});
    ASSERT_TRUE(w.waitFor([&] { return shape<mask::VeilDensity>()->values().dense.has_value(); }));
    pick(500, 1000);
    ASSERT_TRUE(shape<mask::VeilDensity>()->direction());
    add(adjust::veil);
    press("find-veil");
    EXPECT_GT(w.session().correction()->adjustments.back().settings.values[0], 0);
    // The fade.
    w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "fade");
    ASSERT_TRUE(w.settle());
    set("black-point", "19");
    set("white-point", "85");
    // The folds, and a spot.
    beginWith(mask::Brush::kindInfo);
    bring("Line", 24);
    w.drag({{865, 2}});
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ShiftModifier, w.screen(848, 1590));
    w.drag({{2, 752}});
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ShiftModifier, w.screen(2390, 731));
    bring("Heal", 40);
    w.drag({{700, 1200}});
    ASSERT_TRUE(w.settle());
    EXPECT_LT(off(1700, 1050, 2300, 1500), 0.5 * leakBefore) << "of " << leakBefore;
    EXPECT_LT(off(300, 743, 800, 753), 0.6 * foldBefore) << "texture is another, of " << foldBefore;
    EXPECT_LT(off(100, 900, 700, 1400), 0.6 * plainBefore) << "of " << plainBefore;

    // Saved, reopened, exported: the same.
    const QString saved = QString::fromStdString((folder / "print.dimhem").string());
    w.window.jobs().save(saved);
    ASSERT_TRUE(w.settle());
    Window again;
    ASSERT_TRUE(again.open(saved));
    for (const auto& [x, y] : {std::pair{860, 400}, {1900, 1200}, {700, 1200}, {500, 748}})
        EXPECT_EQ(again.shown(x, y), w.shown(x, y)) << x << " " << y;
}

TEST_F(RepairTask, AStainedKeyIsWashedFromItsNeighbour) {
    openDemo("harmonium");
    const double before = off(1780, 790, 1880, 850);
    beginWith(mask::Brush::kindInfo);
    bring("Colour", 90, 60, 45);
    pick(1680, 930);  // the clean key beside
    ASSERT_EQ(w.session().bringing().colours.size(), 1);
    for (int stroke = 0; stroke < 4; ++stroke) w.drag({{1690, 720}, {1800, 790}, {1880, 850}, {1930, 890}});
    ASSERT_TRUE(w.settle());
    set("keep-texture", "100");
    EXPECT_LT(off(1780, 790, 1880, 850), 0.6 * before) << "of " << before;
}

TEST_F(RepairTask, AGlareIsFilledUnderGrain) {
    openDemo("chart-table");
    const double before = off(175, 400, 215, 460);
    beginWith(mask::Brush::kindInfo);
    mask::BrushSettings brush = w.session().brush();
    brush.sizePx = 90;
    brush.softnessPct = 30;
    w.session().setBrush(brush);
    w.drag({{186, 405}, {192, 440}, {196, 465}});
    add(adjust::smoothFill);
    add(adjust::grain);
    set("amount", "100");
    ASSERT_TRUE(w.settle());
    EXPECT_LT(off(175, 400, 215, 460), 0.4 * before) << "of " << before;
}

TEST_F(LongRepairTask, AWindowsShadowIsLiftedWithoutASeam) {
    openDemo("chart-table");
    // Along the lower edge of the first bar on the wood: inside, on the border and beside.
    const auto edge = [&] { return off(700, 110, 1000, 235); };
    const double before = edge();
    beginWith(mask::Outline::kindInfo);
    const document::Id id = w.session().selectedCorrection();
    const std::vector<base::Point> bar{{344.6, 0.9}, {595.1, -0.3}, {1500, 322},     {2400, 625},
                                       {2400, 780},  {1802, 543},   {1199.6, 325.6}, {600.1, 97.7}};
    w.session().edit("outline", [&](const document::Document& d) {
        return document::withPart(d, id, w.session().selectedPart(),
                                  [&](mask::Part& part) { part.shape = std::make_shared<mask::Outline>(bar, 2.5, 0); });
    });
    add(adjust::shadowLift);
    press("gains-from-border");
    ASSERT_TRUE(w.settle());
    const auto& values = w.session().correction()->adjustments.back().settings.values;
    EXPECT_NEAR(values[1], 1.57, 0.15) << "the gain of red";
    set("amount", "100");
    EXPECT_LT(edge(), 0.3 * before) << "of " << before;
}

}  // namespace dimhem::tests
