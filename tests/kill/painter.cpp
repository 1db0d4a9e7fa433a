// Paints in a real window until it is killed, or told to end: strokes, saving, exporting, over and over. What it has
// done it writes to a log, for the test that kills it. Usage: kill_painter FOLDER
//
// In FOLDER: photo.png; versions/N.json, each version the moment it is a step; log, one line for each "step N" (made),
// "kept N" (its journal is on the disk) and "save N" (the document of version N is about to be written).
#include <fcntl.h>
#include <unistd.h>

#include <QApplication>
#include <QSettings>
#include <QTest>
#include <random>

#include "core/base/heap.h"
#include "core/document/json_format.h"
#include "core/mask/brush.h"
#include "tests/ui/window.h"
#include "ui/control/theme.h"
#include "ui/stop_signals.h"

namespace {

using namespace dimhem;
namespace fs = std::filesystem;

class Painter {
public:
    explicit Painter(const fs::path& folder) : folder_(folder), random_(static_cast<unsigned>(::getpid())) {
        log_ = ::open((folder / "log").c_str(), O_WRONLY | O_CREAT | O_APPEND, 0600);
        fs::create_directories(folder / "versions");
        number_ = static_cast<int>(std::distance(fs::directory_iterator(folder / "versions"), {}));
    }

    bool begin() {
        const auto unsaved = task::unsavedIn(w_.window.journal().folder());
        const fs::path document = folder_ / "work.dimhem";
        if (!unsaved.empty()) {
            w_.window.jobs().recover(unsaved.front());
        } else {
            w_.window.openFile(
                QString::fromStdString((fs::exists(document) ? document : folder_ / "photo.png").string()));
        }
        if (!w_.waitFor([this] { return w_.session().isOpen(); })) return false;
        if (!w_.session().part()) w_.session().addPart(mask::Brush::kindInfo);
        return w_.settle();
    }

    // As the program does when it is told to, though there is no loop of events here that would return.
    void endOn(const sigset_t& stops) {
        ui::onStopSignal(stops, w_.window, [this] {
            w_.window.endAtOnce();
            ::_exit(0);
        });
    }

    void paintForGood() {
        for (int i = 1;; ++i) {
            const auto place = [this] {
                return base::Point{static_cast<double>(random_() % 640), static_cast<double>(random_() % 480)};
            };
            w_.drag({place(), place(), place()});
            stepMade();
            QApplication::processEvents();
            if (w_.window.journal().isUpToDate()) say("kept", number_);
            if (i % 6 == 0) save();
            if (i % 9 == 0) w_.window.jobs().exportTo(QString::fromStdString((folder_ / "out.png").string()), {});
        }
    }

private:
    void stepMade() {
        ++number_;
        const std::string text = document::toJsonText(*w_.session().document());
        tests::written(folder_ / "versions" / (std::to_string(number_) + ".json"), text);
        say("step", number_);
    }
    void save() {
        if (w_.window.jobs().isBusy()) return;
        say("save", number_);
        w_.window.jobs().save(QString::fromStdString((folder_ / "work.dimhem").string()));
    }
    void say(const char* what, int number) {
        const std::string line = std::string(what) + " " + std::to_string(number) + "\n";
        if (::write(log_, line.data(), line.size()) < 0) std::abort();
    }

    fs::path folder_;
    std::mt19937 random_;
    int log_ = -1, number_ = 0;
    tests::Window w_;
};

}  // namespace

int main(int argc, char** argv) {
    base::keepBlocksInHeap();
    const sigset_t stops = ui::blockStopSignals();
    QApplication application(argc, argv);
    QApplication::setOrganizationName("dimhem");
    QApplication::setApplicationName("dimhem-test");
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, QString(argv[1]) + "/settings");
    ui::applyTheme(application);
    Painter painter(argv[1]);
    painter.endOn(stops);
    if (!painter.begin()) return 1;
    painter.paintForGood();
}
