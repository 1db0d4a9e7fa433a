#include <iostream>
#include <vector>

#include "cli/commands.h"
#include "core/base/heap.h"

int main(int argc, char** argv) {
    dimhem::base::keepBlocksInHeap();
    const std::vector<std::string_view> arguments(argv + 1, argv + argc);
    return dimhem::cli::run(arguments, std::cout, std::cerr);
}
