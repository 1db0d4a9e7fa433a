// Stages: a key follows from what is given, a value is got once it is wanted.
#include <gtest/gtest.h>

#include <unordered_map>

#include "core/stage/kept.h"
#include "core/stage/placed.h"

namespace dimhem::tests {

namespace {

using stage::Reading;
using stage::Staged;

// Keeps everything, and counts.
class CountingStore final : public stage::Store, public stage::Memory {
public:
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) override {
        const auto found = values_.find(key);
        if (found != values_.end()) return found->second;
        ++made;
        const Made one = make();
        bytes = one.bytes;
        return values_[key] = one.value;
    }
    std::optional<base::ContentKey> findKey(const base::ContentKey& key) override { return remembered(key); }
    void keepKey(const base::ContentKey& key, const base::ContentKey& value) override { keys_[key] = value; }
    std::shared_ptr<const void> findLatest(const base::ContentKey&) override { return nullptr; }
    void keepLatest(const base::ContentKey&, std::shared_ptr<const void>, std::size_t) override {}
    std::optional<std::vector<std::byte>> findFound(const base::ContentKey& key) override {
        const auto found = found_.find(key);
        return found == found_.end() ? std::nullopt : std::optional(found->second);
    }
    void keepFound(const base::ContentKey& key, std::chrono::nanoseconds,
                   const std::function<std::vector<std::byte>()>& packed) override {
        found_[key] = packed();
    }
    std::optional<base::ContentKey> remembered(const base::ContentKey& question) const override {
        const auto found = keys_.find(question);
        return found == keys_.end() ? std::nullopt : std::optional(found->second);
    }
    void remember(const base::ContentKey& question, const base::ContentKey& key) const override {
        keys_[question] = key;
    }
    void forgetSession() { values_.clear(); }

    int made = 0;
    std::size_t bytes = 0;

private:
    std::unordered_map<base::ContentKey, std::shared_ptr<const void>> values_;
    std::unordered_map<base::ContentKey, std::vector<std::byte>> found_;
    mutable std::unordered_map<base::ContentKey, base::ContentKey> keys_;
};

int calls = 0;  // of functions of stages, which can hold on to nothing

Staged<int> sum(int a, int b) {
    return stage::staged<int>(
        "sum",
        [](int a, int b) {
            ++calls;
            return a + b;
        },
        a, b);
}

Staged<int> twice(const Staged<int>& of) {
    return stage::staged<int>(
        "twice", [](const int& of) { return 2 * of; }, of);
}

}  // namespace

TEST(Staged, KeysFollowFromAllThatIsGivenAndFromWhatItReads) {
    EXPECT_EQ(sum(1, 2).key(), sum(1, 2).key());
    EXPECT_NE(sum(1, 2).key(), sum(1, 3).key());
    EXPECT_NE(sum(1, 2).key(), sum(2, 1).key());
    EXPECT_EQ(twice(sum(1, 2)).key(), twice(sum(1, 2)).key());
    EXPECT_NE(twice(sum(1, 2)).key(), twice(sum(1, 3)).key()) << "what it reads is not what it was";
    const auto other = stage::staged<int>(
        "difference", [](int a, int b) { return a - b; }, 1, 2);
    EXPECT_NE(sum(1, 2).key(), other.key());
    EXPECT_EQ(*twice(sum(1, 2)).value(), 6);
}

TEST(Staged, AKeyCostsNoValueAndWhatIsLaterIsGotOnlyWhereItIsWanted) {
    calls = 0;
    const auto first = [](bool wanted) {
        return stage::staged<int>(
            "if wanted", [](bool wanted, const Staged<int>& of) { return wanted ? *of.value() : 0; }, wanted,
            stage::later(sum(3, 4)));
    };
    (void)first(true).key();
    EXPECT_EQ(*first(false).value(), 0);
    EXPECT_EQ(calls, 0);
    EXPECT_EQ(*first(true).value(), 7);
    EXPECT_EQ(calls, 1);
}

TEST(Staged, AKeyIsWorkedOutOnceForAllCopies) {
    int asked = 0;
    struct Counting {
        int* asked;
        base::ContentKey key() const { return {7, static_cast<std::uint64_t>(++*asked)}; }
        int value() const { return 5; }
    };
    const auto stage = stage::staged<int>(
        "counted", [](int value) { return value; }, Counting{&asked});
    const auto copy = stage;
    EXPECT_EQ(twice(stage).key(), twice(copy).key());
    EXPECT_EQ(stage.key(), copy.key());
    EXPECT_EQ(asked, 1);
    EXPECT_EQ(*copy.value(), 5);
}

TEST(Staged, LargeConstantsStayWhereTheyAreAndOnlyTheirKeyCounts) {
    const std::vector<int> many(1000, 1);
    const auto counted = [&](base::ContentKey key) {
        return stage::staged<std::size_t>(
            "count", [](const std::vector<int>& all) { return all.size(); }, stage::keyed(key, many));
    };
    EXPECT_EQ(*counted({1, 1}).value(), 1000u);
    EXPECT_NE(counted({1, 1}).key(), counted({1, 2}).key());
    int unkeyed = 0, another = 0;
    const auto with = [](int& counter) {
        return stage::staged<int>(
            "counting", [](int& counter) { return ++counter; }, stage::unkeyed(counter));
    };
    EXPECT_EQ(with(unkeyed).key(), with(another).key());
}

TEST(Staged, AReadingIsMadeForTheOneWhoAsks) {
    const Reading<std::vector<int>> ones = stage::reading<std::vector<int>>(
        "ones", [](int n) { return std::vector<int>(std::size_t(n), 1); }, 3);
    const auto grown = stage::staged<std::size_t>(
        "grown",
        [](std::vector<int> mine) {
            mine.push_back(2);
            return mine.size();
        },
        ones);
    EXPECT_EQ(*grown.value(), 4u);
    EXPECT_EQ(*grown.value(), 4u) << "nobody else's was changed";
}

TEST(Staged, WhatIsKeptIsMadeOnceAndForGoodOnceForAllSessions) {
    CountingStore store;
    calls = 0;
    EXPECT_EQ(*stage::kept(store, sum(5, 6)).value(), 11);
    EXPECT_EQ(*stage::kept(store, sum(5, 6)).value(), 11);
    EXPECT_EQ(calls, 1);
    EXPECT_EQ(store.bytes, sizeof(int));
    EXPECT_EQ(*stage::keptForGood(store, sum(7, 8)).value(), 15);
    store.forgetSession();
    EXPECT_EQ(*stage::keptForGood(store, sum(7, 8)).value(), 15);
    EXPECT_EQ(calls, 2) << "it was found in what the session before kept";
    EXPECT_EQ(*stage::kept(store, sum(5, 6)).value(), 11);
    EXPECT_EQ(calls, 3);
}

TEST(Staged, AQuestionIsAnsweredOnceForItsKey) {
    CountingStore store;
    int asked = 0;
    const auto question = [&] {
        return stage::asked(store, base::ContentKey{4, 2}, [&asked] {
            ++asked;
            return sum(1, 1);
        });
    };
    const base::ContentKey key = question().key();
    EXPECT_EQ(key, sum(1, 1).key());
    EXPECT_EQ(question().key(), key);
    EXPECT_EQ(asked, 1);
    EXPECT_EQ(*question().value(), 2);
}

TEST(Staged, StepsChangeInPlaceAndTheirOrderIsInTheKey) {
    const auto add = [](int by) {
        return stage::step<int>(
            "add", [](int& to, int by) { to += by; }, by);
    };
    const auto times = [](int by) {
        return stage::step<int>(
            "times", [](int& to, int by) { to *= by; }, by);
    };
    int value = 3;
    add(2).apply(value);
    times(4).apply(value);
    EXPECT_EQ(value, 20);
    const base::ContentKey start{0, 1};
    EXPECT_EQ(times(4).keyAfter(add(2).keyAfter(start)), times(4).keyAfter(add(2).keyAfter(start)));
    EXPECT_NE(times(4).keyAfter(add(2).keyAfter(start)), add(2).keyAfter(times(4).keyAfter(start)));
    EXPECT_NE(add(2).keyAfter(start), add(3).keyAfter(start));
}

TEST(Staged, WhatIsPutTogetherFromPlacesGoesByEachAndByWhereItLies) {
    const auto all = [](int x, int value) {
        return stage::staged<int>(
            "all",
            [](const std::vector<stage::Placed<int>>& places) {
                int sum = 0;
                for (const auto& place : places) sum += place.rect.x0 * *place.stage.value();
                return sum;
            },
            std::vector<stage::Placed<int>>{{{1, 0, 2, 1}, sum(1, 1)}, {{x, 0, x + 1, 1}, sum(value, 0)}});
    };
    EXPECT_EQ(*all(3, 5).value(), 17);
    EXPECT_EQ(all(3, 5).key(), all(3, 5).key());
    EXPECT_NE(all(3, 5).key(), all(4, 5).key());
    EXPECT_NE(all(3, 5).key(), all(3, 6).key());
}

TEST(Staged, WhatItWasGivenByReferenceCanBeKeptAlive) {
    std::weak_ptr<const int> watched;
    std::optional<Staged<int>> stage;
    {
        const auto owner = std::make_shared<const int>(9);
        watched = owner;
        stage = stage::staged<int>(
                    "of another", [](const int& of) { return of + 1; }, stage::keyed({9, 9}, *owner))
                    .owning(owner);
    }
    ASSERT_FALSE(watched.expired());
    EXPECT_EQ(*stage->value(), 10);
    stage.reset();
    EXPECT_TRUE(watched.expired());
}

}  // namespace dimhem::tests
