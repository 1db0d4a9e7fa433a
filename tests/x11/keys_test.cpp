// Keys of a real keyboard, as an X server sends them, under several layouts. To be run on an X display.
#include <gtest/gtest.h>

#include <QProcess>

#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"

// Last, for what its macros do to other headers.
#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>

namespace dimhem::tests {

namespace {

// The places of keys, as on every PC keyboard (XKB's keycodes are those of the kernel plus 8).
enum Place : unsigned {
    escPlace = 9,
    digit1 = 10,
    bracketLeft = 34,
    bracketRight = 35,
    returnPlace = 36,
    ctrl = 37,
    letterA = 38,
    letterS = 39,
    letterF = 41,
    letterG = 42,
    shift = 50,
    letterR = 27,
    letterQ = 24,
    letterP = 33,
    deletePlace = 119
};

class Keyboard {
public:
    Keyboard() : display_(XOpenDisplay(nullptr)) {}
    ~Keyboard() {
        layout("us");
        XCloseDisplay(display_);
    }

    static void layout(const char* name) {
        QProcess::execute("setxkbmap", {name});
        QTest::qWait(50);  // the window hears of it from the server; what follows waits for its own outcome
    }
    void focus(QWidget& window) {
        XSetInputFocus(display_, window.winId(), RevertToParent, CurrentTime);
        XSync(display_, False);
    }
    void press(Place place) { send(place, True); }
    void release(Place place) { send(place, False); }
    void tap(Place place) {
        press(place);
        release(place);
    }

private:
    void send(Place place, Bool down) {
        XTestFakeKeyEvent(display_, place, down, CurrentTime);
        XSync(display_, False);
    }
    Display* display_;
};

class Keys : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        keyboard.focus(w.window);
        ASSERT_TRUE(w.waitFor([&] { return w.window.isActiveWindow(); }));
        w.session().addPart(mask::Brush::kindInfo);
        w.canvas().setFocus();
        ASSERT_TRUE(w.settle());
    }
    Keyboard keyboard;
};

}  // namespace

TEST_F(Keys, ShiftWithABracketChangesTheSoftness) {
    for (const char* layout : {"us", "ru"}) {
        keyboard.layout(layout);
        const double before = w.session().brush().softnessPct;
        keyboard.press(shift);
        keyboard.tap(bracketRight);
        keyboard.release(shift);
        EXPECT_TRUE(w.waitFor([&] { return w.session().brush().softnessPct == before + 5; })) << layout;
        keyboard.press(shift);
        keyboard.tap(bracketLeft);
        keyboard.release(shift);
        EXPECT_TRUE(w.waitFor([&] { return w.session().brush().softnessPct == before; })) << layout;
        const double size = w.session().brush().sizePx;
        keyboard.tap(bracketRight);
        EXPECT_TRUE(w.waitFor([&] { return w.session().brush().sizePx > size; })) << layout;
        keyboard.tap(bracketLeft);
        EXPECT_TRUE(w.waitFor([&] { return w.session().brush().sizePx <= size; })) << layout;
    }
}

TEST_F(Keys, LettersActUnderLayoutsOfOtherScripts) {
    for (const char* layout : {"us", "ru", "gr"}) {
        keyboard.layout(layout);
        const bool flipped = w.session().part()->flipped;
        keyboard.tap(letterF);
        EXPECT_TRUE(w.waitFor([&] { return w.session().part()->flipped != flipped; })) << layout;
        const auto view = w.session().maskView();
        keyboard.tap(letterG);
        EXPECT_TRUE(w.waitFor([&] { return w.session().maskView() != view; })) << layout;
        const std::size_t parts = w.session().correction()->mask.parts.size();
        keyboard.tap(digit1);
        EXPECT_TRUE(w.waitFor([&] { return w.session().correction()->mask.parts.size() == parts + 1; })) << layout;
        const bool removes = w.session().brush().removes;
        keyboard.tap(letterR);
        EXPECT_TRUE(w.waitFor([&] { return w.session().brush().removes != removes; })) << layout;
    }
}

TEST_F(Keys, AHeldKeyIsLetGoUnderAnyLayoutAndWithCtrl) {
    using Held = ui::Session::Held;
    for (const char* layout : {"us", "ru"}) {
        keyboard.layout(layout);
        keyboard.press(letterA);
        EXPECT_TRUE(w.waitFor([&] { return w.session().held() == Held::allOff; })) << layout;
        keyboard.press(ctrl);
        keyboard.release(letterA);
        EXPECT_TRUE(w.waitFor([&] { return w.session().held() == Held::nothing; })) << layout;
        keyboard.release(ctrl);
        keyboard.press(letterP);
        EXPECT_TRUE(w.waitFor([&] { return w.session().held() == Held::push; })) << layout;
        keyboard.release(letterP);
        EXPECT_TRUE(w.waitFor([&] { return w.session().held() == Held::nothing; })) << layout;
    }
}

// Where a layout has Latin letters, the letter counts and not its place: A stands where Q does on a US keyboard.
TEST_F(Keys, LatinLayoutsGoByTheLetter) {
    keyboard.layout("fr");
    // Until the window has heard of the layout.
    EXPECT_TRUE(w.waitFor([&] {
        keyboard.press(letterQ);
        QTest::qWait(20);
        if (w.session().held() == ui::Session::Held::allOff) return true;
        keyboard.release(letterQ);
        return false;
    }));
    keyboard.release(letterQ);
    EXPECT_TRUE(w.waitFor([&] { return w.session().held() == ui::Session::Held::nothing; }));
}

TEST_F(Keys, EscInAFieldGivesUpAndCtrlSTakesWhatIsTyped) {
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    ASSERT_TRUE(exposure);
    exposure->track()->setFocus();
    keyboard.tap(digit1);
    EXPECT_TRUE(w.waitFor([&] { return exposure->field()->hasFocus() && exposure->field()->text() == "1"; }));
    keyboard.tap(escPlace);
    EXPECT_TRUE(w.waitFor([&] { return exposure->track()->hasFocus(); }));
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 0);
    const auto place = folder / "work.dimhem";
    w.window.jobs().save(QString::fromStdString(place.string()));
    ASSERT_TRUE(w.settle());
    keyboard.tap(digit1);
    EXPECT_TRUE(w.waitFor([&] { return exposure->field()->text() == "1"; }));
    keyboard.press(ctrl);
    keyboard.tap(letterS);
    keyboard.release(ctrl);
    EXPECT_TRUE(w.waitFor([&] { return w.session().correction()->adjustments[0].settings.values[0] == 1; }));
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.session().isSaved());
}

TEST_F(Keys, DeleteOnAFocusedCardRemovesThatCorrection) {
    const document::Id first = w.session().selectedCorrection();
    w.session().addCorrection({}, "new");
    ASSERT_TRUE(w.settle());
    const document::Id second = w.session().selectedCorrection();
    w.clickItem("sequence", 1);
    keyboard.tap(deletePlace);
    EXPECT_TRUE(w.waitFor([&] { return !document::findCorrection(*w.session().document(), first); }));
    EXPECT_TRUE(document::findCorrection(*w.session().document(), second));
}

}  // namespace dimhem::tests
