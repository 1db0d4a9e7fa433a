// Looking at what is worked on: closer to it by one key, a zoom that is typed, grips out of sight, the second view.
#include <gtest/gtest.h>

#include <QLineEdit>

#include "core/mask/linear_gradient.h"
#include "core/mask/radial_gradient.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/canvas/second_view.h"

namespace dimhem::tests {

namespace {

class Looking : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        w.canvas().setFocus();
    }
    // An oval of 40 x 30 pixels about (200, 150), in a correction of its own.
    void oval() {
        w.key(Qt::Key_3);
        w.drag({{200, 150}, {210, 158}, {220, 165}});
        ASSERT_TRUE(w.settle());
    }
    QRectF seen() { return w.canvas().viewport().visiblePhoto(); }
    int litPixels() {
        const QImage image = w.canvas().grab().toImage();
        int count = 0;
        for (int y = 0; y < image.height(); ++y) {
            for (int x = 0; x < image.width(); ++x) count += image.pixelColor(x, y) != QColor(120, 120, 120);
        }
        return count;
    }
};

}  // namespace

TEST_F(Looking, OneKeyGoesCloserToThePartThenToTheMask) {
    oval();
    w.key(Qt::Key_2, Qt::NoModifier);  // a gradient beside it
    w.drag({{600, 10}, {600, 40}, {600, 80}});
    w.session().selectPart(w.session().correction()->mask.parts[0]->id);
    ASSERT_TRUE(w.settle());
    w.key(Qt::Key_J);
    ASSERT_TRUE(w.settle());
    const QRectF part = seen();
    EXPECT_LT(part.width(), 300);
    EXPECT_TRUE(part.contains(QRectF(185, 140, 30, 20)));
    w.key(Qt::Key_J);
    ASSERT_TRUE(w.settle());
    EXPECT_GT(seen().width(), 500) << "the gradient goes all the way across";
    w.key(Qt::Key_J);
    ASSERT_TRUE(w.settle());
    EXPECT_LT(seen().width(), 300);
}

TEST_F(Looking, WithNothingCoveredItSaysSo) {
    w.key(Qt::Key_J);
    EXPECT_TRUE(w.window.message().contains("Select a correction"));
    w.key(Qt::Key_1);
    const QRectF before = seen();
    w.key(Qt::Key_J);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.window.message().contains("covers nothing"));
    EXPECT_EQ(seen(), before);
}

TEST_F(Looking, TheZoomIsTyped) {
    auto* zoom = w.find<QLineEdit>("zoom");
    ASSERT_TRUE(zoom);
    const auto type = [&](const QString& text) {
        zoom->setFocus();
        zoom->selectAll();
        QTest::keyClicks(zoom, text);
        QTest::keyClick(zoom, Qt::Key_Return);
    };
    type("250");
    EXPECT_NEAR(w.canvas().viewport().zoom() * w.canvas().devicePixelRatioF(), 2.5, 1e-6);
    EXPECT_EQ(zoom->text(), "250 %");
    EXPECT_TRUE(w.canvas().hasFocus()) << "the next key is the photo's";
    type("50 %");
    EXPECT_NEAR(w.canvas().viewport().zoom() * w.canvas().devicePixelRatioF(), 0.5, 1e-6);
    for (const char* bad : {"much", "", "99999", "-3"}) {
        type(bad);
        EXPECT_TRUE(zoom->text().endsWith("%")) << bad;
        EXPECT_LE(w.canvas().viewport().zoom(), ui::Viewport::maxZoom);
    }
    const double before = w.canvas().viewport().zoom();
    zoom->setFocus();
    QTest::keyClicks(zoom, "7");
    QTest::keyClick(zoom, Qt::Key_Escape);
    EXPECT_EQ(w.canvas().viewport().zoom(), before);
}

TEST_F(Looking, GripsGoOutOfSightAndStillWork) {
    oval();
    QTest::mouseMove(&w.canvas(), w.screen(400, 400));
    const int shown = litPixels();
    w.key(Qt::Key_O);
    EXPECT_LT(litPixels(), shown - 50);
    w.drag({{200, 150}, {220, 160}, {300, 250}});  // the oval's middle, by a grip that is not seen
    EXPECT_NEAR(shape<mask::RadialGradient>()->oval().centre.x, 300, 3);
    w.key(Qt::Key_O);
    ASSERT_TRUE(w.settle());
    QTest::mouseMove(&w.canvas(), w.screen(500, 400));
    EXPECT_NEAR(litPixels(), shown, shown / 4);
    // A correction that is off is being judged.
    w.key(Qt::Key_Slash);
    ASSERT_TRUE(w.settle());
    EXPECT_LT(litPixels(), shown - 50);
}

TEST_F(Looking, TheSecondViewObeysTheSameKeysAndWheel) {
    w.key(Qt::Key_2, Qt::ControlModifier);
    auto* second = w.find<ui::SecondView>("second-view");
    ASSERT_TRUE(second && second->isVisible());
    QApplication::setActiveWindow(second);
    const double fit = second->viewport().zoom();
    const auto turn = [&](Qt::KeyboardModifiers modifiers) {
        QWheelEvent event(QPointF(100, 100), second->mapToGlobal(QPointF(100, 100)), {}, {0, 120}, Qt::NoButton,
                          modifiers, Qt::NoScrollPhase, false);
        QApplication::sendEvent(second, &event);
    };
    turn({});
    EXPECT_EQ(second->viewport().zoom(), fit) << "it looks elsewhere";
    EXPECT_FALSE(second->viewport().isFit());
    turn(Qt::ControlModifier);
    EXPECT_GT(second->viewport().zoom(), fit);
    const auto press = [&](Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(second, key, modifiers);
    };
    press(Qt::Key_0, Qt::ControlModifier);
    EXPECT_TRUE(second->viewport().isFit());
    press(Qt::Key_1, Qt::ControlModifier);
    EXPECT_NEAR(second->viewport().zoom() * second->devicePixelRatioF(), 1, 1e-6);
    const double mainZoom = w.canvas().viewport().zoom();
    press(Qt::Key_Plus);
    EXPECT_NEAR(second->viewport().zoom() * second->devicePixelRatioF(), std::sqrt(2.0), 1e-6);
    EXPECT_EQ(w.canvas().viewport().zoom(), mainZoom);
    // All others are the window's.
    press(Qt::Key_1);
    ASSERT_TRUE(w.session().correction());
    ASSERT_TRUE(w.settle());
    press(Qt::Key_Slash);
    EXPECT_FALSE(w.session().correction()->enabled);
    QTest::keyPress(second, Qt::Key_A);
    EXPECT_EQ(w.session().held(), ui::Session::Held::allOff);
    QTest::keyRelease(second, Qt::Key_A);
    EXPECT_EQ(w.session().held(), ui::Session::Held::nothing);
}

}  // namespace dimhem::tests
