// Stages whose value, or key, is kept.
#pragma once

#include <chrono>
#include <string_view>

#include "core/stage/packing.h"
#include "core/stage/staged.h"
#include "core/stage/store.h"

namespace dimhem::stage {

// What a value takes of memory: with what its bytes() tells, where it holds more than itself.
template <class T>
std::size_t sizeOf(const T& value) {
    if constexpr (requires { value.bytes(); }) {
        return sizeof value + value.bytes();
    } else {
        static_assert(Plain<T>, "what is kept tells how large it is");
        return sizeof value;
    }
}

template <class T>
class Kept final : public Staged<T>::Work {
public:
    enum class For { session, good };
    Kept(Staged<T> stage, Store& store, For howLong) : stage_(std::move(stage)), store_(store), howLong_(howLong) {}

    base::ContentKey key() const override { return stage_.key(); }
    std::shared_ptr<const T> value() const override {
        const base::ContentKey key = stage_.key();
        return std::static_pointer_cast<const T>(store_.once(key, [&]() -> Store::Made {
            std::shared_ptr<const T> made = howLong_ == For::good ? found(key) : stage_.value();
            const std::size_t bytes = sizeOf(*made);
            return {std::move(made), bytes};
        }));
    }

private:
    std::shared_ptr<const T> found(const base::ContentKey& key) const {
        if constexpr (Packable<T>) {
            if (const auto kept = store_.findFound(key)) {
                Unpacker from(*kept);
                auto value = Packing<T>::unpack(from);
                if (value && from.isWhole()) return std::make_shared<const T>(std::move(*value));
            }
            const auto begun = std::chrono::steady_clock::now();
            std::shared_ptr<const T> value = stage_.value();
            store_.keepFound(key, std::chrono::steady_clock::now() - begun, [&] {
                Packer to;
                Packing<T>::pack(*value, to);
                return to.take();
            });
            return value;
        } else {
            return stage_.value();
        }
    }

    Staged<T> stage_;
    Store& store_;
    For howLong_;
};

// Made by the first that asks, for all.
template <class T>
Staged<T> kept(Store& store, Staged<T> stage) {
    return Staged<T>(std::make_shared<const Kept<T>>(std::move(stage), store, Kept<T>::For::session));
}

// The same, and from one session to the next: what takes long to find.
template <Packable T>
Staged<T> keptForGood(Store& store, Staged<T> stage) {
    return Staged<T>(std::make_shared<const Kept<T>>(std::move(stage), store, Kept<T>::For::good));
}

// A stage that is told by a question, and put together only where its key is not known, or its value is wanted: what
// looks at one another in many ways costs no more than what there is of it. `ask()` gives the stage.
template <class V, class Keys, class Ask>
class Asked final : public Promise<V>::Work {
public:
    Asked(Keys keys, const base::ContentKey& question, Ask ask)
        : keys_(keys), question_(question), ask_(std::move(ask)) {}

    base::ContentKey key() const override {
        if (const auto known = keys_.find(question_)) return *known;
        const base::ContentKey key = ask_().key();
        keys_.keep(question_, key);
        return key;
    }
    V value() const override { return ask_().value(); }

private:
    Keys keys_;
    base::ContentKey question_;
    Ask ask_;
};

struct KeysOfVersion {
    const Memory* memory;
    auto find(const base::ContentKey& question) const { return memory->remembered(question); }
    void keep(const base::ContentKey& question, const base::ContentKey& key) const { memory->remember(question, key); }
};

struct KeysOfStore {
    Store* store;
    auto find(const base::ContentKey& question) const { return store->findKey(question); }
    void keep(const base::ContentKey& question, const base::ContentKey& key) const { store->keepKey(question, key); }
};

// The question says all but the document.
template <class Ask>
auto asked(const Memory& memory, const base::ContentKey& question, Ask ask) {
    using V = decltype(ask().value());
    return Promise<V>(
        std::make_shared<const Asked<V, KeysOfVersion, Ask>>(KeysOfVersion{&memory}, question, std::move(ask)));
}

// The question says all.
template <class Ask>
auto askedOnce(Store& store, const base::ContentKey& question, Ask ask) {
    using V = decltype(ask().value());
    return Promise<V>(
        std::make_shared<const Asked<V, KeysOfStore, Ask>>(KeysOfStore{&store}, question, std::move(ask)));
}

}  // namespace dimhem::stage
