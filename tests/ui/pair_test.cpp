// Counterparts, and what is copied from one correction to another, by real keys and mouse.
#include <gtest/gtest.h>

#include <QClipboard>
#include <QLineEdit>
#include <QMenu>
#include <QMimeData>
#include <random>

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/document/pair.h"
#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/switch.h"
#include "ui/control/value_slider.h"
#include "ui/panel/sequence_model.h"

namespace dimhem::tests {

namespace {

class Pairs : public WindowTest {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(greyPhoto(folder)));
        w.canvas().setFocus();
        w.key(Qt::Key_1);  // a brush, in a correction of its own
        ASSERT_TRUE(shape<mask::Brush>());
        setAmount("saturation", 60);
        brush(60);
    }
    void setAmount(const char* kind, double amount) {
        const adjust::AdjustmentKind& found = *adjust::findAdjustmentKind(kind);
        w.session().edit("set", [&](const document::Document& d) {
            const auto added = document::withNewAdjustment(d, w.session().selectedCorrection(), found);
            return document::withAdjustment(*added.document, w.session().selectedCorrection(), added.id,
                                            [=](document::AdjustmentUse& use) { use.settings.values[0] = amount; });
        });
    }
    void brush(double sizePx) {
        mask::BrushSettings settings = w.session().brush();
        settings.sizePx = sizePx;
        settings.softnessPct = 0;
        w.session().setBrush(settings);
    }
    const document::Correction& correction(std::size_t index) { return *w.session().document()->corrections[index]; }
    std::size_t count() { return w.session().document()->corrections.size(); }
    std::size_t strokes(std::size_t index) {
        const mask::PartId part = document::paintedPart(correction(index));
        return dynamic_cast<const mask::Brush&>(*mask::findPart(correction(index).mask, part)->shape).strokes().size();
    }
    double coverage(std::size_t index, int x, int y) {
        const render::Sequence sequence(w.session().document(), {});
        const mask::Area area{{x, y, x + 1, y + 1}, 0};
        return mask::floatsOf(*w.session().renderer().coverage(sequence, correction(index).id, area), {1, 1}).row(0)[0];
    }
    int steps() { return w.session().stepNames().size(); }
};

}  // namespace

TEST_F(Pairs, WhatOneGainsTheOtherLosesAndEachStrokeIsOneStep) {
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(count(), 2u);
    EXPECT_EQ(w.session().selectedCorrection(), correction(0).id) << "painting goes on where it was";
    EXPECT_EQ(correction(1).adjustments.back().settings.values[0], -60);
    // Into the counterpart, without leaving the brush.
    int before = steps();
    w.drag({{100, 100}, {200, 100}, {300, 100}}, Qt::AltModifier);
    EXPECT_EQ(steps(), before + 1);
    EXPECT_EQ(strokes(0), 0u);
    EXPECT_NEAR(coverage(1, 200, 100), 1, 1e-3);
    EXPECT_EQ(w.session().selectedCorrection(), correction(0).id);
    // What is painted here now is lost there.
    before = steps();
    w.drag({{200, 100}, {200, 150}, {200, 200}});
    EXPECT_EQ(steps(), before + 1);
    EXPECT_NEAR(coverage(0, 200, 100), 1, 1e-3);
    EXPECT_EQ(coverage(1, 200, 100), 0);
    EXPECT_NEAR(coverage(1, 290, 100), 1, 1e-3) << "elsewhere it is as it was";
    // And the other way round; taken back it is all as before.
    const std::string document = document::toJsonText(*w.session().document());
    w.drag({{200, 200}, {200, 160}, {200, 150}}, Qt::AltModifier);
    EXPECT_EQ(coverage(0, 200, 190), 0);
    EXPECT_NEAR(coverage(1, 200, 190), 1, 1e-3);
    w.session().undo();
    EXPECT_EQ(document::toJsonText(*w.session().document()), document);
    // Removing is each one's own.
    w.drag({{290, 100}, {295, 100}}, Qt::ControlModifier);
    EXPECT_NEAR(coverage(1, 290, 100), 1, 1e-3);
}

// Whatever is painted in whatever order: where the last stroke went, the one has all and the other nothing; and taken
// back one after the other, the steps come to where they began.
TEST_F(Pairs, AnyStrokesInAnyOrder) {
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(w.settle());
    const std::string begun = document::toJsonText(*w.session().document());
    std::mt19937 random(12);
    const auto number = [&](int least, int most) { return std::uniform_int_distribution(least, most)(random); };
    constexpr int strokes = 12;
    for (int i = 0; i < strokes; ++i) {
        const base::Point from{double(number(40, 600)), double(number(40, 440))},
            to{double(number(40, 600)), double(number(40, 440))};
        const bool other = number(0, 1);
        w.drag({from, to}, other ? Qt::AltModifier : Qt::NoModifier);
        const int x = static_cast<int>(to.x), y = static_cast<int>(to.y);
        ASSERT_NEAR(coverage(other ? 1 : 0, x, y), 1, 1e-3) << i;
        ASSERT_EQ(coverage(other ? 0 : 1, x, y), 0) << i;
    }
    for (int i = 0; i < strokes; ++i) w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(document::toJsonText(*w.session().document()), begun);
}

// Painting into one that is off shows nothing: that is said. A part that is off is not painted into.
TEST_F(Pairs, WhatDoesNotShowIsSaid) {
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    const document::Id other = correction(1).id;
    w.session().edit("off", [&](const document::Document& d) {
        return document::withCorrection(d, other, [](document::Correction& c) { c.enabled = false; });
    });
    w.drag({{100, 100}, {200, 100}}, Qt::AltModifier);
    EXPECT_TRUE(w.window.message().contains("switched off")) << w.window.message().toStdString();
    EXPECT_EQ(strokes(1), 1u);
    const mask::PartId part = document::paintedPart(correction(1));
    w.session().edit("part off", [&](const document::Document& d) {
        return document::withPart(d, other, part, [](mask::Part& p) { p.enabled = false; });
    });
    const std::string before = document::toJsonText(*w.session().document());
    w.drag({{100, 200}, {200, 200}}, Qt::AltModifier);
    EXPECT_EQ(document::toJsonText(*w.session().document()), before);
    EXPECT_TRUE(w.window.message().contains("no brush")) << w.window.message().toStdString();
}

TEST_F(Pairs, TheKeyGoesFromOneToTheOther) {
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    const document::Id first = correction(0).id, second = correction(1).id;
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(w.session().selectedCorrection(), second);
    EXPECT_EQ(count(), 2u);
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(w.session().selectedCorrection(), first);
    // The cards say so.
    QApplication::processEvents();
    const auto* model = w.list("sequence")->model();
    EXPECT_EQ(model->index(1, 0).data(ui::SequenceModel::pairRole).toInt(), 1);
    EXPECT_EQ(model->index(2, 0).data(ui::SequenceModel::pairRole).toInt(), -1);
    w.session().undo();
    EXPECT_EQ(count(), 1u);
}

TEST_F(Pairs, AStrokeIntoTheCounterpartIsGivenUpWithBothUntouched) {
    w.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    w.drag({{100, 100}, {200, 100}});
    ASSERT_TRUE(w.settle());
    const std::string document = document::toJsonText(*w.session().document());
    QTest::mousePress(&w.canvas(), Qt::LeftButton, Qt::AltModifier, w.screen(150, 100));
    w.moveHeld(w.screen(180, 100), Qt::AltModifier);
    EXPECT_EQ(strokes(0), 2u) << "seen while the hand drags";
    EXPECT_EQ(strokes(1), 1u);
    w.key(Qt::Key_Escape);
    QTest::mouseRelease(&w.canvas(), Qt::LeftButton, Qt::AltModifier, w.screen(180, 100));
    EXPECT_EQ(document::toJsonText(*w.session().document()), document);
}

TEST_F(Pairs, AnEffectGoesUnderAnotherMaskByTwoKeys) {
    w.drag({{100, 100}, {200, 100}});
    w.key(Qt::Key_C, Qt::ControlModifier);
    EXPECT_TRUE(QApplication::clipboard()->text().contains("\"saturation\""));
    w.session().selectCorrection(0);
    w.key(Qt::Key_2);  // a gradient, in a correction of its own
    ASSERT_EQ(count(), 2u);
    const mask::Mask before = w.session().correction()->mask;
    w.key(Qt::Key_V, Qt::ControlModifier);
    const document::Correction& to = *w.session().correction();
    EXPECT_EQ(to.mask, before);
    ASSERT_EQ(to.adjustments.size(), correction(0).adjustments.size());
    EXPECT_EQ(to.adjustments.back().settings.values[0], 60);
    // The mask, onto several.
    w.session().selectCorrection(correction(0).id);
    w.key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
    w.session().duplicateCorrections();
    w.session().selectCorrections({correction(1).id, correction(2).id}, correction(1).id);
    const int steps = this->steps();
    w.key(Qt::Key_V, Qt::ControlModifier);
    EXPECT_EQ(this->steps(), steps + 1);
    for (const std::size_t i : {1, 2}) EXPECT_EQ(strokes(i), 1u);
}

TEST_F(Pairs, ACardDroppedOnACardPutsOnItsEffectOrItsMask) {
    w.drag({{100, 100}, {200, 100}});
    w.session().selectCorrection(0);
    w.key(Qt::Key_2);
    ASSERT_TRUE(w.settle());
    w.session().selectCorrection(correction(0).id);
    ASSERT_TRUE(w.settle());
    const mask::Mask own = correction(1).mask;
    const std::vector<document::Id> order{correction(0).id, correction(1).id};
    const auto dropOn = [&](const QString& words) {
        w.dragItem("sequence", 1, w.item("sequence", 2).center());
        w.chooseDropped(words);
    };
    const std::string before = document::toJsonText(*w.session().document());
    dropOn("nothing of the kind");
    EXPECT_EQ(document::toJsonText(*w.session().document()), before) << "a menu that is closed does nothing";
    dropOn("Put its effect on");
    EXPECT_EQ(correction(0).id, order[0]) << "not moved";
    EXPECT_EQ(correction(1).mask, own);
    EXPECT_EQ(correction(1).adjustments.back().settings.values[0], 60);
    w.session().selectCorrection(order[0]);
    ASSERT_TRUE(w.settle());
    dropOn("Put its mask on");
    EXPECT_EQ(strokes(1), 1u);
    EXPECT_EQ(w.session().selectedCorrection(), order[1]);
    // Near its end it goes between, as before.
    const QRect second = w.item("sequence", 2);
    w.dragItem("sequence", 1, {second.right() - 4, second.center().y()});
    EXPECT_EQ(correction(1).id, order[0]);
}

TEST_F(Pairs, PartsAreCopiedFromTheirList) {
    w.drag({{100, 100}, {200, 100}});
    w.clickItem("parts", 0);
    QTest::keyClick(w.list("parts"), Qt::Key_C, Qt::ControlModifier);
    w.session().selectCorrection(0);
    w.key(Qt::Key_2);
    QTest::keyClick(&w.canvas(), Qt::Key_V, Qt::ControlModifier);
    ASSERT_EQ(w.session().correction()->mask.parts.size(), 2u);
    EXPECT_TRUE(shape<mask::Brush>()) << "what came is selected";
}

// From a text editor, or from another window with another photo.
TEST_F(Pairs, WhatComesFromElsewhereIsTakenAsFarAsItCanBe) {
    QApplication::clipboard()->setText(R"({"kind": "light", "exposure": 2})");
    const std::size_t before = w.session().correction()->adjustments.size();
    w.key(Qt::Key_V, Qt::ControlModifier);
    ASSERT_EQ(w.session().correction()->adjustments.size(), before + 1);
    EXPECT_EQ(w.session().correction()->adjustments.back().settings.values[0], 2);
    const std::string document = document::toJsonText(*w.session().document());
    for (const char* text : {"no JSON", "{\"kind\": \"light\", \"exposure\": 99}", ""}) {
        QApplication::clipboard()->setText(text);
        w.key(Qt::Key_V, Qt::ControlModifier);
        EXPECT_EQ(document::toJsonText(*w.session().document()), document);
        EXPECT_TRUE(w.window.message().endsWith(".")) << w.window.message().toStdString();
    }
    // Nothing selected: a correction of its own.
    QApplication::clipboard()->setText(R"({"mask": {"starts": "everywhere"}})");
    w.session().selectCorrection(0);
    w.key(Qt::Key_V, Qt::ControlModifier);
    EXPECT_EQ(count(), 2u);
    EXPECT_TRUE(w.session().correction()->mask.startsEverywhere);
}

TEST_F(Pairs, TheCorrectionIsNamedByWhatItDoesUntilItIsGivenAName) {
    EXPECT_EQ(w.session().correction()->name, "Brush more colour");
    w.session().undo();
    const std::string first = w.session().correction()->name;
    w.session().redo();
    auto* model = w.list("sequence")->model();
    QApplication::processEvents();
    model->setData(model->index(1, 0), "Mine", Qt::EditRole);
    setAmount("light", -1);
    EXPECT_EQ(w.session().correction()->name, "Mine");
    EXPECT_NE(first, "Mine");
}

TEST_F(Pairs, ABracketHoldsTheSelectedUnderOneStrengthAndSwitch) {
    setAmount("light", 1);
    w.drag({{100, 100}, {200, 100}});
    w.session().duplicateCorrections();
    w.session().selectCorrections({correction(0).id, correction(1).id}, correction(0).id);
    w.key(Qt::Key_G, Qt::ControlModifier);
    ASSERT_EQ(w.session().document()->brackets.size(), 1u);
    QApplication::processEvents();
    const auto* model = w.list("sequence")->model();
    using Model = ui::SequenceModel;
    EXPECT_EQ(model->index(1, 0).data(Model::bracketRole).toInt(), Model::underOne | Model::toRight);
    EXPECT_EQ(model->index(2, 0).data(Model::bracketRole).toInt(), Model::underOne | Model::fromLeft);
    ASSERT_TRUE(w.settle());
    const QColor full = w.shown(150, 100);
    auto* strength = w.find<ui::ValueSlider>("bracket-strength");
    ASSERT_TRUE(strength);
    auto* number = strength->findChild<QLineEdit*>();
    ASSERT_TRUE(number);
    number->setFocus();
    number->selectAll();
    QTest::keyClicks(number, "0");
    QTest::keyClick(number, Qt::Key_Return);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().document()->brackets[0].strengthPct, 0);
    EXPECT_EQ(w.shown(150, 100), w.shown(400, 400)) << "nothing is laid over the photo";
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(150, 100), full);
    auto* on = w.find<ui::ValueSwitch>("bracket-on");
    ASSERT_TRUE(on);
    QTest::mouseClick(on->findChild<ui::Switch*>(), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(w.session().document()->brackets[0].enabled);
    EXPECT_EQ(w.shown(150, 100), w.shown(400, 400));
    // Again, and each is by itself.
    w.session().selectCorrections({correction(0).id, correction(1).id}, correction(0).id);
    w.key(Qt::Key_G, Qt::ControlModifier);
    EXPECT_TRUE(w.session().document()->brackets.empty());
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(150, 100), full);
}

TEST_F(Pairs, ThePhotoHasAMenuOfWhatCanBeDoneThere) {
    const auto menuAt = [&](QPoint at) {
        QContextMenuEvent event(QContextMenuEvent::Mouse, at, w.canvas().mapToGlobal(at));
        QApplication::sendEvent(&w.canvas(), &event);
        return w.find<QMenu>("photo-menu");
    };
    const auto entry = [](QMenu* menu, const QString& words) -> QAction* {
        for (QAction* action : menu->actions()) {
            if (action->text().startsWith(words)) return action;
        }
        return nullptr;
    };
    QMenu* menu = menuAt(w.screen(50, 60));
    ASSERT_TRUE(menu);
    QAction* removes = entry(menu, "The brush removes");
    ASSERT_TRUE(removes);
    removes->trigger();
    EXPECT_TRUE(w.session().brush().removes);
    QAction* probe = entry(menu, "A probe here");
    ASSERT_TRUE(probe);
    probe->trigger();
    ASSERT_EQ(w.session().document()->probes.size(), 1u);
    EXPECT_NEAR(w.session().document()->probes[0].place.x, 50, 1);
    menu->close();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    menu = menuAt(w.screen(50, 60));
    ASSERT_TRUE(menu);
    EXPECT_FALSE(entry(menu, "A probe here"));
    ASSERT_TRUE(entry(menu, "Remove probe 1"));
    entry(menu, "Remove probe 1")->trigger();
    EXPECT_TRUE(w.session().document()->probes.empty());
    menu->close();
}

TEST_F(Pairs, AnAdjustmentHasAMenuAtItsHeading) {
    QApplication::processEvents();
    const document::Id light = w.session().correction()->adjustments[0].id,
                       saturation = w.session().correction()->adjustments[1].id;
    auto* fold = w.find<QWidget>(QString("fold-%1").arg(saturation));
    ASSERT_TRUE(fold);
    Q_EMIT fold->customContextMenuRequested(QPoint(2, 2));
    auto* menu = w.find<QMenu>("adjustment-menu");
    ASSERT_TRUE(menu);
    const auto choose = [&](const QString& words) {
        for (QAction* action : menu->actions()) {
            if (action->text().startsWith(words)) action->trigger();
        }
    };
    choose("Copy this adjustment");
    choose("Act earlier");
    EXPECT_EQ(w.session().correction()->adjustments[0].id, saturation);
    choose("Begin anew");
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], 0);
    choose("Paste");
    EXPECT_EQ(w.session().correction()->adjustments.back().settings.values[0], 60);
    choose("Remove");
    EXPECT_FALSE(document::findAdjustment(*w.session().correction(), saturation));
    EXPECT_TRUE(document::findAdjustment(*w.session().correction(), light));
    menu->close();
}

}  // namespace dimhem::tests
