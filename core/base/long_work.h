// Counts the calls, on each thread, of what may take long: rendering, measuring, decoding files. The window's thread
// must make none of them, whatever they may take on a fast machine; tests hold it to that by this count.
#pragma once

#include <cstdint>

namespace dimhem::base {

void countLongWork();          // by the functions that may take long, when they are entered
std::uint64_t longWorkHere();  // how many this thread has entered so far

}  // namespace dimhem::base
