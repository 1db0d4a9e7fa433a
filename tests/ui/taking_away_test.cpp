// Taking away is one move, the same with every tool: each by real keys and mouse.
#include <gtest/gtest.h>

#include "core/document/json_format.h"
#include "core/mask/colour_range.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/mask/veil_density.h"
#include "core/mask/wire.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"

namespace dimhem::tests {

namespace {

// A dark disc before a light ground.
QString disc(const TempFolder& folder) {
    QImage image(640, 480, QImage::Format_RGB32);
    for (int y = 0; y < 480; ++y) {
        for (int x = 0; x < 640; ++x) {
            const bool inside = std::hypot(x - 320, y - 240) < 100;
            image.setPixelColor(x, y, inside ? QColor(70, 40, 30) : QColor(150, 180, 220));
        }
    }
    const QString path = QString::fromStdString((folder / "disc.png").string());
    image.save(path);
    return path;
}

class TakingAway : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(disc(folder)));
        w.canvas().setFocus();
    }
    const std::vector<mask::PartPtr>& parts() { return w.session().correction()->mask.parts; }
    std::string text() { return document::toJsonText(*w.session().document()); }
    int steps() { return w.session().stepNames().size(); }
    void click(double x, double y, Qt::KeyboardModifiers modifiers = {}) {
        QTest::mouseClick(&w.canvas(), Qt::LeftButton, modifiers, w.screen(x, y));
        ASSERT_TRUE(w.settle());
    }
    // The last part takes away, has the other selected no more, and all of it is one step.
    void expectPartTakesAway(std::size_t count, int stepsBefore) {
        ASSERT_EQ(parts().size(), count);
        EXPECT_EQ(parts().back()->combine, mask::Combine::subtract);
        EXPECT_EQ(w.session().selectedPart(), parts().back()->id);
        EXPECT_EQ(steps(), stepsBefore + 1);
    }
};

}  // namespace

TEST_F(TakingAway, AGradientDrawnWithCtrlIsAPartOfItsOwnAndOneStep) {
    w.key(Qt::Key_2);
    w.drag({{320, 40}, {320, 200}, {320, 440}});
    const mask::PartId first = w.session().selectedPart();
    const int before = steps();
    w.drag({{40, 240}, {100, 240}, {200, 240}}, Qt::ControlModifier);
    expectPartTakesAway(2, before);
    EXPECT_NEAR(shape<mask::LinearGradient>()->full().x, 40, 2);
    EXPECT_EQ(plate(20, 60), 0) << "left out on the left";
    EXPECT_GT(plate(600, 60), 250);
    w.session().undo();
    EXPECT_EQ(parts().size(), 1u);
    EXPECT_EQ(w.session().selectedPart(), first);
    // A press that draws nothing leaves nothing behind, nor does one that is given up; another part stands after this.
    w.key(Qt::Key_3);
    w.session().selectPart(first);
    ASSERT_TRUE(w.settle());  // the thread has its colour
    const std::string document = text();
    click(40, 240, Qt::ControlModifier);
    EXPECT_EQ(text(), document);
    EXPECT_EQ(w.session().selectedPart(), first);
    QTest::mousePress(&w.canvas(), Qt::LeftButton, Qt::ControlModifier, w.screen(40, 240));
    QTest::mouseMove(&w.canvas(), w.screen(200, 240));
    EXPECT_EQ(parts().size(), 3u) << "seen while the hand drags";
    w.key(Qt::Key_Escape);
    EXPECT_EQ(text(), document);
    EXPECT_EQ(w.session().selectedPart(), first);
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, Qt::ControlModifier, w.screen(200, 240));
    EXPECT_EQ(text(), document);
}

TEST_F(TakingAway, AnOvalDrawnWithCtrlIsLeftOutOfTheOther) {
    w.key(Qt::Key_3);
    w.drag({{100, 60}, {400, 300}, {600, 460}});
    const int before = steps();
    w.drag({{320, 240}, {340, 260}, {380, 290}}, Qt::ControlModifier);  // not the grip of the first
    expectPartTakesAway(2, before);
    EXPECT_EQ(plate(320, 240), 0);
    EXPECT_GT(plate(400, 240), 100);
}

TEST_F(TakingAway, ABrushRemovesAndInAnEmptyPartTakesFromTheMask) {
    w.key(Qt::Key_1);
    w.drag({{200, 100}, {400, 100}});
    w.drag({{300, 100}, {320, 100}}, Qt::ControlModifier);
    EXPECT_EQ(parts().size(), 1u) << "its own strokes remove";
    EXPECT_LT(plate(310, 100), 128);
    EXPECT_FALSE(w.session().brush().removes) << "the brush itself stays as it is";
    w.key(Qt::Key_1);
    const int before = steps();
    w.drag({{220, 100}, {240, 100}}, Qt::ControlModifier);
    expectPartTakesAway(2, before);
    EXPECT_LT(plate(230, 100), 128);
    EXPECT_TRUE(w.window.message().contains("takes away")) << w.window.message().toStdString();
    EXPECT_FALSE(w.session().correction()->mask.startsEverywhere);
}

TEST_F(TakingAway, WithNothingToTakeFromTheMaskStartsEverywhere) {
    w.key(Qt::Key_1);
    w.drag({{200, 100}, {400, 100}}, Qt::ControlModifier);
    EXPECT_TRUE(w.session().correction()->mask.startsEverywhere);
    EXPECT_EQ(plate(300, 100), 0);
    EXPECT_EQ(plate(300, 400), 255);
    w.session().undo();
    EXPECT_FALSE(w.session().correction()->mask.startsEverywhere) << "with the stroke";
}

TEST_F(TakingAway, ARegionGivesBackAndBeginsByTakingAway) {
    w.key(Qt::Key_3);
    w.drag({{100, 60}, {400, 300}, {600, 460}});
    w.key(Qt::Key_7);
    const int before = steps();
    w.drag({{290, 230}, {320, 240}, {350, 250}}, Qt::ControlModifier);
    expectPartTakesAway(2, before);
    ASSERT_EQ(shape<mask::Region>()->drags().size(), 1u);
    EXPECT_FALSE(shape<mask::Region>()->drags()[0].removes) << "it is the part that takes away";
    EXPECT_EQ(plate(320, 240), 0);
    w.drag({{290, 230}, {320, 240}, {350, 250}}, Qt::ControlModifier);
    EXPECT_TRUE(shape<mask::Region>()->drags()[1].removes);
}

TEST_F(TakingAway, OutlinesAndWiresGoOnWithAPartOfTheirOwn) {
    w.key(Qt::Key_6);
    for (const auto& [x, y] : {std::pair(60, 60), {580, 60}, {580, 420}, {60, 420}}) click(x, y);
    w.key(Qt::Key_Return);
    int before = steps();
    for (const auto& [x, y] : {std::pair(260, 160), {380, 160}, {320, 320}}) click(x, y, Qt::ControlModifier);
    w.key(Qt::Key_Return);
    expectPartTakesAway(2, before);
    EXPECT_EQ(shape<mask::Outline>()->points().size(), 3u);
    EXPECT_EQ(plate(320, 200), 0);
    EXPECT_EQ(plate(100, 100), 255);
    w.key(Qt::Key_W);
    before = steps();
    click(60, 80, Qt::ControlModifier);
    click(500, 80);
    w.key(Qt::Key_Return);
    expectPartTakesAway(3, before);
    EXPECT_EQ(shape<mask::Wire>()->lines().size(), 1u);
}

TEST_F(TakingAway, AColourClickedWithCtrlIsLeftOut) {
    w.key(Qt::Key_3);
    w.drag({{100, 60}, {400, 300}, {600, 460}});
    w.key(Qt::Key_4);
    int before = steps();
    click(320, 240, Qt::ControlModifier);
    expectPartTakesAway(2, before);
    EXPECT_EQ(plate(320, 240), 0);
    EXPECT_GT(plate(320, 120), 100);
    click(320, 240, Qt::ControlModifier);  // on the pick: it goes
    EXPECT_EQ(parts().size(), 2u);
    EXPECT_TRUE(shape<mask::ColourRange>()->values().picks.empty());
    w.key(Qt::Key_5);
    before = steps();
    click(320, 240, Qt::ControlModifier);
    expectPartTakesAway(3, before);
    EXPECT_TRUE(shape<mask::LuminosityRange>());
}

TEST_F(TakingAway, APartAddedWithAltTakesAwayFromTheStart) {
    w.key(Qt::Key_3);
    w.drag({{100, 60}, {400, 300}, {600, 460}});
    w.key(Qt::Key_7, Qt::AltModifier);
    ASSERT_TRUE(shape<mask::Region>());
    EXPECT_EQ(w.session().part()->combine, mask::Combine::subtract);
    EXPECT_FALSE(w.session().correction()->mask.startsEverywhere);
    w.session().selectCorrection(0);
    w.key(Qt::Key_1, Qt::AltModifier);
    ASSERT_EQ(w.session().document()->corrections.size(), 2u);
    EXPECT_TRUE(w.session().correction()->mask.startsEverywhere) << "a new correction is of all but that";
    w.drag({{320, 240}, {330, 240}});
    EXPECT_EQ(plate(325, 240), 0);
    EXPECT_EQ(plate(60, 60), 255);
}

TEST_F(TakingAway, RTurnsAPartThatIsNoBrush) {
    w.key(Qt::Key_2);
    w.key(Qt::Key_3);
    const int before = steps();
    w.key(Qt::Key_R);
    EXPECT_EQ(w.session().part()->combine, mask::Combine::subtract);
    EXPECT_FALSE(w.session().brush().removes);
    EXPECT_EQ(steps(), before + 1);
    EXPECT_TRUE(w.window.message().contains("takes away"));
    w.key(Qt::Key_R);
    EXPECT_EQ(w.session().part()->combine, mask::Combine::add);
    w.key(Qt::Key_1);
    w.key(Qt::Key_R);
    EXPECT_TRUE(w.session().brush().removes);
    EXPECT_EQ(w.session().part()->combine, mask::Combine::add);
}

TEST_F(TakingAway, LeavingAFigureOutIsOneKeyAndOnePress) {
    w.key(Qt::Key_E);
    EXPECT_TRUE(w.window.message().contains("correction first"));
    w.key(Qt::Key_2);
    w.drag({{320, 20}, {320, 200}, {320, 470}});
    EXPECT_GT(plate(320, 200), 100);
    w.key(Qt::Key_E);
    w.drag({{320, 240}});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(plate(320, 200), 0) << "all of the figure";
    EXPECT_GT(plate(150, 200), 100) << "and nothing else";
    // Another figure goes to the same part.
    w.key(Qt::Key_E);
    EXPECT_EQ(parts().size(), 2u);
}

TEST_F(TakingAway, AKeyHeldPicksAsAltDoes) {
    w.key(Qt::Key_V);
    QTest::keyPress(&w.canvas(), Qt::Key_K);
    click(320, 240);
    QTest::keyRelease(&w.canvas(), Qt::Key_K);
    ASSERT_TRUE(w.waitFor([&] { return shape<mask::VeilDensity>()->values().clear.has_value(); }));
    EXPECT_FALSE(shape<mask::VeilDensity>()->values().dense);
    click(60, 60);
    ASSERT_TRUE(w.waitFor([&] { return shape<mask::VeilDensity>()->values().dense.has_value(); }));
}

}  // namespace dimhem::tests
