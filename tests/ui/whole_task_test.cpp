// A whole task with real events: open a photo, make a correction, paint it in, compare, take back, save, reopen,
// export.
#include <gtest/gtest.h>

#include <QLineEdit>
#include <QMenu>

#include "core/document/json_format.h"
#include "core/io/registry.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"

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

}  // namespace dimhem::tests
