# One interface target that every target of ours links: warnings and, where asked for, sanitizers.
add_library(dimhem_options INTERFACE)
target_compile_options(dimhem_options INTERFACE -Wall -Wextra -Wpedantic
                       -Wno-restrict)  # GCC 12 warns of it, wrongly, for "text" + std::string (its bug 105651)
if(DIMHEM_SANITIZE)
  target_compile_options(dimhem_options INTERFACE -fsanitize=address,undefined -fno-sanitize-recover=undefined
                                                  -fno-omit-frame-pointer
                                                  -g1 -fno-var-tracking)  # lines only: vector files compile in half the time
  target_link_options(dimhem_options INTERFACE -fsanitize=address,undefined)
endif()
if(DIMHEM_FUZZ)
  target_compile_options(dimhem_options INTERFACE -fsanitize=fuzzer-no-link,address,undefined
                                                  -fno-sanitize-recover=undefined -Wno-unknown-warning-option)
  target_compile_definitions(dimhem_options INTERFACE HWY_COMPILE_ONLY_STATIC)  # one vector target is enough here
  target_link_options(dimhem_options INTERFACE -fsanitize=address,undefined)
endif()
