// How the program's memory is had from the system.
#pragma once

#include <cstddef>

namespace dimhem::base {

// Planes of the size of a working block come and go by the thousand. By default each of them would be mapped anew, its
// pages zeroed by the kernel one by one, which takes longer than most of what is done with them: from now on they stay
// in the heap. Larger ones are still given back at once. Called first thing in a program.
void keepBlocksInHeap();

// What was freed goes back to the system, all of it: after much was freed at once. Takes some milliseconds.
void giveBackFreed();

// For large memory that will be written all through: where the system can, it comes in pages of 2 MB instead of 4 kB,
// still only once it is written to. Decoding a photo of 24 megapixels takes a sixth less time so.
void preferLargePages(void* memory, std::size_t bytes);

}  // namespace dimhem::base
