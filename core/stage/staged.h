// A stage: something that is worked out from what it is given, and from nothing else.
//
//     staged<Coverage>("luminosity range",
//                      [](image::EncodedPlanes picture, const Range& tones, const BlurPlan& plan) { ... },
//                      context.picture(seen, plan.area), tones, plan)
//
// What it is given are constants and reads. A read is a promise: of a picture over an area, of a mask, of another
// stage. It has a key, and its value is got only once it is wanted. The function can hold on to nothing, so that what
// it works with stands in the list; the stage's key is made of that same list. So a key cannot leave out what is looked
// at: equal keys, equal values.
//
// Lives no longer than what it was given. Safe from many threads.
#pragma once

#include <memory>
#include <mutex>
#include <optional>
#include <string_view>
#include <tuple>
#include <type_traits>

#include "core/base/content_key.h"
#include "core/stage/effort.h"

namespace dimhem::stage {

template <class R>
concept Read = requires(const R& read) {
    { read.key() } -> std::convertible_to<base::ContentKey>;
    read.value();
};

// A constant whose key is known already: it may be large, and stays where it is.
template <class T>
struct Keyed {
    base::ContentKey key;
    const T* value;
};
template <class T>
Keyed<T> keyed(const base::ContentKey& key, const T& value) {
    return {key, &value};
}

// A read that the function gets at itself, where it wants it at all.
template <Read R>
struct Later {
    R read;
    base::ContentKey key() const { return read.key(); }
    const R& value() const { return read; }
};
template <Read R>
Later<R> later(R read) {
    return {std::move(read)};
}

// What bears on how soon the value is there, not on the value: where it finds what was kept.
template <class T>
struct Unkeyed {
    T* value;
};
template <class T>
Unkeyed<T> unkeyed(T& value) {
    return {&value};
}

// A stage, or any other read, whatever stands behind it.
template <class V>
class Promise {
public:
    class Work {
    public:
        virtual ~Work() = default;
        virtual base::ContentKey key() const = 0;
        virtual V value() const = 0;

    private:
        friend class Promise;
        mutable std::mutex mutex_;
        mutable std::optional<base::ContentKey> known_;
    };
    explicit Promise(std::shared_ptr<const Work> work) : work_(std::move(work)) {}

    // Worked out once for all copies of the promise.
    base::ContentKey key() const {
        {
            const std::lock_guard lock(work_->mutex_);
            if (work_->known_) return *work_->known_;
        }
        const base::ContentKey key = work_->key();
        const std::lock_guard lock(work_->mutex_);
        work_->known_ = key;
        return key;
    }
    V value() const { return work_->value(); }

    // The same, which keeps alive what it was given by reference.
    Promise owning(std::shared_ptr<const void> owner) const {
        using Both = std::pair<std::shared_ptr<const void>, std::shared_ptr<const Work>>;
        const auto both = std::make_shared<const Both>(std::move(owner), work_);
        return Promise(std::shared_ptr<const Work>(both, work_.get()));
    }

private:
    std::shared_ptr<const Work> work_;
};

// Of something that is shared and may be kept; and of something made for the one who asks, who may change it.
template <class T>
using Staged = Promise<std::shared_ptr<const T>>;
template <class T>
using Reading = Promise<T>;

// What a function is called with in the place of what a stage was given.
template <class A>
const A& given(const A& constant) {
    return constant;
}
template <class T>
const T& given(const Keyed<T>& constant) {
    return *constant.value;
}
template <class T>
T& given(const Unkeyed<T>& other) {
    return *other.value;
}
template <Read R>
decltype(auto) given(const R& read) {
    return read.value();
}
// Of another stage either the value or what holds it.
template <class T>
struct Held {
    std::shared_ptr<const T> value;
    operator const T&() const { return *value; }
    operator const std::shared_ptr<const T>&() const { return value; }
};
template <class T>
Held<T> given(const Staged<T>& stage) {
    return {stage.value()};
}

template <class A>
void addGiven(base::KeyBuilder& key, const A& constant) {
    addTo(key, constant);
}
template <class T>
void addGiven(base::KeyBuilder& key, const Keyed<T>& constant) {
    key.add(constant.key);
}
template <class T>
void addGiven(base::KeyBuilder&, const Unkeyed<T>&) {}
template <Read R>
void addGiven(base::KeyBuilder& key, const R& read) {
    key.add(base::ContentKey(read.key()));
}

template <class V>
struct Made {
    static V of(V value) { return value; }
};
template <class T>
struct Made<std::shared_ptr<const T>> {
    static std::shared_ptr<const T> of(T value) { return std::make_shared<const T>(std::move(value)); }
    static std::shared_ptr<const T> of(std::shared_ptr<const T> value) { return value; }
    static std::shared_ptr<const T> of(std::shared_ptr<T> value) { return value; }
};

// All that a function is given, and the key of it.
template <class... Given>
class GivenList {
public:
    GivenList(std::string_view name, Given... given) : name_(name), given_(std::move(given)...) {}

    base::ContentKey key() const {
        countKey();
        base::KeyBuilder key;
        key.add(name_);
        std::apply([&](const Given&... each) { (addGiven(key, each), ...); }, given_);
        return key.key();
    }
    template <class Function, class... First>
    auto call(Function function, First&... first) const {
        countCall();
        return std::apply([&](const Given&... each) { return function(first..., given(each)...); }, given_);
    }

private:
    std::string_view name_;
    std::tuple<Given...> given_;
};

template <class V, class Function, class... Given>
class Call final : public Promise<V>::Work {
public:
    Call(std::string_view name, Given... given) : list_(name, std::move(given)...) {}
    base::ContentKey key() const override { return list_.key(); }
    V value() const override { return Made<V>::of(list_.call(Function())); }

private:
    GivenList<Given...> list_;
};

// `name` tells apart stages that are given the same.
template <class T, class Function, class... Given>
Staged<T> staged(std::string_view name, Function, Given... given) {
    static_assert(std::is_empty_v<Function>, "a stage works with what it is given alone");
    return Staged<T>(
        std::make_shared<const Call<std::shared_ptr<const T>, Function, Given...>>(name, std::move(given)...));
}
template <class T, class Function, class... Given>
Reading<T> reading(std::string_view name, Function, Given... given) {
    static_assert(std::is_empty_v<Function>, "a stage works with what it is given alone");
    return Reading<T>(std::make_shared<const Call<T, Function, Given...>>(name, std::move(given)...));
}

template <class V>
void addTo(base::KeyBuilder& key, const Promise<V>& promise) {
    key.add(promise.key());
}

// A change of something in place, by what it is given alone.
template <class T>
class Step {
public:
    class Work {
    public:
        virtual ~Work() = default;
        virtual base::ContentKey key() const = 0;
        virtual void apply(T& to) const = 0;
    };
    explicit Step(std::shared_ptr<const Work> work) : work_(std::move(work)) {}

    // Of what it comes to after what has a key already.
    base::ContentKey keyAfter(const base::ContentKey& before) const {
        return base::KeyBuilder().add(before).add(work_->key()).key();
    }
    base::ContentKey key() const { return work_->key(); }
    void apply(T& to) const { work_->apply(to); }

private:
    std::shared_ptr<const Work> work_;
};

template <class T>
void addTo(base::KeyBuilder& key, const Step<T>& step) {
    key.add(step.key());
}

template <class T, class Function, class... Given>
class StepCall final : public Step<T>::Work {
public:
    StepCall(std::string_view name, Given... given) : list_(name, std::move(given)...) {}
    base::ContentKey key() const override { return list_.key(); }
    void apply(T& to) const override { list_.call(Function(), to); }

private:
    GivenList<Given...> list_;
};

// The function is called with what it changes and with what is given.
template <class T, class Function, class... Given>
Step<T> step(std::string_view name, Function, Given... given) {
    static_assert(std::is_empty_v<Function>, "a step works with what it is given alone");
    return Step<T>(std::make_shared<const StepCall<T, Function, Given...>>(name, std::move(given)...));
}

}  // namespace dimhem::stage
