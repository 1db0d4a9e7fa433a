// How the program's memory is had from the system.
#pragma once

namespace dimhem::base {

// Planes of the size of a working block come and go by the thousand. By default each of them would be mapped anew, its
// pages zeroed by the kernel one by one, which takes longer than most of what is done with them: from now on they stay
// in the heap. Larger ones are still given back at once. Called first thing in a program.
void keepBlocksInHeap();

}  // namespace dimhem::base
