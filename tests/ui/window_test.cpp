#include <gtest/gtest.h>

#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QToolButton>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "tests/ui/photos.h"
#include "tests/ui/small_demo.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

QString written(const TempFolder& folder, const std::string& name, const std::string& text) {
    return QString::fromStdString(tests::written(folder / name, text).string());
}

}  // namespace

TEST(Window, BadFilesAreOneSentenceAndTheStartPageStays) {
    const TempFolder folder;
    Window w;
    const QString files[] = {
        written(folder, "text.png", "not a picture"),
        written(folder, "empty.jpg", ""),
        QString::fromStdString((folder / "none.jpg").string()),
        written(folder, "newer.json", R"({"format": "dim-hem-document", "version": 99})"),
        written(folder, "cut.json", R"({"format": )"),
    };
    for (const QString& file : files) {
        EXPECT_FALSE(w.open(file)) << file.toStdString();
        EXPECT_TRUE(w.window.message().endsWith('.')) << file.toStdString() << ": " << w.window.message().toStdString();
    }
}

TEST(Window, ADocumentWhosePhotoIsMissingAsksForIt) {
    const TempFolder folder;
    Window w;
    EXPECT_FALSE(w.open(written(
        folder, "lost.json",
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "gone.png"}, "corrections": [{"name": "Kept"}]})")));
    EXPECT_TRUE(w.window.message().contains("gone.png"));
    bool asks = false;
    for (auto* button : w.window.findChildren<QPushButton*>())
        asks = asks || (button->isVisible() && button->text().startsWith("Find the photo"));
    EXPECT_TRUE(asks);
    w.window.jobs().open(QString::fromStdString((folder / "lost.json").string()), greyPhoto(folder));
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.session().isOpen());
    EXPECT_EQ(w.session().document()->corrections[0]->name, "Kept");
}

TEST(Window, UnsavedChangesAreGuarded) {
    const TempFolder folder;
    Window w;
    ASSERT_TRUE(w.open(greyPhoto(folder)));
    w.key(Qt::Key_1);
    EXPECT_FALSE(w.session().isSaved());
    w.window.close();
    auto* question = w.window.findChild<QMessageBox*>();
    ASSERT_TRUE(question);
    EXPECT_TRUE(w.window.isVisible());
    QTest::mouseClick(question->buttons().last(), Qt::LeftButton);  // whichever it is, nothing may be lost silently
    EXPECT_TRUE(w.session().isOpen());
}

TEST(Window, SlidersMakeOneStepOfADragAndKeepTheFocusOfKeys) {
    const SmallDemo tower("tower-dusk");
    Window w;
    ASSERT_TRUE(w.open(tower.document()));
    auto* strength = w.find<ui::ValueSlider>("correction-strength");
    ASSERT_TRUE(strength);
    ui::SliderTrack* track = strength->track();
    const std::string before = document::toJsonText(*w.session().document());
    QTest::mousePress(track, Qt::LeftButton, {}, QPoint(20, 10));
    QTest::mouseMove(track, QPoint(40, 10));
    QTest::mouseMove(track, QPoint(30, 10));
    EXPECT_TRUE(w.session().isSliding());
    QTest::mouseRelease(track, Qt::LeftButton, {}, QPoint(30, 10));
    EXPECT_FALSE(w.session().isSliding());
    EXPECT_EQ(w.session().undoName(), "change strength");
    w.session().undo();
    EXPECT_EQ(document::toJsonText(*w.session().document()), before);
    ASSERT_TRUE(w.settle());

    strength = w.find<ui::ValueSlider>("correction-strength");
    strength->track()->setFocus();
    const double value = strength->value();
    QTest::keyClick(strength->track(), Qt::Key_Down);
    QTest::keyClick(strength->track(), Qt::Key_Down, Qt::ShiftModifier);
    EXPECT_EQ(strength->value(), value - 11);
    EXPECT_FALSE(w.session().isSaved()) << "shown, and not yet a step";
    EXPECT_TRUE(w.waitFor([&] { return !w.session().hasGesture(); })) << "the pause ends the gesture";
    EXPECT_EQ(w.session().correction()->strengthPct, value - 11);
    EXPECT_TRUE(w.find<ui::ValueSlider>("correction-strength")->track()->hasFocus());
    QTest::mouseDClick(strength->track(), Qt::LeftButton, {}, QPoint(10, 10));
    EXPECT_EQ(w.session().correction()->strengthPct, 100);
}

TEST(Window, SliderPlacesAndValuesAgreeOnEveryScale) {
    const base::ParamSpec linear{"a", "A", "", -5, 5, 0, 0.05, 2, "tip"};
    const base::ParamSpec logarithmic{"b", "B", "px", 1, 4000, 180, 1, 0, "tip", base::Scale::logarithmic};
    const base::ParamSpec reciprocal{"c", "C", "K", 2000, 20000, 6500, 50, 0, "tip", base::Scale::reciprocal};
    for (const base::ParamSpec* spec : {&linear, &logarithmic, &reciprocal}) {
        EXPECT_NEAR(ui::SliderTrack::placeOf(*spec, spec->min), 0, 1e-12);
        EXPECT_NEAR(ui::SliderTrack::placeOf(*spec, spec->max), 1, 1e-12);
        for (double place = 0; place <= 1; place += 0.1) {
            const double value = ui::SliderTrack::valueAt(*spec, place);
            EXPECT_TRUE(base::inRange(*spec, value));
            EXPECT_NEAR(value, ui::SliderTrack::valueAt(*spec, ui::SliderTrack::placeOf(*spec, value)),
                        spec->step * 1.01);
        }
    }
}

TEST(Window, CardsSelectRenameSwitchReorderAndRemove) {
    const SmallDemo tower("tower-dusk");
    Window w;
    ASSERT_TRUE(w.open(tower.document()));
    const auto ids = [&] {
        QList<document::Id> list;
        for (const auto& c : w.session().document()->corrections) list.append(c->id);
        return list;
    };
    const QList<document::Id> first = ids();
    ASSERT_EQ(first.size(), 3);
    w.clickItem("sequence", 2);
    EXPECT_EQ(w.session().selectedCorrection(), first[1]);
    w.clickItem("sequence", 3, Qt::ControlModifier);
    EXPECT_EQ(w.session().selectedCorrections(), (QList{first[1], first[2]}));
    w.key(Qt::Key_Slash);
    EXPECT_TRUE(w.session().document()->corrections[0]->enabled);
    EXPECT_FALSE(w.session().document()->corrections[1]->enabled);
    EXPECT_FALSE(w.session().document()->corrections[2]->enabled);
    w.session().undo();
    ASSERT_TRUE(w.settle());

    QWidget* view = w.list("sequence")->viewport();
    const QPoint name = w.item("sequence", 2).topLeft() + QPoint(100, 15);
    QTest::mouseClick(view, Qt::LeftButton, {}, name);
    QTest::mouseDClick(view, Qt::LeftButton, {}, name);
    auto* editor = view->findChild<QLineEdit*>();
    ASSERT_TRUE(editor);
    QTest::keyClicks(editor, "Tower, brighter");
    QTest::keyClick(editor, Qt::Key_Return);
    EXPECT_EQ(w.session().document()->corrections[1]->name, "Tower, brighter");
    ASSERT_TRUE(w.settle());

    // Drag the first card behind the second.
    w.dragItem("sequence", 1, w.item("sequence", 2).topRight() + QPoint(-10, 20));
    EXPECT_EQ(ids(), (QList<document::Id>{first[1], first[0], first[2]}));
    ASSERT_TRUE(w.settle());

    w.session().selectCorrection(first[2]);
    w.key(Qt::Key_Delete);
    EXPECT_EQ(ids().size(), 2);
    w.session().undo();
    EXPECT_EQ(ids().size(), 3);
}

TEST(Window, DuplicateInverseAndSameMask) {
    const SmallDemo tower("tower-dusk");
    Window w;
    ASSERT_TRUE(w.open(tower.document()));
    const std::size_t parts = w.session().correction()->mask.parts.size();
    w.key(Qt::Key_D, Qt::ControlModifier);
    ASSERT_EQ(w.session().document()->corrections.size(), 4u);
    EXPECT_EQ(w.session().document()->corrections[1]->id, w.session().selectedCorrection());
    auto* create = w.find<QPushButton>("new-correction");
    create->menu()->actions().last()->trigger();
    EXPECT_TRUE(w.session().correction()->mask.inverted);
    EXPECT_EQ(w.session().correction()->mask.parts.size(), parts);
}

TEST(Window, NothingInItIsCutOffAt1280x800) {
    const SmallDemo tower("tower-dusk");
    Window w;
    ASSERT_TRUE(w.open(tower.document()));
    for (auto* label : w.window.findChildren<QLabel*>()) {
        if (!label->isVisible() || label->wordWrap() || label->text().isEmpty()) continue;
        EXPECT_LE(label->fontMetrics().horizontalAdvance(label->text()), label->width() + 1)
            << label->text().toStdString();
    }
}

TEST(Window, EveryControlHasANameAndATooltip) {
    const SmallDemo tower("tower-dusk");
    Window w;
    ASSERT_TRUE(w.open(tower.document()));
    int controls = 0;
    for (auto* control : w.window.findChildren<QWidget*>()) {
        const bool isControl = qobject_cast<QAbstractButton*>(control) || qobject_cast<ui::SliderTrack*>(control) ||
                               qobject_cast<QLineEdit*>(control);
        if (!isControl || !control->isVisible()) continue;
        ++controls;
        EXPECT_FALSE(control->accessibleName().isEmpty())
            << control->metaObject()->className() << " " << control->objectName().toStdString();
        EXPECT_FALSE(control->toolTip().isEmpty()) << control->accessibleName().toStdString();
    }
    EXPECT_GT(controls, 40);
}

TEST(Window, InterfaceColoursAreNeutral) {
    const SmallDemo tower("tower-dusk");
    Window w;
    ASSERT_TRUE(w.open(tower.document()));
    w.session().selectCorrection(0);  // no thread colour on the panels
    ASSERT_TRUE(w.settle());
    const QImage shot = w.window.grab().toImage();
    const QRect canvas(w.canvas().mapTo(&w.window, QPoint()), w.canvas().size());
    for (int y = canvas.top() + 5; y < canvas.bottom(); y += 3) {
        for (const int x :
             {20, 100, canvas.left() - 10, canvas.left() + 4, canvas.right() - 4, canvas.right() + 20, 1150, 1270}) {
            const QColor c = shot.pixelColor(x, y);
            ASSERT_TRUE(std::abs(c.red() - c.green()) <= 1 && std::abs(c.green() - c.blue()) <= 1)
                << x << " " << y << " " << c.name().toStdString();
        }
    }
}

TEST(Viewport, KeepsThePlaceUnderThePointerWhileZooming) {
    ui::Viewport viewport;
    viewport.setWidget({800, 600}, 1);
    viewport.setPhoto({2400, 1600});
    const QPointF pointer(200, 450);
    const base::Point place = viewport.toPhoto(pointer);
    for (const double zoom : {0.5, 3.0, 0.2, 32.0}) {
        viewport.zoomTo(zoom, pointer);
        EXPECT_NEAR(viewport.toPhoto(pointer).x, place.x, 1e-6);
        EXPECT_NEAR(viewport.toPhoto(pointer).y, place.y, 1e-6);
    }
}

TEST(Viewport, TakesTheCoarsestLevelThatStillHasEnoughPixels) {
    ui::Viewport viewport;
    viewport.setWidget({800, 600}, 1);
    viewport.setPhoto({6000, 4000});
    for (const auto& [zoom, level] :
         {std::pair{1.0, 0}, {2.0, 0}, {0.51, 0}, {0.5, 1}, {0.26, 1}, {0.25, 2}, {0.13, 2}}) {
        viewport.zoomTo(zoom, {400, 300});
        EXPECT_EQ(viewport.level(), level) << zoom;
    }
}

}  // namespace dimhem::tests
