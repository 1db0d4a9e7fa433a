// The command line `hem`: the engine without a window.
#pragma once

#include <ostream>
#include <span>
#include <string_view>

#include "core/base/cancel.h"

namespace dimhem::cli {

// Runs one command. Results go to `out`, sentences about failures to `err`. Returns the exit code: 0 done, 1 failed,
// 2 wrong usage. `stopped` ends long work, which then leaves no file behind.
int run(std::span<const std::string_view> arguments, std::ostream& out, std::ostream& err,
        const base::CancelToken& stopped = {});

}  // namespace dimhem::cli
