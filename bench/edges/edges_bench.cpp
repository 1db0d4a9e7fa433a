// How well the tools keep to a subject's edge, on pictures whose matte is known, and how long they take.
//
//   edges_bench DEMO [SEED] [brush|close|whole|region|drags|outline|snap|right|hem|unmix|detail|wire|latency] [SCENE]
#include <cstdlib>
#include <string>

#include "bench/edges/latency.h"
#include "bench/edges/outcomes.h"
#include "core/base/heap.h"
#include "core/base/parallel.h"

using namespace dimhem;
using namespace dimhem::edges;

static bool wantsKinds(const std::string& what) {
    return what.empty() || what == "drags" || what == "right";
}

int main(int argc, char** argv) {
    base::keepBlocksInHeap();
    const base::SpareThreads spareThreads;
    const std::string demo = argc > 1 ? argv[1] : "demo";
    const auto seed = static_cast<std::uint32_t>(argc > 2 ? std::atoi(argv[2]) : 7);
    const std::string what = argc > 3 ? argv[3] : "";
    std::vector<Scene> all = scenes(demo, seed);
    const std::string only = argc > 4 ? argv[4] : "";
    if (!only.empty()) std::erase_if(all, [&](const Scene& s) { return s.name != only; });
    std::vector<Scene> more = wantsKinds(what) ? kinds(demo, seed) : std::vector<Scene>{};
    if (!only.empty()) std::erase_if(more, [&](const Scene& s) { return !s.name.starts_with(only); });
    const auto wanted = [&](const char* name) { return what.empty() || what == name; };
    if (wanted("brush")) brushOutcomes(all, seed);
    if (wanted("close")) closeOutcomes(all, seed);
    if (wanted("whole")) wholeOutcomes(all);
    if (wanted("region")) regionOutcomes(all, seed);
    if (wanted("drags")) dragOutcomes(more, seed);
    if (wanted("outline")) outlineOutcomes(all, seed);
    if (wanted("snap")) snapOutcomes(all);
    if (wanted("right")) {
        rightOutcomes(more);
        rightOutcomes(all);
    }
    if (wanted("hem")) hemOutcomes(all, seed);
    if (wanted("hem")) hemDetailOutcomes(demo, seed);
    if (wanted("unmix")) unmixOutcomes(all);
    if (wanted("detail")) detailOutcomes(demo, seed);
    if (wanted("wire")) wireOutcomes(demo, seed);
    if (wanted("latency")) {
        for (const Scene& scene : all) {
            if (scene.name == "plain" || scene.name == "texture") printLatencies(scene);
        }
    }
}
