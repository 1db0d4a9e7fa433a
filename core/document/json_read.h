// For functions that read JSON step by step. Included by readers only.
#pragma once

// Leaves the function with the error of a failed step, or goes on with its value.
#define DIMHEM_READ(name, expression)                               \
    auto name##Result = (expression);                               \
    if (!name##Result) return tl::unexpected(name##Result.error()); \
    auto& name = *name##Result
