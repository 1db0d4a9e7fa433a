// Documents made to hurt: one sentence each, and little memory.
#include <gtest/gtest.h>

#include "core/io/document_file.h"
#include "core/mask/brush.h"
#include "tests/support/hurtful.h"
#include "tests/support/memory.h"

namespace dimhem::io {

using tests::documentText;
using tests::TempFolder;

namespace {

constexpr double littleMb = 600;

void expectRefused(const std::filesystem::path& path, double mostMb = littleMb) {
    const double taken = tests::memoryTaken([&] {
        const auto read = readDocument(path);
        ASSERT_FALSE(read) << path;
        EXPECT_TRUE(read.error().message.ends_with(".")) << read.error().message;
    });
    EXPECT_LT(taken, mostMb) << path;
}

std::string repeated(const std::string& text, int times, const std::string& between = ",") {
    std::string out;
    for (int i = 0; i < times; ++i) out += (i ? between : "") + text;
    return out;
}

}  // namespace

TEST(DocumentLimits, AZipThatStatesMuchMoreThanItHolds) {
    const TempFolder folder;
    for (const std::uint32_t stated : {0xd0000000u, 0xfffffff0u}) {
        const auto path = tests::zipWith(folder / "a.dimhem", {{"document.json", documentText("[]")}});
        auto bytes = *readFile(path);
        tests::stateSize(bytes, "document.json", stated);
        expectRefused(tests::written(path, bytes), 50);
    }
}

TEST(DocumentLimits, TextThatShrinksByAThousand) {
    const TempFolder folder;
    const std::string spaces(std::size_t{60} << 20, ' ');
    expectRefused(tests::zipWith(folder / "a.dimhem", {{"document.json", documentText("[" + spaces + "]")}}), 100);
}

TEST(DocumentLimits, TextOfTooManyValuesOrTooDeep) {
    const TempFolder folder;
    const std::string numbers = "[" + repeated("1", 11'000'000) + "]";
    expectRefused(tests::written(folder / "wide.json", documentText("[]", "\"more\": " + numbers + ",")), 200);
    const std::string deep = std::string(5000, '[') + std::string(5000, ']');
    expectRefused(tests::written(folder / "deep.json", documentText("[]", "\"more\": " + deep + ",")));
}

TEST(DocumentLimits, FewStrokesOfManyDabs) {
    const TempFolder folder;
    const std::string stroke =
        R"({"size": 1, "spacing": 1, "points": [[0, 0], [60000, 60000], [0, 0], [60000, 60000]]})";
    const auto withParts = [&](int parts, int strokes) {
        const std::string part = R"({"kind": "brush", "strokes": [)" + repeated(stroke, strokes) + "]}";
        return documentText(R"([{"name": "a", "mask": {"parts": [)" + repeated(part, parts) + "]}}]");
    };
    expectRefused(tests::written(folder / "one.json", withParts(1, 200)));
    expectRefused(tests::written(folder / "many.json", withParts(200, 1)));
    std::string corrections;
    for (int i = 0; i < 200; ++i)
        corrections += (i ? "," : "") + (R"({"mask": {"parts": [{"kind": "brush", "strokes": [)" + stroke + "]}]}}");
    expectRefused(tests::written(folder / "corrections.json", documentText("[" + corrections + "]")));
}

TEST(DocumentLimits, WhatIsLongButWithinThemIsRead) {
    const TempFolder folder;
    std::string points = repeated("[1,2]", 20'000);
    const std::string stroke = R"({"size": 100, "points": [)" + points + "]}";
    const auto path = tests::written(
        folder / "long.json",
        documentText(R"([{"mask": {"parts": [{"kind": "brush", "strokes": [)" + repeated(stroke, 20) + "]}]}}]"));
    const auto read = readDocument(path);
    ASSERT_TRUE(read) << read.error().message;
    EXPECT_LT(document::weightOf(*read->document), mask::mostWeight);
}

TEST(DocumentLimits, AMatteNamedByManyPartsIsReadOnce) {
    const TempFolder folder;
    const std::string part = R"({"kind": "matte", "source": "file", "file": "matte-1.png"})";
    const auto path = tests::zipWith(
        folder / "a.dimhem", {{"document.json", documentText(R"([{"mask": {"parts": [)" + repeated(part, 40) + "]}}]")},
                              {"matte-1.png", std::string(std::size_t{1} << 20, 'x')}});
    const auto read = readDocument(path);
    ASSERT_TRUE(read) << read.error().message;
    EXPECT_EQ(read->mattes.size(), 1u);
}

TEST(DocumentLimits, AnEntryOfAnotherChecksumIsRefused) {
    const TempFolder folder;
    const auto path = tests::zipWith(folder / "a.dimhem", {{"document.json", documentText("[]")}});
    auto bytes = *readFile(path);
    bool changed = false;  // the checksum stands 14 bytes after a local record's beginning, 16 after a central one's
    for (std::size_t at = 0; at + 20 < bytes.size(); ++at) {
        if (std::memcmp(&bytes[at], "PK\1\2", 4) != 0) continue;
        bytes[at + 16] ^= 0xff;
        bytes[14] ^= 0xff;
        changed = true;
    }
    ASSERT_TRUE(changed);
    expectRefused(tests::written(path, bytes));
}

TEST(DocumentLimits, MarksAndSpacesBeforeTheTextDoNotMatter) {
    const TempFolder folder;
    for (const std::string before : {"\xef\xbb\xbf", "\t", "\r\n", "\xef\xbb\xbf \r\n\t"}) {
        const auto path = tests::written(folder / "a.json", before + documentText("[]"));
        EXPECT_TRUE(looksLikeDocument(*readFile(path)));
        const auto read = readDocument(path);
        EXPECT_TRUE(read) << read.error().message;
    }
    const std::string text = "words {";
    EXPECT_FALSE(looksLikeDocument({reinterpret_cast<const std::uint8_t*>(text.data()), text.size()}));
}

}  // namespace dimhem::io
