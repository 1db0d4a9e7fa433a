// Fifteen tasks of the trade, each done with the mouse and keys together, by keys alone and, where it is painted, with
// a pen. What the hand does is counted: a press, a drag, a key, a step of the wheel is one. docs/inputs.md has the
// table.
#include <QLineEdit>
#include <QListWidget>
#include <QSettings>
#include <QTabletEvent>
#include <fstream>
#include <regex>

#include "core/adjust/hue_bands.h"
#include "core/adjust/light.h"
#include "core/adjust/saturation.h"
#include "core/document/edits.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/radial_gradient.h"
#include "tests/ui/window.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

enum class By { mouse, pen, keys };

// A hand that counts what it does.
class Hand {
public:
    Hand(Window& window, By by) : w(window), by_(by) {}

    int inputs() const { return inputs_; }
    void countOne() { ++inputs_; }
    bool isByKeys() const { return by_ == By::keys; }

    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        ++inputs_;
        w.key(key, modifiers);
        w.settle();
    }
    void holdKey(int key, bool down) {
        inputs_ += down;
        down ? QTest::keyPress(&w.canvas(), static_cast<Qt::Key>(key))
             : QTest::keyRelease(&w.canvas(), static_cast<Qt::Key>(key));
    }
    void press(base::Point at, Qt::KeyboardModifiers modifiers = {}) { drag({at}, modifiers); }
    void drag(const std::vector<base::Point>& places, Qt::KeyboardModifiers modifiers = {}) {
        ++inputs_;
        switch (by_) {
            case By::mouse: w.drag(places, modifiers); break;
            case By::pen: dragPen(places, modifiers); break;
            case By::keys: dragByKeys(places, modifiers); break;
        }
        w.settle();
    }
    void card(int row, Qt::KeyboardModifiers modifiers = {}) {
        ++inputs_;
        w.clickItem("sequence", row, modifiers);
    }
    void cardOnCard(int row, int on) {
        ++inputs_;
        w.dragItem("sequence", row, w.item("sequence", on).center());
    }
    // In a menu that is open: by a press, or with the cursor keys and Return.
    QMenu* choose(QMenu* menu, const QString& words) {
        ++inputs_;
        for (QAction* action : menu->actions()) {
            if (!action->text().startsWith(words)) continue;
            QMenu* further = action->menu();
            if (isByKeys()) {
                for (int i = 0; i < menu->actions().size() && menu->activeAction() != action; ++i)
                    QTest::keyClick(menu, Qt::Key_Down);
                EXPECT_EQ(menu->activeAction(), action);
                QTest::keyClick(menu, further ? Qt::Key_Right : Qt::Key_Return);
            } else {
                QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(action).center());
            }
            w.settle();
            return further;
        }
        ADD_FAILURE() << "no entry " << words.toStdString();
        return nullptr;
    }
    // In a sheet: by a press, or by typing what finds it.
    void chooseInSheet(const QString& name) {
        ++inputs_;
        auto* list = w.find<QListWidget>("choices");
        ASSERT_TRUE(list);
        if (isByKeys()) {
            auto* search = list->window()->findChild<QLineEdit*>();
            QTest::keyClicks(search, name);
            QTest::keyClick(search, Qt::Key_Return);
        } else {
            const auto found = list->findItems(name, Qt::MatchExactly);
            ASSERT_EQ(found.size(), 1);
            list->scrollToItem(found[0]);
            QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(found[0]).center());
        }
        w.settle();
    }
    // A setting dragged along its row, or stepped down with the focus on it.
    void lower(const QString& setting) {
        ++inputs_;
        auto* slider = w.find<ui::ValueSlider>(setting);
        ASSERT_TRUE(slider) << setting.toStdString();
        QWidget* row = slider->track();
        if (isByKeys()) {
            row->setFocus();  // as Tab does
            for (int i = 0; i < 30; ++i) QTest::keyClick(row, Qt::Key_Left);
            w.waitFor([&] { return !w.session().hasGesture(); });
            return;
        }
        const QPoint from(row->width() / 2, 4), to(row->width() / 4, 4);
        QTest::mousePress(row, Qt::LeftButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, QPointF(to), row->mapToGlobal(QPointF(to)), Qt::NoButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(row, &move);
        QTest::mouseRelease(row, Qt::LeftButton, {}, to);
        w.settle();
    }

private:
    void dragPen(const std::vector<base::Point>& places, Qt::KeyboardModifiers modifiers) {
        static const QPointingDevice device(
            "pen", 11, QInputDevice::DeviceType::Stylus, QPointingDevice::PointerType::Pen,
            QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 1);
        const auto send = [&](QEvent::Type type, base::Point place) {
            const QPointF at = w.screen(place.x, place.y);
            QTabletEvent event(type, &device, at, w.canvas().mapToGlobal(at), 0.8, 0, 0, 0, 0, 0, modifiers,
                               type == QEvent::TabletMove ? Qt::NoButton : Qt::LeftButton,
                               type == QEvent::TabletRelease ? Qt::NoButton : Qt::LeftButton);
            QApplication::sendEvent(&w.canvas(), &event);
        };
        send(QEvent::TabletPress, places.front());
        for (const base::Point& place : places) send(QEvent::TabletMove, place);
        send(QEvent::TabletRelease, places.back());
    }
    // The key pointer goes there in steps of all sizes, or while it drags in its own.
    void walkTo(base::Point place, Qt::KeyboardModifiers modifiers, bool drags) {
        const QPointF to = w.screen(place.x, place.y);
        if (!w.canvas().isWorkedByKeys()) {
            w.canvas().setFocus();
            QTest::keyClick(&w.canvas(), Qt::Key_Left);
        }
        const auto step = [&](double by, int less, int more) {
            const int key = by < 0 ? less : more;
            const double length = std::abs(by);
            if (drags) {
                for (int i = 0; i < static_cast<int>(length / 6 + 0.5); ++i) w.key(key, modifiers);
                return;
            }
            for (int i = 0; i < static_cast<int>(length / 40); ++i) w.key(key, Qt::ShiftModifier);
            for (int i = 0; i < static_cast<int>(std::fmod(length, 40)); ++i) w.key(key, Qt::AltModifier);
        };
        const auto at = [&] {
            const base::Point now = *w.canvas().pointedAt();
            return w.canvas().viewport().toScreen(now);
        };
        step(to.x() - at().x(), Qt::Key_Left, Qt::Key_Right);
        step(to.y() - at().y(), Qt::Key_Up, Qt::Key_Down);
    }
    void dragByKeys(const std::vector<base::Point>& places, Qt::KeyboardModifiers modifiers) {
        walkTo(places.front(), {}, false);
        QTest::keyPress(&w.canvas(), Qt::Key_Space, modifiers);
        for (std::size_t i = 1; i < places.size(); ++i) walkTo(places[i], modifiers, true);
        QTest::keyRelease(&w.canvas(), Qt::Key_Space, modifiers);
    }

    Window& w;
    By by_;
    int inputs_ = 0;
};

// Sky, ground, and a tower that stands before both.
QRgb pixelAt(int x, int y) {
    if (x >= 300 && x < 340 && y >= 100) return qRgb(90, 60, 50);
    return y > 400 ? qRgb(90, 120, 60) : qRgb(130, 170, 220);
}

int nowIn(const std::string& task) {
    std::ifstream table(std::filesystem::path(DIMHEM_SOURCE_DIR) / "docs/inputs.md");
    for (std::string line; std::getline(table, line);) {
        std::smatch found;
        if (line.starts_with("| " + task + " |") && std::regex_search(line, found, std::regex(R"(\| (\d+) \|$)")))
            return std::stoi(found[1]);
    }
    return -1;
}

class Inputs : public testing::TestWithParam<By> {
protected:
    void SetUp() override {
        QSettings().clear();
        qputenv("XDG_DATA_HOME", (folder / "data").string().c_str());
        ASSERT_TRUE(w.open(photo("one")));
        w.canvas().setFocus();
    }
    void TearDown() override { qunsetenv("XDG_DATA_HOME"); }

    QString photo(const std::string& name) {
        QImage image(640, 480, QImage::Format_RGB32);
        for (int y = 0; y < 480; ++y) {
            for (int x = 0; x < 640; ++x) image.setPixel(x, y, pixelAt(x, y));
        }
        image.setText("name", QString::fromStdString(name));
        const QString path = QString::fromStdString((folder / (name + ".png")).string());
        image.save(path);
        return path;
    }
    const document::Correction& correction(std::size_t index) { return *w.session().document()->corrections.at(index); }
    std::size_t count() { return w.session().document()->corrections.size(); }
    double coverage(std::size_t index, int x, int y) {
        const render::Sequence sequence(w.session().document(), {});
        const mask::Area area{{x, y, x + 1, y + 1}, 0};
        return mask::floatsOf(*w.session().renderer().coverage(sequence, correction(index).id, area), {1, 1}).row(0)[0];
    }
    // A brush in a correction of its own with that adjustment; what is set up is not counted.
    void paintedWith(const adjust::AdjustmentKind& kind, double value) {
        w.session().addCorrection({}, "new");
        w.session().addPart(mask::Brush::kindInfo);
        w.session().edit("set", [&](const document::Document& d) {
            const document::Id id = w.session().selectedCorrection();
            const document::DocumentPtr bare =
                document::withCorrection(d, id, [](document::Correction& c) { c.adjustments.clear(); });
            const document::Added added = document::withNewAdjustment(*bare, id, kind);
            return document::withAdjustment(*added.document, id, added.id,
                                            [=](document::AdjustmentUse& use) { use.settings.values[0] = value; });
        });
        mask::BrushSettings brush = w.session().brush();
        brush.sizePx = 50;
        brush.softnessPct = 0;
        w.session().setBrush(brush);
        w.settle();
        w.canvas().setFocus();
    }
    // Where mouse and keys may both be used, the table says how many it takes.
    void expectAsInTheTable(const std::string& task) {
        if (GetParam() != By::keys) {
            EXPECT_EQ(hand.inputs(), nowIn(task)) << task;
        }
    }

    TempFolder folder;
    Window w;
    Hand hand{w, GetParam()};
};

}  // namespace

TEST_P(Inputs, AGradientLessAFigure) {
    w.session().addPart(mask::LinearGradient::kindInfo);
    w.drag({{100, 60}, {100, 460}});
    ASSERT_TRUE(w.settle());
    hand.key(Qt::Key_E);
    hand.press({320, 250});
    expectAsInTheTable("A gradient less a figure that stands in it");
    EXPECT_GT(coverage(0, 100, 100), 0.9);
    EXPECT_LT(coverage(0, 320, 200), 0.02);
}

TEST_P(Inputs, AnOvalKeptToOneTone) {
    hand.key(Qt::Key_3);
    hand.drag({{230, 170}, {330, 170}, {420, 330}});
    hand.key(Qt::Key_5, Qt::ControlModifier | Qt::AltModifier);
    hand.press({320, 180});
    expectAsInTheTable("An oval kept to one tone");
    EXPECT_GT(coverage(0, 320, 180), 0.9);
    EXPECT_LT(coverage(0, 230, 170), 0.05) << "the sky beside it, in the middle of the oval";
}

TEST_P(Inputs, ThisEffectUnderThatMask) {
    paintedWith(adjust::saturation, 40);
    w.drag({{100, 100}, {200, 100}});
    paintedWith(adjust::light, 0.5);
    w.drag({{100, 300}, {200, 300}});
    w.session().selectCorrection(correction(0).id);
    ASSERT_TRUE(w.settle());
    if (hand.isByKeys()) {
        hand.key(Qt::Key_C, Qt::ControlModifier);
        hand.key(Qt::Key_Period);
        hand.key(Qt::Key_V, Qt::ControlModifier);
    } else {
        hand.cardOnCard(1, 2);
        hand.choose(w.find<QMenu>("drop-menu"), "Put its effect on");
    }
    expectAsInTheTable("This effect under that mask");
    EXPECT_EQ(correction(1).adjustments.at(0).kind, &adjust::saturation);
    EXPECT_GT(coverage(1, 150, 300), 0.9);
}

TEST_P(Inputs, TheSameEffectOnFivePhotos) {
    paintedWith(adjust::saturation, 40);
    hand.key(Qt::Key_C, Qt::ControlModifier);
    for (const char* name : {"two", "three", "four", "five"}) {
        w.session().markSaved(w.session().beginSaving(), folder / "kept", {});
        ASSERT_TRUE(w.open(photo(name)));
        w.canvas().setFocus();
        hand.key(Qt::Key_V, Qt::ControlModifier);
        ASSERT_EQ(count(), 1u);
        EXPECT_EQ(correction(0).adjustments.at(0).settings.values[0], 40);
    }
    expectAsInTheTable("The same effect on five photos");
}

TEST_P(Inputs, ComparedWithoutGrips) {
    w.session().addPart(mask::RadialGradient::kindInfo);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().showsGrips());
    hand.key(Qt::Key_O);
    EXPECT_FALSE(w.session().showsGrips());
    hand.key(Qt::Key_O);
    EXPECT_TRUE(w.session().showsGrips());
    expectAsInTheTable("Looked at without its grips, and back");
}

TEST_P(Inputs, APartThatTakesAwayDrawnRound) {
    w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "new");
    ASSERT_TRUE(w.settle());
    hand.key(Qt::Key_6, Qt::AltModifier);
    hand.drag({{100, 100}, {200, 100}, {200, 200}, {100, 200}, {100, 110}});
    expectAsInTheTable("A part that takes away, drawn round");
    EXPECT_LT(coverage(0, 150, 150), 0.05);
    EXPECT_GT(coverage(0, 400, 300), 0.95);
}

TEST_P(Inputs, ABrushTwiceAsLargeSofterAndHalfAsStrong) {
    paintedWith(adjust::light, 0.5);
    const mask::BrushSettings before = w.session().brush();
    if (hand.isByKeys()) {
        while (w.session().brush().sizePx < 2 * before.sizePx) hand.key(Qt::Key_BracketRight);
        while (w.session().brush().softnessPct < before.softnessPct + 20)
            hand.key(Qt::Key_BracketRight, Qt::ShiftModifier);
        while (w.session().brush().strengthPct > 50) hand.key(Qt::Key_BracketLeft, Qt::ControlModifier);
    } else {
        const double px = 1 / w.canvas().viewport().zoom();  // of the screen
        hand.holdKey(Qt::Key_Q, true);
        hand.drag({{200, 300}, {200 + 125 * px, 300 - 55 * px}});
        hand.drag({{200, 100}, {200, 100 + 125 * px}}, Qt::ShiftModifier);
        hand.holdKey(Qt::Key_Q, false);
    }
    expectAsInTheTable("A brush twice as large, softer, half as strong");
    EXPECT_GT(w.session().brush().sizePx, 1.9 * before.sizePx);
    EXPECT_GE(w.session().brush().softnessPct, before.softnessPct + 18);
    EXPECT_NEAR(w.session().brush().strengthPct, 50, 8);
}

TEST_P(Inputs, CloseUpOnThePartAndBack) {
    paintedWith(adjust::light, 0.5);
    w.drag({{100, 100}, {160, 120}});
    const double fit = w.canvas().viewport().zoom();
    hand.key(Qt::Key_J);
    EXPECT_GT(w.canvas().viewport().zoom(), 3 * fit);
    EXPECT_TRUE(w.canvas().rect().contains(w.screen(130, 110)));
    hand.key(Qt::Key_0, Qt::ControlModifier);
    EXPECT_EQ(w.canvas().viewport().zoom(), fit);
    expectAsInTheTable("Close up on the part, and back");
}

TEST_P(Inputs, ThreeCorrectionsWeakerInProportion) {
    for (int i = 0; i < 3; ++i) {
        paintedWith(adjust::light, 0.5);
        w.drag({{100, 100.0 + 100 * i}, {200, 100.0 + 100 * i}});
    }
    w.session().selectCorrection(correction(0).id);
    ASSERT_TRUE(w.settle());
    if (hand.isByKeys()) {
        w.list("sequence")->setFocus();  // as Tab does
        for (int i = 0; i < 2; ++i) QTest::keyClick(w.list("sequence"), Qt::Key_Right, Qt::ShiftModifier);
        ASSERT_TRUE(w.settle());
    } else {
        hand.card(2, Qt::ControlModifier);
        hand.card(3, Qt::ControlModifier);
    }
    hand.key(Qt::Key_G, Qt::ControlModifier);
    hand.lower("bracket-strength");
    expectAsInTheTable("Three corrections weaker, each in proportion");
    ASSERT_EQ(w.session().document()->brackets.size(), 1u);
    EXPECT_LT(w.session().document()->brackets[0].strengthPct, 90);
    for (std::size_t i = 0; i < 3; ++i) EXPECT_NE(correction(i).bracket, 0);
}

TEST_P(Inputs, KeptInsideAnothersMask) {
    paintedWith(adjust::light, 0.5);
    w.drag({{100, 100}, {400, 100}});
    w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "new");
    ASSERT_TRUE(w.settle());
    const QPoint at = w.item("sequence", 2).center();
    QWidget* cards = w.list("sequence")->viewport();
    hand.countOne();  // the right button, or Shift+F10
    QContextMenuEvent asked(hand.isByKeys() ? QContextMenuEvent::Keyboard : QContextMenuEvent::Mouse, at,
                            cards->mapToGlobal(at));
    QApplication::sendEvent(cards, &asked);
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    ASSERT_TRUE(menu);
    QMenu* inside = hand.choose(menu, "Work inside the mask of");
    ASSERT_TRUE(inside);
    hand.choose(inside, QString::fromStdString(correction(0).name));
    expectAsInTheTable("A correction kept inside another's mask");
    EXPECT_GT(coverage(1, 250, 100), 0.9);
    EXPECT_LT(coverage(1, 250, 300), 0.05);
}

TEST_P(Inputs, AnIrisBegun) {
    hand.key(Qt::Key_Y);
    hand.chooseInSheet("Iris");
    hand.drag({{200, 200}, {240, 240}});
    expectAsInTheTable("An iris clearer");
    EXPECT_EQ(correction(0).adjustments.size(), 2u);
    EXPECT_GT(coverage(0, 200, 200) + coverage(0, 220, 220), 1.0);
    EXPECT_LT(coverage(0, 500, 400), 0.01);
}

TEST_P(Inputs, AReddenedNeckByTwoWeakStrokes) {
    hand.key(Qt::Key_Y);
    hand.chooseInSheet("Reddened neck");
    hand.drag({{200, 300}, {400, 300}});
    hand.drag({{220, 300}, {380, 300}});
    expectAsInTheTable("A reddened neck, by two weak strokes");
    EXPECT_EQ(correction(0).adjustments.at(0).kind, &adjust::hueBands);
    EXPECT_GT(coverage(0, 300, 300), 0.55) << "two of 40 %";
    EXPECT_LT(coverage(0, 300, 300), 0.7);
}

TEST_P(Inputs, ThreeStrokesOfThreePercent) {
    paintedWith(adjust::light, 0.5);
    if (hand.isByKeys()) {
        while (w.session().brush().strengthPct > 3) hand.key(Qt::Key_BracketLeft, Qt::ControlModifier);
    } else {
        const double pxPerPhoto = w.canvas().viewport().zoom();
        hand.holdKey(Qt::Key_Q, true);
        hand.drag({{200, 100}, {200, 100 + 242 / pxPerPhoto}}, Qt::ShiftModifier);
        hand.holdKey(Qt::Key_Q, false);
    }
    EXPECT_EQ(w.session().brush().strengthPct, 3);
    for (int i = 0; i < 3; ++i) hand.drag({{200, 200}, {400, 200}});
    expectAsInTheTable("Three strokes of 3 %");
    const bool hasPressure = GetParam() == By::pen;
    EXPECT_NEAR(coverage(0, 300, 200), 1 - std::pow(0.97, 3), hasPressure ? 0.03 : 0.003);
}

TEST_P(Inputs, MoreAndLessInOnePass) {
    paintedWith(adjust::saturation, 40);
    hand.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(count(), 2u);
    if (hand.isByKeys()) {
        hand.drag({{100, 200}, {200, 200}});
        hand.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
        hand.drag({{100, 300}, {200, 300}});
    } else {
        hand.drag({{100, 200}, {200, 200}});
        hand.drag({{100, 300}, {200, 300}}, Qt::AltModifier);
    }
    expectAsInTheTable("More here and less there, in one pass");
    EXPECT_EQ(correction(0).adjustments.at(0).settings.values[0], 40);
    EXPECT_EQ(correction(1).adjustments.at(0).settings.values[0], -40);
    EXPECT_GT(coverage(0, 150, 200) + coverage(0, 150, 300), 0.7);
    EXPECT_GT(coverage(1, 150, 200) + coverage(1, 150, 300), 0.7);
}

TEST_P(Inputs, TheDarkerOfTwoEyesLighter) {
    paintedWith(adjust::light, 0.5);
    w.drag({{100, 200}, {130, 200}});
    w.drag({{400, 200}, {430, 200}});
    hand.key(Qt::Key_D, Qt::ControlModifier);
    hand.drag({{380, 200}, {450, 200}}, Qt::ControlModifier);
    expectAsInTheTable("The darker of two eyes lighter still");
    ASSERT_EQ(count(), 2u);
    EXPECT_GT(coverage(1, 115, 200), 0.7);
    EXPECT_LT(coverage(1, 415, 200), 0.35);
    EXPECT_GT(coverage(0, 415, 200), 0.7);
}

namespace {

std::string nameOf(const testing::TestParamInfo<By>& info) {
    return info.param == By::mouse ? "Mouse" : info.param == By::pen ? "Pen" : "Keys";
}

}  // namespace

INSTANTIATE_TEST_SUITE_P(Hands, Inputs, testing::Values(By::mouse, By::pen, By::keys), nameOf);

// Half of what it took, in the median of the table.
TEST(InputsTable, HalvesTheMedian) {
    std::ifstream table(std::filesystem::path(DIMHEM_SOURCE_DIR) / "docs/inputs.md");
    std::vector<double> shares;
    for (std::string line; std::getline(table, line);) {
        std::smatch found;
        if (std::regex_search(line, found, std::regex(R"(\| (\d+) \| (\d+) \|$)")))
            shares.push_back(std::stod(found[2]) / std::stod(found[1]));
    }
    ASSERT_EQ(shares.size(), 15u);
    std::ranges::nth_element(shares, shares.begin() + 7);
    EXPECT_LE(shares[7], 0.5);
}

}  // namespace dimhem::tests
