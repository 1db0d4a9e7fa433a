// The tools that keep to edges, in the window: whole tasks by hand, with pixels, steps and files checked.
#include <gtest/gtest.h>

#include <QPainter>

#include <QImage>

#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "core/mask/outline.h"
#include "core/mask/region.h"
#include "tests/support/edge_scene.h"
#include "tests/support/temp_folder.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"
#include "ui/session/unsure_watch.h"

namespace dimhem::tests {

namespace {

// A disc of about 110 pixels round (300, 240), rust before grey-blue.
EdgeScene scene() {
    EdgeScene made;
    made.size = {640, 480};
    made.outside = [](double x, double y) {
        return std::hypot(x - 300, y - 240) - 110 - 6 * std::sin(std::atan2(y - 240, x - 300) * 6);
    };
    return made;
}

class Edges : public WindowTest {
protected:
    void SetUp() override {
        const EdgeScene made = scene();
        QImage image(made.size.width, made.size.height, QImage::Format_RGB32);
        const auto photo = made.photo();
        for (int y = 0; y < image.height(); ++y) {
            const auto* row = reinterpret_cast<const std::uint8_t*>(photo->samples.row(y));
            for (int x = 0; x < image.width(); ++x)
                image.setPixel(x, y, qRgb(row[3 * x], row[3 * x + 1], row[3 * x + 2]));
        }
        const QString path = QString::fromStdString((folder / "disc.png").string());
        image.save(path);
        ASSERT_TRUE(w.open(path));
        w.canvas().setFocus();
    }
    // The whole mask against the disc.
    HemError error() {
        const auto& session = w.session();
        const mask::Area all{{0, 0, 640, 480}, 0};
        const auto coverage =
            session.renderer().coverage(render::Sequence(session.document(), {}), session.selectedCorrection(), all);
        return hemError(mask::floatsOf(*coverage, all.rect.size()), scene().matte());
    }
    void setBrush(double size, double softness) {
        mask::BrushSettings brush = w.session().brush();
        brush.sizePx = size;
        brush.softnessPct = softness;
        w.session().setBrush(brush);
    }
    std::vector<base::Point> round(double radius, double step = 0.2) {
        std::vector<base::Point> points;
        for (double angle = 0; angle < 6.3; angle += step)
            points.push_back({300 + radius * std::cos(angle), 240 + radius * std::sin(angle)});
        return points;
    }
    QString text(const char* name) { return w.find<QToolButton>(name)->text(); }
};

}  // namespace

TEST_F(Edges, HoldEdgesKeepsTheBrushOnTheThing) {
    w.key(Qt::Key_1);
    setBrush(120, 20);
    ASSERT_TRUE(w.settle());
    auto* tolerance = w.find<ui::ValueSlider>("brush-tolerance");
    EXPECT_FALSE(tolerance->isVisible());
    w.key(Qt::Key_H);
    EXPECT_TRUE(w.session().brush().holds);
    EXPECT_TRUE(tolerance->isVisible());
    EXPECT_TRUE(w.find<ui::ValueSwitch>("hold-edges"));

    w.drag(round(85));
    ASSERT_TRUE(w.settle());
    const auto brush = shape<mask::Brush>();
    ASSERT_EQ(brush->strokes().size(), 1u);
    EXPECT_TRUE(brush->strokes()[0]->isFinished()) << "its edge is cut once the pen is lifted";
    EXPECT_LT(error().spillPct, 0.5);
    EXPECT_GT(plate(385, 240), 240);
    EXPECT_LT(plate(300 + 128, 240), 10) << "within the ring, past the edge";

    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_H);
    EXPECT_FALSE(w.session().brush().holds);
    w.drag(round(85));
    EXPECT_GT(plate(300 + 128, 240), 200) << "without it the brush goes over the edge";
}

TEST_F(Edges, TheRingShowsTheColourHeldTo) {
    w.key(Qt::Key_1);
    setBrush(160, 20);
    ASSERT_TRUE(w.settle());
    const QPoint at = w.screen(300, 240);
    QTest::mouseMove(&w.canvas(), at);
    w.moveHeld(at);
    w.session().setMaskView(render::MaskView::plate);  // black below the ring
    ASSERT_TRUE(w.settle());
    const auto middle = [&] { return w.canvas().grab().toImage().pixelColor(at); };
    EXPECT_LT(middle().red(), 60);
    w.key(Qt::Key_H);
    ASSERT_TRUE(w.settle());
    const QColor disc = middle();
    EXPECT_NEAR(disc.redF(), colour::encodedFromLinear(scene().subject.r), 0.02);
    EXPECT_NEAR(disc.blueF(), colour::encodedFromLinear(scene().subject.b), 0.02);
}

TEST_F(Edges, RegionFillsTheThingAndGivesBackWhatIsTakenAway) {
    w.key(Qt::Key_7);
    ASSERT_TRUE(shape<mask::Region>());
    w.drag({{240, 230}, {300, 250}, {350, 235}});
    ASSERT_TRUE(w.settle());
    EXPECT_LT(error().spillPct + error().shortPct, 1.0);
    EXPECT_EQ(shape<mask::Region>()->drags().size(), 1u);
    w.drag({{300, 160}, {320, 165}, {340, 175}}, Qt::ControlModifier);
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(shape<mask::Region>()->drags().size(), 2u);
    EXPECT_TRUE(shape<mask::Region>()->drags()[1].removes);
    EXPECT_EQ(w.session().undoName(), "take from region");
    EXPECT_LT(plate(320, 165), 128);
    w.session().undo();
    EXPECT_GT(plate(320, 165), 250);
    EXPECT_TRUE(w.find<ui::ValueSlider>("part-reach"));
}

TEST_F(Edges, ARegionTakesPartsApartByItsSwitchAndTheHemIsThatOfTheRegion) {
    w.key(Qt::Key_2);  // a gradient, of which the region is then taken away
    w.drag({{300, 40}, {300, 440}});
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.waitFor([&] { return w.find<QLabel>("hem-state")->text().contains("gradient"); }));
    w.key(Qt::Key_7);
    w.drag({{240, 230}, {300, 250}, {350, 235}});
    ASSERT_TRUE(w.settle());
    auto* apart = w.find<ui::ValueSwitch>("region-apart");
    ASSERT_TRUE(apart);
    auto* button = apart->findChild<QAbstractButton*>();
    ASSERT_TRUE(button);
    EXPECT_FALSE(shape<mask::Region>()->takesApart());
    button->click();
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(shape<mask::Region>()->takesApart());
    EXPECT_EQ(shape<mask::Region>()->drags().size(), 1u);
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(shape<mask::Region>()->takesApart());
    EXPECT_TRUE(w.waitFor([&] { return w.find<QToolButton>("hem-spill")->isVisible(); }));
}

TEST_F(Edges, FineDetailLooksAlongTheEdgeByItsSwitch) {
    w.key(Qt::Key_7);
    w.drag({{240, 230}, {300, 250}, {350, 235}});
    w.key(Qt::Key_D);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(shape<mask::Brush>()->looksAlongEdge()) << "a new part looks by itself";
    EXPECT_LT(error().spillPct + error().shortPct, 1.0) << "and leaves a plain edge alone";
    auto* looks = w.window.findChild<QWidget*>("detail-along-edge");
    ASSERT_TRUE(looks);
    looks->findChild<QAbstractButton*>()->click();
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(shape<mask::Brush>()->looksAlongEdge());
    w.drag({{300, 130}, {320, 132}});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(shape<mask::Brush>()->strokes().size(), 1u);
    EXPECT_FALSE(shape<mask::Brush>()->looksAlongEdge()) << "painting leaves the switch alone";
    w.session().undo();
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(shape<mask::Brush>()->looksAlongEdge());
}

TEST_F(Edges, ARegionDragCanBeCancelled) {
    w.key(Qt::Key_7);
    ASSERT_TRUE(w.settle());
    QTest::mousePress(&w.canvas(), Qt::LeftButton, {}, w.screen(280, 240));
    w.moveHeld(w.screen(320, 240));
    w.key(Qt::Key_Escape);
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, w.screen(320, 240));
    EXPECT_TRUE(shape<mask::Region>()->drags().empty());
    EXPECT_EQ(plate(300, 240), 0);
}

TEST_F(Edges, AnOutlineSnapsByItsButtonAndStaysEditable) {
    w.key(Qt::Key_6);
    w.drag(round(124));
    ASSERT_TRUE(w.settle());
    auto* snap = w.find<QPushButton>("snap-outline");
    ASSERT_TRUE(snap && snap->isEnabled());
    EXPECT_GT(error().spillPct, 15);
    snap->click();
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(snap->isEnabled());
    EXPECT_GT(shape<mask::Outline>()->snapPx(), 0);
    const std::size_t points = shape<mask::Outline>()->points().size();
    const mask::PartId part = w.session().selectedPart();
    // At 8 pixels it cannot reach all of an outline that is up to 20 off; further, it does.
    const double far = 24;
    w.session().edit("snap further", [&](const document::Document& d) {
        return document::withPart(d, w.session().selectedCorrection(), part, [&](mask::Part& p) {
            p.shape = std::make_shared<mask::Outline>(shape<mask::Outline>()->points(), 0, far);
        });
    });
    ASSERT_TRUE(w.settle());
    EXPECT_LT(error().spillPct + error().shortPct, 1.0);

    // A point dragged afterwards keeps it snapped.
    const base::Point first = shape<mask::Outline>()->points().front();
    w.drag({first, {first.x + 6, first.y + 4}});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(shape<mask::Outline>()->points().size(), points);
    EXPECT_NEAR(shape<mask::Outline>()->points().front().x, first.x + 6, 2);
    EXPECT_EQ(shape<mask::Outline>()->snapPx(), far);
    EXPECT_EQ(w.session().undoName(), "move point");
}

TEST_F(Edges, TheHemCheckFindsThreeGapsGoesToThemAndFillsThem) {
    w.key(Qt::Key_7);
    w.drag({{240, 230}, {300, 250}, {350, 235}});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(text("hem-gaps"), "gaps 0");
    w.key(Qt::Key_1);
    w.session().edit("subtract", [&](const document::Document& d) {
        return document::withPart(d, w.session().selectedCorrection(), w.session().selectedPart(),
                                  [](mask::Part& p) { p.combine = mask::Combine::subtract; });
    });
    setBrush(12, 0);
    const base::Point gaps[] = {{260, 200}, {330, 260}, {280, 290}};
    for (const base::Point& gap : gaps) w.drag({gap});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(text("hem-gaps"), "gaps 3");
    EXPECT_EQ(text("hem-specks"), "specks 0");
    EXPECT_TRUE(text("hem-spill").startsWith("spill 0."));

    // N goes from one to the next, closer, with a line round it; the last leads back to the first.
    std::vector<base::Point> seen;
    for (int i = 0; i < 4; ++i) {
        w.key(Qt::Key_N);
        ASSERT_TRUE(w.window.hem().finding());
        EXPECT_EQ(w.window.hem().finding()->kind, check::FindingKind::gap);
        EXPECT_TRUE(w.canvas().viewport().isCloserThanFit());
        seen.push_back(w.canvas().viewport().centre());
    }
    EXPECT_NEAR(seen[0].x, seen[3].x, 1);
    EXPECT_GT(std::hypot(seen[0].x - seen[1].x, seen[0].y - seen[1].y), 30);
    w.key(Qt::Key_N, Qt::ShiftModifier);
    EXPECT_EQ(w.window.hem().indexOfFinding(), 2) << "and back";

    // Put right one by one.
    for (int left = 2; left >= 0; --left) {
        w.key(Qt::Key_N);
        auto* mend = w.find<QPushButton>("hem-mend");
        ASSERT_TRUE(mend->isVisible());
        EXPECT_EQ(mend->text(), "Fill it");
        mend->click();
        EXPECT_EQ(w.session().undoName(), "fill gap");
        ASSERT_TRUE(w.settle());
        EXPECT_EQ(text("hem-gaps"), QString("gaps %1").arg(left));
    }
    EXPECT_FALSE(w.find<QPushButton>("hem-mend")->isVisible());
    for (const base::Point& gap : gaps) EXPECT_GT(plate(gap.x, gap.y), 250);
    EXPECT_EQ(w.session().correction()->mask.parts.back()->name, "Filled gap");
}

TEST_F(Edges, TheMapShowsSpillAndShortInItsTwoColours) {
    w.key(Qt::Key_6);
    w.drag(round(124));  // spills all round
    ASSERT_TRUE(w.settle());
    const QPoint spilled = w.screen(300, 240 + 116);
    const auto pixel = [&](QPoint at) { return w.canvas().grab().toImage().pixelColor(at); };
    const QColor before = pixel(spilled);
    EXPECT_LT(before.red(), before.blue()) << "the backdrop is bluish";
    w.key(Qt::Key_H, Qt::ShiftModifier);
    EXPECT_TRUE(w.find<QToolButton>("hem-map")->isChecked());
    const QColor orange = pixel(spilled);
    EXPECT_GT(orange.red(), orange.blue() + 80);
    EXPECT_LT(std::abs(pixel(w.screen(300, 240)).red() - pixel(w.screen(302, 242)).red()), 40);
    w.find<QToolButton>("hem-map")->click();
    EXPECT_EQ(pixel(spilled), before);
}

TEST_F(Edges, WithoutAMaskTheHemLineSaysSo) {
    w.key(Qt::Key_N);
    EXPECT_TRUE(w.window.message().contains("hem check")) << w.window.message().toStdString();
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(w.find<QToolButton>("hem-gaps")->isVisible());
    w.key(Qt::Key_N);
    EXPECT_FALSE(w.window.hem().finding());
}

TEST_F(Edges, CleanEdgeIsAStepAndTravelsWithTheDocument) {
    w.key(Qt::Key_7);
    w.drag({{240, 230}, {300, 250}, {350, 235}});
    ASSERT_TRUE(w.settle());
    auto* clean = w.find<ui::ValueSwitch>("clean-edge");
    ASSERT_TRUE(clean);
    Q_EMIT clean->changed(true);
    EXPECT_TRUE(w.session().correction()->cleanEdge);
    EXPECT_EQ(w.session().undoName(), "switch clean edge on");
    ASSERT_TRUE(w.settle());
    const QString path = QString::fromStdString((folder / "edges.dimhem").string());
    w.window.jobs().save(path);
    ASSERT_TRUE(w.settle());
    Window again;
    ASSERT_TRUE(again.open(path));
    EXPECT_TRUE(again.session().document()->corrections[0]->cleanEdge);
    again.session().setMaskView(render::MaskView::plate);
    w.session().setMaskView(render::MaskView::plate);
    ASSERT_TRUE(again.settle() && w.settle());
    for (int y = 120; y < 360; y += 8) {
        for (int x = 180; x < 420; x += 8) EXPECT_EQ(again.shown(x, y), w.shown(x, y)) << x << " " << y;
    }
    w.session().undo();
    EXPECT_FALSE(w.session().correction()->cleanEdge);
}

// Wires over a wall, painted over with fine detail: they are found, and the sky between them is not.
TEST_F(WindowTest, FineDetailFindsWires) {
    QImage picture(600, 400, QImage::Format_RGB32);
    picture.fill(QColor(170, 190, 220));
    QPainter painter(&picture);
    painter.fillRect(0, 260, 600, 140, QColor(40, 32, 28));
    for (int x = 60; x < 600; x += 60) painter.fillRect(x, 120, 3, 150, QColor(40, 32, 28));
    painter.end();
    const QString path = QString::fromStdString((folder / "wires.png").string());
    ASSERT_TRUE(picture.save(path));
    ASSERT_TRUE(w.open(path));
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    mask::BrushSettings brush = w.session().brush();
    brush.sizePx = 110;
    brush.softnessPct = 0;
    w.session().setBrush(brush);
    w.drag({{0, 330}, {600, 330}});
    w.key(Qt::Key_D);
    ASSERT_TRUE(w.settle());
    brush.sizePx = 180;
    w.session().setBrush(brush);
    w.drag({{20, 190}, {580, 190}});
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().part()->shape->isZone());
    EXPECT_GT(plate(301, 190), 200) << "a wire";
    EXPECT_LT(plate(330, 190), 20) << "between two";
    EXPECT_LT(plate(301, 60), 5) << "above its end";
    EXPECT_GT(plate(330, 350), 250) << "the wall";
    w.session().undo();
    EXPECT_LT(plate(301, 190), 5);
}

// Hills and sea, with a drag over the hills: whether the sea belongs to them is asked.
TEST(RegionAsks, WhereItIsLeastSureAndNoMoreOnceAnotherPartIsSelected) {
    Window w;
    ASSERT_TRUE(w.open(QStringLiteral(DIMHEM_SOURCE_DIR "/demo/bay-gradient.jpg")));
    ui::UnsureWatch watch(w.session());
    w.key(Qt::Key_7);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(watch.places().empty());
    w.drag({{500, 900}, {800, 930}, {1000, 980}});
    ASSERT_TRUE(w.waitFor([&] { return !watch.places().empty(); }));
    for (const auto& place : watch.places()) {
        EXPECT_GT(place.radiusPx, 0);
        EXPECT_TRUE(place.at.x > 0 && place.at.x < 2400 && place.at.y > 0 && place.at.y < 1600);
    }
    w.key(Qt::Key_2);
    EXPECT_TRUE(watch.places().empty());
}

}  // namespace dimhem::tests
