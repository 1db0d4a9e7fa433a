// Seeded random sessions in the real window: strokes, keys, sliders, undo, selecting, opening, saving, exporting,
// closing, in any order and in the middle of one another. Nothing crashes; what is shown is the document's; undo and
// redo give back each step; what is saved opens equal.
//
// DIMHEM_STORM_EVENTS and DIMHEM_STORM_SEEDS ("from-to") make it longer; each failure names its seed and event.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QDialog>
#include <QMenu>
#include <QMessageBox>
#include <QScrollArea>
#include <QToolButton>
#include <map>
#include <random>

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/image/tiles.h"
#include "core/mask/registry.h"
#include "core/render/renderer.h"
#include "core/task/open.h"
#include "core/task/save.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/curve_field.h"
#include "ui/control/drag_field.h"
#include "ui/control/entry_field.h"
#include "ui/control/item_list.h"
#include "ui/control/range_strip.h"
#include "ui/control/segmented.h"
#include "ui/control/switch.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

class Storm {
public:
    explicit Storm(unsigned seed) : random_(seed) {
        QImage photo(320, 240, QImage::Format_RGB32);
        for (int y = 0; y < 240; ++y) {
            for (int x = 0; x < 320; ++x)
                photo.setPixelColor(
                    x, y,
                    QColor(60 + x / 3, (x - 160) * (x - 160) + (y - 120) * (y - 120) < 3600 ? 190 : 70, 40 + y / 2));
        }
        photo.save(pathOf("one.png"));
        photo.mirrored(true, false).save(pathOf("two.png"));
        QObject::connect(&session(), &ui::Session::opened, [this] { steps_.clear(); });
        QObject::connect(&session(), &ui::Session::documentChanged, [this] { follow(); });
        for (const auto changedLater : {&ui::Session::threadColourChanged, &ui::Session::measured}) {
            QObject::connect(&session(), changedLater, [this] {
                if (session().isOpen()) steps_[session().step()] = {session().document(), text()};
            });
        }
        EXPECT_TRUE(w_.open(pathOf("one.png")));
    }

    void event() {
        using Act = void (Storm::*)();
        static constexpr std::pair<int, Act> acts[] = {
            {26, &Storm::pointer},      {14, &Storm::slider},     {10, &Storm::key},       {7, &Storm::undoOrRedo},
            {5, &Storm::select},        {4, &Storm::control},     {4, &Storm::curve},      {4, &Storm::strip},
            {4, &Storm::button},        {3, &Storm::combo},       {3, &Storm::typeNumber}, {2, &Storm::newCorrection},
            {3, &Storm::addAdjustment}, {2, &Storm::wheel},       {2, &Storm::save},       {1, &Storm::exportPicture},
            {1, &Storm::openAnother},   {1, &Storm::closeWindow}, {2, &Storm::heldKey},    {2, &Storm::rename}};
        int total = 0;
        for (const auto& [weight, act] : acts) total += weight;
        int pick = below(total);
        for (const auto& [weight, act] : acts) {
            if ((pick -= weight) >= 0) continue;
            (this->*act)();
            break;
        }
        answerDialogs();
        if (below(3) != 0) QApplication::processEvents();
    }

    // At rest: what must be so.
    void check() {
        letGo();
        ASSERT_TRUE(settle());
        checkShown();
        checkUndo();
        checkSaved();
    }

private:
    int below(int n) { return static_cast<int>(random_() % static_cast<unsigned>(std::max(1, n))); }
    QString pathOf(const std::string& name) { return QString::fromStdString((folder_ / name).string()); }
    ui::Session& session() { return w_.session(); }
    // Without what is measured of the photo, which becomes part of the steps later than they are made.
    std::string text() {
        document::DocumentPtr document = session().document();
        for (const document::CorrectionPtr& correction : session().document()->corrections) {
            for (const document::AdjustmentUse& use : correction->adjustments) {
                if (!use.kind->measure) continue;
                document = document::withAdjustment(*document, correction->id, use.id, [](document::AdjustmentUse& u) {
                    for (std::size_t i = 0; i < u.kind->tables.size(); ++i) {
                        if (u.kind->tables[i].measured) u.settings.tables[i].clear();
                    }
                });
            }
        }
        return document::toJsonText(*document);
    }

    template <class T>
    T* any() {
        QList<T*> all;
        for (T* each : w_.window.findChildren<T*>()) {
            if (each->isVisible() && each->isEnabled()) all.append(each);
        }
        return all.isEmpty() ? nullptr : all[below(static_cast<int>(all.size()))];
    }

    void pointer() {
        auto& canvas = w_.canvas();
        const QPoint at(below(canvas.width()), below(canvas.height()));
        const Qt::KeyboardModifiers modifiers = below(6) == 0   ? Qt::KeyboardModifiers(Qt::ControlModifier)
                                                : below(6) == 0 ? Qt::KeyboardModifiers(Qt::ShiftModifier)
                                                                : Qt::NoModifier;
        if (!down_) {
            QTest::mousePress(&canvas, Qt::LeftButton, modifiers, at);
            down_ = true;
        } else if (below(3) != 0) {
            w_.moveHeld(at, modifiers);
        } else {
            QTest::mouseRelease(&canvas, Qt::LeftButton, modifiers, at);
            down_ = false;
        }
    }

    void letGo() {
        if (std::exchange(down_, false)) QTest::mouseRelease(&w_.canvas(), Qt::LeftButton, {}, QPoint(50, 50));
        if (track_) QTest::mouseRelease(track_, Qt::LeftButton, {}, QPoint(10, 10));
        track_ = nullptr;
        w_.key(Qt::Key_Escape);
        session().endGesture();
        for (const Qt::Key key : {Qt::Key_A, Qt::Key_P, Qt::Key_Z, Qt::Key_Space}) QTest::keyRelease(&w_.canvas(), key);
        session().setLook(ui::Look::result);
        session().setHoveredPart(0);
    }

    void drag(QWidget* widget) {
        if (!widget) return;
        const auto at = [&] { return QPoint(below(widget->width()), below(widget->height())); };
        const QPointer<QWidget> alive = widget;
        QTest::mousePress(widget, Qt::LeftButton, {}, at());
        for (int i = below(3); i >= 0 && alive; --i) {
            const QPointF to = at();
            QMouseEvent held(QEvent::MouseMove, to, alive->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(alive, &held);
        }
        // Now and then something comes between, with the button still down.
        if (alive && below(5) == 0) {
            track_ = alive;
            return;
        }
        if (alive) QTest::mouseRelease(alive, Qt::LeftButton, {}, at());
    }

    void slider() {
        ui::SliderTrack* track = any<ui::SliderTrack>();
        if (!track) return;
        if (below(2) == 0) return drag(track);
        track->setFocus();
        static constexpr Qt::Key keys[] = {Qt::Key_Up, Qt::Key_Down, Qt::Key_Left, Qt::Key_Right};
        QTest::keyClick(track, keys[below(4)], below(2) ? Qt::ShiftModifier : Qt::NoModifier);
    }
    void curve() { drag(any<ui::CurveField>()); }
    void strip() { below(2) ? drag(any<ui::RangeStrip>()) : drag(any<ui::DragField>()); }
    void control() {
        if (auto* chosen = any<ui::Switch>()) chosen->click();
    }

    void typeNumber() {
        auto* chosen = any<ui::ValueSlider>();
        if (!chosen) return;
        chosen->field()->setFocus();
        chosen->field()->selectAll();
        QTest::keyClicks(chosen->field(), QString::number(below(200) - 60));
        if (below(3) == 0) QTest::keyClick(chosen->field(), below(2) ? Qt::Key_Return : Qt::Key_Escape);
    }

    void key() {
        static constexpr Qt::Key keys[] = {Qt::Key_1,      Qt::Key_2,           Qt::Key_3,
                                           Qt::Key_4,      Qt::Key_5,           Qt::Key_6,
                                           Qt::Key_7,      Qt::Key_9,           Qt::Key_F,
                                           Qt::Key_G,      Qt::Key_H,           Qt::Key_N,
                                           Qt::Key_R,      Qt::Key_Comma,       Qt::Key_Period,
                                           Qt::Key_Slash,  Qt::Key_Escape,      Qt::Key_Return,
                                           Qt::Key_Delete, Qt::Key_BracketLeft, Qt::Key_BracketRight,
                                           Qt::Key_Tab};
        Qt::Key chosen = keys[below(std::size(keys))];
        const document::Correction* selected = session().correction();
        const bool isFull = selected && selected->mask.parts.size() > 4;
        if (isFull && chosen >= Qt::Key_1 && chosen <= Qt::Key_9) chosen = Qt::Key_F;
        QWidget* focus = below(3) && QApplication::focusWidget() ? QApplication::focusWidget() : &w_.canvas();
        QTest::keyClick(focus, chosen);
    }

    void heldKey() {
        static constexpr Qt::Key keys[] = {Qt::Key_A, Qt::Key_P, Qt::Key_Z, Qt::Key_Space};
        const Qt::Key chosen = keys[below(4)];
        below(2) ? QTest::keyPress(&w_.canvas(), chosen) : QTest::keyRelease(&w_.canvas(), chosen);
    }

    // Each version the moment it becomes a step, by its place among the steps, so that undo and redo can be held
    // against it.
    struct Step {
        document::DocumentPtr document;
        std::string text;
    };
    void follow() {
        if (goingBack_ || !session().isOpen() || session().hasGesture()) return;
        const auto known = steps_.find(session().step());
        if (known != steps_.end() && known->second.document == session().document()) return;
        steps_.erase(steps_.lower_bound(session().step()), steps_.end());
        steps_[session().step()] = {session().document(), text()};
    }
    void undoOrRedo() {
        session().endGesture();
        const bool back = below(3) != 0;
        if (!(back ? session().canUndo() : session().canRedo())) return;
        const int before = session().step();
        goingBack_ = true;
        back ? session().undo() : session().redo();
        goingBack_ = false;
        const int now = session().step();
        ASSERT_EQ(now, back ? before - 1 : before + 1);
        const auto known = steps_.find(now);  // not, where it was made before this began to look
        if (known != steps_.end()) {
            EXPECT_EQ(text(), known->second.text) << (back ? "undo" : "redo") << " gives the step " << now;
        }
        steps_[now] = {session().document(), text()};  // what was measured since may have become part of it
    }

    void select() {
        const auto& corrections = session().document()->corrections;
        if (below(2) == 0 && !corrections.empty()) {
            session().selectCorrection(
                corrections[static_cast<std::size_t>(below(static_cast<int>(corrections.size())))]->id);
        } else if (auto* list = any<ui::ItemList>()) {
            const QRect seen = list->viewport()->rect();
            const QPoint at(below(seen.width()), below(seen.height()));
            QTest::mouseClick(list->viewport(), Qt::LeftButton, below(3) ? Qt::NoModifier : Qt::ControlModifier, at);
        }
    }

    void rename() {
        auto* list = any<ui::ItemList>();
        if (!list) return;
        list->edit(list->currentIndex());
        if (auto* field = list->findChild<ui::EntryField*>()) {
            QTest::keyClicks(field, "name");
            if (below(2)) QTest::keyClick(field, below(2) ? Qt::Key_Return : Qt::Key_Escape);
        }
    }

    void button() {
        // Not those that open a chooser of the system, nor menus.
        auto* chosen = any<QPushButton>();
        if (!chosen || chosen->menu() || chosen->text().endsWith("…") ||
            chosen->parentWidget()->inherits("QMessageBox"))
            return;
        chosen->click();
    }

    void combo() {
        auto* chosen = any<QComboBox>();
        if (!chosen || chosen->count() == 0) return;
        const int index = below(chosen->count());
        chosen->setCurrentIndex(index);
        Q_EMIT chosen->activated(index);
    }

    void newCorrection() {
        if (session().document()->corrections.size() > 4) return;
        mask::Mask mask;
        mask.startsEverywhere = below(2) == 0;
        below(3) ? session().addCorrection(mask, "new correction") : session().duplicateCorrections();
    }

    void addAdjustment() {
        if (!session().correction() || session().correction()->adjustments.size() > 4) return;
        const auto kinds = adjust::adjustmentKinds();
        const adjust::AdjustmentKind* kind = kinds[static_cast<std::size_t>(below(static_cast<int>(kinds.size())))];
        session().edit("add", [&](const document::Document& d) {
            return document::withNewAdjustment(d, session().selectedCorrection(), *kind).document;
        });
    }

    void wheel() { below(2) ? w_.canvas().zoomBy(below(2) ? 1.4 : 0.7) : w_.canvas().fit(); }
    void save() { w_.window.jobs().save(pathOf("work.dimhem")); }
    void exportPicture() { w_.window.jobs().exportTo(pathOf(below(2) ? "out.png" : "out.jpg"), {}); }
    void openAnother() {
        const QString paths[] = {pathOf("one.png"), pathOf("two.png"), pathOf("work.dimhem")};
        const QString path = paths[below(3)];
        if (QFile::exists(path)) w_.window.openFile(path);
    }
    void closeWindow() {
        w_.window.close();
        answerDialogs();
        if (!w_.window.isVisible()) {
            w_.window.show();
            w_.window.openFile(pathOf("one.png"));
        }
    }

    void answerDialogs() {
        for (auto* dialog : w_.window.findChildren<QDialog*>()) {
            if (!dialog->isVisible()) continue;
            auto* box = qobject_cast<QMessageBox*>(dialog);
            if (!box) {
                dialog->close();
                continue;
            }
            const auto buttons = box->buttons();
            buttons[below(static_cast<int>(buttons.size()))]->click();
        }
        if (QWidget* popup = QApplication::activePopupWidget()) popup->close();
    }

    // Until all is at rest. Ranges measured on what arrives, one after the other, can take long to work out; a hang
    // takes longer still.
    bool settle() {
        constexpr int tries = 8;
        for (int i = 0; i < tries; ++i) {
            answerDialogs();
            if (w_.settle() && !w_.window.findChild<QMessageBox*>())
                return session().isOpen() || w_.open(pathOf("one.png"));
        }
        ADD_FAILURE() << "never at rest: jobs " << w_.window.jobs().isBusy() << ", readings " << session().isReading()
                      << ", frames " << !w_.canvas().isUpToDate() << ", hem " << !w_.window.hem().isUpToDate()
                      << ", journal " << !w_.window.journal().isUpToDate() << ", question "
                      << (w_.window.findChild<QMessageBox*>() != nullptr);
        return false;
    }

    // As the window's renderer makes it, from what is kept.
    QColor throughCache(const render::View& view, const render::Sequence& sequence, base::Point place) {
        const render::Renderer& kept = session().renderer();
        const int level = w_.canvas().viewport().level();
        const base::Size size = image::levelSize(kept.photo().size(), level);
        const image::TileGrid grid(size, image::defaultTilePx);
        const int x = std::min(static_cast<int>(place.x) >> level, size.width - 1),
                  y = std::min(static_cast<int>(place.y) >> level, size.height - 1);
        const base::Rect tile = grid.tile(x / image::defaultTilePx, y / image::defaultTilePx);
        const auto shown = kept.display(sequence, view, {tile, level});
        return QColor(static_cast<QRgb>(shown->row(y - tile.y0)[static_cast<std::size_t>(x - tile.x0)]));
    }

    // The frame on screen is that of the document: compared with one rendered apart, with nothing cached.
    void checkShown() {
        const render::Renderer fresh(session().origin().photo, std::make_shared<render::TileCache>());
        const render::View view = session().shown().view;
        const render::Sequence sequence(session().document(), view.comparison);
        const int level = w_.canvas().viewport().level();
        const base::Size size = session().renderer().photo().size();
        const base::Size levelSize = image::levelSize(size, level);
        const auto tile = fresh.display(sequence, view, {base::rectOf(levelSize), level});
        const QRectF seen = w_.canvas().viewport().visiblePhoto();
        for (int i = 0; i < 12; ++i) {
            const base::Point place{below(size.width) + 0.5, below(size.height) + 0.5};
            if (!seen.contains(place.x, place.y)) continue;
            const int x = std::min(static_cast<int>(place.x) >> level, levelSize.width - 1);
            const int y = std::min(static_cast<int>(place.y) >> level, levelSize.height - 1);
            const QColor shown = w_.canvas().shownColour(place),
                         wanted(static_cast<QRgb>(tile->row(y)[static_cast<std::size_t>(x)]));
            EXPECT_LE(std::abs(shown.red() - wanted.red()) + std::abs(shown.green() - wanted.green()) +
                          std::abs(shown.blue() - wanted.blue()),
                      3)
                << "at " << place.x << ", " << place.y << " level " << level << ": shown " << shown.name().toStdString()
                << ", of the document " << wanted.name().toStdString() << ", through the cache "
                << throughCache(view, sequence, place).name().toStdString() << ", view "
                << static_cast<int>(view.maskView) << "\n"
                << document::toJsonText(*session().document());
        }
    }

    void checkUndo() {
        goingBack_ = true;
        std::vector<std::string> texts{text()};
        for (int i = 0; i < 8 && session().canUndo(); ++i) {
            session().undo();
            texts.push_back(text());
        }
        for (std::size_t i = texts.size() - 1; i-- > 0;) {
            ASSERT_TRUE(session().canRedo());
            session().redo();
            ASSERT_EQ(text(), texts[i]) << "redo gives back the step " << i;
        }
        goingBack_ = false;
        ASSERT_TRUE(settle());
    }

    void checkSaved() {
        const auto place = folder_ / "check.dimhem";
        const auto version = session().document();
        const auto saved = task::save(session().origin(), version, place);
        ASSERT_TRUE(saved) << saved.error().message;
        const auto opened = task::open(place);
        ASSERT_TRUE(opened) << opened.error().message;
        EXPECT_EQ(document::toJsonText(*opened->document), document::toJsonText(*version));
    }

    std::mt19937 random_;
    TempFolder folder_;
    Window w_;
    std::map<int, Step> steps_;
    bool goingBack_ = false;
    bool down_ = false;
    QPointer<QWidget> track_;
};

std::pair<unsigned, unsigned> seeds() {
    const QStringList parts = qEnvironmentVariable("DIMHEM_STORM_SEEDS", "1").split('-');
    return {parts[0].toUInt(), parts.last().toUInt()};
}

}  // namespace

TEST(Storm, NothingCrashesAndEverythingStaysAsItMustBe) {
    bool given = false;
    const int wanted = qEnvironmentVariableIntValue("DIMHEM_STORM_EVENTS", &given), events = given ? wanted : 200;
    const auto [from, to] = seeds();
    for (unsigned seed = from; seed <= to; ++seed) {
        Storm storm(seed);
        for (int i = 1; i <= events; ++i) {
            SCOPED_TRACE("seed " + std::to_string(seed) + ", event " + std::to_string(i));
            storm.event();
            if (i % 50 == 0 || i == events) storm.check();
            if (testing::Test::HasFatalFailure() || testing::Test::HasNonfatalFailure()) return;
        }
    }
}

}  // namespace dimhem::tests
