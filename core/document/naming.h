// Names that corrections have until they are given one: where they act, and what they do there ("Sky darker").
#pragma once

#include "core/document/document.h"

namespace dimhem::document {

// By the first part of its mask and the first adjustment that does something; empty where it does nothing yet.
std::string automaticName(const Correction& correction);

// Those of the corrections that are others than before, as far as no name was given to them; none twice.
DocumentPtr withNamesFollowing(const DocumentPtr& document, const Document& before);

}  // namespace dimhem::document
