#include "core/io/found_folder.h"

#include <gtest/gtest.h>

#include <fstream>
#include <random>
#include <thread>

#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

namespace fs = std::filesystem;

constexpr std::uint64_t plenty = std::uint64_t{64} << 20;

base::ContentKey keyOf(int i) {
    return base::KeyBuilder().add("key").add(i).key();
}

std::vector<std::byte> someBytes(std::size_t count, unsigned seed = 1) {
    std::mt19937 random(seed);
    std::vector<std::byte> bytes(count);
    for (std::byte& b : bytes) b = static_cast<std::byte>(random());
    return bytes;
}

std::vector<fs::path> filesIn(const fs::path& folder) {
    std::vector<fs::path> files;
    for (const auto& entry : fs::recursive_directory_iterator(folder)) {
        if (entry.path().extension() == ".found") files.push_back(entry.path());
    }
    return files;
}

class FoundFolders : public testing::Test {
protected:
    tests::TempFolder temp;
    fs::path folder = temp / "found";
};

}  // namespace

TEST_F(FoundFolders, GiveBackWhatWasKeptInThisProgramAndTheNext) {
    for (const std::size_t count : {std::size_t{0}, std::size_t{1}, std::size_t{100'000}}) {
        const auto bytes = someBytes(count);
        {
            FoundFolder one(folder, "code", plenty);
            EXPECT_FALSE(one.read(keyOf(static_cast<int>(count))));
            one.write(keyOf(static_cast<int>(count)), bytes);
            EXPECT_EQ(one.read(keyOf(static_cast<int>(count))), bytes);
        }
        FoundFolder next(folder, "code", plenty);
        EXPECT_EQ(next.read(keyOf(static_cast<int>(count))), bytes);
    }
}

TEST_F(FoundFolders, OtherCodeFindsNothing) {
    FoundFolder(folder, "code", plenty).write(keyOf(1), someBytes(100));
    EXPECT_FALSE(FoundFolder(folder, "other code", plenty).read(keyOf(1)));
    EXPECT_TRUE(FoundFolder(folder, "code", plenty).read(keyOf(1)));
}

TEST_F(FoundFolders, NothingDamagedIsGivenBack) {
    FoundFolder found(folder, "code", plenty);
    const auto bytes = someBytes(3000);
    found.write(keyOf(1), bytes);
    const std::vector<fs::path> files = filesIn(folder);
    ASSERT_EQ(files.size(), 1u);
    std::ifstream in(files[0], std::ios::binary);
    const std::string whole((std::istreambuf_iterator<char>(in)), {});
    const auto with = [&](const std::string& text) {
        std::ofstream(files[0], std::ios::binary) << text;
        return found.read(keyOf(1));
    };
    for (std::size_t at = 0; at < whole.size(); at += 7) {
        std::string other = whole;
        other[at] = static_cast<char>(other[at] ^ 0x10);
        const auto got = with(other);
        EXPECT_TRUE(!got || *got == bytes) << "byte " << at;
        EXPECT_FALSE(with(whole.substr(0, at))) << "cut at " << at;
    }
    EXPECT_FALSE(fs::exists(files[0])) << "what is of no use goes";
    // A size that is merely claimed takes no memory.
    std::string claims = whole;
    for (std::size_t i = 32; i < 40; ++i) claims[i] = '\x7f';
    EXPECT_FALSE(with(claims));
    EXPECT_EQ(with(whole), bytes);
}

TEST_F(FoundFolders, KeepToTheirLimitAndDropWhatWasNotUsedLongest) {
    constexpr std::uint64_t most = 100'000;
    FoundFolder found(folder, "code", most);
    for (int i = 0; i < 60; ++i) {
        found.write(keyOf(i), someBytes(5000, static_cast<unsigned>(i)));
        ASSERT_LE(found.bytes(), most) << i;
        // As if that had been a while ago.
        for (const fs::path& file : filesIn(folder))
            fs::last_write_time(file, fs::last_write_time(file) - std::chrono::seconds(10));
        ASSERT_TRUE(found.read(keyOf(0))) << "in use all the time, so that it stays";
    }
    EXPECT_TRUE(found.read(keyOf(59)));
    EXPECT_FALSE(found.read(keyOf(20)));
    EXPECT_GT(found.bytes(), most / 2);
    found.write(keyOf(99), someBytes(2 * most));
    EXPECT_FALSE(found.read(keyOf(99))) << "larger than all that may be kept";
    EXPECT_TRUE(found.read(keyOf(59)));
    found.setMostBytes(0);
    EXPECT_EQ(found.bytes(), 0u);
    found.write(keyOf(1), someBytes(10));
    EXPECT_FALSE(found.read(keyOf(1)));
    EXPECT_EQ(FoundFolder(folder, "code", most).mostBytes(), 0u) << "what was chosen lasts";
}

TEST_F(FoundFolders, ALimitThatCannotBeReadIsTheStandardOne) {
    FoundFolder(folder, "code", 1000).setMostBytes(77);
    EXPECT_EQ(FoundFolder(folder, "code", 1000).mostBytes(), 77u);
    for (const char* text : {"", "-1", "12 ", "many", "99999999999999999999999"}) {
        std::ofstream(folder / "most-bytes") << text;
        EXPECT_EQ(FoundFolder(folder, "code", 1000).mostBytes(), 1000u) << text;
    }
}

TEST_F(FoundFolders, TouchNothingOfOthers) {
    fs::create_directories(folder / "ab");
    std::ofstream(folder / "ab" / "letter.txt") << "mine";
    std::ofstream(folder / "notes") << "mine";
    FoundFolder found(folder, "code", 1000);
    for (int i = 0; i < 20; ++i) found.write(keyOf(i), someBytes(300, static_cast<unsigned>(i)));
    found.clear();
    EXPECT_TRUE(fs::exists(folder / "ab" / "letter.txt"));
    EXPECT_TRUE(fs::exists(folder / "notes"));
}

TEST_F(FoundFolders, KeepNothingWhereNothingCanBeWritten) {
    std::ofstream(temp / "found") << "a file where the folder should be";
    FoundFolder found(folder, "code", plenty);
    found.write(keyOf(1), someBytes(10));
    EXPECT_FALSE(found.read(keyOf(1)));
    EXPECT_EQ(found.bytes(), 0u);
}

TEST_F(FoundFolders, ManyThreadsMayReadAndWriteAtOnce) {
    FoundFolder found(folder, "code", 200'000);
    std::atomic<int> wrong{0};
    std::vector<std::thread> threads;
    for (int t = 0; t < 4; ++t) {
        threads.emplace_back([&, t] {
            for (int i = 0; i < 40; ++i) {
                const int which = (7 * i + t) % 25;
                const auto bytes = someBytes(9000, static_cast<unsigned>(which));
                if (const auto got = found.read(keyOf(which)); got && *got != bytes) ++wrong;
                found.write(keyOf(which), bytes);
            }
        });
    }
    for (std::thread& thread : threads) thread.join();
    EXPECT_EQ(wrong, 0);
}

}  // namespace dimhem::io
