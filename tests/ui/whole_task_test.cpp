// A whole task with real events: open a photo, make a correction, paint it in, compare, take back, save, reopen,
// export.
#include <gtest/gtest.h>

#include <QFileDialog>
#include <QLineEdit>
#include <QMenu>
#include <QPointer>
#include <QTimer>
#include <QToolButton>

#include "core/document/json_format.h"
#include "core/io/registry.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/region.h"
#include "core/mask/registry.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"
#include "ui/panel/export_dialog.h"
#include "ui/session/key_table.h"

namespace dimhem::tests {

TEST(WholeTask, PaintACorrectionInJudgeItSaveReopenExport) {
    const TempFolder folder;
    Window w;
    ASSERT_TRUE(w.open(greyPhoto(folder)));
    const QColor grey = w.shown(100, 100);
    EXPECT_EQ(grey, QColor(120, 120, 120));

    // New correction with a brush, from the menu of the button.
    auto* create = w.find<QPushButton>("new-correction");
    ASSERT_TRUE(create);
    create->menu()->actions().first()->trigger();
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().part());

    // Push exposure up by typing, then paint.
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    ASSERT_TRUE(exposure);
    exposure->field()->setFocus();
    exposure->field()->selectAll();
    QTest::keyClicks(exposure->field(), "1.5");
    QTest::keyClick(exposure->field(), Qt::Key_Return);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(100, 100), grey) << "nothing is masked yet";
    w.canvas().setFocus();
    w.drag({{150, 150}, {200, 160}, {260, 150}});
    ASSERT_TRUE(w.settle());
    EXPECT_GT(w.shown(200, 158).red(), 170);
    EXPECT_EQ(w.shown(500, 400), grey) << "far from the stroke";
    EXPECT_EQ(w.shown(200, 300), grey) << "just beyond the brush's reach";

    // As it was, while A is held.
    QTest::keyPress(&w.canvas(), Qt::Key_A);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(200, 158), grey);
    QTest::keyRelease(&w.canvas(), Qt::Key_A);
    ASSERT_TRUE(w.settle());
    const QColor corrected = w.shown(200, 158);
    EXPECT_GT(corrected.red(), 170);

    // Undo, redo.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(200, 158), grey);
    EXPECT_EQ(w.session().redoName(), "brush stroke");
    w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(200, 158), corrected);

    // Save, export, reopen: the same document, the same picture.
    const QString saved = QString::fromStdString((folder / "work.dimhem").string());
    const QString out = QString::fromStdString((folder / "out.png").string());
    w.window.jobs().save(saved);
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.session().isSaved());
    w.window.jobs().exportTo(out, {});
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.window.message().startsWith("Exported"));
    const QImage picture(out);
    EXPECT_EQ(picture.pixelColor(200, 158), corrected);
    EXPECT_EQ(picture.pixelColor(500, 400), grey);

    Window again;
    ASSERT_TRUE(again.open(saved));
    EXPECT_EQ(again.shown(200, 158), corrected);
    EXPECT_EQ(document::toJsonText(*again.session().document()), document::toJsonText(*w.session().document()));
}

namespace {

// The key goes to whatever has the focus, as from a keyboard.
void type(int key, Qt::KeyboardModifiers modifiers = {}) {
    QTest::keyClick(QApplication::focusWidget(), static_cast<Qt::Key>(key), modifiers);
}

// The menu of a button runs until something is chosen in it: by the cursor key and Return.
void chooseInNextMenu(int entry) {
    QTimer::singleShot(0, qApp, [entry] {
        auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
        if (!menu) return chooseInNextMenu(entry);
        for (int i = 0; i < entry; ++i) QTest::keyClick(menu, Qt::Key_Down);
        QTest::keyClick(menu, Qt::Key_Return);
    });
}

// Tab until the widget of that name has the focus.
bool tabTo(Window& w, const QString& name) {
    QApplication::setActiveWindow(&w.window);  // a closed menu gives it back only where there is a window manager
    for (int i = 0; i < 300; ++i) {
        QWidget* focus = QApplication::focusWidget();
        if (focus &&
            (focus->objectName() == name || (focus->parentWidget() && focus->parentWidget()->objectName() == name)))
            return true;
        QTest::keyClick(focus ? focus : &w.window, Qt::Key_Tab);
    }
    return false;
}

// Space held while the cursor keys move the pointer on the photo.
void dragByKeys(Window& w, int key, int times) {
    QTest::keyPress(&w.canvas(), Qt::Key_Space);
    for (int i = 0; i < times; ++i) QTest::keyClick(&w.canvas(), static_cast<Qt::Key>(key), Qt::NoModifier);
    QTest::keyRelease(&w.canvas(), Qt::Key_Space);
}

// A light square on a dark ground.
QString squarePhoto(const TempFolder& folder) {
    QImage photo(600, 450, QImage::Format_RGB32);
    photo.fill(QColor(60, 70, 90));
    for (int y = 150; y < 300; ++y) {
        for (int x = 225; x < 375; ++x) photo.setPixelColor(x, y, QColor(200, 180, 120));
    }
    const QString path = QString::fromStdString((folder / "square.png").string());
    photo.save(path);
    return path;
}

}  // namespace

TEST(WholeTask, ByKeyboardAlone) {
    const TempFolder folder;
    Window w;
    ASSERT_TRUE(w.open(squarePhoto(folder)));
    const QColor ground = w.shown(300, 50), square = w.shown(300, 225);

    // A correction with a gradient laid from the top down.
    chooseInNextMenu(2);
    type(Qt::Key_N, Qt::ControlModifier);
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().part());
    EXPECT_EQ(&w.session().part()->shape->kind(), &mask::LinearGradient::kindInfo);

    // Exposure by typing.
    ASSERT_TRUE(tabTo(w, "exposure"));
    for (const char c : {'-', '1', '.', '5'}) QTest::keyClick(QApplication::focusWidget(), c);
    type(Qt::Key_Return);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().correction()->adjustments[0].settings.values[0], -1.5);

    // What stands in it is taken away by a region, dragged by keys.
    w.canvas().setFocus(Qt::TabFocusReason);
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        if (kind == &mask::Region::kindInfo) type(ui::keyOf("part/region")[0].key());
    }
    ASSERT_TRUE(w.settle());
    ASSERT_EQ(&w.session().part()->shape->kind(), &mask::Region::kindInfo);
    ASSERT_TRUE(tabTo(w, "parts"));
    type(Qt::Key_F10, Qt::ShiftModifier);
    for (const Qt::Key key : {Qt::Key_Down, Qt::Key_Down, Qt::Key_Right, Qt::Key_Down, Qt::Key_Return}) {
        ASSERT_TRUE(QApplication::activePopupWidget());
        QTest::keyClick(QApplication::activePopupWidget(), key);
    }
    QApplication::setActiveWindow(&w.window);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().part()->combine, mask::Combine::subtract);
    ASSERT_TRUE(tabTo(w, "photo"));
    type(Qt::Key_Left);
    dragByKeys(w, Qt::Key_Down, 6);
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.shown(300, 225).red(), square.red(), 3) << "left out";
    EXPECT_LT(w.shown(300, 20).red(), ground.red() - 10);

    // Judged: the hem check is asked for in words, and the photo is compared with what it was.
    type(Qt::Key_H, Qt::ControlModifier);
    EXPECT_TRUE(w.window.message().startsWith("Hem check")) << w.window.message().toStdString();
    QTest::keyPress(&w.canvas(), Qt::Key_A);
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.shown(300, 50), ground);
    QTest::keyRelease(&w.canvas(), Qt::Key_A);
    ASSERT_TRUE(w.settle());

    // Saved and exported: the choosers take a name and Return.
    const auto chooseName = [&](const QString& name) {
        ASSERT_TRUE(w.waitFor([&] { return w.window.findChild<QFileDialog*>(); }));
        auto* chooser = w.window.findChild<QFileDialog*>();
        auto* field = chooser->findChild<QLineEdit*>();
        ASSERT_TRUE(field);
        field->setCompleter(nullptr);  // its list would take Return first
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, name);
        // The chooser reads its folder in the background, and takes Return once it has.
        const QPointer<QFileDialog> open = chooser;
        ASSERT_TRUE(w.waitFor([&] {
            if (open && open->isVisible()) QTest::keyClick(open, Qt::Key_Return);
            return !open;
        }));
        ASSERT_TRUE(w.settle());
    };
    const QString saved = QString::fromStdString((folder / "keys.dimhem").string()),
                  out = QString::fromStdString((folder / "keys.png").string());
    type(Qt::Key_S, Qt::ControlModifier);
    chooseName(saved);
    EXPECT_TRUE(w.session().isSaved());
    QApplication::setActiveWindow(&w.window);
    w.canvas().setFocus();
    type(Qt::Key_E, Qt::ControlModifier);
    ASSERT_TRUE(w.waitFor([&] { return w.window.findChild<ui::ExportDialog*>(); }));
    QTest::keyClick(w.window.findChild<ui::ExportDialog*>(), Qt::Key_Return);
    chooseName(out);
    EXPECT_EQ(QImage(out).pixelColor(300, 225), w.shown(300, 225));
}

// A tablet's pen: events of its own on the photo; elsewhere its taps come as those of a mouse.
TEST(WholeTask, ByPen) {
    const TempFolder folder;
    Window w;
    ASSERT_TRUE(w.open(squarePhoto(folder)));
    const QColor ground = w.shown(300, 20), square = w.shown(300, 225);
    const auto drag = [&](base::Point from, base::Point to) {
        w.pen(QEvent::TabletPress, w.screen(from.x, from.y), 0.5);
        for (int i = 1; i <= 8; ++i)
            w.pen(QEvent::TabletMove, w.screen(from.x + (to.x - from.x) * i / 8, from.y + (to.y - from.y) * i / 8),
                  0.7);
        w.pen(QEvent::TabletRelease, w.screen(to.x, to.y), 0);
    };

    w.find<QPushButton>("new-correction")->menu()->actions()[1]->trigger();
    ASSERT_TRUE(w.settle());
    drag({300, 10}, {300, 440});
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().undoName(), "move gradient");
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    const int y = exposure->height() / 2;
    QTest::mousePress(exposure->track(), Qt::LeftButton, {}, QPoint(90, y));
    QMouseEvent move(QEvent::MouseMove, QPointF(50, y), exposure->track()->mapToGlobal(QPointF(50, y)), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(exposure->track(), &move);
    QTest::mouseRelease(exposure->track(), Qt::LeftButton, {}, QPoint(50, y));
    EXPECT_LT(exposure->value(), -0.3);
    ASSERT_TRUE(w.settle());
    EXPECT_LT(w.shown(300, 20).red(), ground.red() - 5);

    QTest::mouseClick(w.find<QWidget>("add-region"), Qt::LeftButton);
    ASSERT_TRUE(w.settle());
    w.combinePart(w.rowOfPart(w.session().selectedPart()), mask::Combine::subtract);
    ASSERT_TRUE(w.settle());
    drag({280, 200}, {320, 250});
    ASSERT_TRUE(w.settle());
    EXPECT_NEAR(w.shown(300, 225).red(), square.red(), 3) << "left out";
    EXPECT_LT(w.shown(300, 20).red(), ground.red() - 5);
}

}  // namespace dimhem::tests
