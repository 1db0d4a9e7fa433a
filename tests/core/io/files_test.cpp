#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>
#include <zip.h>

#include <csignal>

#include "core/document/edits.h"
#include "core/document/json_format.h"
#include "core/io/document_file.h"
#include "core/io/pending_file.h"
#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

using tests::TempFolder;
using tests::written;

std::string text(const std::filesystem::path& path) {
    const auto bytes = readFile(path);
    return bytes ? std::string(bytes->begin(), bytes->end()) : "";
}

std::size_t filesIn(const std::filesystem::path& folder) {
    return static_cast<std::size_t>(std::distance(std::filesystem::directory_iterator(folder), {}));
}

// For as long as it lives, no file may grow beyond a size: writing then fails as on a full disk.
class FullDisk {
public:
    explicit FullDisk(rlim_t bytes) {
        std::signal(SIGXFSZ, SIG_IGN);
        ::getrlimit(RLIMIT_FSIZE, &old_);
        const rlimit small{bytes, old_.rlim_max};
        ::setrlimit(RLIMIT_FSIZE, &small);
    }
    ~FullDisk() { ::setrlimit(RLIMIT_FSIZE, &old_); }

private:
    rlimit old_{};
};

document::Document someDocument() {
    document::Document document;
    document.photo = {"a.jpg", false, "", {}};
    return *document::withNewCorrection(document, 0).document;
}

const std::vector<std::uint8_t> bytes = {1, 2, 3, 4, 5};

}  // namespace

// FIPS 180-4, the example of one block.
// A socket cannot even be opened, a pipe can.
TEST(HeldFile, SaysThatAnOddThingIsNoFile) {
    const TempFolder folder;
    const std::filesystem::path socket = folder / "socket", pipe = folder / "pipe";
    ASSERT_EQ(::mkfifo(pipe.c_str(), 0600), 0);
    const int fd = ::socket(AF_UNIX, SOCK_STREAM, 0);
    sockaddr_un address{};
    address.sun_family = AF_UNIX;
    std::snprintf(address.sun_path, sizeof address.sun_path, "%s", socket.c_str());
    ASSERT_EQ(::bind(fd, reinterpret_cast<const sockaddr*>(&address), sizeof address), 0);
    for (const auto& path : {socket, pipe}) {
        const auto held = HeldFile::open(path);
        ASSERT_FALSE(held);
        EXPECT_NE(held.error().message.find("a device, not a file"), std::string::npos) << held.error().message;
    }
    ::close(fd);
    EXPECT_EQ(HeldFile::open(folder / "none").error().code, base::ErrorCode::notFound);
}

TEST(Sha256, MatchesTheStandardsExample) {
    const std::uint8_t abc[] = {'a', 'b', 'c'};
    EXPECT_EQ(sha256(abc), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
}

TEST(PendingFile, AppearsOnlyWhenCommitted) {
    const TempFolder folder;
    {
        auto file = PendingFile::create(folder / "new", {});
        ASSERT_TRUE(file);
        ASSERT_TRUE(file->write(bytes));
        EXPECT_FALSE(std::filesystem::exists(folder / "new"));
    }
    EXPECT_EQ(filesIn(folder.path()), 0u);
    auto file = PendingFile::create(folder / "new", {});
    ASSERT_TRUE(file->write(bytes));
    ASSERT_TRUE(file->commit());
    EXPECT_EQ(text(folder / "new").size(), bytes.size());
    EXPECT_EQ(filesIn(folder.path()), 1u);
}

TEST(PendingFile, KeepsTheOldFilesPermissionsAndFollowsLinks) {
    const TempFolder folder;
    written(folder / "old", std::string("old"));
    ::chmod((folder / "old").c_str(), 0640);
    std::filesystem::create_symlink("old", folder / "link");
    auto file = PendingFile::create(folder / "link", {});
    ASSERT_TRUE(file->write(bytes));
    ASSERT_TRUE(file->commit());
    struct stat info {};
    ::stat((folder / "old").c_str(), &info);
    EXPECT_EQ(info.st_mode & 0777, 0640u);
    EXPECT_TRUE(std::filesystem::is_symlink(folder / "link"));
    EXPECT_EQ(text(folder / "old").size(), bytes.size());
}

TEST(PendingFile, AFullDiskLosesNothing) {
    const TempFolder folder;
    written(folder / "old", std::string("precious"));
    {
        const FullDisk full(4096);
        auto file = PendingFile::create(folder / "old", {});
        ASSERT_TRUE(file);
        const std::vector<std::uint8_t> large(100'000, 7);
        const auto wrote = file->write(large);
        const auto closed = wrote ? file->commit() : wrote;
        ASSERT_FALSE(closed);
        EXPECT_EQ(closed.error().code, base::ErrorCode::diskFull) << closed.error().message;
    }
    EXPECT_EQ(text(folder / "old"), "precious");
    EXPECT_EQ(filesIn(folder.path()), 1u);
}

TEST(PendingFile, ImpossiblePlacesAreOneSentenceEach) {
    const TempFolder folder;
    EXPECT_EQ(PendingFile::create(folder / "no" / "such" / "file", {}).error().code, base::ErrorCode::unwritable);
    EXPECT_EQ(PendingFile::create(folder.path(), {}).error().code, base::ErrorCode::unwritable);
}

TEST(DocumentFile, ComesBackWithPictureAndPackedPhoto) {
    const TempFolder folder;
    document::Document document = someDocument();
    document.photo.packed = true;
    const std::vector<std::uint8_t> photo(5000, 42);
    ASSERT_TRUE(writeDocument(folder / "a.dimhem", document, bytes, photo, {}, {}));
    const auto back = readDocument(folder / "a.dimhem");
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(document::toJsonText(*back->document), document::toJsonText(document));
    EXPECT_EQ(back->packedPhoto, photo);
    EXPECT_EQ(readThumbnail(folder / "a.dimhem"), bytes);
}

TEST(DocumentFile, TheSameDocumentGivesTheSameBytes) {
    const TempFolder folder;
    ASSERT_TRUE(writeDocument(folder / "a.dimhem", someDocument(), bytes, {}, {}, {}));
    ASSERT_TRUE(writeDocument(folder / "b.dimhem", someDocument(), bytes, {}, {}, {}));
    EXPECT_EQ(text(folder / "a.dimhem"), text(folder / "b.dimhem"));
}

TEST(DocumentFile, BareJsonIsReadToo) {
    const TempFolder folder;
    written(folder / "by-hand.json", document::toJsonText(someDocument()));
    EXPECT_TRUE(readDocument(folder / "by-hand.json"));
}

TEST(DocumentFile, DamagedOnesAreOneSentenceEachAndNoCrash) {
    const TempFolder folder;
    ASSERT_TRUE(writeDocument(folder / "a.dimhem", someDocument(), bytes, {}, {}, {}));
    const std::string whole = text(folder / "a.dimhem");
    for (std::size_t length = 1; length + 1 < whole.size(); length += 7) {
        const auto result = readDocument(written(folder / "cut.dimhem", whole.substr(0, length)));
        ASSERT_FALSE(result) << length;
        EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    }
    for (std::size_t i = 0; i < whole.size(); i += 3) {
        std::string broken = whole;
        broken[i] = static_cast<char>(broken[i] ^ 0x5a);
        const auto result = readDocument(written(folder / "broken.dimhem", broken));
        if (!result) {
            EXPECT_FALSE(result.error().message.empty());
        }
    }
}

TEST(DocumentFile, AZipOfSomethingElseIsRefused) {
    const TempFolder folder;
    int error = 0;
    zip_t* zip = zip_open((folder / "other.zip").c_str(), ZIP_CREATE, &error);
    zip_file_add(zip, "../outside.txt", zip_source_buffer(zip, "x", 1, 0), 0);
    zip_close(zip);
    EXPECT_EQ(readDocument(folder / "other.zip").error().code, base::ErrorCode::damaged);
    EXPECT_FALSE(std::filesystem::exists(folder.path().parent_path() / "outside.txt"));
}

}  // namespace dimhem::io
