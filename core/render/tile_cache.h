// The memory of the renderer: what was computed, by the key of its content, the least recently used thrown out first.
//
// Nothing in it ever becomes wrong: a change makes another key. Safe from many threads.
#pragma once

#include <atomic>
#include <future>
#include <list>
#include <map>
#include <memory>
#include <mutex>
#include <unordered_map>

#include "core/base/cancel.h"
#include "core/base/found_store.h"
#include "core/base/memory_ceiling.h"
#include "core/image/plane.h"
#include "core/mask/coverage.h"
#include "core/render/pointwise_run.h"

namespace dimhem::render {

using DisplayTile = image::Plane<std::uint32_t>;  // 0xffRRGGBB

class TileCache final : public mask::CoverageStore {
public:
    static constexpr std::size_t defaultBudget = std::size_t{256} << 20;
    // Keeping throws base::CeilingReached where the program's memory, `ceiling`, is at its end; null: none.
    // `found` keeps what took long to find beyond this cache; null: nothing does.
    explicit TileCache(std::size_t budgetBytes = defaultBudget, std::shared_ptr<base::MemoryCeiling> ceiling = nullptr,
                       std::shared_ptr<base::FoundStore> found = nullptr);

    mask::CoveragePtr find(const base::ContentKey& key) override;
    void keep(const base::ContentKey& key, mask::CoveragePtr coverage) override;
    std::optional<base::ContentKey> findKey(const base::ContentKey& key) override;
    void keepKey(const base::ContentKey& key, const base::ContentKey& value) override;
    std::shared_ptr<const mask::StrokeProgress> findProgress(const base::ContentKey& key) override;
    void keepProgress(const base::ContentKey& key, std::shared_ptr<const mask::StrokeProgress> progress) override;

    std::shared_ptr<const void> findLatest(const base::ContentKey& key) override;
    void keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) override;
    // Where another makes it and is stopped, this one makes it; where `cancel` says so while it waits, it throws
    // base::Cancelled.
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make,
                                     const base::CancelToken& cancel);
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) override {
        return once(key, make, {});
    }

    std::optional<std::vector<std::byte>> findFound(const base::ContentKey& key) override;
    void keepFound(const base::ContentKey& key, std::chrono::nanoseconds took,
                   const std::function<std::vector<std::byte>()>& packed) override;

    std::shared_ptr<const StagePicture> findPicture(const base::ContentKey& key);
    void keepPicture(const base::ContentKey& key, std::shared_ptr<const StagePicture> picture);
    std::shared_ptr<const DisplayTile> findDisplay(const base::ContentKey& key);
    void keepDisplay(const base::ContentKey& key, std::shared_ptr<const DisplayTile> tile);

    std::size_t bytes() const;

    // While one is held, what has been found or kept since stays, up to so many bytes beyond the budget: else pieces of
    // one piece of work could throw each other out over and over, and it would have no end. Not so where memory is at
    // its ceiling.
    class Hold {
    public:
        Hold(TileCache& cache, std::size_t bytesBeyond);
        ~Hold();
        Hold(const Hold&) = delete;
        Hold& operator=(const Hold&) = delete;

    private:
        TileCache& cache_;
        std::multimap<std::uint64_t, std::size_t>::iterator place_;
    };

private:
    enum class Kind : std::uint64_t { coverage = 1, progress, picture, display, key, made, latest };
    struct Entry {
        base::ContentKey key;
        std::shared_ptr<const void> value;
        std::size_t bytes;
        std::uint64_t used;  // when last, by clock_
    };
    std::shared_ptr<const void> findAny(Kind kind, const base::ContentKey& key);
    std::list<Entry> trimmed();
    std::size_t mostHeld() const;
    void giveUpAll();
    void keepToCeiling(std::size_t bytes);
    void keepAny(Kind kind, const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes);

    const std::size_t budget_;
    mutable std::mutex mutex_;
    std::list<Entry> entries_;  // the most recently used first
    std::unordered_map<base::ContentKey, std::list<Entry>::iterator> index_;
    std::size_t bytes_ = 0;
    std::uint64_t clock_ = 0;
    std::multimap<std::uint64_t, std::size_t> holds_;  // since when each, and how much beyond the budget
    int givenUpWhileHeld_ = 0;                         // how often, since nothing was held

    std::mutex makingMutex_;
    std::unordered_map<base::ContentKey, std::shared_future<std::shared_ptr<const void>>> making_;

    const std::shared_ptr<base::FoundStore> found_;
    const std::shared_ptr<base::MemoryCeiling> ceiling_;
    std::atomic<std::size_t> sinceAsked_{0};  // bytes kept since the ceiling was last looked at
    const std::shared_ptr<void> giver_;       // ends first: what it gives up is above
};

}  // namespace dimhem::render
