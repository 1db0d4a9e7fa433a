# Writes a header that names the code: cmake -DLIST=... -DCOMPILER=... -DOUT=... -P code_id.cmake
#
# Two programs with the same name find the same, so that one may go by what the other has found. LIST is a file with
# the sources, a line each.
cmake_minimum_required(VERSION 3.25)
file(STRINGS ${LIST} sources)
set(all "${COMPILER}")
foreach(source ${sources})
  file(SHA256 ${source} sum)
  string(APPEND all "${source} ${sum}\n")
endforeach()
string(SHA256 id "${all}")
file(CONFIGURE OUTPUT ${OUT} CONTENT "#define DIMHEM_CODE_ID \"${id}\"\n")
