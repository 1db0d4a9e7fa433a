// Which pictures a document may have read besides its photo: those beside it or in folders below, and those that the
// person has chosen by hand. A document that came from elsewhere must not reach for other files.
#pragma once

#include <filesystem>

namespace dimhem::task {

// The person has chosen this file, as a backdrop or a matte; kept in the state folder.
void rememberChosen(const std::filesystem::path& file, const std::filesystem::path& state);

// `file` as the document in `folder` names it.
bool mayRead(const std::filesystem::path& file, const std::filesystem::path& folder,
             const std::filesystem::path& state);

}  // namespace dimhem::task
