// Tasks of the trade with the corrections that look round each pixel, in the window, on photos of the demo set.
#include <gtest/gtest.h>

#include <QFile>
#include <QLabel>

#include "core/adjust/banding.h"
#include "core/adjust/detail.h"
#include "core/adjust/glow.h"
#include "core/adjust/haze.h"
#include "core/adjust/noise.h"
#include "core/document/edits.h"
#include "core/mask/haze_depth.h"
#include "core/mask/region.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"
#include "ui/panel/colour_meter.h"

namespace dimhem::tests {

namespace {

class SurroundingsTask : public WindowTest {
protected:
    // A copy, so that a document can be saved beside it.
    void openDemo(const QString& name) {
        const QString from = QString(DIMHEM_SOURCE_DIR "/demo/") + name;
        const QString to = QString::fromStdString((folder / name.toStdString()).string());
        ASSERT_TRUE(QFile::copy(from, to));
        ASSERT_TRUE(w.open(to));
    }

    // With the adjustment a new one begins with taken away.
    void beginWith(const mask::ShapeKind* shape) {
        mask::Mask mask;
        mask.startsEverywhere = shape == nullptr;
        w.session().addCorrection(mask, "new");
        const document::Id id = w.session().selectedCorrection(), first = w.session().correction()->adjustments[0].id;
        w.session().edit("take away",
                         [&](const document::Document& d) { return document::withoutAdjustment(d, id, first); });
        if (shape) w.session().addPart(*shape);
        ASSERT_TRUE(w.settle());
    }

    void add(const adjust::AdjustmentKind& kind) {
        const document::Id id = w.session().selectedCorrection();
        w.session().edit(
            "add", [&](const document::Document& d) { return document::withNewAdjustment(d, id, kind).document; });
        const auto isMeasured = [&] {
            const auto& uses = w.session().correction()->adjustments;
            return !adjust::lacksMeasuring(*uses.back().kind, uses.back().settings);
        };
        ASSERT_TRUE(w.waitFor(isMeasured));
        ASSERT_TRUE(w.settle());
    }

    void type(const QString& slider, const QString& value) {
        auto* found = w.find<ui::ValueSlider>(slider);
        ASSERT_TRUE(found) << slider.toStdString();
        auto* field = found->field();
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, value);
        QTest::keyClick(field, Qt::Key_Return);
        ASSERT_TRUE(w.settle());
    }

    // Of places about one, the mean of what is shown, so that noise does not decide.
    QColor around(double x, double y, int half = 20) {
        int r = 0, g = 0, b = 0, count = 0;
        for (int v = -half; v <= half; v += 4) {
            for (int u = -half; u <= half; u += 4, ++count) {
                const QColor c = w.shown(x + u, y + v);
                r += c.red(), g += c.green(), b += c.blue();
            }
        }
        return QColor(r / count, g / count, b / count);
    }

    QString meter() {
        auto* found = w.window.findChild<ui::ColourMeter*>();
        return found ? found->text() : QString();
    }

    static int apart(const QColor& a, const QColor& b) {
        return std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) + std::abs(a.blue() - b.blue());
    }
};
using LongSurroundingsTask = SurroundingsTask;

}  // namespace

TEST_F(LongSurroundingsTask, ASkyWithoutNoiseAndBandsAndTheBrickAsItWas) {
    openDemo("tower-dusk.jpg");
    const QColor brick = w.shown(1300, 900);
    beginWith(&mask::Region::kindInfo);
    w.drag({{300, 200}, {900, 300}, {600, 700}, {300, 1100}});
    ASSERT_TRUE(w.settle());
    ASSERT_GT(plate(700, 600), 250);
    ASSERT_LT(plate(1300, 900), 5);
    w.session().setMaskView(render::MaskView::none);
    add(adjust::noise);
    type("luminance", "100");
    type("colour", "100");
    type("blotches", "100");
    add(adjust::banding);
    auto* steps = w.find<QLabel>("steps-found");
    ASSERT_TRUE(steps);
    EXPECT_TRUE(steps->text().contains("Steps found")) << steps->text().toStdString();
    type("amount", "100");
    EXPECT_EQ(w.shown(1300, 900), brick);
    // "Noise 1.2 to 0.1, in colour ..."
    ASSERT_TRUE(w.waitFor([&] { return meter().contains("Noise"); })) << meter().toStdString();
    QStringList words = meter().mid(meter().indexOf("Noise")).split(' ');
    EXPECT_LT(words[3].remove(',').toDouble(), 0.5 * words[1].toDouble()) << meter().toStdString();

    // A second pass above it finds next to nothing left.
    const QColor sky = around(700, 600);
    add(adjust::noise);
    EXPECT_LE(apart(around(700, 600), sky), 2);
    w.key(Qt::Key_Z, Qt::ControlModifier);

    const QString saved = QString::fromStdString((folder / "sky.dimhem").string());
    w.window.jobs().save(saved);
    ASSERT_TRUE(w.settle());
    Window again;
    ASSERT_TRUE(again.open(saved));
    EXPECT_EQ(again.shown(700, 600), w.shown(700, 600));
    EXPECT_EQ(again.shown(1300, 900), brick);
}

TEST_F(LongSurroundingsTask, HazeOffTheFarHillsAloneThenLocalContrastThere) {
    openDemo("headlands.jpg");
    const QColor tree = w.shown(926, 867), hill = around(580, 800), shore = w.shown(1200, 1500);
    w.key(Qt::Key_0);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(shape<mask::HazeDepth>());
    w.drag({{580, 800}, {640, 850}});
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.waitFor([&] { return w.session().undoName().contains("haze"); }))
        << w.session().undoName().toStdString();
    EXPECT_GT(plate(580, 800), 240);
    EXPECT_LT(plate(926, 867), 5) << "a tree before it";
    EXPECT_LT(plate(1200, 1500), 5) << "the near shore";
    w.session().setMaskView(render::MaskView::none);
    add(adjust::haze);
    type("amount", "100");
    const QColor cleared = around(580, 800);
    EXPECT_GT(apart(cleared, hill), 60);
    EXPECT_LT(apart(w.shown(926, 867), tree), 12);
    EXPECT_LE(apart(w.shown(1200, 1500), shore), 6);
    ASSERT_TRUE(w.waitFor([&] { return meter().contains("Haze"); })) << meter().toStdString();
    add(adjust::detail);
    type("local-contrast", "60");
    EXPECT_NE(w.shown(580, 800), cleared);
    EXPECT_LT(apart(w.shown(926, 867), tree), 12);
}

TEST_F(LongSurroundingsTask, HazeIsKeptToWhatLiesFarByOnePress) {
    openDemo("headlands.jpg");
    const QColor shore = around(1200, 1500);
    beginWith(nullptr);
    add(adjust::haze);
    type("amount", "100");
    auto* only = w.find<QAbstractButton>("only-far");
    ASSERT_TRUE(only);
    QTest::mouseClick(only, Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(w.session().correction()->mask.parts.size(), 1u);
    EXPECT_EQ(w.session().correction()->mask.parts[0]->combine, mask::Combine::overlap);
    EXPECT_LE(apart(around(1200, 1500), shore), 3);
}

TEST_F(SurroundingsTask, ASmallThingSharpenedClothSoftenedLampsAglow) {
    openDemo("tower-dusk.jpg");
    beginWith(nullptr);
    add(adjust::detail);
    const QColor before = w.shown(1300, 900);
    type("sharpen", "200");
    const QColor sharp = w.shown(1300, 900);
    type("sharpen", "0");
    EXPECT_EQ(w.shown(1300, 900), before);
    type("soften-texture", "100");
    const QColor even = w.shown(1300, 900);
    EXPECT_LE(apart(even, around(1300, 900, 8)), 30) << "the courses are evened out";
    type("soften-texture", "0");
    EXPECT_NE(sharp, even);
    const QColor beside = around(1195, 430);
    add(adjust::glow);
    type("radius", "200");
    type("from", "40");
    type("amount", "100");
    EXPECT_GT(around(1195, 430).red(), beside.red() + 2) << "the sky beside the lamp";
}

}  // namespace dimhem::tests
