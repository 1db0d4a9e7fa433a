// Where the program keeps what must outlive it but is nobody's document: journals and locks.
#pragma once

#include <filesystem>

namespace dimhem::task {

// $XDG_STATE_HOME/dimhem, or ~/.local/state/dimhem (XDG Base Directory Specification 0.8).
std::filesystem::path stateFolder();

std::filesystem::path journalFolder(const std::filesystem::path& state);
// The lock of a document, whatever way its path is written.
std::filesystem::path lockFileFor(const std::filesystem::path& state, const std::filesystem::path& document);

}  // namespace dimhem::task
