#include "core/render/tile_cache.h"

namespace dimhem::render {

namespace {

// One table holds every kind of value; the kind is part of the key.
base::ContentKey ofKind(std::uint64_t kind, const base::ContentKey& key) {
    return {key.high ^ (kind << 60), key.low + kind};
}

}  // namespace

std::shared_ptr<const void> TileCache::findAny(Kind kind, const base::ContentKey& key) {
    const std::lock_guard lock(mutex_);
    const auto found = index_.find(ofKind(static_cast<std::uint64_t>(kind), key));
    if (found == index_.end()) return nullptr;
    entries_.splice(entries_.begin(), entries_, found->second);
    return found->second->value;
}

void TileCache::keepAny(Kind kind, const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) {
    const base::ContentKey full = ofKind(static_cast<std::uint64_t>(kind), key);
    std::list<Entry> dropped;  // freed after the lock is released
    const std::lock_guard lock(mutex_);
    if (const auto found = index_.find(full); found != index_.end()) {
        bytes_ -= found->second->bytes;
        dropped.splice(dropped.begin(), entries_, found->second);
    }
    entries_.push_front({full, std::move(value), bytes});
    index_[full] = entries_.begin();
    bytes_ += bytes;
    while (bytes_ > budget_ && entries_.size() > 1) {
        bytes_ -= entries_.back().bytes;
        index_.erase(entries_.back().key);
        dropped.splice(dropped.begin(), entries_, std::prev(entries_.end()));
    }
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

void TileCache::keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value) {
    constexpr std::size_t about = 1 << 20;
    keepAny(Kind::latest, key, std::move(value), about);
}

std::shared_ptr<const void> TileCache::once(const base::ContentKey& key, const std::function<Made()>& make) {
    std::promise<std::shared_ptr<const void>> promise;
    {
        std::unique_lock lock(makingMutex_);
        if (auto known = findAny(Kind::made, key)) return known;
        if (const auto other = making_.find(key); other != making_.end()) {
            const auto future = other->second;
            lock.unlock();
            return future.get();
        }
        making_.emplace(key, promise.get_future().share());
    }
    Made made;
    try {
        made = make();
        keepAny(Kind::made, key, made.value, made.bytes);
        promise.set_value(made.value);
    } catch (...) {  // out of memory: whoever waits must hear of it
        promise.set_exception(std::current_exception());
        const std::lock_guard lock(makingMutex_);
        making_.erase(key);
        throw;
    }
    const std::lock_guard lock(makingMutex_);
    making_.erase(key);
    return made.value;
}

std::shared_ptr<const image::RgbPlanes> TileCache::findPicture(const base::ContentKey& key) {
    return std::static_pointer_cast<const image::RgbPlanes>(findAny(Kind::picture, key));
}

void TileCache::keepPicture(const base::ContentKey& key, std::shared_ptr<const image::RgbPlanes> picture) {
    const std::size_t bytes = sizeof *picture + 3 * picture->red.bytes();
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
