// Masks that took long to find, kept beyond the cache: what is shown by them is what is shown without, bit for bit, and
// nothing is found twice.
#include <gtest/gtest.h>

#include <map>
#include <mutex>
#include <set>

#include "core/base/found_store.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::render {

namespace {

constexpr base::Size photoSize{160, 120};

// Keeps all, however quickly it was found.
class KeepsAll final : public base::FoundStore {
public:
    std::optional<std::vector<std::byte>> read(const base::ContentKey& key) override {
        const std::lock_guard lock(mutex_);
        const auto found = kept_.find({key.high, key.low});
        if (found == kept_.end()) return std::nullopt;
        ++reads;
        return spoil ? spoil(found->second) : found->second;
    }
    bool wants(std::chrono::nanoseconds) const override { return true; }
    void write(const base::ContentKey& key, std::span<const std::byte> bytes) override {
        const std::lock_guard lock(mutex_);
        ++writes;
        kept_[{key.high, key.low}] = {bytes.begin(), bytes.end()};
    }

    std::size_t reads = 0, writes = 0;
    std::function<std::vector<std::byte>(std::vector<std::byte>)> spoil;

private:
    std::mutex mutex_;
    std::map<std::pair<std::uint64_t, std::uint64_t>, std::vector<std::byte>> kept_;
};

struct Case {
    const char* name;
    const char* mask;
};

class KeptMasks : public testing::TestWithParam<Case> {
protected:
    std::vector<std::uint32_t> shown(const std::shared_ptr<base::FoundStore>& store) {
        const Renderer renderer(photo_, std::make_shared<TileCache>(TileCache::defaultBudget, nullptr, store));
        const Sequence sequence(document_, {});
        std::vector<std::uint32_t> pixels;
        for (const int level : {0, 1}) {
            const base::Rect all = base::rectOf(image::levelSize(photoSize, level));
            const auto part = renderer.display(sequence, {}, {all, level});
            for (int y = 0; y < all.height(); ++y)
                pixels.insert(pixels.end(), part->row(y).begin(), part->row(y).end());
        }
        return pixels;
    }

    const std::shared_ptr<const PhotoSource> photo_ = *PhotoSource::make(tests::sharedPhoto(photoSize));
    const document::DocumentPtr document_ = tests::documentOf(
        std::string(R"([{"mask": )") + GetParam().mask + R"(, "adjustments": [{"kind": "light", "exposure": 1}]}])");
    const std::shared_ptr<KeepsAll> store_ = std::make_shared<KeepsAll>();
};

}  // namespace

TEST_P(KeptMasks, ShowTheSameAndAreNotFoundTwice) {
    const auto plain = shown(nullptr);
    EXPECT_EQ(shown(store_), plain);
    const std::size_t writes = store_->writes;
    EXPECT_GT(writes, 0u);
    EXPECT_EQ(shown(store_), plain);
    EXPECT_GT(store_->reads, 0u);
    EXPECT_EQ(store_->writes, writes);
}

// Another program of the same name, or a disk that fails: what does not fit is found anew.
TEST_P(KeptMasks, WhatDoesNotFitIsFoundAnew) {
    const auto plain = shown(nullptr);
    shown(store_);
    for (const std::size_t keeps : {0u, 1u, 7u, 16u}) {
        store_->spoil = [&](std::vector<std::byte> bytes) {
            bytes.resize(std::min(bytes.size() - 1, keeps));
            return bytes;
        };
        EXPECT_EQ(shown(store_), plain) << keeps;
    }
    store_->spoil = [](std::vector<std::byte> bytes) {
        bytes.push_back(std::byte{1});
        return bytes;
    };
    EXPECT_EQ(shown(store_), plain);
}

INSTANTIATE_TEST_SUITE_P(
    Of, KeptMasks,
    testing::Values(
        Case{"Region", R"({"parts": [{"kind": "region", "drags": [{"points": [[40, 40], [60, 60]]}]}]})"},
        Case{"Wire", R"({"parts": [{"kind": "wire", "lines": [{"points": [[20, 20], [120, 90]]}]}]})"},
        Case{"Outline", R"({"parts": [{"kind": "outline", "snap": 8,
                                        "points": [[30, 30], [110, 34], [100, 90], [40, 84]]}]})"},
        Case{"FineDetail", R"({"parts": [{"kind": "outline", "points": [[30, 30], [110, 34], [100, 90], [40, 84]]},
                                          {"kind": "fine-detail", "along-edge": true, "strokes": []}]})"},
        Case{"EdgeSnap", R"({"parts": [{"kind": "outline", "points": [[30, 30], [110, 34], [100, 90], [40, 84]]}],
                                        "refine": {"edge-snap": 5}})"}),
    [](const auto& info) { return info.param.name; });

}  // namespace dimhem::render
