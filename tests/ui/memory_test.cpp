// The program in the window keeps to its memory: what can be made again is dropped, what is too large says so, and no
// edit is lost.
#include <QAction>
#include <QSettings>
#include <QSpinBox>

#include "core/adjust/light.h"
#include "core/document/edits.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/panel/preferences_dialog.h"
#include "ui/session/preferences.h"

namespace dimhem::tests {

namespace {

class Ceiling : public WindowTest {
protected:
    void openGrey() { ASSERT_TRUE(w.open(greyPhoto(folder))); }
    QString largePhoto() {
        QImage image(3000, 2000, QImage::Format_RGB32);
        image.fill(QColor(90, 120, 60));
        const QString path = QString::fromStdString((folder / "large.png").string());
        image.save(path);
        return path;
    }
    void addLight() {
        w.session().edit("light", [](const document::Document& d) {
            const auto added = document::withNewCorrection(d, d.corrections.size());
            return document::withCorrection(*added.document, added.id, [](document::Correction& c) {
                c.mask.startsEverywhere = true;
                adjust::Settings settings = adjust::neutralSettings(adjust::light);
                settings.values[0] = 1;
                c.adjustments.push_back({99, &adjust::light, true, settings});
            });
        });
    }
    void setCeiling(std::size_t bytes) { w.session().ceiling()->setBytes(bytes); }
    static constexpr std::size_t plenty = std::size_t{64} << 30;
};

}  // namespace

TEST_F(Ceiling, APhotoThatIsTooLargeIsRefusedAndTheOpenOneStays) {
    openGrey();
    setCeiling(base::memoryInUse() + (std::size_t{20} << 20));
    w.window.openFile(largePhoto());
    ASSERT_TRUE(w.waitFor([&] { return w.window.message().contains("megapixels"); }))
        << w.window.message().toStdString();
    EXPECT_TRUE(w.window.message().contains("preferences"));
    EXPECT_EQ(w.session().name(), "grey");
    addLight();
    EXPECT_EQ(w.session().document()->corrections.size(), 1u);
    w.session().undo();
    setCeiling(plenty);
    ASSERT_TRUE(w.open(largePhoto()));
    EXPECT_EQ(w.session().name(), "large");
}

TEST_F(Ceiling, WhereAFrameFindsNoMemoryItIsSaidAndTheWorkGoesOn) {
    ASSERT_TRUE(w.open(largePhoto()));
    setCeiling(1);
    addLight();
    w.canvas().fit();
    for (int i = 0; i < 4 && !w.window.message().contains("memory"); ++i) {
        w.session().edit("strength", [&](const document::Document& d) {
            return document::withCorrection(d, d.corrections[0]->id, [&](document::Correction& c) {
                c.strengthPct = 90 - i;
                c.mask.refine.featherPx = 10 + i;
            });
        });
        ASSERT_TRUE(w.settle());
    }
    EXPECT_TRUE(w.window.message().contains("memory")) << w.window.message().toStdString();
    EXPECT_EQ(w.session().document()->corrections.size(), 1u);
    setCeiling(plenty);
    const int before = w.shown(1500, 1000).red();
    w.session().edit("exposure", [](const document::Document& d) {
        return document::withCorrection(d, d.corrections[0]->id, [](document::Correction& c) {
            c.strengthPct = 100;
            c.adjustments[0].settings.values[0] = -3;
        });
    });
    ASSERT_TRUE(w.settle());
    EXPECT_LT(w.shown(1500, 1000).red(), before);
}

TEST_F(Ceiling, WhatCanBeMadeAgainIsDropped) {
    ASSERT_TRUE(w.open(largePhoto()));
    addLight();
    ASSERT_TRUE(w.settle());
    ASSERT_GT(w.session().renderer().cache().bytes(), 0u);
    setCeiling(1);
    EXPECT_FALSE(w.session().ceiling()->hasRoomFor(0));
    EXPECT_EQ(w.session().renderer().cache().bytes(), 0u);
    setCeiling(plenty);
    EXPECT_TRUE(w.session().ceiling()->hasRoomFor(0));
}

TEST_F(Ceiling, IsSetInThePreferences) {
    EXPECT_GE(ui::ceilingMiB(), ui::leastCeilingMiB);
    EXPECT_EQ(w.session().ceiling()->bytes(), std::size_t(ui::ceilingMiB()) << 20);
    for (QAction* action : w.window.findChildren<QAction*>()) {
        if (action->text() == "Preferences") action->trigger();
    }
    auto* dialog = w.window.findChild<ui::PreferencesDialog*>();
    ASSERT_TRUE(dialog);
    auto* ceiling = dialog->findChild<QSpinBox*>("memory-ceiling");
    ASSERT_TRUE(ceiling);
    ceiling->setValue(4096);
    EXPECT_EQ(w.session().ceiling()->bytes(), std::size_t{4096} << 20) << "at once";
    EXPECT_EQ(ui::ceilingMiB(), 4096);
    dialog->close();
    QSettings().remove("preferences/memory-ceiling");
}

}  // namespace dimhem::tests
