#include "core/render/tile_cache.h"

#include <algorithm>
#include <chrono>

#include "core/base/parallel.h"

namespace dimhem::render {

namespace {

// One table holds every kind of value; the kind is part of the key.
base::ContentKey ofKind(std::uint64_t kind, const base::ContentKey& key) {
    return {key.high ^ (kind << 60), key.low + kind};
}

}  // namespace

TileCache::TileCache(std::size_t budgetBytes, std::shared_ptr<base::MemoryCeiling> ceiling,
                     std::shared_ptr<base::FoundStore> found)
    : budget_(budgetBytes),
      found_(std::move(found)),
      ceiling_(std::move(ceiling)),
      giver_(ceiling_ ? ceiling_->whenShort([this] { giveUpAll(); }) : nullptr) {}

std::shared_ptr<const void> TileCache::findAny(Kind kind, const base::ContentKey& key) {
    const std::lock_guard lock(mutex_);
    const auto found = index_.find(ofKind(static_cast<std::uint64_t>(kind), key));
    if (found == index_.end()) return nullptr;
    entries_.splice(entries_.begin(), entries_, found->second);
    found->second->used = ++clock_;
    return found->second->value;
}

void TileCache::keepAny(Kind kind, const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) {
    keepToCeiling(bytes);
    const base::ContentKey full = ofKind(static_cast<std::uint64_t>(kind), key);
    std::list<Entry> dropped;  // freed after the lock is released
    const std::lock_guard lock(mutex_);
    if (const auto found = index_.find(full); found != index_.end()) {
        bytes_ -= found->second->bytes;
        dropped.splice(dropped.begin(), entries_, found->second);
    }
    entries_.push_front({full, std::move(value), bytes, ++clock_});
    index_[full] = entries_.begin();
    bytes_ += bytes;
    dropped.splice(dropped.begin(), trimmed());
}

// What is too much, taken out; the lock is held.
std::list<TileCache::Entry> TileCache::trimmed() {
    const std::size_t most = mostHeld();
    const auto isHeld = [&](const Entry& entry) {
        return !holds_.empty() && entry.used > holds_.begin()->first && bytes_ <= budget_ + most;
    };
    std::list<Entry> dropped;
    while (bytes_ > budget_ && entries_.size() > 1 && !isHeld(entries_.back())) {
        bytes_ -= entries_.back().bytes;
        index_.erase(entries_.back().key);
        dropped.splice(dropped.begin(), entries_, std::prev(entries_.end()));
    }
    return dropped;
}

std::size_t TileCache::mostHeld() const {
    std::size_t most = 0;
    for (const auto& [since, bytes] : holds_) most = std::max(most, bytes);
    return most;
}

void TileCache::giveUpAll() {
    std::list<Entry> dropped;  // freed after the lock is released
    const std::lock_guard lock(mutex_);
    dropped.swap(entries_);
    index_.clear();
    bytes_ = 0;
    if (!holds_.empty()) ++givenUpWhileHeld_;
}

// Work whose pieces are given up over and over while it goes on would have no end.
void TileCache::keepToCeiling(std::size_t bytes) {
    constexpr std::size_t betweenLooks = std::size_t{8} << 20;
    constexpr int mostGivenUp = 20;
    if (!ceiling_ || (sinceAsked_ += bytes) < betweenLooks) return;
    sinceAsked_ = 0;
    ceiling_->keepTo(bytes);
    const std::lock_guard lock(mutex_);
    if (givenUpWhileHeld_ > mostGivenUp) throw base::CeilingReached();
}

TileCache::Hold::Hold(TileCache& cache, std::size_t bytesBeyond) : cache_(cache) {
    const std::lock_guard lock(cache_.mutex_);
    place_ = cache_.holds_.emplace(cache_.clock_, bytesBeyond);
}

TileCache::Hold::~Hold() {
    std::list<Entry> dropped;  // freed after the lock is released
    const std::lock_guard lock(cache_.mutex_);
    cache_.holds_.erase(place_);
    if (cache_.holds_.empty()) cache_.givenUpWhileHeld_ = 0;
    dropped = cache_.trimmed();
}

mask::CoveragePtr TileCache::find(const base::ContentKey& key) {
    return std::static_pointer_cast<const mask::Coverage>(findAny(Kind::coverage, key));
}

void TileCache::keep(const base::ContentKey& key, mask::CoveragePtr coverage) {
    const std::size_t bytes = coverage->bytes();
    keepAny(Kind::coverage, key, std::move(coverage), bytes);
}

std::optional<base::ContentKey> TileCache::findKey(const base::ContentKey& key) {
    const auto found = std::static_pointer_cast<const base::ContentKey>(findAny(Kind::key, key));
    return found ? std::optional(*found) : std::nullopt;
}

void TileCache::keepKey(const base::ContentKey& key, const base::ContentKey& value) {
    constexpr std::size_t about = 160;  // with its place in the table
    keepAny(Kind::key, key, std::make_shared<base::ContentKey>(value), about);
}

std::shared_ptr<const mask::StrokeProgress> TileCache::findProgress(const base::ContentKey& key) {
    return std::static_pointer_cast<const mask::StrokeProgress>(findAny(Kind::progress, key));
}

void TileCache::keepProgress(const base::ContentKey& key, std::shared_ptr<const mask::StrokeProgress> progress) {
    const std::size_t bytes = sizeof *progress + progress->stroke.bytes();
    keepAny(Kind::progress, key, std::move(progress), bytes);
}

std::shared_ptr<const void> TileCache::findLatest(const base::ContentKey& key) {
    return findAny(Kind::latest, key);
}

void TileCache::keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) {
    keepAny(Kind::latest, key, std::move(value), bytes);
}

namespace {

// The outcome, once whoever makes it is done. Nothing where that one was stopped.
std::optional<std::shared_ptr<const void>> waitFor(const std::shared_future<std::shared_ptr<const void>>& future,
                                                   const base::CancelToken& cancel) {
    constexpr std::chrono::milliseconds betweenLooks(20);
    while (future.wait_for(betweenLooks) != std::future_status::ready) base::throwIfCancelled(cancel);
    try {
        return future.get();
    } catch (const base::Cancelled&) {
        return std::nullopt;
    }
}

}  // namespace

std::shared_ptr<const void> TileCache::once(const base::ContentKey& key, const std::function<Made()>& make,
                                            const base::CancelToken& cancel) {
    std::promise<std::shared_ptr<const void>> promise;
    for (;;) {
        std::unique_lock lock(makingMutex_);
        if (auto known = findAny(Kind::made, key)) return known;
        const auto other = making_.find(key);
        if (other == making_.end()) {
            making_.emplace(key, promise.get_future().share());
            break;
        }
        const auto future = other->second;
        lock.unlock();
        if (const auto value = waitFor(future, cancel)) return *value;
        base::throwIfCancelled(cancel);  // else it is this one's turn to make it
    }
    Made made;
    std::exception_ptr failed;
    try {
        base::throwIfCancelled(cancel);
        base::apart([&] { made = make(); });
        keepAny(Kind::made, key, made.value, made.bytes);
    } catch (...) {  // stopped, or out of memory: whoever waits must hear of it
        failed = std::current_exception();
    }
    {
        const std::lock_guard lock(makingMutex_);
        making_.erase(key);
    }
    if (failed) {
        promise.set_exception(failed);
        std::rethrow_exception(failed);
    }
    promise.set_value(made.value);
    return made.value;
}

std::optional<std::vector<std::byte>> TileCache::findFound(const base::ContentKey& key) {
    return found_ ? found_->read(key) : std::nullopt;
}

void TileCache::keepFound(const base::ContentKey& key, std::chrono::nanoseconds took,
                          const std::function<std::vector<std::byte>()>& packed) {
    if (found_ && found_->wants(took)) found_->write(key, packed());
}

std::shared_ptr<const StagePicture> TileCache::findPicture(const base::ContentKey& key) {
    return std::static_pointer_cast<const StagePicture>(findAny(Kind::picture, key));
}

void TileCache::keepPicture(const base::ContentKey& key, std::shared_ptr<const StagePicture> picture) {
    const std::size_t bytes = picture->bytes();
    keepAny(Kind::picture, key, std::move(picture), bytes);
}

std::shared_ptr<const DisplayTile> TileCache::findDisplay(const base::ContentKey& key) {
    return std::static_pointer_cast<const DisplayTile>(findAny(Kind::display, key));
}

void TileCache::keepDisplay(const base::ContentKey& key, std::shared_ptr<const DisplayTile> tile) {
    const std::size_t bytes = sizeof *tile + tile->bytes();
    keepAny(Kind::display, key, std::move(tile), bytes);
}

std::size_t TileCache::bytes() const {
    const std::lock_guard lock(mutex_);
    return bytes_;
}

}  // namespace dimhem::render
