// The real window for a test, and the events of a hand on it.
#pragma once

#include <gtest/gtest.h>

#include <QApplication>
#include <QListView>
#include <QMenu>
#include <QPushButton>
#include <QTabletEvent>
#include <QTest>

#include "tests/support/temp_folder.h"
#include "ui/main_window.h"
#include "ui/panel/message_bar.h"
#include "ui/panel/part_delegate.h"

namespace dimhem::tests {

// Long enough for any machine: nothing but a hang reaches it.
inline constexpr int hangMs = 120'000;

class Window {
public:
    Window() {
        window.resize(1280, 800);
        window.show();
        QApplication::setActiveWindow(&window);
        (void)QTest::qWaitForWindowExposed(&window);
    }

    // Opens a file and waits until it is shown.
    bool open(const QString& path) {
        window.openFile(path);
        return settle() && window.session().isOpen();
    }

    bool settle() {
        int calm = 0;
        return QTest::qWaitFor(
            [&] {
                calm = window.isSettled() ? calm + 1 : 0;
                return calm > 3;
            },
            hangMs);
    }

    // Until something has come about; false only where the program hangs.
    template <class Condition>
    static bool waitFor(Condition condition) {
        return QTest::qWaitFor(condition, hangMs);
    }

    ui::Session& session() { return window.session(); }
    ui::Canvas& canvas() { return window.canvas(); }
    QPoint screen(double x, double y) { return canvas().viewport().toScreen({x, y}).toPoint(); }
    QColor shown(double x, double y) { return canvas().shownColour({x, y}); }

    // A drag along places of the photo, with the left button.
    void drag(const std::vector<base::Point>& places, Qt::KeyboardModifiers modifiers = {}) {
        QTest::mouseMove(&canvas(), screen(places.front().x, places.front().y));
        QTest::mousePress(&canvas(), Qt::LeftButton, modifiers, screen(places.front().x, places.front().y));
        for (const base::Point& place : places) moveHeld(screen(place.x, place.y), modifiers);
        QTest::mouseRelease(&canvas(), Qt::LeftButton, modifiers, screen(places.back().x, places.back().y));
    }

    void moveHeld(QPoint at, Qt::KeyboardModifiers modifiers = {}) {
        QMouseEvent event(QEvent::MouseMove, QPointF(at), canvas().mapToGlobal(QPointF(at)), Qt::NoButton,
                          Qt::LeftButton, modifiers);
        QApplication::sendEvent(&canvas(), &event);
    }

    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(&canvas(), static_cast<Qt::Key>(key), modifiers);
    }

    // A pen on the photo, at a place of the screen.
    void pen(QEvent::Type type, QPointF at, double pressure) {
        static const QPointingDevice device(
            "pen", 7, QInputDevice::DeviceType::Stylus, QPointingDevice::PointerType::Pen,
            QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 1);
        QTabletEvent event(type, &device, at, canvas().mapToGlobal(at), pressure, 0, 0, 0, 0, 0, {}, Qt::LeftButton,
                           type == QEvent::TabletRelease ? Qt::NoButton : Qt::LeftButton);
        QApplication::sendEvent(&canvas(), &event);
    }

    template <class T>
    T* find(const QString& name) {
        return window.findChild<T*>(name);
    }

    // What a message in sight offers to do; null: nothing.
    QPushButton* offer() {
        for (auto* button : window.findChild<ui::MessageBar*>()->findChildren<QPushButton*>()) {
            if (button->isVisible()) return button;
        }
        return nullptr;
    }

    // The lists of cards ("sequence": the photo, the corrections, the result) and of parts ("parts").
    QListView* list(const QString& name) { return find<QListView>(name); }
    QRect item(const QString& name, int row) {
        list(name)->scrollTo(list(name)->model()->index(row, 0));
        return list(name)->visualRect(list(name)->model()->index(row, 0));
    }
    void clickItem(const QString& name, int row, Qt::KeyboardModifiers modifiers = {}) {
        const QRect at = item(name, row);
        QTest::mouseClick(list(name)->viewport(), Qt::LeftButton, modifiers,
                          at.topLeft() + QPoint(20, at.height() / 2));
        QApplication::processEvents();
    }
    void dragItem(const QString& name, int row, QPoint to) {
        QWidget* view = list(name)->viewport();
        const QPoint from = item(name, row).topLeft() + QPoint(20, 10);
        QTest::mousePress(view, Qt::LeftButton, {}, from);
        for (const QPoint at : {from + QPoint(15, 15), to}) {
            QMouseEvent move(QEvent::MouseMove, QPointF(at), view->mapToGlobal(QPointF(at)), Qt::NoButton,
                             Qt::LeftButton, {});
            QApplication::sendEvent(view, &move);
        }
        QTest::mouseRelease(view, Qt::LeftButton, {}, to);
        QApplication::processEvents();
    }
    // A press on what stands in a part's row, and a choice in the menu that opens.
    void pressInPart(int row, ui::PartDelegate::Place place) {
        const QRect at = ui::PartDelegate::rectOf(item("parts", row), place);
        QTest::mouseClick(list("parts")->viewport(), Qt::LeftButton, {}, at.center());
        QApplication::processEvents();
    }
    void combinePart(int row, mask::Combine combine) {
        pressInPart(row, ui::PartDelegate::Place::combine);
        auto* menu = find<QMenu>("combine");
        ASSERT_TRUE(menu);
        menu->actions()[static_cast<int>(combine)]->trigger();
        menu->close();
        QApplication::processEvents();
    }
    // In the menu of what was dropped on a card; words that none begins with close it.
    void chooseDropped(const QString& words) {
        auto* menu = find<QMenu>("drop-menu");
        ASSERT_TRUE(menu);
        for (QAction* action : menu->actions()) {
            if (action->text().startsWith(words)) action->trigger();
        }
        menu->close();
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        ASSERT_TRUE(settle());
    }
    int rowOfPart(mask::PartId id) {
        const auto& parts = session().correction()->mask.parts;
        return static_cast<int>(std::ranges::find(parts, id, [](const auto& p) { return p->id; }) - parts.begin());
    }

    ui::MainWindow window;
};

// A test with a window and a folder of its own; a photo is opened by the test.
class WindowTest : public testing::Test {
protected:
    // The selected part's shape, where it is of that kind.
    template <class T>
    std::shared_ptr<const T> shape() {
        return std::dynamic_pointer_cast<const T>(w.session().part()->shape);
    }
    // The coverage at a place, read off the plate view.
    int plate(double x, double y) {
        w.session().setMaskView(render::MaskView::plate);
        EXPECT_TRUE(w.settle());
        return w.shown(x, y).red();
    }

    TempFolder folder;
    Window w;
};

}  // namespace dimhem::tests
