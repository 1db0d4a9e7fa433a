// A window that paints, saves and exports is killed (SIGKILL) at random moments: nothing is lost but the gesture in
// hand, every file is the old one or the new one, and nothing is left behind. Told to end (SIGTERM), it loses nothing.
//
// DIMHEM_KILLS says how often (4).
#include <fcntl.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QImage>
#include <chrono>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>
#include <set>
#include <thread>

#include "core/document/json_format.h"
#include "core/io/file_bytes.h"
#include "core/io/registry.h"
#include "core/task/journal.h"
#include "core/task/state_folder.h"
#include "tests/support/temp_folder.h"

namespace dimhem::tests {

namespace {

namespace fs = std::filesystem;

// What a version says, but for the colours the program chooses by itself.
std::string said(const std::string& text) {
    nlohmann::json root = nlohmann::json::parse(text);
    for (auto& correction : root["corrections"]) correction.erase("thread");
    return root.dump();
}

std::string withoutLastStroke(const std::string& said) {
    nlohmann::json root = nlohmann::json::parse(said, nullptr, false);
    if (root.is_discarded() || root["corrections"].empty() || root["corrections"][0]["mask"]["parts"].empty())
        return {};
    auto& strokes = root["corrections"][0]["mask"]["parts"].back()["strokes"];
    if (!strokes.is_array() || strokes.empty()) return {};
    strokes.erase(strokes.size() - 1);
    return root.dump();
}

std::string textOf(const fs::path& path) {
    std::ifstream file(path);
    return {std::istreambuf_iterator<char>(file), {}};
}

class KillTest : public testing::Test {
protected:
    void SetUp() override {
        QImage photo(640, 480, QImage::Format_RGB32);
        photo.fill(QColor(120, 110, 100));
        photo.save(QString::fromStdString((folder / "photo.png").string()));
        before_ = *io::readFile(folder / "photo.png");
        state = folder / "state" / "dimhem";
    }

    // Runs the painter until it has been at work for a while, then sends it the signal; `status` as of waitpid.
    void paintUntil(int signal, int workMs, int& status) {
        const std::size_t stepsBefore = stepsLogged();
        const pid_t child = ::fork();
        if (child == 0) {
            ::setenv("XDG_STATE_HOME", (folder / "state").c_str(), 1);
            ::setenv("XDG_CACHE_HOME", (folder / "cache").c_str(), 1);
            const int out = ::open((folder / "painter.out").c_str(), O_WRONLY | O_CREAT | O_APPEND, 0600);
            ::dup2(out, 1);
            ::dup2(out, 2);
            ::execl(DIMHEM_PAINTER, "kill_painter", folder.path().c_str(), nullptr);
            ::_exit(127);
        }
        constexpr int patience = 60'000 / 20;
        for (int i = 0; i < patience && stepsLogged() < stepsBefore + 3; ++i)
            std::this_thread::sleep_for(std::chrono::milliseconds(20));
        ASSERT_GE(stepsLogged(), stepsBefore + 3) << textOf(folder / "painter.out");
        std::this_thread::sleep_for(std::chrono::milliseconds(workMs));
        ::kill(child, signal);
        ::waitpid(child, &status, 0);
    }

    std::size_t stepsLogged() {
        const std::string log = textOf(folder / "log");
        std::size_t count = 0;
        for (std::size_t at = log.find("step"); at != std::string::npos; at = log.find("step", at + 1)) ++count;
        return count;
    }
    int lastOf(const std::string& what) {
        std::istringstream log(textOf(folder / "log"));
        std::string word;
        int number = 0, last = 0;
        while (log >> word >> number) {
            if (word == what) last = number;
        }
        return last;
    }
    std::string version(int number) { return said(textOf(folder / "versions" / (std::to_string(number) + ".json"))); }

    // The work that the next start would go on with: from the journal, or where there is none from the document.
    std::string workThere() {
        const auto unsaved = task::unsavedIn(task::journalFolder(state));
        if (!unsaved.empty()) return said(document::toJsonText(*unsaved.front().document));
        const auto opened = task::open(folder / "work.dimhem");
        return opened ? said(document::toJsonText(*opened->document)) : std::string();
    }

    void checkWork(int round) {
        const int made = lastOf("step"), kept = lastOf("kept");
        const std::string work = workThere();
        // The last stroke may have reached the journal, and the painter not yet its log.
        int found = withoutLastStroke(work) == version(made) ? made + 1 : -1;
        for (int n = made + 1; n >= std::max(1, kept - 1) && found < 0; --n) {
            if (fs::exists(folder / "versions" / (std::to_string(n) + ".json")) && version(n) == work) found = n;
        }
        if (found < kept) {
            std::ofstream("/tmp/kill-work.json") << work;
            std::ofstream("/tmp/kill-version.json") << version(made);
        }
        ASSERT_GE(found, kept) << "round " << round << ": " << made << " steps made, " << kept << " known to be kept";
        lost_ += made - std::min(found, made);
    }

    void checkFiles(int round) {
        EXPECT_EQ(*io::readFile(folder / "photo.png"), before_) << "round " << round;
        if (fs::exists(folder / "out.png")) {
            EXPECT_TRUE(io::readPhoto(folder / "out.png")) << "round " << round << ": a whole picture";
        }
        if (!fs::exists(folder / "work.dimhem")) return;
        const auto opened = task::open(folder / "work.dimhem");  // also removes what was left behind
        ASSERT_TRUE(opened) << "round " << round << ": " << opened.error().message;
        std::set<std::string> saves;
        std::istringstream log(textOf(folder / "log"));
        std::string word;
        int number = 0;
        while (log >> word >> number) {
            if (word == "save") saves.insert(version(number));
        }
        EXPECT_TRUE(saves.count(said(document::toJsonText(*opened->document)))) << "round " << round;
        for (const auto& entry : fs::directory_iterator(folder.path()))
            EXPECT_FALSE(entry.path().filename().string().starts_with("."))
                << "round " << round << ": " << entry.path();
    }

    TempFolder folder;
    fs::path state;
    int lost_ = 0;

private:
    std::vector<std::uint8_t> before_;
};

}  // namespace

TEST_F(KillTest, NothingIsLostAndNoFileIsHalf) {
    const char* asked = std::getenv("DIMHEM_KILLS");
    const int kills = asked ? std::atoi(asked) : 4;
    std::mt19937 random(20261126);
    for (int round = 1; round <= kills; ++round) {
        int status = 0;
        paintUntil(SIGKILL, static_cast<int>(random() % 1200), status);
        if (HasFatalFailure()) return;
        checkWork(round);
        if (HasFatalFailure()) return;
        checkFiles(round);
        if (HasFailure()) return;
    }
    std::printf("%d kills, %d steps made, %d of them not yet on the disk\n", kills, lastOf("step"), lost_);
}

TEST_F(KillTest, ToldToEndItKeepsTheStrokeInHandToo) {
    std::mt19937 random(20261127);
    for (int round = 1; round <= 2; ++round) {
        int status = 0;
        paintUntil(SIGTERM, static_cast<int>(random() % 600), status);
        if (HasFatalFailure()) return;
        EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0) << "round " << round << ": " << status;
        checkWork(round);
        if (HasFatalFailure()) return;
        EXPECT_EQ(lost_, 0) << "round " << round;
        checkFiles(round);
        if (HasFailure()) return;
    }
}

}  // namespace dimhem::tests
