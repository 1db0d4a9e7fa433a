// Journals of unsaved work. Their lines carry sums that a fuzzer does not guess, so it writes the records, and the sums
// are put before them here; every other input is taken as it is.
#include "core/task/journal.h"
#include "tests/support/temp_folder.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace dimhem;
    static const tests::TempFolder folder;
    if (size == 0) return 0;
    std::string text(reinterpret_cast<const char*>(data) + 1, size - 1);
    if (data[0] % 2) {
        std::string summed;
        for (std::size_t at = 0; at < text.size();) {
            const std::size_t end = std::min(text.find('\n', at), text.size());
            summed += task::journalLine(text.substr(at, end - at));
            at = end + 1;
        }
        text = std::move(summed);
    }
    tests::written(folder / "a.journal", text);
    (void)task::unsavedIn(folder.path());
    return 0;
}
