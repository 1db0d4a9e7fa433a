// Unsaved work is never dropped: jobs in any order, closing, crashes, other windows, other programs.
#include <gtest/gtest.h>

#include <QLabel>
#include <QMessageBox>
#include <new>

#include "core/base/long_work.h"
#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/io/file_bytes.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/entry_field.h"
#include "ui/control/value_slider.h"
#include "ui/session/background.h"

namespace dimhem::tests {

namespace {

namespace fs = std::filesystem;

class Unsaved : public WindowTest {
protected:
    void SetUp() override {
        photo = greyPhoto(folder);
        saved = QString::fromStdString((folder / "work.dimhem").string());
        ASSERT_TRUE(w.open(photo));
        w.key(Qt::Key_1);
        ASSERT_TRUE(w.settle());
    }

    static std::string textOf(Window& window) { return document::toJsonText(*window.session().document()); }
    void change(Window& window, double strength) {
        window.session().edit("strength", [&](const document::Document& d) {
            return document::withCorrection(d, window.session().selectedCorrection(),
                                            [=](document::Correction& c) { c.strengthPct = strength; });
        });
    }
    void save() {
        w.window.jobs().save(saved);
        ASSERT_TRUE(w.settle());
        ASSERT_TRUE(w.session().isSaved());
    }

    // The question that is shown, if any; and its answer by words.
    static QMessageBox* question(Window& window) {
        for (auto* box : window.window.findChildren<QMessageBox*>()) {
            if (box->isVisible()) return box;
        }
        return nullptr;
    }
    static bool answer(Window& window, const QString& words) {
        QMessageBox* box = question(window);
        if (!box) return false;
        for (QAbstractButton* button : box->buttons()) {
            if (button->text() == words) {
                button->click();
                QApplication::processEvents();
                return true;
            }
        }
        return false;
    }

    QString photo, saved;
};

}  // namespace

TEST_F(Unsaved, WhatIsChangedWhileASaveWritesIsStillUnsaved) {
    w.window.jobs().save(saved);
    change(w, 33);
    ASSERT_TRUE(w.settle());
    EXPECT_FALSE(w.session().isSaved());
    w.window.close();
    EXPECT_TRUE(w.window.isVisible());
    EXPECT_TRUE(question(w));
    EXPECT_TRUE(answer(w, "Save"));
    EXPECT_TRUE(w.waitFor([&] { return !w.window.isVisible(); }));
    Window again;
    ASSERT_TRUE(again.open(saved));
    EXPECT_EQ(again.session().document()->corrections[0]->strengthPct, 33);
}

TEST_F(Unsaved, SaveInTheClosingQuestionWaitsForTheSaveThatRuns) {
    w.window.jobs().save(saved);
    change(w, 44);
    w.window.close();  // a save runs: the window waits for it, and then asks about the change
    EXPECT_TRUE(w.waitFor([&] { return question(w) != nullptr; }));
    EXPECT_TRUE(answer(w, "Save"));
    EXPECT_TRUE(w.waitFor([&] { return !w.window.isVisible(); }));
    Window again;
    ASSERT_TRUE(again.open(saved));
    EXPECT_EQ(again.session().document()->corrections[0]->strengthPct, 44);
}

TEST_F(Unsaved, WhatIsChangedWhileAnotherFileOpensIsAskedAbout) {
    save();
    w.window.openFile(photo);  // nothing to ask about yet
    change(w, 55);
    EXPECT_TRUE(w.waitFor([&] { return question(w) != nullptr; }));
    EXPECT_EQ(w.session().document()->corrections[0]->strengthPct, 55) << "still here";
    EXPECT_TRUE(answer(w, "Cancel"));
    ASSERT_TRUE(w.settle());
    EXPECT_EQ(w.session().document()->corrections[0]->strengthPct, 55);
    w.window.openFile(photo);
    EXPECT_TRUE(answer(w, "Discard changes"));
    EXPECT_TRUE(w.waitFor([&] { return w.session().document()->corrections.empty(); }));
}

TEST_F(Unsaved, OpeningWhileSomethingElseRunsIsNotForgotten) {
    save();
    w.window.jobs().exportTo(QString::fromStdString((folder / "out.png").string()), {});
    w.window.openFile(photo);
    EXPECT_TRUE(w.waitFor([&] { return w.session().document()->corrections.empty(); }));
    EXPECT_TRUE(fs::exists(folder / "out.png")) << "and the export was not stopped";
}

TEST_F(Unsaved, TwoOfEverythingAtOnceAllCome) {
    save();
    for (const char* name : {"a.png", "b.png"})
        w.window.jobs().exportTo(QString::fromStdString((folder / name).string()), {});
    for (const char* name : {"c.dimhem", "d.dimhem"})
        w.window.jobs().save(QString::fromStdString((folder / name).string()));
    ASSERT_TRUE(w.settle());
    for (const char* name : {"a.png", "b.png", "c.dimhem", "d.dimhem"}) EXPECT_TRUE(fs::exists(folder / name)) << name;
}

TEST_F(Unsaved, ClosingDuringAnExportAsks) {
    save();
    w.window.jobs().exportTo(QString::fromStdString((folder / "out.png").string()), {});
    w.window.close();
    EXPECT_TRUE(w.window.isVisible());
    EXPECT_TRUE(answer(w, "Finish it, then close"));
    EXPECT_TRUE(w.waitFor([&] { return !w.window.isVisible(); }));
    EXPECT_TRUE(fs::exists(folder / "out.png"));
}

TEST_F(Unsaved, ANumberBeingTypedIsInWhatIsSaved) {
    save();
    auto* exposure = w.find<ui::ValueSlider>("exposure");
    exposure->field()->setFocus();
    exposure->field()->selectAll();
    QTest::keyClicks(exposure->field(), "1.25");
    QTest::keyClick(exposure->field(), Qt::Key_S, Qt::ControlModifier);
    ASSERT_TRUE(w.settle());
    Window again;
    ASSERT_TRUE(again.open(saved));
    EXPECT_EQ(again.session().document()->corrections[0]->adjustments[0].settings.values[0], 1.25);
}

TEST_F(Unsaved, APhotoThatWasFoundAgainIsAChange) {
    save();
    fs::rename(photo.toStdString(), folder / "moved.png");
    Window other;
    other.window.openFile(saved);
    ASSERT_TRUE(other.settle());
    ASSERT_FALSE(other.session().isOpen());
    EXPECT_TRUE(other.window.message().contains("no longer")) << other.window.message().toStdString();
    other.window.jobs().open(saved, QString::fromStdString((folder / "moved.png").string()));
    EXPECT_TRUE(other.waitFor([&] { return other.session().isOpen(); }));
    EXPECT_FALSE(other.session().isSaved()) << "its file still names the old place";
}

TEST_F(Unsaved, AnotherProgramsVersionIsNotOverwrittenWithoutAQuestion) {
    save();
    change(w, 12);
    const auto theirs = *io::readFile(saved.toStdString());
    written(saved.toStdString(), theirs);  // the same bytes, at another time
    w.window.jobs().save(saved);
    EXPECT_TRUE(w.waitFor([&] { return question(w) != nullptr; }));
    EXPECT_EQ(*io::readFile(saved.toStdString()), theirs);
    EXPECT_TRUE(answer(w, "Replace the other version"));
    ASSERT_TRUE(w.settle());
    EXPECT_TRUE(w.session().isSaved());
    EXPECT_NE(*io::readFile(saved.toStdString()), theirs);
}

TEST_F(Unsaved, TwoWindowsOnOneDocumentAreNoticed) {
    save();
    Window second;
    ASSERT_TRUE(second.open(saved));
    EXPECT_TRUE(second.window.message().contains("another window")) << second.window.message().toStdString();
    change(second, 20);
    second.window.jobs().save(saved);
    ASSERT_TRUE(second.settle());
    change(w, 30);
    w.window.jobs().save(saved);
    EXPECT_TRUE(w.waitFor([&] { return question(w) != nullptr; })) << "before one saves over the other's work";
}

TEST_F(Unsaved, AfterACrashTheNextStartGoesOnExactlyThere) {
    save();
    std::string before;
    {
        Window crashes;
        ASSERT_TRUE(crashes.open(saved));
        change(crashes, 61);
        crashes.drag({{100, 100}, {200, 150}, {300, 120}});
        change(crashes, 62.5);
        ASSERT_TRUE(crashes.settle());
        before = textOf(crashes);
        // Its journal is on the disk; nobody closed the window.
    }
    w.session().close();  // lets go of the document
    Window next;
    EXPECT_TRUE(next.waitFor([&] { return next.find<QPushButton>("go-on") != nullptr; }));
    ASSERT_TRUE(next.open(saved));
    EXPECT_TRUE(next.waitFor([&] { return next.window.message().contains("newer work"); }))
        << "also where the document is opened by hand";
    EXPECT_NE(textOf(next), before);
    next.session().close();
    ASSERT_TRUE(next.settle());
    EXPECT_TRUE(next.waitFor([&] { return next.find<QPushButton>("go-on") != nullptr; }))
        << "kept while it is declined";
    next.find<QPushButton>("go-on")->click();
    EXPECT_TRUE(next.waitFor([&] { return next.session().isOpen(); }));
    ASSERT_TRUE(next.settle());
    EXPECT_EQ(textOf(next), before);
    EXPECT_FALSE(next.session().isSaved());
    next.window.jobs().save(saved);
    ASSERT_TRUE(next.settle());
    Window last;
    ASSERT_TRUE(last.open(saved));
    EXPECT_EQ(textOf(last), before);
    EXPECT_FALSE(last.window.message().contains("newer work")) << "nothing is left to go on with";
}

TEST_F(Unsaved, LeftWorkCanBeForgotten) {
    {
        Window crashes;
        ASSERT_TRUE(crashes.open(photo));
        crashes.key(Qt::Key_1);
        ASSERT_TRUE(crashes.settle());
    }
    Window next;
    EXPECT_TRUE(next.waitFor([&] { return next.find<QPushButton>("forget") != nullptr; }));
    while (auto* forget = next.find<QPushButton>("forget")) {
        forget->click();
        const QPointer<QPushButton> gone = forget;
        ASSERT_TRUE(next.waitFor([&] { return gone.isNull(); }));
    }
    EXPECT_TRUE(task::unsavedIn(next.window.journal().folder()).empty());
}

TEST_F(Unsaved, WhatIsDroppedLeavesNoJournal) {
    const auto folderOfJournals = w.window.journal().folder();
    change(w, 9);
    ASSERT_TRUE(w.settle());
    w.window.close();
    EXPECT_TRUE(answer(w, "Discard changes"));
    EXPECT_TRUE(w.waitFor([&] { return !w.window.isVisible(); }));
    w.window.journal().waitUntilWritten();
    for (const task::Unsaved& left : task::unsavedIn(folderOfJournals))
        EXPECT_NE(QString::fromStdString(left.origin.photo.string()), photo);
}

// The event loop never waits for rendering, measuring or decoding: none of it is entered on the window's thread.
TEST_F(Unsaved, AWholeSessionMakesNoLongCallOnTheWindowsThread) {
    const std::uint64_t before = base::longWorkHere();
    for (const int kind :
         {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5, Qt::Key_6, Qt::Key_7, Qt::Key_8, Qt::Key_9}) {
        w.key(kind);
        ASSERT_TRUE(w.settle());
        w.drag({{120, 120}, {200, 160}, {260, 300}, {150, 280}});
        ASSERT_TRUE(w.settle());
    }
    w.key(Qt::Key_H);
    w.key(Qt::Key_1);
    w.drag({{150, 150}, {180, 160}});
    w.session().edit("snap", [&](const document::Document& d) {
        return document::withCorrection(d, w.session().selectedCorrection(), [](document::Correction& c) {
            c.mask.refine.edgeSnapPx = 10;
            c.mask.refine.featherPx = 6;
        });
    });
    ASSERT_TRUE(w.settle());
    for (int i = 0; i < 6; ++i) w.key(Qt::Key_G);
    w.key(Qt::Key_N);
    w.window.jobs().exportTo(QString::fromStdString((folder / "out.tif").string()), {});
    w.window.jobs().save(saved);
    ASSERT_TRUE(w.settle());
    w.session().undo();
    w.session().redo();
    w.canvas().actualSize();
    ASSERT_TRUE(w.settle());
    ASSERT_TRUE(w.open(saved));
    EXPECT_EQ(base::longWorkHere() - before, 0u);
}

}  // namespace dimhem::tests
