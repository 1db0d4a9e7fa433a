// The panels, used as a person uses them.
#include <gtest/gtest.h>

#include <algorithm>

#include <QContextMenuEvent>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QToolButton>

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/mask/registry.h"
#include "tests/ui/photos.h"
#include "tests/ui/small_demo.h"
#include "tests/ui/window.h"
#include "ui/control/choice_sheet.h"
#include "ui/control/entry_field.h"
#include "ui/control/switch.h"
#include "ui/control/value_slider.h"
#include "ui/session/demo_set.h"

namespace dimhem::tests {

namespace {

// The bay with its two corrections; the first has a gradient and a brush.
class Panels : public testing::Test {
protected:
    void SetUp() override {
        ASSERT_TRUE(w.open(bay.document()));
        partIds = {part(0).id, part(1).id};
    }
    const mask::Part& part(std::size_t i) { return *w.session().correction()->mask.parts[i]; }
    const SmallDemo bay{"bay-gradient", 4};
    Window w;
    std::vector<mask::PartId> partIds;
};

QPushButton* segment(Window& w, const QString& name) {
    for (auto* button : w.window.findChildren<QPushButton*>()) {
        if (button->accessibleName() == name && button->isVisible()) return button;
    }
    return nullptr;
}

}  // namespace

TEST_F(Panels, PartsAreSelectedInvertedSwitchedAndCombined) {
    using Place = ui::PartDelegate::Place;
    w.clickItem("parts", 0);
    EXPECT_EQ(w.session().selectedPart(), partIds[0]);
    ASSERT_TRUE(w.settle());
    w.pressInPart(0, Place::invert);
    EXPECT_TRUE(part(0).flipped);
    ASSERT_TRUE(w.settle());
    w.pressInPart(1, Place::onOff);
    EXPECT_FALSE(part(1).enabled);
    ASSERT_TRUE(w.settle());
    w.combinePart(1, mask::Combine::overlap);
    EXPECT_EQ(part(1).combine, mask::Combine::overlap);
    EXPECT_EQ(w.session().undoName(), "change how part combines");
    for (int i = 0; i < 3; ++i) w.session().undo();
    EXPECT_FALSE(part(0).flipped);
    EXPECT_TRUE(part(1).enabled);
    EXPECT_EQ(part(1).combine, mask::Combine::subtract);
}

TEST_F(Panels, PartsAreReorderedRenamedAndRemovedByKeys) {
    QWidget* list = w.list("parts");
    w.clickItem("parts", 1);
    EXPECT_TRUE(list->hasFocus()) << "a click gives the focus";
    QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
    EXPECT_EQ(part(0).id, partIds[1]);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(list->hasFocus()) << "it stays there";
    QTest::keyClick(list, Qt::Key_F2);
    auto* editor = list->findChild<QLineEdit*>();
    ASSERT_TRUE(editor);
    QTest::keyClicks(editor, "Spared");
    QTest::keyClick(editor, Qt::Key_Return);
    EXPECT_EQ(part(0).name, "Spared");
    ASSERT_TRUE(w.settle());
    const std::size_t corrections = w.session().document()->corrections.size();
    w.clickItem("parts", 0);
    QTest::keyClick(list, Qt::Key_Delete);
    EXPECT_EQ(w.session().correction()->mask.parts.size(), 1u) << "the part, not the correction";
    EXPECT_EQ(w.session().document()->corrections.size(), corrections);
    w.session().undo();
    EXPECT_EQ(part(0).name, "Spared");
    EXPECT_EQ(w.session().selectedPart(), partIds[1]) << "what came back is selected";
}

// What can be done to several parts is done to all that are selected, in one step.
TEST_F(Panels, SeveralPartsAreChangedTogether) {
    w.clickItem("parts", 0);
    w.clickItem("parts", 1, Qt::ShiftModifier);
    EXPECT_EQ(w.session().selectedParts(), (QList{partIds[0], partIds[1]}));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().selectedParts().size(), 2) << "the panel was built anew meanwhile";
    w.pressInPart(0, ui::PartDelegate::Place::onOff);
    EXPECT_FALSE(part(0).enabled);
    EXPECT_FALSE(part(1).enabled);
    w.session().undo();
    EXPECT_TRUE(part(0).enabled && part(1).enabled) << "one step";
    ASSERT_TRUE(w.settle());
    auto* opacity = w.find<ui::ValueSlider>("opacity");
    opacity->field()->setFocus();
    opacity->field()->selectAll();
    QTest::keyClicks(opacity->field(), "40");
    QTest::keyClick(opacity->field(), Qt::Key_Return);
    EXPECT_EQ(part(0).opacityPct, 40);
    EXPECT_EQ(part(1).opacityPct, 40);
    ASSERT_TRUE(w.settle());
    w.key(Qt::Key_F);
    EXPECT_TRUE(part(0).flipped && part(1).flipped);
    ASSERT_TRUE(w.settle());
    QTest::keyClick(w.list("parts"), Qt::Key_Delete);
    EXPECT_TRUE(w.session().correction()->mask.parts.empty());
    w.session().undo();
    EXPECT_EQ(w.session().selectedParts(), (QList{partIds[0], partIds[1]})) << "what came back is selected";
}

TEST_F(Panels, APartIsDraggedToAnotherPlace) {
    w.dragItem("parts", 0, w.item("parts", 1).bottomLeft() + QPoint(20, -4));
    EXPECT_EQ(part(1).id, partIds[0]);
    w.session().undo();
    EXPECT_EQ(part(0).id, partIds[0]);
}

TEST_F(Panels, PointingAtAPartShowsItAlone) {
    QWidget* list = w.list("parts")->viewport();
    const QPointF at = w.item("parts", 0).center();
    QMouseEvent move(QEvent::MouseMove, at, list->mapToGlobal(at), Qt::NoButton, Qt::NoButton, {});
    QApplication::sendEvent(list, &move);
    ASSERT_TRUE(w.waitFor([&] { return w.session().shown().view.part == partIds[0]; })) << "after a moment";
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(421, 1).lightness(), 255);  // the gradient's own coverage, tower or not
    EXPECT_EQ(w.shown(300, 375).lightness(), 0);
    QEvent leave(QEvent::Leave);
    QApplication::sendEvent(w.list("parts"), &leave);
    ASSERT_TRUE(w.settle());
    EXPECT_LT(w.shown(421, 1).lightness(), 250);
}

TEST_F(Panels, OpacityAndProfileOfAPart) {
    w.session().selectPart(partIds[0]);
    ASSERT_TRUE(w.settle());
    auto* opacity = w.find<ui::ValueSlider>("opacity");
    opacity->field()->setFocus();
    opacity->field()->selectAll();
    QTest::keyClicks(opacity->field(), "40 %");
    QTest::keyClick(opacity->field(), Qt::Key_Return);
    EXPECT_EQ(part(0).opacityPct, 40);
    QTest::mouseClick(segment(w, "Profile: linear"), Qt::LeftButton);
    EXPECT_EQ(w.session().undoName(), "change profile of gradient");
    QTest::keyClicks(opacity->field(), "nonsense");
    QTest::keyClick(opacity->field(), Qt::Key_Return);
    EXPECT_EQ(part(0).opacityPct, 40) << "what is no number changes nothing";
}

TEST_F(Panels, TheMaskStartsNowhereOrEverywhere) {
    QTest::mouseClick(segment(w, "Mask starts: everywhere"), Qt::LeftButton);
    EXPECT_TRUE(w.session().correction()->mask.startsEverywhere);
    ASSERT_TRUE(w.settle());
    QTest::mouseClick(segment(w, "Mask starts: nowhere"), Qt::LeftButton);
    EXPECT_FALSE(w.session().correction()->mask.startsEverywhere);
}

TEST_F(Panels, AdjustmentsAreAddedFoldedSwitchedAndRemoved) {
    w.key(Qt::Key_M, Qt::ControlModifier);
    auto* find = w.find<QLineEdit>("find-choice");
    ASSERT_TRUE(find && find->isVisible());
    QTest::keyClicks(find, "balance white");
    QTest::keyClick(find, Qt::Key_Return);
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(w.session().correction()->adjustments.size(), 2u);
    const document::Id id = w.session().correction()->adjustments[1].id;
    EXPECT_TRUE(w.find<ui::ValueSlider>("temperature"));
    QTest::mouseClick(w.find<QToolButton>(QString("fold-%1").arg(id)), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(w.find<ui::ValueSlider>("temperature"));
    QTest::mouseClick(w.find<ui::Switch>(QString("enabled-%1").arg(id)), Qt::LeftButton);
    EXPECT_FALSE(w.session().correction()->adjustments[1].enabled);
    ASSERT_TRUE(w.settle());
    QTest::mouseClick(w.find<QToolButton>(QString("remove-%1").arg(id)), Qt::LeftButton);
    EXPECT_EQ(w.session().correction()->adjustments.size(), 1u);
    ASSERT_TRUE(w.settle());
    auto* hold = w.find<ui::ValueSwitch>("hold-colour");
    QTest::mouseClick(hold->findChild<ui::Switch*>(), Qt::LeftButton);
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values.back(), 1);
}

TEST_F(Panels, ThePhotoCardShowsThePhotosFacts) {
    w.session().selectCorrection(0);
    ASSERT_TRUE(w.settle());
    QStringList shown;
    for (auto* label : w.window.findChildren<QLabel*>()) {
        if (label->isVisible()) shown << label->text();
    }
    EXPECT_TRUE(shown.contains("JPEG"));
    EXPECT_TRUE(shown.contains(QString::fromUtf8("600 × 400 px")));
}

TEST_F(Panels, BeforeAndShiftALeaveOutWhatTheySay) {
    const QColor result = w.shown(75, 25);
    QTest::mouseClick(segment(w, "Show: Before"), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    const QColor before = w.shown(75, 25);
    EXPECT_GT(before.lightness(), result.lightness() + 5);
    QTest::mouseClick(segment(w, "Show: Result"), Qt::LeftButton);
    QTest::keyPress(&w.canvas(), Qt::Key_A, Qt::ShiftModifier);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(75, 25), before) << "only the sky correction is out";
    EXPECT_GT(w.shown(300, 387).lightness(), 40) << "the ground stays lifted";
    QTest::keyRelease(&w.canvas(), Qt::Key_A, Qt::ShiftModifier);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(75, 25), result);
}

TEST_F(Panels, TheKeysWalkAlongTheSequence) {
    const auto& corrections = w.session().document()->corrections;
    w.canvas().setFocus();
    w.key(Qt::Key_Period);
    EXPECT_EQ(w.session().selectedCorrection(), corrections[1]->id);
    w.key(Qt::Key_Period);
    EXPECT_EQ(w.session().selectedCorrection(), corrections[1]->id);
    w.key(Qt::Key_Comma);
    EXPECT_EQ(w.session().selectedCorrection(), corrections[0]->id);
    w.key(Qt::Key_Apostrophe);
    EXPECT_FALSE(w.list("parts")->isVisible());
    w.key(Qt::Key_Apostrophe);
    EXPECT_TRUE(w.list("parts")->isVisible());
}

TEST_F(Panels, WheelSpaceAndMiddleButtonMoveTheView) {
    ui::Canvas& canvas = w.canvas();
    const QPointF at(300, 200);
    const base::Point under = canvas.viewport().toPhoto(at);
    QWheelEvent zoom(at, canvas.mapToGlobal(at), {}, QPoint(0, 240), {}, Qt::ControlModifier, Qt::NoScrollPhase, false);
    const double before = canvas.viewport().zoom();
    QApplication::sendEvent(&canvas, &zoom);
    EXPECT_NEAR(canvas.viewport().zoom(), before * std::sqrt(2.0), 1e-9);
    EXPECT_NEAR(canvas.viewport().toPhoto(at).x, under.x, 1e-6);
    const base::Point centre = canvas.viewport().centre();
    QWheelEvent scroll(at, canvas.mapToGlobal(at), {}, QPoint(0, 120), {}, {}, Qt::NoScrollPhase, false);
    QApplication::sendEvent(&canvas, &scroll);
    EXPECT_LT(canvas.viewport().centre().y, centre.y);
    const std::size_t strokes = w.session().document()->corrections.size();
    canvas.setFocus();
    QTest::keyPress(&canvas, Qt::Key_Space);
    QTest::mousePress(&canvas, Qt::LeftButton, {}, QPoint(300, 200));
    w.moveHeld(QPoint(200, 200));
    QTest::mouseRelease(&canvas, Qt::LeftButton, {}, QPoint(200, 200));
    QTest::keyRelease(&canvas, Qt::Key_Space);
    EXPECT_NEAR(canvas.viewport().centre().x, centre.x + 100 / canvas.viewport().zoom(), 1e-6);
    EXPECT_EQ(w.session().document()->corrections.size(), strokes);
    EXPECT_FALSE(w.session().canUndo()) << "moving about changes nothing";
}

TEST_F(Panels, ZLooksCloserWhileHeld) {
    const double fit = w.canvas().viewport().zoom();
    w.canvas().setFocus();
    QTest::keyPress(&w.canvas(), Qt::Key_Z);
    EXPECT_EQ(w.canvas().viewport().zoom(), 1);
    QTest::keyRelease(&w.canvas(), Qt::Key_Z);
    EXPECT_EQ(w.canvas().viewport().zoom(), fit);
}

TEST_F(Panels, AThreadColourChosenByHandStays) {
    w.session().edit("thread colour", [&](const document::Document& d) {
        return document::withCorrection(d, w.session().selectedCorrection(), [](document::Correction& c) {
            c.threadColour = 6;
            c.threadColourChosen = true;
        });
    });
    w.session().selectPart(partIds[0]);
    w.key(Qt::Key_F);
    EXPECT_EQ(w.session().correction()->threadColour, 6);
}

TEST(StartPage, OffersTheDemoPhotosAndOpensThem) {
    Window w;
    ASSERT_GE(ui::demoSet().size(), 2);
    for (const ui::Demo& demo : ui::demoSet()) {
        auto* card = w.find<QAbstractButton>("demo-" + demo.name);
        ASSERT_TRUE(card) << demo.name.toStdString();
        EXPECT_TRUE(demo.sentence.endsWith('.'));
    }
    QTest::mouseClick(w.find<QAbstractButton>("demo-bay-gradient"), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().isOpen());
    EXPECT_EQ(w.session().name(), "bay-gradient");
    EXPECT_EQ(w.session().document()->corrections.size(), 2u);
    EXPECT_TRUE(ui::DocumentJobs::recentFiles().first().endsWith("bay-gradient.dimhem"));
}

TEST(Canvas, APhotoDroppedOnItIsOpened) {
    const TempFolder folder;
    const SmallDemo bay("bay-gradient");
    Window w;
    ASSERT_TRUE(w.open(bay.document()));
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(greyPhoto(folder))});
    QDragEnterEvent enter(QPoint(50, 50), Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&w.canvas(), &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent drop(QPointF(50, 50), Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&w.canvas(), &drop);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().name(), "grey");
}

TEST(Canvas, WithoutACorrectionASentenceSaysWhatToDo) {
    const TempFolder folder;
    Window w;
    ASSERT_TRUE(w.open(greyPhoto(folder)));
    QTest::mouseClick(&w.canvas(), Qt::LeftButton, {}, QPoint(300, 300));
    EXPECT_TRUE(w.window.message().contains("New"));
}

TEST_F(Panels, TheSheetOfAdjustmentsIsNarrowedByTypingAndShowsWhatEachWouldDo) {
    QTest::mouseClick(w.find<QPushButton>("add-adjustment"), Qt::LeftButton);
    auto* sheet = w.find<ui::ChoiceSheet>("adjustment-sheet");
    ASSERT_TRUE(sheet && sheet->isVisible());
    auto* choices = sheet->findChild<QListWidget*>("choices");
    auto* find = sheet->findChild<QLineEdit*>("find-choice");
    const auto shown = [&] {
        QStringList names;
        for (int row = 0; row < choices->count(); ++row) {
            const QListWidgetItem* item = choices->item(row);
            if (!item->isHidden() && item->flags() & Qt::ItemIsSelectable) names << item->text();
        }
        return names;
    };
    EXPECT_EQ(shown().size(), static_cast<qsizetype>(adjust::adjustmentKinds().size()));
    // Those that need not be measured first come to have a picture each, and it is not the same for all.
    const auto pictures = [&] {
        QList<QImage> found;
        for (int row = 0; row < choices->count(); ++row) {
            for (const int role : {Qt::UserRole + 3}) {
                const QImage picture = choices->item(row)->data(role).value<QImage>();
                if (!picture.isNull()) found << picture;
            }
        }
        return found;
    };
    ASSERT_TRUE(w.waitFor([&] { return pictures().size() >= 12; }));
    const QList<QImage> made = pictures();
    EXPECT_TRUE(std::ranges::any_of(made, [&](const QImage& picture) { return picture != made.front(); }));
    QTest::keyClicks(find, "nois");
    EXPECT_TRUE(shown().contains("Noise"));
    EXPECT_LT(shown().size(), 8);
    QTest::keyClicks(find, " xyz");
    EXPECT_TRUE(shown().isEmpty());
    QTest::keyClick(find, Qt::Key_Return);
    EXPECT_TRUE(sheet->isVisible()) << "nothing to choose";
    find->clear();
    const QString first = choices->currentItem()->text();
    QTest::keyClick(find, Qt::Key_Down);
    const QString second = choices->currentItem()->text();
    EXPECT_NE(second, first);
    QTest::keyClick(find, Qt::Key_Up);
    EXPECT_EQ(choices->currentItem()->text(), first);
    const std::size_t before = w.session().correction()->adjustments.size();
    QTest::keyClick(find, Qt::Key_Escape);
    EXPECT_EQ(w.session().correction()->adjustments.size(), before);
    ASSERT_TRUE(w.settle());
}

TEST_F(Panels, PartsAreAddedFromASheetOfWordsToo) {
    w.key(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    auto* sheet = w.find<ui::ChoiceSheet>("part-sheet");
    ASSERT_TRUE(sheet && sheet->isVisible());
    auto* choices = sheet->findChild<QListWidget*>("choices");
    int count = 0;
    for (int row = 0; row < choices->count(); ++row) count += bool(choices->item(row)->flags() & Qt::ItemIsSelectable);
    EXPECT_EQ(count, static_cast<int>(mask::shapeKinds().size())) << "each kind is in a group that is offered";
    auto* find = sheet->findChild<QLineEdit*>("find-choice");
    QTest::keyClicks(find, "radial");
    QTest::keyClick(find, Qt::Key_Return);
    EXPECT_EQ(w.session().part()->shape->kind().id, "radial-gradient");
}

}  // namespace dimhem::tests
