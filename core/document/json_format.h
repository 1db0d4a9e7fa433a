// The text of a document: document.json, as described in docs/document-format.md.
//
// Reading checks every type and range and says in one sentence what is wrong. What may be left out in a document
// written by hand takes its usual value.
#pragma once

#include <string>
#include <string_view>

#include "core/base/error.h"
#include "core/document/document.h"

namespace dimhem::document {

inline constexpr int formatVersion = 1;

std::string toJsonText(const Document& document);
base::Result<DocumentPtr> fromJsonText(std::string_view text);

}  // namespace dimhem::document
