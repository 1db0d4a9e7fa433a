// The brush that brings something: colours, clones, healing and lines, with a hand on the window.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QImage>
#include <QPainter>
#include <QToolButton>

#include "core/adjust/line_fill.h"
#include "core/adjust/paint.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/segmented.h"

namespace dimhem::tests {

namespace {

class Repair : public WindowTest {
protected:
    // A dark disc on grey, left; two tones, right.
    void SetUp() override {
        QImage picture(700, 500, QImage::Format_RGB32);
        picture.fill(QColor(128, 128, 128));
        QPainter painter(&picture);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(40, 30, 20));
        painter.drawEllipse(QPointF(150, 150), 12, 12);
        painter.fillRect(400, 0, 300, 500, QColor(200, 90, 60));
        painter.fillRect(0, 398, 700, 5, QColor(250, 250, 250));
        painter.end();
        const QString path = QString::fromStdString((folder / "spots.png").string());
        ASSERT_TRUE(picture.save(path));
        ASSERT_TRUE(w.open(path));
        w.key(Qt::Key_1);
        ASSERT_TRUE(w.settle());
        w.canvas().setFocus();
    }

    void bring(const QString& label, double sizePx) {
        auto* kinds = w.find<QComboBox>("brings");
        ASSERT_TRUE(kinds);
        kinds->setCurrentText(label);
        Q_EMIT kinds->activated(kinds->currentIndex());
        mask::BrushSettings brush = w.session().brush();
        brush.sizePx = sizePx;
        brush.softnessPct = 20;
        w.session().setBrush(brush);
        ASSERT_TRUE(w.settle());
    }

    std::span<const mask::StrokePtr> strokes() { return shape<mask::Brush>()->strokes(); }
    const mask::Brings& brings() { return strokes().back()->brush().brings; }
    int paints() {
        int count = 0;
        for (const auto& use : w.session().correction()->adjustments) count += use.kind == &adjust::paint;
        return count;
    }
    bool isNear(double x, double y, const QColor& colour, int within = 6) {
        const QColor shown = w.shown(x, y);
        return std::abs(shown.red() - colour.red()) <= within && std::abs(shown.green() - colour.green()) <= within &&
               std::abs(shown.blue() - colour.blue()) <= within;
    }
};

const QColor grey(128, 128, 128), red(200, 90, 60);

}  // namespace

TEST_F(Repair, OnePressMendsASpotAndAnotherTakesTheNextPlace) {
    bring("Heal", 44);
    ASSERT_TRUE(isNear(150, 150, QColor(40, 30, 20)));
    w.drag({{150, 150}});
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isNear(150, 150, grey));
    EXPECT_EQ(paints(), 1) << "what lays it down came with the stroke";
    EXPECT_EQ(w.session().undoName(), "heal");
    EXPECT_EQ(brings().rank, 0);
    w.drag({{152, 150}});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(strokes().size(), 1u);
    EXPECT_EQ(brings().rank, 1);
    EXPECT_TRUE(isNear(150, 150, grey));
    EXPECT_EQ(paints(), 1);
    w.session().undo();
    EXPECT_EQ(brings().rank, 0);
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(strokes().size(), 0u);
    EXPECT_EQ(paints(), 0) << "undone with its stroke";
    EXPECT_TRUE(isNear(150, 150, QColor(40, 30, 20)));
}

TEST_F(Repair, AnotherPlaceIsAnotherStroke) {
    bring("Heal", 44);
    w.drag({{150, 150}});
    w.drag({{250, 150}});
    w.drag({{255, 250}, {280, 260}});
    w.drag({{280, 260}});
    EXPECT_EQ(strokes().size(), 4u);
}

TEST_F(Repair, CloneWantsAPlaceAndKeepsItsDistance) {
    bring("Clone", 60);
    w.drag({{550, 200}});
    EXPECT_EQ(strokes().size(), 0u) << "it said where to begin instead";
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::AltModifier, w.screen(250, 250));
    EXPECT_EQ(strokes().size(), 0u);
    w.drag({{550, 250}});
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(strokes().size(), 1u);
    EXPECT_TRUE(isNear(550, 250, grey));
    const base::Point offset = *brings().offset;
    EXPECT_NEAR(offset.x, -300, 3);
    EXPECT_NEAR(offset.y, 0, 3);
    // Beside: the next stroke keeps the distance.
    w.drag({{600, 100}});
    EXPECT_EQ(*brings().offset, offset);
    // One place: the next stroke begins there again.
    auto* from = w.find<ui::Segmented>("takes-from");
    ASSERT_TRUE(from);
    Q_EMIT from->chosen(1);
    w.drag({{600, 350}});
    EXPECT_NEAR(brings().offset->x, -350, 3);
    EXPECT_NEAR(brings().offset->y, -100, 3);
    EXPECT_EQ(paints(), 1);
}

TEST_F(Repair, AColourIsPickedWithAltAndPainted) {
    bring("Colour", 60);
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::AltModifier, w.screen(550, 200));
    ASSERT_TRUE(w.waitFor([&] { return w.session().bringing().colours.size() == 1; }));
    w.drag({{200, 250}, {260, 250}});
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isNear(230, 250, red));
    // Strokes keep their colours; the chips bring earlier ones back.
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::AltModifier, w.screen(300, 100));
    ASSERT_TRUE(w.waitFor([&] { return w.session().bringing().colours.size() == 2; }));
    w.drag({{600, 250}});
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isNear(600, 250, grey));
    EXPECT_TRUE(isNear(230, 250, red));
    auto* second = w.find<QToolButton>("picked-colour-1");
    ASSERT_TRUE(second && second->isEnabled());
    second->click();
    EXPECT_NEAR(w.session().brush().brings.colour.r, 200.0 / 255, 0.01);
    EXPECT_EQ(w.session().bringing().colours.size(), 2) << "the same colour is there once";
}

TEST_F(Repair, ALineIsFilledAcross) {
    bring("Line", 14);
    ASSERT_TRUE(isNear(200, 400, QColor(250, 250, 250)));
    w.drag({{-5, 400.5}});
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, Qt::ShiftModifier, w.screen(699, 400.5));
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isNear(200, 400, grey)) << w.shown(200, 400).red();
    EXPECT_TRUE(isNear(600, 400, red)) << w.shown(600, 400).red();
    EXPECT_TRUE(isNear(390, 400, grey, 12));
    EXPECT_TRUE(isNear(410, 400, red, 12));
}

TEST_F(Repair, ItIsSavedAndReopenedAndStrokesAreRemovedByThemselves) {
    bring("Heal", 44);
    w.drag({{150, 150}});
    bring("Colour", 50);
    w.drag({{300, 300}});
    ASSERT_TRUE(w.settle());
    const auto again = document::fromJsonText(document::toJsonText(*w.session().document()));
    ASSERT_TRUE(again);
    const auto* brush = dynamic_cast<const mask::Brush*>((*again)->corrections[0]->mask.parts[0]->shape.get());
    ASSERT_TRUE(brush);
    EXPECT_EQ(brush->strokes()[0]->brush().brings.kind, mask::BringKind::heal);
    EXPECT_EQ(brush->strokes()[1]->brush().brings.kind, mask::BringKind::colour);
    w.session().undo();
    EXPECT_EQ(strokes().size(), 1u);
}

// What the brush brings belongs to what is being worked on: another mask is not healed by mistake.
TEST_F(Repair, TheBrushGoesOnWithWhatThePartsStrokesBring) {
    bring("Heal", 44);
    w.drag({{150, 150}});
    const document::Id healed = w.session().selectedCorrection();
    w.session().addCorrection({}, "another");
    w.session().addPart(mask::Brush::kindInfo);
    EXPECT_EQ(w.session().brush().brings.kind, mask::BringKind::nothing);
    w.drag({{300, 300}});
    EXPECT_EQ(brings().kind, mask::BringKind::nothing);
    w.session().selectCorrection(healed);
    EXPECT_EQ(w.session().brush().brings.kind, mask::BringKind::heal);
    w.drag({{300, 100}});
    EXPECT_EQ(brings().kind, mask::BringKind::heal);
}

TEST_F(Repair, AMaskedHoleIsFilledAsSoonAsTheFillIsThere) {
    mask::BrushSettings brush = w.session().brush();
    brush.sizePx = 50;
    w.session().setBrush(brush);
    w.drag({{150, 150}});
    const document::Id id = w.session().selectedCorrection();
    w.session().edit("fill", [&](const document::Document& d) {
        return document::withNewAdjustment(d, id, adjust::lineFill).document;
    });
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(isNear(150, 150, grey));
    auto* along = w.find<QPushButton>("fill-along");
    ASSERT_TRUE(along);
    along->click();
    w.drag({{50, 50}, {250, 60}});
    w.key(Qt::Key_Escape);
    EXPECT_EQ(w.session().correction()->adjustments.back().settings.tables[0].size(), 4u);
}

}  // namespace dimhem::tests
