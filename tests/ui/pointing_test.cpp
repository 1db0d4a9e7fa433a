// Tones that are pointed at, what is left in sight, numbers in the place of drags, the buttons of a pen, and starters
// with their tools.
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QSettings>

#include "core/adjust/hue_bands.h"
#include "core/adjust/light.h"
#include "core/adjust/tone_curve.h"
#include "core/document/clip.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/task/starters.h"
#include "tests/ui/window.h"
#include "ui/control/curve_field.h"
#include "ui/control/histogram.h"
#include "ui/control/item_list.h"
#include "ui/control/number_fields.h"
#include "ui/control/range_strip.h"
#include "ui/panel/adjustment_menu.h"
#include "ui/panel/starters_dialog.h"
#include "ui/session/starter_set.h"

namespace dimhem::tests {

namespace {

using Tones = render::Shine::Tones;

class Pointing : public WindowTest {
protected:
    void SetUp() override {
        QSettings().clear();
        qputenv("XDG_DATA_HOME", (folder / "data").string().c_str());
        QImage image(640, 480, QImage::Format_RGB32);
        for (int y = 0; y < 480; ++y) {
            for (int x = 0; x < 640; ++x) image.setPixel(x, y, qRgb(x * 255 / 640, x * 255 / 640, 40 + x * 200 / 640));
        }
        const QString path = QString::fromStdString((folder / "ramp.png").string());
        image.save(path);
        ASSERT_TRUE(w.open(path));
    }
    void TearDown() override { qunsetenv("XDG_DATA_HOME"); }

    void beginWith(const adjust::AdjustmentKind& kind) {
        mask::Mask everywhere;
        everywhere.startsEverywhere = true;
        w.session().addCorrection(everywhere, "new");
        w.session().edit("add", [&](const document::Document& d) {
            return document::withNewAdjustment(d, w.session().selectedCorrection(), kind).document;
        });
        ASSERT_TRUE(w.settle());
    }
    // The pointer comes to rest on a control, with no button down.
    static void pointAt(QWidget* control, QPoint at) {
        QMouseEvent move(QEvent::MouseMove, QPointF(at), control->mapToGlobal(QPointF(at)), Qt::NoButton, Qt::NoButton,
                         {});
        QApplication::sendEvent(control, &move);
    }
    static void leave(QWidget* control) {
        QEvent left(QEvent::Leave);
        QApplication::sendEvent(control, &left);
    }
    bool shines() { return w.session().shine().of == render::Shine::Of::tones; }
    // The numbers that are asked for, by name; then taken or given up.
    void type(const QString& name, double value) {
        for (auto* field : w.window.findChildren<QDoubleSpinBox*>()) {
            if (field->accessibleName() == name) field->setValue(value);
        }
    }
    void endNumbers(int key) {
        auto* sheet = w.find<ui::NumberFields>("numbers");
        ASSERT_TRUE(sheet);
        QTest::keyClick(sheet->findChild<QDoubleSpinBox*>(), static_cast<Qt::Key>(key));
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        ASSERT_TRUE(w.settle());
    }
    void doubleClick(QPoint at) {
        QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, at);
        QTest::mouseDClick(&w.canvas(), Qt::LeftButton, {}, at);
        QApplication::processEvents();
    }
    std::string text() { return document::toJsonText(*w.session().document()); }
};

}  // namespace

TEST_F(Pointing, AToneRestedOnInTheHistogramShines) {
    w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "new");
    w.key(Qt::Key_1);  // the mask has a part now, and still covers all
    ASSERT_TRUE(w.settle());
    const int result = w.shown(600, 240).red();
    auto* histogram = w.window.findChild<ui::Histogram*>();
    ASSERT_TRUE(histogram->isVisible());
    pointAt(histogram, {5, 20});
    EXPECT_FALSE(shines()) << "a pointer on its way elsewhere";
    ASSERT_TRUE(w.waitFor([&] { return shines(); }));
    ASSERT_TRUE(w.settle());
    EXPECT_LT(w.shown(600, 240).red(), result / 2);
    pointAt(histogram, {histogram->width() - 5, 20});
    EXPECT_GT(w.session().shine().from, 0.9) << "it follows at once";
    leave(histogram);
    EXPECT_FALSE(shines());
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(600, 240).red(), result);
}

TEST_F(Pointing, TheHistogramMarksTheToneUnderThePointer) {
    w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "new");
    ASSERT_TRUE(w.settle());
    auto* histogram = w.window.findChild<ui::Histogram*>();
    const QImage before = histogram->grab().toImage();
    pointAt(&w.canvas(), w.screen(320, 240));
    ASSERT_TRUE(w.waitFor([&] { return w.session().pointer().has_value(); }));
    QApplication::processEvents();
    EXPECT_NE(histogram->grab().toImage(), before);
}

// Of a curve the tones that come in, not those it makes of them; of a range those it is measured on.
TEST_F(Pointing, AToneRestedOnInACurveOrARangeShines) {
    beginWith(adjust::toneCurve);
    auto* field = w.find<ui::CurveField>("curve");
    pointAt(field, field->rect().center());
    ASSERT_TRUE(w.waitFor([&] { return shines(); }));
    EXPECT_EQ(w.session().shine().tones, Tones::arriving);
    EXPECT_EQ(w.session().shine().channel, render::Shine::Channel::luminance);
    EXPECT_NEAR((w.session().shine().from + w.session().shine().to) / 2, 0.5, 0.02);
    leave(field);
    EXPECT_FALSE(shines());

    w.session().addPart(mask::LuminosityRange::kindInfo);
    ASSERT_TRUE(w.settle());
    auto* strip = w.find<ui::RangeStrip>("tones");
    ASSERT_TRUE(strip);
    pointAt(strip, strip->rect().center());
    ASSERT_TRUE(w.waitFor([&] { return shines(); }));
    EXPECT_EQ(w.session().shine().tones, Tones::photo);
    // A press is work on the strip itself.
    QTest::mousePress(strip, Qt::LeftButton, {}, strip->rect().center());
    EXPECT_FALSE(shines());
    QTest::mouseRelease(strip, Qt::LeftButton, {}, strip->rect().center());
}

TEST_F(Pointing, ABandAndARangeStayInSightUntilTakenBack) {
    beginWith(adjust::hueBands);
    ASSERT_TRUE(w.settle());
    QTest::mouseClick(w.find<QPushButton>("add-band"), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    auto* stays = w.window.findChild<ui::CurveField*>() ? nullptr : w.find<QPushButton>("stay-in-sight");
    ASSERT_TRUE(stays);
    QTest::mouseClick(stays, Qt::LeftButton);
    EXPECT_NE(w.session().shown().view.comparison.glare, render::Glare{});
    w.canvas().actualSize();  // one looks round
    ASSERT_TRUE(w.settle());
    // What is read under the pointer is what the correction makes, not what glares.
    w.session().setPointer(std::nullopt);
    pointAt(&w.canvas(), w.canvas().rect().center());
    ASSERT_TRUE(w.waitFor([&] { return w.session().pointer().has_value(); }));
    EXPECT_NEAR(w.session().pointer()->after.r, w.session().pointer()->arriving.r, 1e-3);
    EXPECT_NEAR(w.session().pointer()->after.b, w.session().pointer()->arriving.b, 1e-3);
    EXPECT_NE(w.session().shown().view.comparison.glare, render::Glare{});
    QTest::mouseClick(w.find<QPushButton>("stay-in-sight"), Qt::LeftButton);
    EXPECT_EQ(w.session().shown().view.comparison.glare, render::Glare{});

    w.session().addPart(mask::LuminosityRange::kindInfo);
    ASSERT_TRUE(w.settle());
    const mask::PartId part = w.session().selectedPart();
    for (auto* button : w.window.findChildren<QPushButton*>("stay-in-sight")) {
        if (button->toolTip().contains("part")) QTest::mouseClick(button, Qt::LeftButton);
    }
    EXPECT_EQ(w.session().shown().view.part, part);
    EXPECT_EQ(w.session().shown().view.maskView, render::MaskView::plate);
    w.session().selectCorrection(0);
    EXPECT_EQ(w.session().shown().view.part, 0) << "another card is looked at";
}

TEST_F(Pointing, APointOfACurveIsSetByNumbers) {
    beginWith(adjust::toneCurve);
    auto* field = w.find<ui::CurveField>("curve");
    field->setFocus();
    QTest::keyClick(field, Qt::Key_Return);
    type("Tone out", 12.5);
    const std::string before = text();
    endNumbers(Qt::Key_Escape);
    EXPECT_EQ(text(), before) << "given up";
    QTest::mouseDClick(field, Qt::LeftButton, {}, QPoint(7, field->height() - 7));
    type("Tone out", 12.5);
    endNumbers(Qt::Key_Return);
    const auto& uses = w.session().correction()->adjustments;
    EXPECT_EQ(uses.back().settings.tables[0], (adjust::Table{0, 12.5, 100, 100}));
    w.session().undo();
    EXPECT_EQ(text(), before) << "one step";
}

TEST_F(Pointing, ARangeIsSetByNumbersInAnyOrder) {
    beginWith(adjust::toneCurve);
    w.session().addPart(mask::LuminosityRange::kindInfo);
    ASSERT_TRUE(w.settle());
    auto* strip = w.find<ui::RangeStrip>("tones");
    QTest::mouseDClick(strip, Qt::LeftButton, {}, strip->rect().center());
    type("None before", 60);
    type("Full from", 20);
    type("Full to", 70);
    type("None after", 90);
    endNumbers(Qt::Key_Return);
    EXPECT_EQ(shape<mask::LuminosityRange>()->values().tones.points, (std::array<double, 4>{20, 60, 70, 90}));
}

// The strip of hues goes round: what is typed beyond the turn follows on.
TEST_F(Pointing, HuesAreTypedRoundTheCircle) {
    ui::RangeStrip strip(ui::RangeStrip::Scale::hue, "Hues", &w.window);
    mask::Range told;
    QObject::connect(&strip, &ui::RangeStrip::changed, &strip, [&](const mask::Range& range) { told = range; });
    strip.setRange({{{-20, -10, 10, 20}}});
    strip.show();
    strip.setFocus();
    QTest::keyClick(&strip, Qt::Key_Return);
    type("None after", 40);
    QTest::keyClick(w.find<ui::NumberFields>("numbers")->findChild<QDoubleSpinBox*>(), Qt::Key_Return);
    EXPECT_EQ(told.points, (std::array<double, 4>{-20, -10, 10, 40}));
    // Out of order they go once round and no further.
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QTest::keyClick(&strip, Qt::Key_Return);
    type("None before", 200);
    type("Full from", 150);
    type("Full to", 100);
    QTest::keyClick(w.find<ui::NumberFields>("numbers")->findChild<QDoubleSpinBox*>(), Qt::Key_Return);
    EXPECT_TRUE(std::ranges::is_sorted(told.points));
    EXPECT_LE(told.points[3] - told.points[0], 360);
}

TEST_F(Pointing, GradientsOvalsAndProbesAreSetByNumbers) {
    beginWith(adjust::toneCurve);
    w.session().addPart(mask::LinearGradient::kindInfo);
    ASSERT_TRUE(w.settle());
    const auto drawn = shape<mask::LinearGradient>();
    const base::Point middle = (drawn->full() + drawn->none()) * 0.5;
    doubleClick(w.screen(middle.x, middle.y));
    type("None, from the top", 400);
    endNumbers(Qt::Key_Return);
    EXPECT_EQ(shape<mask::LinearGradient>()->none().y, 400);
    EXPECT_EQ(shape<mask::LinearGradient>()->full().y, drawn->full().y);

    w.session().addPart(mask::RadialGradient::kindInfo);
    ASSERT_TRUE(w.settle());
    doubleClick(w.screen(320, 240));
    type("Half its width", 33);
    type("Turned by", 15);
    endNumbers(Qt::Key_Return);
    EXPECT_EQ(shape<mask::RadialGradient>()->oval().halfWidthPx, 33);
    EXPECT_EQ(shape<mask::RadialGradient>()->oval().angleDeg, 15);
    // Beside the grips a double click is none: it would draw anew.
    doubleClick(w.screen(600, 30));
    EXPECT_FALSE(w.find<ui::NumberFields>("numbers"));

    w.session().edit("probe", [](const document::Document& d) {
        document::Document next = d;
        next.probes.push_back({{500, 100}});
        return std::make_shared<const document::Document>(next);
    });
    ASSERT_TRUE(w.settle());
    doubleClick(w.screen(500, 100));
    type("From the left", 450.5);
    endNumbers(Qt::Key_Return);
    EXPECT_EQ(w.session().document()->probes[0].place.x, 450.5);
    EXPECT_EQ(w.session().document()->probes[0].place.y, 100);
}

namespace {

void sendPen(Window& w, QEvent::Type type, Qt::MouseButton button, QPointF at) {
    static const QPointingDevice device("pen", 9, QInputDevice::DeviceType::Stylus, QPointingDevice::PointerType::Pen,
                                        QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 3);
    const bool up = type == QEvent::TabletRelease;
    QTabletEvent event(type, &device, at, w.canvas().mapToGlobal(at), 0, 0, 0, 0, 0, 0, {},
                       type == QEvent::TabletMove ? Qt::NoButton : button, up ? Qt::NoButton : button);
    QApplication::sendEvent(&w.canvas(), &event);
}

}  // namespace

TEST_F(Pointing, ThePensButtonsSetTheBrush) {
    w.key(Qt::Key_1);
    ASSERT_TRUE(w.settle());
    const QPointF at = w.screen(300, 200);
    const std::string before = text();
    const mask::BrushSettings brush = w.session().brush();
    sendPen(w, QEvent::TabletPress, Qt::RightButton, at);
    sendPen(w, QEvent::TabletMove, Qt::RightButton, at + QPointF(60, 0));
    sendPen(w, QEvent::TabletRelease, Qt::RightButton, at + QPointF(60, 0));
    const mask::BrushSettings larger = w.session().brush();
    EXPECT_GT(larger.sizePx, brush.sizePx);
    EXPECT_EQ(larger.strengthPct, brush.strengthPct);
    sendPen(w, QEvent::TabletPress, Qt::MiddleButton, at);
    sendPen(w, QEvent::TabletMove, Qt::MiddleButton, at + QPointF(0, 80));
    sendPen(w, QEvent::TabletRelease, Qt::MiddleButton, at + QPointF(0, 80));
    EXPECT_LT(w.session().brush().strengthPct, brush.strengthPct);
    EXPECT_EQ(w.session().brush().sizePx, larger.sizePx);
    // Only pressed, it asks for what can be done there; and nothing of it paints.
    sendPen(w, QEvent::TabletPress, Qt::RightButton, at);
    sendPen(w, QEvent::TabletMove, Qt::RightButton, at + QPointF(8, 0));
    sendPen(w, QEvent::TabletRelease, Qt::RightButton, at + QPointF(8, 0));
    EXPECT_EQ(w.session().brush().sizePx, larger.sizePx);
    auto* menu = w.find<QMenu>("photo-menu");
    ASSERT_TRUE(menu);
    menu->close();
    EXPECT_EQ(text(), before);
}

TEST_F(Pointing, StartersBeginWithTheirTool) {
    const auto begin = [&](const char* name) {
        w.session().addFromStarter(*task::readStarter(ui::shippedStartersFolder() / (std::string(name) + ".json")));
        ASSERT_TRUE(w.settle());
    };
    begin("face-in-shadow");
    ASSERT_TRUE(shape<mask::Region>());
    EXPECT_TRUE(shape<mask::Region>()->drags().empty());
    EXPECT_TRUE(w.window.message().contains("Drag inside the face")) << w.window.message().toStdString();
    w.drag({{300, 200}, {340, 220}});
    EXPECT_EQ(shape<mask::Region>()->drags().size(), 1u);
    begin("warm-oval-light");
    ASSERT_TRUE(shape<mask::RadialGradient>());
    EXPECT_EQ(shape<mask::RadialGradient>()->oval().centre.x, 320) << "of this photo";
    EXPECT_EQ(shape<mask::RadialGradient>()->oval().featherPct, 90);
    begin("yellowed-white-things");
    EXPECT_EQ(&w.session().part()->shape->kind(), &mask::Brush::kindInfo) << "not the range that narrows it";
}

// A starter, or any piece of a document, dropped on a card.
TEST_F(Pointing, AStarterDroppedOnACardPutsOnItsEffectOrItsMask) {
    beginWith(adjust::toneCurve);
    w.session().addPart(mask::LinearGradient::kindInfo);
    ASSERT_TRUE(w.settle());
    const mask::Mask own = w.session().correction()->mask;
    ui::StartersDialog dialog(w.session(), &w.window);
    auto* starters = dialog.findChild<QListWidget*>("own-starters");
    const auto found = starters->findItems("Foliage", Qt::MatchExactly);
    ASSERT_EQ(found.size(), 1);
    auto* cards = dynamic_cast<ui::ItemList*>(w.list("sequence"));
    const QPoint onCard = w.item("sequence", 1).center();
    const auto drop = [&](QMimeData* data) {
        const std::unique_ptr<QMimeData> held(data);
        QDragEnterEvent enter(onCard, Qt::CopyAction, data, Qt::LeftButton, {});
        QApplication::sendEvent(cards->viewport(), &enter);
        EXPECT_TRUE(enter.isAccepted());
        QDropEvent event(onCard, Qt::CopyAction, data, Qt::LeftButton, {});
        QApplication::sendEvent(cards->viewport(), &event);
        QApplication::processEvents();
    };
    drop(starters->model()->mimeData({starters->indexFromItem(found[0])}));
    w.chooseDropped("Put its effect on");
    EXPECT_EQ(w.session().correction()->adjustments.size(), 1u);
    EXPECT_EQ(w.session().correction()->adjustments[0].kind, &adjust::hueBands);
    EXPECT_EQ(w.session().correction()->mask, own);
    drop(starters->model()->mimeData({starters->indexFromItem(found[0])}));
    w.chooseDropped("Put its mask on");
    EXPECT_TRUE(std::dynamic_pointer_cast<const mask::Region>(w.session().correction()->mask.parts[0]->shape));
    auto* text = new QMimeData;
    text->setText(R"({"kind": "light", "exposure": 0.4})");
    drop(text);
    EXPECT_EQ(w.session().correction()->adjustments.back().kind, &adjust::light) << "added at once";
    auto* other = new QMimeData;
    other->setText("a shopping list");
    const std::string before = this->text();
    drop(other);
    EXPECT_EQ(this->text(), before);
    EXPECT_TRUE(w.window.message().endsWith(".")) << w.window.message().toStdString();
    // A starter that cannot be read says why itself.
    auto* newer = new QMimeData;
    newer->setText(R"({"format": "dim-hem-starter", "version": 9})");
    drop(newer);
    EXPECT_TRUE(w.window.message().contains("newer version")) << w.window.message().toStdString();
    // The card it was dropped on goes while the menu is open.
    drop(starters->model()->mimeData({starters->indexFromItem(found[0])}));
    w.session().edit("remove", [&](const document::Document& d) {
        return document::withoutCorrection(d, w.session().selectedCorrection());
    });
    const std::string without = this->text();
    w.chooseDropped("Put its effect on");
    EXPECT_EQ(this->text(), without);
}

TEST_F(Pointing, SettingsAreKeptByNameAndPutOnAnotherOfTheirKind) {
    beginWith(adjust::light);
    const document::Id correction = w.session().selectedCorrection();
    const auto& uses = [&]() -> const std::vector<document::AdjustmentUse>& {
        return document::findCorrection(*w.session().document(), correction)->adjustments;
    };
    const auto set = [&](std::size_t i, double exposure) {
        w.session().edit("set", [&](const document::Document& d) {
            return document::withAdjustment(d, correction, uses()[i].id,
                                            [=](document::AdjustmentUse& use) { use.settings.values[0] = exposure; });
        });
        ASSERT_TRUE(w.settle());
    };
    const auto keptMenu = [&](std::size_t i) {
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        auto* menu = ui::adjustmentMenu(w.session(), uses()[i].id, &w.window);
        return menu->findChild<QMenu*>("kept-settings");
    };
    set(0, 0.7);
    QMenu* kept = keptMenu(0);
    auto* name = kept->findChild<QLineEdit*>("keep-settings");
    ASSERT_TRUE(name);
    QTest::keyClicks(name, "A touch");
    QTest::keyClick(name, Qt::Key_Return);
    EXPECT_EQ(task::startersIn(ui::keptSettingsFolder()).size(), 1u);
    set(0, -2);
    kept = keptMenu(0);
    ASSERT_FALSE(kept->actions().isEmpty());
    EXPECT_EQ(kept->actions()[0]->text(), "A touch");
    kept->actions()[0]->trigger();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(uses()[0].settings.values[0], 0.7);
    // Kept once more under that name: in its place. Not offered to another kind.
    set(0, 1.5);
    name = keptMenu(0)->findChild<QLineEdit*>("keep-settings");
    name->setText("A touch");
    QTest::keyClick(name, Qt::Key_Return);
    ASSERT_EQ(task::startersIn(ui::keptSettingsFolder()).size(), 1u);
    EXPECT_EQ(task::startersIn(ui::keptSettingsFolder())[0].starter.correction->adjustments[0].settings.values[0], 1.5);
    w.session().edit("add", [&](const document::Document& d) {
        return document::withNewAdjustment(d, correction, adjust::toneCurve).document;
    });
    ASSERT_TRUE(w.settle());
    const QList<QAction*> ofAnother = keptMenu(uses().size() - 1)->actions();
    EXPECT_FALSE(std::ranges::any_of(ofAnother, [](const QAction* a) { return a->text() == "A touch"; }));
    // Deleted, and put back.
    kept = keptMenu(0);
    kept->findChildren<QMenu*>().back()->actions()[0]->trigger();
    EXPECT_TRUE(task::startersIn(ui::keptSettingsFolder()).empty());
    ASSERT_TRUE(w.offer());
    QTest::mouseClick(w.offer(), Qt::LeftButton);
    EXPECT_EQ(task::startersIn(ui::keptSettingsFolder()).size(), 1u);
}

}  // namespace dimhem::tests
