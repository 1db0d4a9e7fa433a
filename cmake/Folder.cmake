# dimhem_folder(NAME core/image USES dimhem_base PNG ...)
#
# One static library per folder: the libraries it USES are the only folders it can include from, because
# an include path comes with the link. cmake/check_includes.cmake holds the same rule as a test.
function(dimhem_folder name)
  cmake_parse_arguments(ARG "APART" "" "USES" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp)
  add_library(${name} STATIC ${sources})
  target_include_directories(${name} PUBLIC ${CMAKE_SOURCE_DIR})
  target_link_libraries(${name} PUBLIC ${ARG_USES} PRIVATE dimhem_options)
  dimhem_compile_apart(${name} "${ARG_APART}")
endfunction()

# With DIMHEM_TOGETHER the sources of a folder are compiled several at a time, which reads their headers once. Not
# those that are compiled for each vector target, nor those of a folder whose files are alike down to their names.
function(dimhem_compile_apart name all)
  if(all)
    set_target_properties(${name} PROPERTIES UNITY_BUILD OFF)
  endif()
  get_target_property(sources ${name} SOURCES)
  foreach(source ${sources})
    file(STRINGS ${source} vector REGEX "foreach_target" LIMIT_COUNT 1)
    if(vector)
      set_source_files_properties(${source} PROPERTIES SKIP_UNITY_BUILD_INCLUSION ON)
    endif()
  endforeach()
endfunction()
