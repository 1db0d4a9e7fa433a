#include "cli/commands.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <csignal>
#include <cstdlib>
#include <filesystem>

#include <nlohmann/json.hpp>
#include <sstream>

#include "core/io/file_lock.h"
#include "core/io/registry.h"
#include "core/task/export.h"
#include "core/task/state_folder.h"
#include "tests/support/documents.h"
#include "tests/support/edge_scene.h"
#include "tests/support/opened.h"
#include "tests/support/temp_folder.h"

namespace dimhem::cli {

namespace {

using tests::TempFolder;

struct Outcome {
    int code;
    std::string out, err;
};

// What is kept between runs is not the person's own.
class OwnCache final : public testing::Environment {
public:
    void SetUp() override { ::setenv("XDG_CACHE_HOME", folder_.path().c_str(), 1); }

private:
    TempFolder folder_;
};
const testing::Environment* const ownCache = testing::AddGlobalTestEnvironment(new OwnCache);

Outcome hem(const std::vector<std::string>& words) {
    std::ostringstream out, err;
    const std::vector<std::string_view> views(words.begin(), words.end());
    const int code = run(views, out, err);
    return {code, out.str(), err.str()};
}

const std::string photo = std::string(DIMHEM_SOURCE_DIR) + "/demo/bay-gradient.jpg";

std::string byHand(const TempFolder& folder) {
    return tests::written(folder / "by-hand.json",
                          R"({"format": "dim-hem-document", "version": 1, "photo": {"path": ")" + photo + R"("},
        "corrections": [{"name": "Foreground", "mask": {"parts": [{"kind": "linear-gradient", "full": [0, 1500], "none": [0, 900]}]},
                         "adjustments": [{"kind": "light", "exposure": 1.2}]}]})")
        .string();
}

// A thing before a backdrop, with a correction of the whole and one of a region about it.
std::string regionByHand(const TempFolder& folder) {
    const auto photo = render::PhotoSource::make(tests::EdgeScene().photo());
    EXPECT_TRUE(task::exportPicture(tests::openedOf(*photo), tests::documentOf("[]"), folder / "thing.png", {}));
    return tests::written(
               folder / "thing.json",
               R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "thing.png"}, "corrections": [
        {"name": "All", "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 0.1}]},
        {"name": "Thing", "mask": {"parts": [{"kind": "region", "drags": [{"points": [[90, 80], [130, 100]]}]}]},
         "adjustments": [{"kind": "light", "exposure": 1}]}]})")
        .string();
}

}  // namespace

TEST(Hem, TakesNamesOfAnyBytes) {
    const TempFolder folder;
    const auto odd = folder / "caf\xe9.jpg", out = folder / "na\xefve.png";
    std::filesystem::copy_file(photo, odd);
    const Outcome done = hem({"render", byHand(folder), "--photo", odd.string(), "-o", out.string()});
    EXPECT_EQ(done.code, 0) << done.err;
    EXPECT_TRUE(io::readPhoto(out));
    const Outcome missing = hem({"render", (folder / "none\xff.json").string(), "-o", out.string()});
    EXPECT_EQ(missing.code, 1);
    EXPECT_FALSE(missing.err.empty());
}

TEST(Hem, MeasuresWhatTheWindowMeasuresByAPress) {
    const TempFolder folder;
    const std::string document =
        tests::written(folder / "by-hand.json",
                       R"({"format": "dim-hem-document", "version": 1, "photo": {"path": ")" + photo + R"("},
        "corrections": [{"name": "Ground", "mask": {"parts": [{"kind": "linear-gradient", "full": [0, 1300], "none": [0, 900]}]},
                         "adjustments": [{"kind": "white-balance"}, {"kind": "match-area"}, {"kind": "shadow-lift"},
                                         {"kind": "light"}]}]})")
            .string();
    const std::string out = (folder / "measured.dimhem").string();
    const auto measured = [&](const std::string& kind, const std::vector<std::string>& more) {
        std::vector<std::string> words{"measure", document, "--correction", "Ground", "--adjustment", kind,
                                       "-o",      out,      "--replace"};
        words.insert(words.end(), more.begin(), more.end());
        return hem(words);
    };
    const Outcome balance = measured("white-balance", {"--place", "100,100,400,300"});
    EXPECT_EQ(balance.code, 0) << balance.err;
    EXPECT_TRUE(balance.out.starts_with("temperature ")) << balance.out;
    EXPECT_EQ(hem({"info", out}).code, 0);
    const Outcome matched = measured("match-area", {"--place", "100,100,400,300"});
    EXPECT_EQ(matched.code, 0) << matched.err;
    EXPECT_NE(matched.out.find("tone 70"), std::string::npos) << matched.out;
    EXPECT_EQ(measured("shadow-lift", {}).code, 0);
    EXPECT_NE(measured("white-balance", {}).err.find("needs a place"), std::string::npos);
    EXPECT_NE(measured("match-area", {"--place", "90000,0,90010,9"}).err.find("outside"), std::string::npos);
    EXPECT_NE(measured("light", {}).err.find("measures nothing"), std::string::npos);
    EXPECT_NE(measured("veil", {}).err.find("no adjustment"), std::string::npos);
    for (const std::string bad : {"1,2,3", "1,2,3,4,5", "a,b,c,d", "9,9,3,3", "1,2,3,"})
        EXPECT_EQ(measured("white-balance", {"--place", bad}).code, 2) << bad;
}

TEST(Hem, RendersADocumentWrittenByHand) {
    const TempFolder folder;
    const Outcome done = hem({"render", byHand(folder), "-o", (folder / "out.png").string(), "--depth", "16"});
    EXPECT_EQ(done.code, 0) << done.err;
    const auto out = io::readPhoto(folder / "out.png");
    ASSERT_TRUE(out);
    EXPECT_EQ(out->samples.type(), image::SampleType::u16);
    const auto in = io::readPhoto(photo);
    float before[3], after[3];
    in->samples.readRow(1550, 1000, 1001, before);
    out->samples.readRow(1550, 1000, 1001, after);
    EXPECT_GT(after[1], before[1] * 1.3f);
    in->samples.readRow(100, 1000, 1001, before);
    out->samples.readRow(100, 1000, 1001, after);
    EXPECT_EQ(after[1], before[1]);
}

TEST(Hem, GoesByWhatAnotherRunHasFound) {
    const TempFolder folder, cache;
    ::setenv("XDG_CACHE_HOME", cache.path().c_str(), 1);
    const auto filesKept = [&] {
        return std::ranges::count_if(std::filesystem::recursive_directory_iterator(cache.path()),
                                     [](const auto& entry) { return entry.path().extension() == ".found"; });
    };
    const std::string document = regionByHand(folder);
    const auto writtenTo = [&](const char* name) {
        const std::string out = (folder / name).string();
        EXPECT_EQ(hem({"mask", document, "--correction", "Thing", "-o", out}).code, 0);
        return io::readFile(out).value();
    };
    const auto found = writtenTo("found.png");
    const auto kept = filesKept();
    EXPECT_GT(kept, 0);
    EXPECT_EQ(writtenTo("again.png"), found);
    EXPECT_EQ(filesKept(), kept);
    // Not what is not whole.
    for (const auto& entry : std::filesystem::recursive_directory_iterator(cache.path())) {
        if (entry.path().extension() == ".found") std::filesystem::resize_file(entry.path(), entry.file_size() / 2);
    }
    EXPECT_EQ(writtenTo("damaged.png"), found);
    std::filesystem::remove_all(cache.path());
    EXPECT_EQ(writtenTo("anew.png"), found);
}

TEST(Hem, WritesMasksAndNamesMissingCorrections) {
    const TempFolder folder;
    EXPECT_EQ(hem({"mask", byHand(folder), "--correction", "Foreground", "-o", (folder / "m.png").string()}).code, 0);
    EXPECT_TRUE(std::filesystem::exists(folder / "m.png"));
    const Outcome wrong = hem({"mask", byHand(folder), "--correction", "Sky", "-o", (folder / "n.png").string()});
    EXPECT_EQ(wrong.code, 1);
    EXPECT_NE(wrong.err.find("\"Sky\""), std::string::npos);
}

TEST(Hem, ChecksHowMasksKeepToEdges) {
    const TempFolder folder;
    const std::string document = regionByHand(folder);
    const Outcome all = hem({"check", document, "--json"});
    ASSERT_EQ(all.code, 0) << all.err;
    const auto report = nlohmann::json::parse(all.out);
    ASSERT_EQ(report.size(), 2u);
    EXPECT_EQ(report[1]["correction"], "Thing");
    // The same figures in words, of the one that is asked for.
    const Outcome one = hem({"check", document, "--correction", "Thing"});
    ASSERT_EQ(one.code, 0) << one.err;
    EXPECT_EQ(std::ranges::count(one.out, '\n'), 1) << one.out;
    EXPECT_NE(one.out.find("Thing: "), std::string::npos);
    const Outcome again = hem({"check", document, "--correction", "Thing", "--json"});
    EXPECT_EQ(nlohmann::json::parse(again.out)[0], report[1]);
    EXPECT_EQ(hem({"check", document, "--correction", "Sea"}).code, 1);
    EXPECT_EQ(hem({"check", document, "-o", "x.png"}).code, 2);
    // A gradient alone has no edge.
    const Outcome gradient = hem({"check", byHand(folder)});
    EXPECT_EQ(gradient.out, "Foreground: a gradient has no edge to check\n") << gradient.err;
}

TEST(Hem, SaysWhatTheWindowMeasures) {
    const TempFolder folder;
    const std::string document = byHand(folder);
    const auto report = nlohmann::json::parse(hem({"check", document, "--json"}).out);
    ASSERT_EQ(report.size(), 1u);
    const auto& colours = report[0]["colours"];
    EXPECT_GT(colours["after"]["lab"][0], colours["before"]["lab"][0]);
    EXPECT_GT(colours["difference"], 5);
    EXPECT_TRUE(report[0]["notes"].is_array());
    // A place, in words and as JSON.
    const Outcome words = hem({"probe", document, "--at", "1200,1450", "--size", "15"});
    ASSERT_EQ(words.code, 0) << words.err;
    EXPECT_NE(words.out.find("before: RGB "), std::string::npos) << words.out;
    EXPECT_NE(words.out.find("CIEDE2000"), std::string::npos);
    const auto place =
        nlohmann::json::parse(hem({"probe", document, "--at", "1200,1450", "--size", "15", "--json"}).out);
    EXPECT_GT(place["after"]["rgb"][1], place["before"]["rgb"][1]);
    const auto above = nlohmann::json::parse(hem({"probe", document, "--place", "100,100,300,200", "--json"}).out);
    EXPECT_EQ(above["before"], above["after"]) << "outside the mask";
    EXPECT_EQ(above["difference"], 0);
    const auto covered = nlohmann::json::parse(hem({"probe", document, "--correction", "Foreground", "--json"}).out);
    EXPECT_NEAR(covered["before"]["lab"][0].get<double>(), colours["before"]["lab"][0].get<double>(), 1e-9);
    // The balance that makes a place neutral does so.
    const auto balance = nlohmann::json::parse(hem({"neutral", photo, "--place", "100,100,300,200", "--json"}).out);
    const std::string balanced =
        tests::written(folder / "balanced.json",
                       R"({"format": "dim-hem-document", "version": 1, "photo": {"path": ")" + photo + R"("},
        "corrections": [{"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "white-balance", "temperature": )" +
                           balance["temperature"].dump() + R"(, "tint": )" + balance["tint"].dump() + "}]}]}")
            .string();
    const auto now = nlohmann::json::parse(hem({"probe", balanced, "--place", "100,100,300,200", "--json"}).out);
    EXPECT_GT(now["before"]["chroma"].get<double>(), 5);
    EXPECT_LT(now["after"]["chroma"].get<double>(), 0.5);
    // One sentence each.
    EXPECT_EQ(hem({"probe", document}).code, 2);
    EXPECT_EQ(hem({"probe", document, "--at", "1,2,3"}).code, 2);
    EXPECT_EQ(hem({"probe", document, "--at", "1,2", "--size", "4"}).code, 2);
    EXPECT_EQ(hem({"probe", document, "--at", "1,2", "--correction", "Foreground"}).code, 2);
    EXPECT_EQ(hem({"probe", document, "--at", "-50,20"}).code, 1);
    EXPECT_EQ(hem({"probe", document, "--correction", "Sea"}).code, 1);
    EXPECT_EQ(hem({"neutral", photo}).code, 2);
    EXPECT_EQ(hem({"neutral", photo, "--place", "90000,0,90010,10"}).code, 1);
}

TEST(Hem, RendersSmaller) {
    const TempFolder folder;
    const std::string out = (folder / "small.png").string();
    ASSERT_EQ(hem({"render", byHand(folder), "-o", out, "--long-side", "600"}).code, 0);
    const auto small = io::readPhoto(out);
    ASSERT_TRUE(small);
    EXPECT_EQ(std::max(small->size().width, small->size().height), 600);
    EXPECT_EQ(hem({"render", byHand(folder), "-o", out, "--long-side", "0"}).code, 2);
}

TEST(Hem, SavesWhatItCanReadAgain) {
    const TempFolder folder;
    const std::string saved = (folder / "packed.dimhem").string();
    EXPECT_EQ(hem({"save", byHand(folder), "-o", saved, "--pack"}).code, 0);
    const Outcome info = hem({"info", saved, "--json"});
    ASSERT_EQ(info.code, 0) << info.err;
    const auto report = nlohmann::json::parse(info.out);
    EXPECT_EQ(report["photo"]["width"], 2400);
    EXPECT_EQ(report["photo"]["packed"], true);
    EXPECT_EQ(report["corrections"][0]["name"], "Foreground");
    EXPECT_EQ(report["corrections"][0]["parts"][0]["kind"], "linear-gradient");
    EXPECT_EQ(report["corrections"][0]["active"], true);
}

TEST(Hem, InfoOfABarePhoto) {
    const Outcome info = hem({"info", photo});
    EXPECT_EQ(info.code, 0);
    EXPECT_NE(info.out.find("2400 x 1600"), std::string::npos);
    EXPECT_NE(info.out.find("noise: about"), std::string::npos);
}

// As the demo photos were made (demo/faults): normal noise of 1.0 of 255 all over the figurehead, of 1.8 in the sky of
// the tower; some of it is lost in the JPEG files.
TEST(Hem, InfoSaysHowNoisyAPhotoIs) {
    const auto noiseOf = [](const std::string& name) {
        const Outcome info = hem({"info", DIMHEM_SOURCE_DIR "/demo/" + name, "--json"});
        return nlohmann::json::parse(info.out)["photo"]["noise"]["luminance"].get<double>();
    };
    EXPECT_NEAR(noiseOf("figurehead.jpg"), 1.0, 0.4);
    EXPECT_NEAR(noiseOf("tower-dusk.jpg"), 1.8, 0.6);
}

TEST(Hem, WrongUsageIsSaidAndIsNotAFailure) {
    EXPECT_EQ(hem({}).code, 2);
    EXPECT_EQ(hem({"--help"}).code, 0);
    for (const std::vector<std::string>& words :
         std::vector<std::vector<std::string>>{{"polish", "a"},
                                               {"render"},
                                               {"render", "a", "b"},
                                               {"render", "a"},
                                               {"render", "a", "-o"},
                                               {"render", "a", "-o", "b", "--depth", "12"},
                                               {"render", "a", "-o", "b", "--quality", "best"},
                                               {"info", "a", "--depth", "8"}}) {
        const Outcome wrong = hem(words);
        EXPECT_EQ(wrong.code, 2);
        EXPECT_TRUE(wrong.err.starts_with("hem: ")) << wrong.err;
    }
}

TEST(Hem, FailuresAreOneSentence) {
    const TempFolder folder;
    const Outcome missing = hem({"render", (folder / "none.dimhem").string(), "-o", (folder / "o.png").string()});
    EXPECT_EQ(missing.code, 1);
    EXPECT_EQ(std::count(missing.err.begin(), missing.err.end(), '\n'), 1);
    const std::string lost =
        tests::written(
            folder / "lost.json",
            std::string(
                R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "gone.jpg"}, "corrections": []})"))
            .string();
    EXPECT_EQ(hem({"info", lost}).code, 1);
    EXPECT_EQ(hem({"info", lost, "--photo", photo}).code, 0);
}

TEST(Hem, NeverWritesOverThePhotoTheBackdropOrAMatte) {
    const TempFolder folder;
    const auto copy = [&](const char* name) {
        std::filesystem::copy_file(photo, folder / name);
        return io::readFile(folder / name).value();
    };
    const auto before = copy("photo.jpg");
    copy("behind.jpg");
    copy("matte.jpg");
    std::filesystem::create_symlink("photo.jpg", folder / "link.jpg");
    std::filesystem::create_hard_link(folder / "photo.jpg", folder / "hard.png");
    const std::string document =
        tests::written(folder / "a.json",
                       R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.jpg"},
        "backdrop": {"picture": "behind.jpg"}, "corrections": [{"name": "A", "mask": {"parts": [
        {"kind": "matte", "source": "file", "file": "matte.jpg"}]}}]})")
            .string();
    for (const char* name : {"photo.jpg", "link.jpg", "hard.png", "behind.jpg", "matte.jpg", "../photo.jpg"}) {
        std::filesystem::create_directories(folder / "sub");
        const std::string out = (folder / (std::string(name).starts_with("..") ? "sub/../photo.jpg" : name)).string();
        EXPECT_EQ(hem({"render", document, "-o", out}).code, 1) << name;
        EXPECT_EQ(hem({"render", document, "-o", out, "--replace"}).code, 1) << name;
        EXPECT_EQ(hem({"mask", document, "--correction", "A", "-o", out}).code, 1) << name;
        EXPECT_EQ(hem({"save", document, "-o", out}).code, 1) << name;
    }
    EXPECT_EQ(hem({"render", (folder / "photo.jpg").string(), "-o", (folder / "photo.jpg").string()}).code, 1);
    EXPECT_EQ(hem({"render", document, "-o", "/dev/null.jpg/x.jpg"}).code, 1);
    for (const char* name : {"photo.jpg", "link.jpg", "hard.png", "behind.jpg", "matte.jpg"})
        EXPECT_EQ(io::readFile(folder / name).value(), before) << name;
}

TEST(Hem, WarnsOfMembersThatNobodyKnows) {
    const TempFolder folder;
    const std::string document =
        tests::written(folder / "a.json", R"({"format": "dim-hem-document", "version": 1, "photo": {"path": ")" +
                                              photo + R"("}, "corrections": [{"name": "A", "strenght": 4}]})")
            .string();
    const Outcome done = hem({"info", document});
    EXPECT_EQ(done.code, 0);
    EXPECT_NE(done.err.find("\"strength\" is perhaps meant"), std::string::npos) << done.err;
}

TEST(Hem, TellsOfEachVerbWithAnExampleThatItUnderstands) {
    const std::string all = hem({"--help"}).out;
    for (const char* verb : {"render", "mask", "save", "measure", "check", "probe", "neutral", "info", "schema"}) {
        const Outcome help = hem({verb, "--help"});
        EXPECT_EQ(help.code, 0);
        EXPECT_NE(help.out.find("hem " + std::string(verb)), std::string::npos) << verb;
        EXPECT_NE(all.find(help.out), std::string::npos) << "the same words in the list of all";
        const std::string lead = "For example: ";
        const std::size_t at = help.out.find(lead);
        ASSERT_NE(at, std::string::npos) << verb;
        // The example is taken as it is, but that its files are not there.
        std::istringstream words(help.out.substr(at + lead.size()));
        std::vector<std::string> example;
        for (std::string word; words >> word && word != ">";) example.push_back(word);
        ASSERT_GE(example.size(), 2u);
        EXPECT_EQ(example[0], "hem");
        const Outcome done = hem({example.begin() + 1, example.end()});
        EXPECT_EQ(done.code, std::string(verb) == "schema" ? 0 : 1) << verb << ": " << done.err;
    }
    EXPECT_EQ(hem({"render", "a.dimhem", "-h"}).code, 0) << "wherever it stands";
}

TEST(Hem, SaysWhichWordWasProbablyMeant) {
    EXPECT_NE(hem({"rendre", "a.dimhem"}).err.find("Did you mean render?"), std::string::npos);
    EXPECT_NE(hem({"chek", "a.dimhem"}).err.find("Did you mean check?"), std::string::npos);
    EXPECT_NE(hem({"render", "a.dimhem", "--qualty", "90"}).err.find("Did you mean --quality?"), std::string::npos);
    const Outcome far = hem({"xylophone", "a.dimhem"});
    EXPECT_EQ(far.code, 2);
    EXPECT_EQ(far.err.find("Did you mean"), std::string::npos);
}

// What cannot be written to the output is no success.
TEST(Hem, OutputThatCannotBeWrittenIsAnExitCode) {
    const std::string command = std::string(DIMHEM_HEM) + " schema > /dev/full 2> /dev/null";
    EXPECT_NE(std::system(command.c_str()), 0);
    EXPECT_EQ(std::system((std::string(DIMHEM_HEM) + " schema > /dev/null").c_str()), 0);
}

// A document of 9 KB that once kept it busy for longer than anybody waits.
TEST(Hem, SaysThatItTakesAWhileAndEndsWithinTwoSecondsOfBeingToldTo) {
    const TempFolder folder;
    std::string corrections;
    for (int id = 1; id <= 60; ++id) {
        const std::string part = id == 1 ? R"({"kind": "region", "drags": [{"points": [[300, 300], [900, 700]]}]})"
                                         : R"({"kind": "borrowed", "from": )" + std::to_string(id - 1) + "}";
        corrections += std::string(id == 1 ? "" : ", ") + R"({"id": )" + std::to_string(id) +
                       R"(, "mask": {"parts": [)" + part + ", " + part +
                       R"(]}, "adjustments": [{"kind": "noise", "luminance": 40}]})";
    }
    const std::string document =
        tests::written(folder / "a.json", R"({"format": "dim-hem-document", "version": 1, "photo": {"path": ")" +
                                              photo + R"("}, "corrections": [)" + corrections + "]}")
            .string();
    int said[2];
    ASSERT_EQ(::pipe(said), 0);
    const pid_t child = ::fork();
    if (child == 0) {
        ::dup2(said[1], STDERR_FILENO);
        ::close(said[0]);
        ::close(said[1]);
        ::execl(DIMHEM_HEM, "hem", "render", document.c_str(), "-o", (folder / "out.png").c_str(), nullptr);
        ::_exit(127);
    }
    ::close(said[1]);
    std::string text;
    char letter = 0;
    while (!text.ends_with(".\n") && ::read(said[0], &letter, 1) == 1) text += letter;
    EXPECT_NE(text.find("takes a while"), std::string::npos) << text;
    ::kill(child, SIGTERM);
    int status = 0, waited = 0;
    constexpr int stepMs = 50, mostMs = 20'000;  // two seconds on a machine that does nothing else
    while (::waitpid(child, &status, WNOHANG) == 0 && waited < mostMs) {
        ::usleep(stepMs * 1000);
        waited += stepMs;
    }
    EXPECT_LT(waited, mostMs);
    if (waited >= mostMs) ::kill(child, SIGKILL);
    ::close(said[0]);
}

TEST(Hem, PrintsTheSchema) {
    const Outcome done = hem({"schema"});
    EXPECT_EQ(done.code, 0);
    EXPECT_EQ(nlohmann::json::parse(done.out)["title"], "Dim Hem document");
}

TEST(Hem, NoticesThatADocumentIsOpenInAWindow) {
    const TempFolder folder;
    ::setenv("XDG_STATE_HOME", (folder / "state").c_str(), 1);
    const std::string place = (folder / "a.dimhem").string();
    EXPECT_EQ(hem({"save", byHand(folder), "-o", place}).err, "");
    const auto lock = io::FileLock::take(task::lockFileFor(task::stateFolder(), place));
    ASSERT_TRUE(lock);
    const Outcome done = hem({"save", byHand(folder), "-o", place});
    EXPECT_EQ(done.code, 0);
    EXPECT_NE(done.err.find("open in a window"), std::string::npos) << done.err;
}

// Told to stop in the middle of an export, hem leaves nothing: not the picture, not its beginning.
TEST(Hem, LeavesNothingWhenItIsToldToStop) {
    for (const int signal : {SIGTERM, SIGINT}) {
        const TempFolder folder;
        const std::string document = byHand(folder), out = (folder / "out.tif").string();
        for (int round = 0; round < 4; ++round) {
            const pid_t child = ::fork();
            if (child == 0) {
                ::execl(DIMHEM_HEM, "hem", "render", document.c_str(), "-o", out.c_str(), "--depth", "32", nullptr);
                ::_exit(127);
            }
            ::usleep(static_cast<useconds_t>(60'000 + 120'000 * round));
            ::kill(child, signal);
            int status = 0;
            ::waitpid(child, &status, 0);
            // By itself, or, where it was told before it had begun, by the signal.
            ASSERT_TRUE(WIFEXITED(status) || WTERMSIG(status) == signal);
            ASSERT_NE(WEXITSTATUS(status), 127);
            for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
                EXPECT_FALSE(entry.path().filename().string().starts_with(".")) << entry.path();
            if (std::filesystem::exists(out)) {
                EXPECT_TRUE(io::readPhoto(std::filesystem::path(out))) << "whole, where it was done in time";
            }
        }
    }
}

}  // namespace dimhem::cli
