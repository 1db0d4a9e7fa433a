# One interface target that every target of ours links: warnings and, where asked for, sanitizers.
add_library(dimhem_options INTERFACE)
target_compile_options(dimhem_options INTERFACE -Wall -Wextra -Wpedantic
                       -Wno-restrict)  # GCC 12 warns of it, wrongly, for "text" + std::string (its bug 105651)
if(DIMHEM_SANITIZE)
  # SSE2 and AVX2: the others are the same code, and take long to compile with checks.
  target_compile_definitions(dimhem_options INTERFACE
                             "HWY_DISABLED_TARGETS=(HWY_SSSE3|HWY_SSE4|HWY_AVX3|HWY_AVX3_DL)")
elseif(NOT DIMHEM_EVERY_TARGET)
  # SSE2 for all, AVX2 and AVX-512 where there is more; what lies between is rare by now and costs compiling.
  target_compile_definitions(dimhem_options INTERFACE "HWY_DISABLED_TARGETS=(HWY_SSSE3|HWY_SSE4)")
endif()
if(DIMHEM_SANITIZE)
  target_compile_options(dimhem_options INTERFACE -fsanitize=address,undefined -fno-sanitize-recover=undefined
                                                  -fno-omit-frame-pointer
                                                  -O1 -g1 -fno-var-tracking)  # lines only: vector files compile in half the time
  target_link_options(dimhem_options INTERFACE -fsanitize=address,undefined)
endif()
if(DIMHEM_FUZZ)
  target_compile_options(dimhem_options INTERFACE -fsanitize=fuzzer-no-link,address,undefined
                                                  -fno-sanitize-recover=undefined -Wno-unknown-warning-option)
  target_compile_definitions(dimhem_options INTERFACE HWY_COMPILE_ONLY_STATIC)  # one vector target is enough here
  target_link_options(dimhem_options INTERFACE -fsanitize=address,undefined)
endif()
