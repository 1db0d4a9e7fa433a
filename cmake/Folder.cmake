# dimhem_folder(NAME core/image USES dimhem_base PNG ...)
#
# One static library per folder: the libraries it USES are the only folders it can include from, because
# an include path comes with the link. cmake/check_includes.cmake holds the same rule as a test.
function(dimhem_folder name)
  cmake_parse_arguments(ARG "" "" "USES" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp)
  add_library(${name} STATIC ${sources})
  target_include_directories(${name} PUBLIC ${CMAKE_SOURCE_DIR})
  target_link_libraries(${name} PUBLIC ${ARG_USES} PRIVATE dimhem_options)
endfunction()
