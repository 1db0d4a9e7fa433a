// Outcomes of each correction, against known truth and against general-purpose libraries: printed as tables.
#pragma once

#include <string>

namespace dimhem::surroundings {

void noiseOutcomes(const std::string& demo);
void bandingOutcomes(const std::string& demo);
void hazeOutcomes(const std::string& demo);
void lightOverOutcomes(const std::string& demo);
void holeOutcomes(const std::string& demo);

}  // namespace dimhem::surroundings
