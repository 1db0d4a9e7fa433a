// A list that only grows, whose copies share their memory: copying a long one and adding to the copy costs next to
// nothing, and changes nothing in the original.
//
// Copies may be read and added to from different threads at the same time; one and the same list may not.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <memory>

namespace dimhem::base {

template <class T>
class GrowingList {
public:
    std::size_t size() const { return size_; }
    bool empty() const { return size_ == 0; }
    const T& operator[](std::size_t i) const { return memory_->items[i]; }
    const T& back() const { return memory_->items[size_ - 1]; }
    const T* begin() const { return memory_ ? memory_->items.get() : nullptr; }
    const T* end() const { return begin() + size_; }

    void push_back(const T& item) {
        // Whoever is first to add after these items may do so in place; another copy of the list gets its own memory.
        std::size_t mine = size_;
        const bool inPlace =
            memory_ && size_ < memory_->capacity && memory_->used.compare_exchange_strong(mine, size_ + 1);
        if (!inPlace) {
            auto larger = std::make_shared<Memory>(std::max<std::size_t>(4, 2 * size_));
            std::copy(begin(), end(), larger->items.get());
            larger->used = size_ + 1;
            memory_ = std::move(larger);
        }
        memory_->items[size_++] = item;
    }

private:
    struct Memory {
        explicit Memory(std::size_t room) : capacity(room), items(std::make_unique<T[]>(room)) {}
        const std::size_t capacity;
        std::atomic<std::size_t> used = 0;
        std::unique_ptr<T[]> items;
    };
    std::shared_ptr<Memory> memory_;
    std::size_t size_ = 0;
};

}  // namespace dimhem::base
