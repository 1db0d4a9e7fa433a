#include <cstdio>
#include <string_view>

#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"
#include "core/adjust/registry.h"
#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/document/edits.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::edges {

namespace {

// A correction through a known matte, mixed plainly and with a clean edge, beside what the subject alone, corrected,
// would have given: mean CIEDE2000 over the partly covered pixels.
struct Fault {
    const char* name;
    const char* kind;
    std::vector<std::pair<std::string_view, double>> values;
};

image::EncodedPlanes pictureOf(const Scene& scene, const document::DocumentPtr& document) {
    const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
    const render::Sequence sequence(document, {});
    image::EncodedPlanes out(scene.size());
    renderer.picture(sequence, {base::rectOf(scene.size()), 0}, out);
    return out;
}

double meanDifference(const Scene& scene, const image::EncodedPlanes& a, const image::EncodedPlanes& b) {
    double sum = 0, count = 0;
    for (int y = 0; y < scene.size().height; ++y) {
        for (int x = 0; x < scene.size().width; ++x) {
            const float m = scene.matte.row(y)[x];
            if (m < 0.02f || m > 0.98f) continue;
            const auto lab = [&](const image::EncodedPlanes& p) {
                return colour::labFromEncoded(
                    {double{p.red.row(y)[x]}, double{p.green.row(y)[x]}, double{p.blue.row(y)[x]}});
            };
            sum += colour::ciede2000(lab(a), lab(b));
            ++count;
        }
    }
    return sum / count;
}

// The picture with the exactly known subject colour: P + a (g(F) - F).
image::EncodedPlanes withKnownColour(const Scene& scene, const adjust::Operations& g) {
    const base::Size size = scene.size();
    image::EncodedPlanes out(size), changed(size);
    scene.photo->read(base::rectOf(size), 0, out);
    const auto width = static_cast<std::size_t>(size.width);
    image::Plane<float>* to[3] = {&out.red, &out.green, &out.blue};
    image::Plane<float>* g3[3] = {&changed.red, &changed.green, &changed.blue};
    const image::Plane<float>* own[3] = {&scene.subject.red, &scene.subject.green, &scene.subject.blue};
    for (int y = 0; y < size.height; ++y) {
        for (int c = 0; c < 3; ++c) {
            std::copy_n(own[c]->row(y).data(), width, g3[c]->row(y).data());
            kernel::encodeRow(g3[c]->row(y).data(), width);
        }
        adjust::apply(g, {changed.red.row(y).data(), changed.green.row(y).data(), changed.blue.row(y).data()}, width);
        for (int c = 0; c < 3; ++c) {
            kernel::decodeRow(g3[c]->row(y).data(), width);
            kernel::decodeRow(to[c]->row(y).data(), width);
            for (std::size_t x = 0; x < width; ++x)
                to[c]->row(y)[x] += scene.matte.row(y)[x] * (g3[c]->row(y)[x] - own[c]->row(y)[x]);
            kernel::encodeRow(to[c]->row(y).data(), width);
        }
    }
    return out;
}

}  // namespace

void unmixOutcomes(const std::vector<Scene>& all) {
    const Fault faults[] = {{"exposure +1.5", "light", {{"exposure", 1.5}}},
                            {"exposure -1.5", "light", {{"exposure", -1.5}}},
                            {"contrast, lift", "light", {{"contrast", 50}, {"shadow-lift", 40}}},
                            {"cast, warmer", "white-balance", {{"temperature", 10000}, {"tint", 20}}},
                            {"cast, cooler", "white-balance", {{"temperature", 4000}, {"tint", -30}}}};
    for (const Scene& scene : all) {
        if (scene.subject.size().empty()) continue;
        for (const Fault& fault : faults) {
            const adjust::AdjustmentKind& kind = *adjust::findAdjustmentKind(fault.kind);
            std::vector<double> values = adjust::neutralValues(kind);
            for (const auto& [id, value] : fault.values) {
                for (std::size_t i = 0; i < kind.params.size(); ++i) {
                    if (kind.params[i].id == id) values[i] = value;
                }
            }
            for (const std::string_view matte : {"exact", "snapped", "solved"}) {
                const bool exact = matte == "exact";
                auto made = documentWith(movedMatte(scene.matte, 0));
                auto id = made->corrections.front()->id;
                if (exact) {
                    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(scene.size());
                    for (int y = 0; y < scene.size().height; ++y)
                        std::transform(scene.matte.row(y).begin(), scene.matte.row(y).end(), pixels->row(y).begin(),
                                       [](float v) { return static_cast<std::uint16_t>(v * 65535 + 0.5f); });
                    made = documentWith(std::make_shared<mask::Matte>("exact.png", pixels));
                    id = made->corrections.front()->id;
                }
                if (matte == "solved") {  // the cut mask, with fine detail looked for along its edge
                    made = document::withCorrection(*made, id, [](document::Correction& c) {
                        auto detail = std::make_shared<mask::Part>();
                        detail->id = 1000;
                        detail->shape = std::make_shared<mask::Brush>(std::vector<mask::StrokePtr>(),
                                                                      mask::Brush::fineDetail, true);
                        c.mask.parts.push_back(detail);
                    });
                }
                const auto with = [&](bool clean) {
                    return document::withCorrection(*made, id, [&](document::Correction& c) {
                        c.cleanEdge = clean;
                        if (matte == "snapped") c.mask.refine.edgeSnapPx = 4;
                        c.adjustments = {{100, &kind, true, values}};
                    });
                };
                const image::EncodedPlanes best = withKnownColour(scene, kind.prepare(values));
                const double plain = meanDifference(scene, pictureOf(scene, with(false)), best);
                const double clean = meanDifference(scene, pictureOf(scene, with(true)), best);
                std::printf("%-13s %-15s %-7s matte: from the known colour, plain %.2f clean %.2f, closed %.0f %%\n",
                            scene.name.c_str(), fault.name, matte.data(), plain, clean, 100 * (1 - clean / plain));
                std::fflush(stdout);
            }
        }
    }
}

}  // namespace dimhem::edges
