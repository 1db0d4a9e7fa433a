// What each tool makes of the scenes, printed: one file for each kind of tool.
#pragma once

#include "bench/edges/measures.h"
#include "bench/edges/scenes.h"
#include "core/mask/matte.h"

namespace dimhem::edges {

void brushOutcomes(const std::vector<Scene>& all, std::uint32_t seed);  // strokes along the edge
void closeOutcomes(const std::vector<Scene>& all, std::uint32_t seed);  // its centre some pixels from the edge
void wholeOutcomes(const std::vector<Scene>& all);                      // the whole subject painted
void regionOutcomes(const std::vector<Scene>& all, std::uint32_t seed);
void dragOutcomes(const std::vector<Scene>& all, std::uint32_t seed);  // region: hasty, taking away, Reach
void outlineOutcomes(const std::vector<Scene>& all, std::uint32_t seed);
void rightOutcomes(const std::vector<Scene>& all);  // edge snap on a mask that is right
void snapOutcomes(const std::vector<Scene>& all);
void hemOutcomes(const std::vector<Scene>& all, std::uint32_t seed);
void hemDetailOutcomes(const std::string& demo, std::uint32_t seed);
void unmixOutcomes(const std::vector<Scene>& all);
void detailOutcomes(const std::string& demo, std::uint32_t seed);
void wireOutcomes(const std::string& demo, std::uint32_t seed);

void printRow(const char* scene, const char* method, const Error& error);

// The matte moved outward, as a mask.
std::shared_ptr<const mask::Matte> movedMatte(const image::Plane<float>& matte, double off);

}  // namespace dimhem::edges
