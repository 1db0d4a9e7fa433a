// Where what is worked out is kept, by the key of its content (base/content_key.h). Implemented by the renderer's
// cache; safe from many threads.
#pragma once

#include <chrono>
#include <cstddef>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/content_key.h"

namespace dimhem::stage {

class Store {
public:
    virtual ~Store() = default;

    // Something that takes long to work out and that many areas need: the first to ask makes it, the others wait.
    // `make` must not ask for its own key again. Where the work is stopped, base::Cancelled comes out of it.
    struct Made {
        std::shared_ptr<const void> value;
        std::size_t bytes = 0;
    };
    virtual std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) = 0;

    // A key that takes long to work out, kept under one that does not.
    virtual std::optional<base::ContentKey> findKey(const base::ContentKey& key) = 0;
    virtual void keepKey(const base::ContentKey& key, const base::ContentKey& value) = 0;

    // How far something that grows has come, to go on from; the newest takes the place of the one before.
    virtual std::shared_ptr<const void> findLatest(const base::ContentKey& key) = 0;
    virtual void keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) = 0;

    // What was found in another session, or by another program, as bytes (packing.h); nothing where none is kept.
    virtual std::optional<std::vector<std::byte>> findFound(const base::ContentKey& /*key*/) { return std::nullopt; }
    // `packed` is asked for where what took so long is worth keeping.
    virtual void keepFound(const base::ContentKey& /*key*/, std::chrono::nanoseconds /*took*/,
                           const std::function<std::vector<std::byte>()>& /*packed*/) {}
};

// Remembers, for as long as a version of the document lives, the keys that were asked for, by what was asked: keys
// follow from the keys of what is read, and these from others, and however often one is asked for, it is worked out
// once. A question says all that its key depends on but the document.
class Memory {
public:
    virtual ~Memory() = default;
    virtual std::optional<base::ContentKey> remembered(const base::ContentKey& question) const = 0;
    virtual void remember(const base::ContentKey& question, const base::ContentKey& key) const = 0;
};

}  // namespace dimhem::stage
