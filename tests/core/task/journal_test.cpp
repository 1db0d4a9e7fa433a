// Work that was not saved comes back from its journal, cut or damaged wherever it may be.
#include "core/task/journal.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/io/file_bytes.h"
#include "core/io/file_lock.h"
#include "core/mask/brush.h"
#include "core/task/export.h"
#include "core/task/matte_file.h"
#include "core/task/save.h"
#include "core/task/state_folder.h"
#include "tests/support/documents.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

namespace fs = std::filesystem;
using document::DocumentPtr;
using tests::TempFolder;
using tests::written;

// Versions as a session makes them: corrections added, painted, moved, taken away, and a step back.
std::vector<DocumentPtr> someWork() {
    std::vector<DocumentPtr> versions{tests::threeCorrections()};
    const auto push = [&](DocumentPtr next) { versions.push_back(std::move(next)); };
    const document::Id first = versions[0]->corrections[0]->id, second = versions[0]->corrections[1]->id;
    push(document::withCorrection(*versions.back(), first, [](document::Correction& c) { c.strengthPct = 41.5; }));
    push(document::withNewCorrection(*versions.back(), 1).document);
    const mask::PartId part = versions[0]->corrections[1]->mask.parts[0]->id;
    for (int i = 0; i < 4; ++i) {
        push(document::withPart(*versions.back(), second, part, [i](mask::Part& p) {
            const mask::StrokePoint way[] = {{{10.0 * i, 5}, 1}, {{60, 7.25 * i}, 0.5}};
            p.shape = std::dynamic_pointer_cast<const mask::Brush>(p.shape)->withStroke(
                mask::Stroke::through({}, way)->finished());
        }));
    }
    push(document::withCorrectionMoved(*versions.back(), second, 0));
    push(document::withoutCorrection(*versions.back(), first));
    push(document::withStateKept(*versions.back(), "before the backdrop"));
    push(document::withBackdrop(*versions.back(), colour::EncodedRgb{0.25, 0.5, 1}));
    push(document::withNewProbe(*versions.back(), {.place = {12, 34}}));
    push(document::withStateTaken(*document::withStateKept(*versions.back(), "again"), 0));
    push(document::withDismissed(*versions.back(), {document::NoteKind::seam, first}));
    push(versions[3]);
    return versions;
}

fs::path journalOf(const fs::path& folder, const std::vector<DocumentPtr>& versions, const JournalOrigin& origin = {}) {
    auto journal = Journal::create(folder, origin, *versions[0], "step 0");
    EXPECT_TRUE(journal) << journal.error().message;
    for (std::size_t i = 1; i < versions.size(); ++i)
        EXPECT_TRUE(journal->append(*versions[i], "step " + std::to_string(i)));
    for (const Unsaved& unsaved : unsavedIn(folder))
        EXPECT_NE(unsaved.journal, journal->path()) << "held by this program";
    return journal->path();  // and let go of
}

}  // namespace

TEST(Journal, GivesTheLastVersionBack) {
    const TempFolder folder;
    const auto versions = someWork();
    for (std::size_t n = 1; n <= versions.size(); ++n) {
        const fs::path place = folder / std::to_string(n);
        journalOf(place, {versions.begin(), versions.begin() + static_cast<std::ptrdiff_t>(n)},
                  {"/a.dimhem", "/a.jpg"});
        const auto unsaved = unsavedIn(place);
        ASSERT_EQ(unsaved.size(), 1u);
        EXPECT_EQ(document::toJsonText(*unsaved[0].document), document::toJsonText(*versions[n - 1])) << n;
        EXPECT_EQ(unsaved[0].step, "step " + std::to_string(n - 1));
        EXPECT_EQ(unsaved[0].steps, n);
        EXPECT_EQ(unsaved[0].origin, (JournalOrigin{"/a.dimhem", "/a.jpg"}));
    }
}

// As after a power cut: what is left is any beginning of the file.
// Painting for hours: the journal stays a few times as large as the document, and nothing of it is lost on the way.
TEST(Journal, OfALongSessionIsWrittenAnew) {
    const TempFolder folder;
    const auto begun = tests::threeCorrections();
    const document::Id id = begun->corrections[0]->id;
    auto journal = Journal::create(folder / "j", {"/a.dimhem", "/a.jpg"}, *begun, "step 0");
    ASSERT_TRUE(journal);
    DocumentPtr version = begun;
    const std::string longName(4000, 'n');
    std::size_t largest = 0, shrank = 0, before = 0;
    for (std::size_t i = 1; i <= 1500; ++i) {
        version = document::withCorrection(*version, id,
                                           [&](document::Correction& c) { c.name = longName + std::to_string(i); });
        ASSERT_TRUE(journal->append(*version, "step " + std::to_string(i)));
        const std::size_t size = fs::file_size(journal->path());
        shrank += size < before ? 1 : 0;
        largest = std::max(largest, size);
        before = size;
        if (i % 100 != 0) continue;
        EXPECT_TRUE(unsavedIn(folder / "j").empty()) << "held by this program, whatever it was written to";
    }
    EXPECT_GE(shrank, 2u);
    EXPECT_LT(largest, std::size_t{3} << 20);
    EXPECT_EQ(std::distance(fs::directory_iterator(folder / "j"), fs::directory_iterator()), 1);
    journal = tl::unexpected(base::Error{});  // let go of
    const auto unsaved = unsavedIn(folder / "j");
    ASSERT_EQ(unsaved.size(), 1u);
    EXPECT_EQ(document::toJsonText(*unsaved[0].document), document::toJsonText(*version));
    EXPECT_EQ(unsaved[0].step, "step 1500");
    EXPECT_EQ(unsaved[0].steps, 1501u);
}

TEST(Journal, CutAtAnyByteGivesAVersionThatWasThere) {
    const TempFolder folder;
    std::vector<DocumentPtr> versions{tests::documentOf(R"([{"name": "A", "adjustments": [{"kind": "tint"}]}])")};
    for (const double strength : {10.0, 20.5, 30.0}) {
        versions.push_back(document::withCorrection(*versions.back(), versions[0]->corrections[0]->id,
                                                    [=](document::Correction& c) { c.strengthPct = strength; }));
    }
    versions.push_back(document::withoutCorrection(*versions.back(), versions[0]->corrections[0]->id));
    const fs::path journal = journalOf(folder / "whole", versions);
    const auto bytes = *io::readFile(journal);
    std::vector<std::string> texts;
    for (const DocumentPtr& version : versions) texts.push_back(document::toJsonText(*version));
    std::size_t least = 0;
    const fs::path cut = folder / "cut" / "a.journal";
    fs::create_directories(cut.parent_path());
    for (std::size_t length = 0; length <= bytes.size(); ++length) {
        written(cut, std::vector<std::uint8_t>(bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(length)));
        const auto unsaved = unsavedIn(cut.parent_path());
        if (unsaved.empty()) {
            ASSERT_EQ(least, 0u) << "cut at " << length << ": nothing any more";
            continue;
        }
        ASSERT_GE(unsaved[0].steps, least) << "never less than a shorter file gave";
        least = unsaved[0].steps;
        ASSERT_EQ(document::toJsonText(*unsaved[0].document), texts[least - 1]) << "cut at " << length;
    }
    EXPECT_EQ(least, versions.size());
}

TEST(Journal, DamagedBytesEndItWhereTheyStand) {
    const TempFolder folder;
    const auto versions = someWork();
    const auto bytes = *io::readFile(journalOf(folder / "whole", versions));
    std::vector<std::string> texts;
    for (const DocumentPtr& version : versions) texts.push_back(document::toJsonText(*version));
    fs::create_directories(folder / "broken");
    std::uint32_t random = 7;
    for (int round = 0; round < 300; ++round) {
        auto broken = bytes;
        random = random * 1664525u + 1013904223u;
        broken[random % broken.size()] ^= static_cast<std::uint8_t>(1 + (random >> 24) % 255);
        written(folder / "broken" / "a.journal", broken);
        for (const Unsaved& unsaved : unsavedIn(folder / "broken"))
            ASSERT_EQ(document::toJsonText(*unsaved.document), texts[unsaved.steps - 1]);
    }
}

TEST(Journal, AnotherOneAboutTheSameWorkTakesItsPlace) {
    const TempFolder folder;
    const auto versions = someWork();
    journalOf(folder.path(), versions, {"/a.dimhem", "/a.jpg"});
    journalOf(folder.path(), versions, {"/b.dimhem", "/b.jpg"});
    EXPECT_EQ(unsavedIn(folder.path()).size(), 2u);
    journalOf(folder.path(), {versions[1]}, {"/a.dimhem", "/a.jpg"});
    const auto unsaved = unsavedIn(folder.path());
    ASSERT_EQ(unsaved.size(), 2u);
    for (const Unsaved& each : unsaved)
        EXPECT_EQ(each.steps, each.origin.document == "/a.dimhem" ? 1u : versions.size());
    auto saved = Journal::create(folder.path(), {"/a.dimhem", "/a.jpg"}, *versions[0], "x");
    ASSERT_TRUE(saved);
    saved->remove();
    EXPECT_EQ(unsavedIn(folder.path()).size(), 1u);
}

TEST(Journal, IsLeftByAProgramThatIsKilled) {
    const TempFolder folder;
    const auto versions = someWork();
    const pid_t child = ::fork();
    if (child == 0) {
        auto journal = Journal::create(folder.path(), {}, *versions[0], "a");
        (void)journal->append(*versions[1], "b");
        ::_exit(0);
    }
    ::waitpid(child, nullptr, 0);
    const auto unsaved = unsavedIn(folder.path());
    ASSERT_EQ(unsaved.size(), 1u);
    EXPECT_EQ(unsaved[0].steps, 2u);
}

TEST(Journal, GoesOnWithPhotoMattesAndAll) {
    const TempFolder folder;
    const auto source = *render::PhotoSource::make(std::make_shared<const image::Photo>(tests::madePhoto({80, 60})));
    ASSERT_TRUE(exportPicture(tests::openedOf(source), tests::documentOf("[]"), folder / "photo.png", {}));
    ASSERT_TRUE(exportPicture(tests::openedOf(source), tests::documentOf("[]"), folder / "matte.png", {}));
    auto opened = open(folder / "photo.png");
    ASSERT_TRUE(opened);
    DocumentPtr version = document::withNewCorrection(*opened->document, 0).document;
    const document::Id correction = version->corrections[0]->id;
    version =
        document::withNewPart(*version, correction, *readMatte(folder / "matte.png"), mask::Combine::add).document;
    for (const bool packed : {false, true}) {
        const fs::path place = folder / (packed ? "packed.dimhem" : "linked.dimhem");
        ASSERT_TRUE(save(*opened, version, place, {.pack = packed}));
        const auto again = open(place);
        ASSERT_TRUE(again);
        const DocumentPtr worked = document::withCorrection(*again->document, again->document->corrections[0]->id,
                                                            [](document::Correction& c) { c.strengthPct = 12; });
        const fs::path journals = folder / (packed ? "p" : "l");
        journalOf(journals, {worked}, {again->documentPath, again->photoPath});
        const auto recovered = recover(unsavedIn(journals).at(0));
        ASSERT_TRUE(recovered) << recovered.error().message;
        EXPECT_TRUE(recovered->differsFromFile);
        EXPECT_TRUE(recovered->warning.empty()) << recovered->warning;
        EXPECT_EQ(document::toJsonText(*recovered->document), document::toJsonText(*worked));
        EXPECT_EQ(recovered->documentPath, place);
    }
    // Never saved: the photo alone.
    journalOf(folder / "bare", {version}, {{}, opened->photoPath});
    const auto bare = recover(unsavedIn(folder / "bare").at(0));
    ASSERT_TRUE(bare) << bare.error().message;
    EXPECT_TRUE(bare->documentPath.empty());
    EXPECT_EQ(document::toJsonText(*bare->document), document::toJsonText(*version));
}

TEST(Journal, AFolderThatCannotBeWrittenIsOneSentence) {
    const TempFolder folder;
    written(folder / "file", std::string("x"));
    const auto journal = Journal::create(folder / "file", {}, *tests::documentOf("[]"), "a");
    ASSERT_FALSE(journal);
    EXPECT_TRUE(journal.error().message.ends_with("."));
}

TEST(FileLock, IsHeldByOneAndKnowsItsOwner) {
    const TempFolder folder;
    const fs::path place = lockFileFor(folder.path(), folder / "a.dimhem");
    EXPECT_EQ(place, lockFileFor(folder.path(), folder / "sub" / ".." / "a.dimhem"));
    EXPECT_FALSE(io::ownerOf(place));
    {
        const auto lock = io::FileLock::take(place);
        ASSERT_TRUE(lock);
        EXPECT_FALSE(io::FileLock::take(place));
        ASSERT_TRUE(io::ownerOf(place));
        EXPECT_EQ(io::ownerOf(place)->process, ::getpid());
    }
    EXPECT_FALSE(io::ownerOf(place));
    const pid_t child = ::fork();
    if (child == 0) {
        const auto lock = io::FileLock::take(place);
        ::_exit(lock ? 0 : 1);  // its file stays
    }
    ::waitpid(child, nullptr, 0);
    EXPECT_FALSE(io::ownerOf(place)) << "nobody's, since its owner is gone";
    EXPECT_TRUE(io::FileLock::take(place));
}

}  // namespace dimhem::task
