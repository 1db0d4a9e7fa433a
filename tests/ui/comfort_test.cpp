// What makes the day's work easier: a second window, offers to take back, room where it is needed, smaller exports.
#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QScrollArea>
#include <QSettings>
#include <QSpinBox>
#include <QToolButton>

#include "core/adjust/tone_curve.h"
#include "core/document/edits.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/canvas/second_view.h"
#include "ui/control/fold.h"
#include "ui/panel/export_dialog.h"
#include "ui/panel/what_panel.h"

namespace dimhem::tests {

class Comfort : public WindowTest {
protected:
    void SetUp() override {
        QSettings().clear();
        ASSERT_TRUE(w.open(greyPhoto(folder)));
    }
    void TearDown() override { QSettings().clear(); }

    void addLight(double exposureEv) {
        w.session().addCorrection({.startsEverywhere = true, .parts = {}}, "new");
        w.session().edit("light", [&](const document::Document& d) {
            const document::Id light = w.session().correction()->adjustments[0].id;  // what a new one begins with
            return document::withAdjustment(d, w.session().selectedCorrection(), light,
                                            [=](document::AdjustmentUse& u) { u.settings.values[0] = exposureEv; });
        });
        ASSERT_TRUE(w.settle());
    }
};

TEST_F(Comfort, TheSecondViewShowsThePictureAsItBecomes) {
    w.key(Qt::Key_2, Qt::ControlModifier);
    auto* second = w.window.findChild<ui::SecondView*>("second-view");
    ASSERT_TRUE(second);
    ASSERT_TRUE(second->isVisible());
    ASSERT_TRUE(w.settle());
    const auto middle = [&] { return second->grab().toImage().pixelColor(second->rect().center()); };
    EXPECT_EQ(middle(), QColor(120, 120, 120));
    addLight(1);
    EXPECT_GT(middle().red(), 140);
    EXPECT_EQ(middle(), w.shown(320, 240));
    w.session().setMaskView(render::MaskView::plate);
    ASSERT_TRUE(w.settle());
    EXPECT_LT(middle().red(), 200) << "the picture, not its mask";
    // Whole, at actual size, and where the photo is pressed.
    EXPECT_TRUE(second->viewport().isFit());
    second->resize(200, 150);
    QTest::mouseDClick(second, Qt::LeftButton, {}, second->rect().center());
    EXPECT_NEAR(second->viewport().zoom(), 1, 1e-9);
    second->showPlace({600, 440});
    EXPECT_TRUE(second->viewport().visiblePhoto().contains(600, 440));
    QTest::keyClick(second, Qt::Key_Space);
    EXPECT_TRUE(second->viewport().isFit());
    QTest::keyClick(second, Qt::Key_Escape);
    EXPECT_FALSE(second->isVisible());
    ASSERT_TRUE(w.settle()) << "one that is closed asks for nothing";
}

TEST_F(Comfort, WhatWasRemovedCanBeTakenBackFromTheMessage) {
    addLight(1);
    const auto count = [&] { return w.session().document()->corrections.size(); };
    w.key(Qt::Key_Delete);
    EXPECT_EQ(count(), 0u);
    ASSERT_TRUE(w.offer());
    EXPECT_EQ(w.offer()->text(), "Undo");
    QTest::mouseClick(w.offer(), Qt::LeftButton);
    EXPECT_EQ(count(), 1u);
    // Not what was done since.
    w.session().selectCorrection(w.session().document()->corrections[0]->id);
    w.key(Qt::Key_Delete);
    EXPECT_EQ(count(), 0u);
    w.session().addCorrection({}, "new");
    ASSERT_TRUE(w.offer());
    QTest::mouseClick(w.offer(), Qt::LeftButton);
    EXPECT_EQ(count(), 1u) << "the new one is not taken back in its place";
}

TEST_F(Comfort, LightAndAToneCurveAreInSightTogether) {
    addLight(1);
    auto* what = w.window.findChild<ui::WhatPanel*>();
    const auto colours = [&] {
        for (auto* fold : what->findChildren<ui::Fold*>()) {
            if (fold->findChild<QToolButton*>("fold-colours")) return fold;
        }
        return static_cast<ui::Fold*>(nullptr);
    };
    ASSERT_TRUE(colours());
    EXPECT_TRUE(colours()->isOpen()) << "there is room for it";
    w.session().edit("curve", [&](const document::Document& d) {
        return document::withNewAdjustment(d, w.session().selectedCorrection(), adjust::toneCurve).document;
    });
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(colours()->isOpen()) << "it gives way";
    const auto* area = what->findChild<QScrollArea*>();
    const auto* curve = what->findChild<QWidget*>("curve");
    ASSERT_TRUE(curve);
    EXPECT_LE(curve->mapTo(area->widget(), QPoint(0, curve->height())).y(), area->viewport()->height());
    // Whoever wants it all the same has it, until the room has changed.
    QTest::mouseClick(what->findChild<QToolButton*>("fold-colours"), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(colours()->isOpen());
    w.session().undo();
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(colours()->isOpen());
}

TEST_F(Comfort, AnExportCanBeMadeSmaller) {
    addLight(0.5);
    w.key(Qt::Key_E, Qt::ControlModifier);
    ASSERT_TRUE(w.waitFor([&] { return w.window.findChild<ui::ExportDialog*>(); }));
    auto* dialog = w.window.findChild<ui::ExportDialog*>();
    auto* side = dialog->findChild<QSpinBox*>("export-long-side");
    EXPECT_FALSE(dialog->settings().longSidePx) << "the photo's own size, until another is asked for";
    side->setValue(320);
    EXPECT_TRUE(dialog->findChild<QLabel*>("expected-size")->text().startsWith("320 × 240"))
        << dialog->findChild<QLabel*>("expected-size")->text().toStdString();
    const QString path = QString::fromStdString((folder / "small.png").string());
    w.window.jobs().exportTo(path, dialog->settings());
    dialog->reject();
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(QImage(path).size(), QSize(320, 240));
}

TEST_F(Comfort, SavingCanBeStoppedAndLosesNothing) {
    addLight(1);
    const QString path = QString::fromStdString((folder / "a.dimhem").string());
    w.window.jobs().save(path);
    ASSERT_TRUE(w.settle());
    const qint64 before = QFileInfo(path).size();
    addLight(0.5);
    w.window.jobs().save(path);
    w.window.jobs().cancel();
    ASSERT_TRUE(w.settle());
    // Either it was quicker, or the file is the one before and the work is still not saved.
    if (!w.session().isSaved()) {
        EXPECT_EQ(QFileInfo(path).size(), before);
        EXPECT_TRUE(w.window.message().contains("stopped")) << w.window.message().toStdString();
    }
    EXPECT_EQ(w.session().document()->corrections.size(), 2u);
    w.window.jobs().save(path);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.session().isSaved());
}

}  // namespace dimhem::tests
