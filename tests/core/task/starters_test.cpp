#include "core/task/starters.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>

#include "tests/support/documents.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

document::Starter named(const std::string& name) {
    document::Starter starter = document::starterOf(
        *tests::documentOf(R"([{"adjustments": [{"kind": "light", "exposure": 1}]}])")->corrections[0], {}, {100, 100});
    starter.name = name;
    return starter;
}

}  // namespace

// Common practice: what the trade does again and again.
TEST(Starters, TheShippedOnesCanAllBeReadAndDoSomething) {
    const auto shipped = startersIn(std::filesystem::path(DIMHEM_SOURCE_DIR) / "starters");
    EXPECT_EQ(shipped.size(), 27u);
    for (const StarterFile& file : shipped) {
        const auto measures = [](const document::AdjustmentUse& use) {
            return adjust::lacksMeasuring(*use.kind, use.settings);
        };
        EXPECT_TRUE(document::isActive(*file.starter.correction) ||
                    std::ranges::any_of(file.starter.correction->adjustments, measures))
            << file.path;
        EXPECT_TRUE(file.starter.about.ends_with(".")) << file.path;
        EXPECT_TRUE(file.starter.first.ends_with(".")) << file.path << ": what to do first";
        const auto& parts = file.starter.correction->mask.parts;
        const bool isPainted = std::ranges::any_of(
            parts, [](const mask::PartPtr& part) { return part->shape->kind().id == std::string_view("brush"); });
        EXPECT_EQ(file.starter.brush.has_value(), isPainted) << file.path;
        EXPECT_FALSE(parts.empty()) << file.path;
    }
}

// Written and read they are the same, and what they begin on any photo is a document that opens again.
TEST(Starters, TheShippedOnesComeBackAndBeginOnAnyPhoto) {
    for (const StarterFile& file : startersIn(std::filesystem::path(DIMHEM_SOURCE_DIR) / "starters")) {
        const std::string text = document::toJsonText(file.starter);
        const auto back = document::starterFromJsonText(text);
        ASSERT_TRUE(back) << file.path << ": " << back.error().message;
        EXPECT_EQ(document::toJsonText(*back), text) << file.path;
        for (const base::Size photo : {base::Size{1, 1}, {60000, 1}, {1, 60000}, {640, 480}, {30000, 20000}}) {
            const document::Added begun = document::withStarter(*tests::documentOf("[]"), file.starter, 0, photo);
            const auto opened = document::fromJsonText(document::toJsonText(*begun.document));
            ASSERT_TRUE(opened) << file.path << " on " << photo.width << ": " << opened.error().message;
            EXPECT_EQ(document::toJsonText(**opened), document::toJsonText(*begun.document)) << file.path;
        }
    }
}

TEST(Starters, AreAddedReadRenamedAndRemoved) {
    const tests::TempFolder folder;
    const std::filesystem::path own = folder / "own";
    EXPECT_TRUE(startersIn(own).empty()) << "no such folder yet";
    const auto first = addStarter(own, named("Green  Bounce!")), second = addStarter(own, named("Green bounce"));
    ASSERT_TRUE(first && second);
    EXPECT_EQ(first->filename(), "green-bounce.json");
    EXPECT_NE(*first, *second);
    ASSERT_EQ(startersIn(own).size(), 2u);
    ASSERT_TRUE(writeStarter(*first, named("A last one"), {}));
    EXPECT_EQ(startersIn(own)[0].starter.name, "A last one");
    EXPECT_TRUE(removeStarter(*first));
    EXPECT_EQ(removeStarter(*first).error().code, base::ErrorCode::notFound);
    EXPECT_EQ(startersIn(own).size(), 1u);
}

TEST(Starters, WhatCannotBeReadIsLeftOutOrSaidInOneSentence) {
    const tests::TempFolder folder;
    std::ofstream(folder / "broken.json") << "{";
    std::ofstream(folder / "other.txt") << "nothing";
    ASSERT_TRUE(addStarter(folder / "", named("Good")));
    EXPECT_EQ(startersIn(folder / "").size(), 1u);
    EXPECT_EQ(readStarter(folder / "broken.json").error().code, base::ErrorCode::damaged);
    EXPECT_EQ(readStarter(folder / "missing.json").error().code, base::ErrorCode::notFound);
    EXPECT_FALSE(addStarter("/proc/nowhere", named("Good")));
}

}  // namespace dimhem::task
