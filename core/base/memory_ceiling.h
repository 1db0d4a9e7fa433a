// The most memory the program lets itself take.
//
// Whoever keeps what can be made again registers a way to give it up. Whoever takes much asks first: where the program
// has come to its ceiling all of that is given up, and only where even then it is too much does the work fail, before
// the system would end the program. Safe from many threads.
#pragma once

#include <cstddef>
#include <functional>
#include <list>
#include <memory>
#include <mutex>
#include <new>

namespace dimhem::base {

// Bytes of the machine's memory, and of that in use by this program (Linux: proc(5), /proc/self/statm, the resident
// set; what lies in files it has mapped counts too). 0 where it cannot be told.
std::size_t machineMemory();
std::size_t memoryInUse();

// Work needs more than the program lets itself take. Nothing was changed by it.
struct CeilingReached : std::bad_alloc {
    const char* what() const noexcept override { return "the memory ceiling is reached"; }
};

class MemoryCeiling {
public:
    // `inUse` is asked for what is in use; tests give a count of their own.
    explicit MemoryCeiling(std::size_t bytes, std::function<std::size_t()> inUse = memoryInUse);
    MemoryCeiling(const MemoryCeiling&) = delete;

    std::size_t bytes() const;
    void setBytes(std::size_t bytes);

    // Until what it returns is gone, `give` is called where memory runs short; from any thread, one at a time.
    // It must not ask for memory here.
    [[nodiscard]] std::shared_ptr<void> whenShort(std::function<void()> give);

    // Whether so many bytes more can be taken, after everything that can be was given up where it must be.
    bool hasRoomFor(std::size_t more);
    // The same; throws CeilingReached where they cannot.
    void keepTo(std::size_t more = 0);

private:
    mutable std::mutex mutex_;
    std::size_t bytes_;
    std::function<std::size_t()> inUse_;
    std::list<std::function<void()>> givers_;
};

}  // namespace dimhem::base
