// Good files of each format and documents, broken in seeded ways: one sentence or a picture each, in little time and
// memory. DIMHEM_MUTATIONS sets how many of each (meant to be many under a sanitizer).
#include <gtest/gtest.h>

#include <chrono>
#include <cstdlib>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <random>

#include "core/io/document_file.h"
#include "core/io/registry.h"
#include "tests/support/hurtful.h"
#include "tests/support/memory.h"

namespace dimhem::io {

namespace {

using File = std::vector<std::uint8_t>;
const std::filesystem::path zoo = DIMHEM_ZOO;

int mutations() {
    const char* asked = std::getenv("DIMHEM_MUTATIONS");
    return asked ? std::atoi(asked) : 300;
}

// Of the kinds that files suffer: bytes changed, cut off, taken out, put in, written twice; numbers made extreme.
void breakOnce(File& file, std::mt19937& random) {
    if (file.empty()) return;
    const std::size_t at = random() % file.size(), length = 1 + random() % std::min<std::size_t>(file.size() - at, 64);
    const auto place = file.begin() + static_cast<std::ptrdiff_t>(at);
    const auto end = place + static_cast<std::ptrdiff_t>(length);
    switch (random() % 7) {
        case 0: *place = static_cast<std::uint8_t>(random()); break;
        case 1: *place ^= static_cast<std::uint8_t>(1u << random() % 8); break;
        case 2:
            std::fill(place, place + static_cast<std::ptrdiff_t>(std::min<std::size_t>(length, 4)),
                      random() % 2 ? 0xff : 0);
            break;
        case 3: file.resize(at); break;
        case 4: file.erase(place, end); break;
        case 5: file.insert(place, length, static_cast<std::uint8_t>(random())); break;
        default: {
            const File again(place, end);
            file.insert(place, again.begin(), again.end());
        }
    }
}

struct Limits {
    double seconds = 0, megabytes = 0;
};

// Breaks each of the files so many times in all, and reads what comes of it.
template <class Read>
Limits tryAll(const std::vector<File>& files, std::uint32_t seed, Read read) {
    std::mt19937 random(seed);
    Limits worst;
    for (int i = 0; i < mutations(); ++i) {
        File file = files[random() % files.size()];
        for (unsigned n = 0; n <= random() % 4; ++n) breakOnce(file, random);
        const auto begun = std::chrono::steady_clock::now();
        worst.megabytes = std::max(worst.megabytes, tests::memoryTaken([&] { read(file); }));
        const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - begun;
        worst.seconds = std::max(worst.seconds, taken.count());
    }
    return worst;
}

template <class T>
void expectSentence(const base::Result<T>& result) {
    if (result) return;
    EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
    EXPECT_EQ(result.error().message.find('\n'), std::string::npos) << result.error().message;
}

void expectLittle(const Limits& worst, const std::string& what) {
    std::printf("%s: at worst %.2f s, %.0f MB\n", what.c_str(), worst.seconds, worst.megabytes);
    EXPECT_LT(worst.megabytes, 1000) << what;
}

std::map<std::string, std::vector<File>> goodFiles() {
    std::ifstream list(zoo / "zoo.json");
    std::map<std::string, std::vector<File>> files;
    for (const auto& entry : nlohmann::json::parse(list)) {
        if (entry["outcome"] == "refused") continue;
        const std::filesystem::path path = zoo / entry["file"].get<std::string>();
        files[path.extension().string()].push_back(*readFile(path));
    }
    return files;
}

}  // namespace

TEST(Mutations, OfPhotos) {
    for (const auto& [extension, files] : goodFiles()) {
        expectLittle(tryAll(files, 21, [](const File& file) { expectSentence(readPhoto(file, "broken")); }), extension);
    }
}

TEST(Mutations, OfDocuments) {
    std::vector<File> texts, zips;
    const tests::TempFolder folder;
    for (const auto& entry : std::filesystem::directory_iterator(std::filesystem::path(DIMHEM_SOURCE_DIR) / "demo")) {
        if (entry.path().extension() != ".dimhem") continue;
        const auto bytes = *readFile(entry.path());
        (bytes[0] == 'P' ? zips : texts).push_back(bytes);
    }
    const std::string small = tests::documentText(R"([{"name": "a", "mask": {"parts": [
        {"kind": "brush", "strokes": [{"size": 60, "points": [[1, 2], [3, 4, 0.5]]}]},
        {"kind": "outline", "points": [[0, 0], [9, 0], [9, 9]], "snap": 4},
        {"kind": "matte", "source": "file", "file": "matte-1.png"}], "refine": {"feather": 3}},
        "adjustments": [{"kind": "tone-curve", "red": [[0, 0], [50, 60], [100, 100]]}]}])");
    texts.emplace_back(small.begin(), small.end());
    zips.push_back(*readFile(tests::zipWith(folder / "a.dimhem", {{"document.json", small}, {"matte-1.png", "none"}})));
    const auto read = [](const File& file) { expectSentence(readDocument(file, "broken.dimhem")); };
    expectLittle(tryAll(texts, 22, read), "document.json");
    expectLittle(tryAll(zips, 23, read), "zip");
}

}  // namespace dimhem::io
