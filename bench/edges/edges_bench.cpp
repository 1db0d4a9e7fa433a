// How well the tools keep to a subject's edge, on pictures whose matte is known.
//
//   edges_bench DEMO [SEED] [brush|whole|...]
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <functional>
#include <string>

#include "bench/edges/baselines.h"
#include "bench/edges/latency.h"
#include "bench/edges/measures.h"
#include "bench/edges/scenes.h"
#include "bench/edges/strokes.h"
#include "core/adjust/registry.h"
#include "core/base/heap.h"
#include "core/check/contours.h"
#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/document/edits.h"
#include "core/kernel/signed_distance.h"
#include "core/kernel/srgb_rows.h"
#include "core/mask/matte.h"
#include "core/mask/outline.h"
#include "core/mask/region.h"
#include "core/task/hem_check.h"

namespace {

using namespace dimhem;
using namespace dimhem::edges;

void printRow(const char* scene, const char* method, const Error& e) {
    std::printf("%-13s %-22s spill %7.2f short %7.2f band %.3f IoU %.4f\n", scene, method, e.spillPct, e.shortPct,
                e.band, e.iou);
    std::fflush(stdout);
}

double secondsOf(const std::function<void()>& work) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

mask::BrushSettings brushOfRadius(double radius, bool holds) {
    mask::BrushSettings brush;
    brush.sizePx = 2 * radius;
    brush.softnessPct = 50;
    brush.holds = holds;
    return brush;
}

void brushBench(const std::vector<Scene>& all, std::uint32_t seed) {
    std::mt19937 random(seed);
    std::vector<double> spills, shorts;
    for (const Scene& scene : all) {
        std::vector<double> spill[2], missing[2], band[2];
        for (const double radius : {50.0, 150.0, 400.0}) {
            for (int i = 0; i < 3; ++i) {
                const auto points = rimStroke(scene.matte, radius, random);
                if (points.empty()) continue;
                const auto plain = maskOf(scene.photo, documentWith(brushOf({points}, brushOfRadius(radius, false))));
                const auto held = maskOf(scene.photo, documentWith(brushOf({points}, brushOfRadius(radius, true))));
                const Error errors[2] = {errorOf(plain, scene.matte, &plain), errorOf(held, scene.matte, &plain)};
                for (int k = 0; k < 2; ++k) {
                    spill[k].push_back(errors[k].spillPct);
                    missing[k].push_back(errors[k].shortPct);
                    band[k].push_back(errors[k].band);
                }
                spills.push_back(errors[1].spillPct);
                shorts.push_back(errors[1].shortPct);
            }
        }
        for (int k = 0; k < 2; ++k) {
            std::printf("%-13s %-8s n %zu spill %6.2f (%.2f) short %6.2f (%.2f) band %.3f\n", scene.name.c_str(),
                        k ? "held" : "plain", spill[k].size(), mean(spill[k]), median(spill[k]), mean(missing[k]),
                        median(missing[k]), mean(band[k]));
        }
        std::fflush(stdout);
    }
    std::printf("all held: spill mean %.2f median %.2f, short mean %.2f median %.2f\n", mean(spills), median(spills),
                mean(shorts), median(shorts));
}

void wholeBench(const std::vector<Scene>& all) {
    for (const Scene& scene : all) {
        const auto strokes = overTheWhole(scene.matte, 120, 15);
        if (strokes.empty()) continue;
        const auto plain = maskOf(scene.photo, documentWith(brushOf(strokes, brushOfRadius(120, false))));
        const auto held = maskOf(scene.photo, documentWith(brushOf(strokes, brushOfRadius(120, true))));
        printRow(scene.name.c_str(), "plain brush", errorOf(plain, scene.matte, &plain));
        printRow(scene.name.c_str(), "held brush", errorOf(held, scene.matte, &plain));
        printRow(scene.name.c_str(), "guided filter alone",
                 errorOf(guidedFilterAlone(*scene.photo, plain, 8), scene.matte, &plain));
    }
}

// Five short drags well inside the subject, seeded.
mask::ShapePtr regionIn(const image::Plane<float>& matte, std::uint32_t seed, double reachPct) {
    const kernel::DistanceField field = kernel::signedDistance(matte);
    std::mt19937 random(seed);
    const auto uniform = [&] { return random() / 4294967296.0; };
    std::vector<mask::RegionDrag> drags;
    const base::Size size = matte.size();
    for (int attempt = 0; attempt < 200000 && drags.size() < 5; ++attempt) {
        const double x = uniform() * size.width, y = uniform() * size.height, angle = uniform() * 6.283;
        const base::Point to{x + std::cos(angle) * 90, y + std::sin(angle) * 90};
        bool inside = true;
        for (int i = 0; i <= 30; ++i) {
            const int px = static_cast<int>(x + (to.x - x) * i / 30), py = static_cast<int>(y + (to.y - y) * i / 30);
            inside = inside && px >= 0 && py >= 0 && px < size.width && py < size.height &&
                     field.distance.row(py)[static_cast<std::size_t>(px)] < -10;
        }
        if (inside) drags.push_back({{{x, y}, to}, false});
    }
    return std::make_shared<mask::Region>(std::move(drags), reachPct);
}

// The same drags for GrabCut: what they cross is surely inside, the picture's border surely outside.
image::Plane<std::uint8_t> trimapOf(const mask::Region& region, base::Size size) {
    image::Plane<std::uint8_t> out(size);
    for (int y = 0; y < size.height; ++y) std::fill_n(out.row(y).data(), size.width, std::uint8_t{2});
    for (const mask::RegionDrag& drag : region.drags()) {
        const base::Point a = drag.points[0], b = drag.points[1];
        for (int i = 0; i <= 100; ++i) {
            for (int j = -3; j <= 3; ++j) {
                for (int k = -3; k <= 3; ++k)
                    out.row(static_cast<int>(a.y + (b.y - a.y) * i / 100) +
                            j)[static_cast<std::size_t>(a.x + (b.x - a.x) * i / 100) + static_cast<std::size_t>(k + 3) -
                               3] = 1;
            }
        }
    }
    return out;
}

void regionBench(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        if (scene.difficulty == Difficulty::thin) continue;
        const auto region = regionIn(scene.matte, seed, 50);
        const double seconds = secondsOf([&] {
            printRow(scene.name.c_str(), "region",
                     errorOf(maskOf(scene.photo, documentWith(region)), scene.matte, nullptr));
        });
        std::printf("   %.2f s\n", seconds);
        printRow(scene.name.c_str(), "grabCut alone",
                 errorOf(grabCutAlone(*scene.photo, trimapOf(dynamic_cast<const mask::Region&>(*region), scene.size())),
                         scene.matte, nullptr));
    }
}

// The matte's longest outline, wobbling 0.4 to 1.6 times `off` outside it.
std::vector<base::Point> wobblingOutline(const image::Plane<float>& matte, double off, std::uint32_t seed) {
    image::Plane<float> wide(matte.size());
    const kernel::DistanceField field = kernel::signedDistance(matte);
    std::mt19937 random(seed);
    const double p0 = random() / 4294967296.0 * 6.28, p1 = random() / 4294967296.0 * 6.28;
    image::Plane<std::uint16_t> values(matte.size());
    for (int y = 0; y < matte.size().height; ++y) {
        for (int x = 0; x < matte.size().width; ++x) {
            const double wobble = 1 + 0.4 * std::sin(x / 47.0 + p0) + 0.2 * std::sin(y / 31.0 + p1);
            const double d = double{field.distance.row(y)[static_cast<std::size_t>(x)]} - off * wobble;
            const bool border = x == 0 || y == 0 || x == matte.size().width - 1 || y == matte.size().height - 1;
            values.row(y)[static_cast<std::size_t>(x)] =
                border ? std::uint16_t{0} : static_cast<std::uint16_t>(std::clamp(32768 - d * 8000, 0.0, 65535.0));
        }
    }
    std::vector<base::Point> longest;
    for (auto& line : check::contours(values, 32768)) {
        if (line.size() > longest.size()) longest = std::move(line);
    }
    std::vector<base::Point> thinned;
    for (std::size_t i = 0; i < longest.size(); i += 8) thinned.push_back(longest[i]);
    return thinned;
}

void outlineBench(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        if (scene.difficulty == Difficulty::thin) continue;
        for (const double off : {5.0, 15.0, 40.0}) {
            const auto points = wobblingOutline(scene.matte, off, seed);
            const auto drawn = maskOf(scene.photo, documentWith(std::make_shared<mask::Outline>(points, 0)));
            const auto snapped = maskOf(scene.photo, documentWith(std::make_shared<mask::Outline>(points, 0, off)));
            char name[64];
            std::snprintf(name, sizeof name, "outline %.0f px off", off);
            printRow(scene.name.c_str(), name, errorOf(drawn, scene.matte, nullptr));
            printRow(scene.name.c_str(), "  snapped", errorOf(snapped, scene.matte, nullptr));
            if (off != 15) continue;
            printRow(scene.name.c_str(), "  guided filter alone",
                     errorOf(guidedFilterAlone(*scene.photo, drawn, 30), scene.matte, nullptr));
            image::Plane<std::uint8_t> trimap(scene.size());
            for (int y = 0; y < scene.size().height; ++y)
                std::transform(drawn.row(y).begin(), drawn.row(y).end(), trimap.row(y).begin(),
                               [](float v) { return v > 0.5f ? std::uint8_t{3} : std::uint8_t{0}; });
            printRow(scene.name.c_str(), "  grabCut alone",
                     errorOf(grabCutAlone(*scene.photo, trimap), scene.matte, nullptr));
        }
    }
}

// The matte moved outward as a mask.
std::shared_ptr<const mask::Matte> movedMatte(const image::Plane<float>& matte, double off) {
    const kernel::DistanceField field = kernel::signedDistance(matte);
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(matte.size());
    for (int y = 0; y < matte.size().height; ++y) {
        std::transform(
            field.distance.row(y).begin(), field.distance.row(y).end(), pixels->row(y).begin(),
            [&](float d) { return static_cast<std::uint16_t>(std::clamp(off - double{d} + 0.5, 0.0, 1.0) * 65535); });
    }
    return std::make_shared<mask::Matte>("moved.png", pixels);
}

void snapBench(const std::vector<Scene>& all) {
    for (const Scene& scene : all) {
        if (scene.difficulty == Difficulty::thin) continue;
        for (const double off : {3.0, 8.0, 20.0}) {
            const auto before = documentWith(movedMatte(scene.matte, off));
            const auto id = before->corrections.front()->id;
            const auto after =
                document::withCorrection(*before, id, [&](document::Correction& c) { c.mask.refine.edgeSnapPx = off; });
            const auto drawn = maskOf(scene.photo, before);
            const Error was = errorOf(drawn, scene.matte, nullptr),
                        is = errorOf(maskOf(scene.photo, after), scene.matte, nullptr);
            const Error gf =
                errorOf(guidedFilterAlone(*scene.photo, drawn, static_cast<int>(3 * off)), scene.matte, nullptr);
            std::printf(
                "%-13s edge snap %2.0f px: spill %6.2f -> %5.2f (-%.1f %%) short %.2f -> %.2f band %.3f; guided filter "
                "spill %.2f\n",
                scene.name.c_str(), off, was.spillPct, is.spillPct, 100 * (1 - is.spillPct / was.spillPct),
                was.shortPct, is.shortPct, is.band, gf.spillPct);
            std::fflush(stdout);
        }
    }
}

// A mask that is wrong in a known way: moved, wobbling, leaking, bitten, shifted, or right; with gaps and specks.
struct WrongMask {
    image::Plane<float> mask;
    int spots = 0;
    std::vector<base::Point> places;
};

WrongMask wrongMask(const image::Plane<float>& matte, int kind, std::mt19937& random) {
    const auto uniform = [&] { return random() / 4294967296.0; };
    const kernel::DistanceField field = kernel::signedDistance(matte);
    const base::Size size = matte.size();
    const double amount = (kind % 2 ? 1 : -1) * (1 + 5 * uniform()), soft = 1.5 + 4 * uniform();
    const double p0 = uniform() * 6.28, p1 = uniform() * 6.28, px = 25 + 50 * uniform(), py = 25 + 50 * uniform();
    struct Blob {
        double x, y, r;
        bool adds;
    };
    std::vector<Blob> blobs;
    for (int i = 0; i < 4000 && blobs.size() < (kind >= 8 && kind < 12 ? 4 : 0); ++i) {
        const double x = uniform() * size.width, y = uniform() * size.height;
        if (std::abs(field.distance.row(static_cast<int>(y))[static_cast<std::size_t>(x)]) < 3)
            blobs.push_back({x, y, 5 + 4 * uniform(), kind % 2 == 0});
    }
    WrongMask out{image::Plane<float>(size), 0, {}};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            double d = double{field.distance.row(y)[static_cast<std::size_t>(x)]};
            if (kind >= 2 && kind < 5) d -= amount;
            if (kind >= 5 && kind < 8)
                d -= std::abs(amount) * (0.7 * std::sin(x / px + p0) + 0.5 * std::sin(y / py + p1));
            for (const Blob& blob : blobs) {
                const double to = std::hypot(x - blob.x, y - blob.y) - blob.r;
                d = blob.adds ? std::min(d, to) : std::max(d, -to);
            }
            const float plain = static_cast<float>(std::clamp(0.5 - d / soft, 0.0, 1.0));
            out.mask.row(y)[static_cast<std::size_t>(x)] = kind < 2 ? matte.row(y)[static_cast<std::size_t>(x)] : plain;
        }
    }
    for (int i = 0; i < 400 && kind % 2 && out.spots < 4; ++i) {
        const double x = uniform() * size.width, y = uniform() * size.height, r = 2 + 6 * uniform();
        const double d = double{field.distance.row(static_cast<int>(y))[static_cast<std::size_t>(x)]};
        bool apart = x > 30 && y > 30 && x < size.width - 30 && y < size.height - 30 && std::abs(d) > 30;
        for (const base::Point& p : out.places) apart = apart && std::hypot(p.x - x, p.y - y) > 60;
        if (!apart) continue;
        out.places.push_back({x, y});
        ++out.spots;
        for (int j = static_cast<int>(-r) - 1; j <= r + 1; ++j) {
            for (int k = static_cast<int>(-r) - 1; k <= r + 1; ++k) {
                const float in = static_cast<float>(std::clamp(r - std::hypot(j, k) + 0.5, 0.0, 1.0));
                float& v = out.mask.row(static_cast<int>(y) + j)[static_cast<std::size_t>(static_cast<int>(x) + k)];
                v = d < 0 ? v * (1 - in) : std::max(v, in);
            }
        }
    }
    return out;
}

double spearman(const std::vector<double>& a, const std::vector<double>& b) {
    const auto ranks = [](const std::vector<double>& v) {
        std::vector<double> out(v.size());
        for (std::size_t i = 0; i < v.size(); ++i) {
            for (std::size_t j = 0; j < v.size(); ++j) out[i] += v[j] < v[i] ? 1 : v[j] == v[i] ? 0.5 : 0;
        }
        return out;
    };
    const std::vector<double> x = ranks(a), y = ranks(b);
    const double mx = mean(x), my = mean(y);
    double xy = 0, xx = 0, yy = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        xy += (x[i] - mx) * (y[i] - my);
        xx += (x[i] - mx) * (x[i] - mx);
        yy += (y[i] - my) * (y[i] - my);
    }
    return xy / std::sqrt(xx * yy);
}

void hemBench(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        std::mt19937 random(seed);
        std::vector<double> spill, spillSaid, missing, missingSaid, off[2], exact, unmeasured;
        int spots = 0, found = 0, wrong = 0;
        double seconds = 0;
        for (int kind = 0; kind < 14; ++kind) {
            const WrongMask made = wrongMask(scene.matte, kind, random);
            auto pixels = std::make_shared<image::Plane<std::uint16_t>>(scene.size());
            for (int y = 0; y < scene.size().height; ++y)
                std::transform(made.mask.row(y).begin(), made.mask.row(y).end(), pixels->row(y).begin(),
                               [](float v) { return static_cast<std::uint16_t>(v * 65535 + 0.5f); });
            const auto document = documentWith(std::make_shared<mask::Matte>("made.png", pixels));
            const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
            std::optional<task::HemReport> report;
            seconds +=
                secondsOf([&] { report = task::hemCheck(renderer, document, document->corrections.front()->id); });
            const Error truth = errorOf(made.mask, scene.matte, nullptr);
            spill.push_back(truth.spillPct);
            missing.push_back(truth.shortPct);
            spillSaid.push_back(report->spillPct);
            missingSaid.push_back(report->shortPct);
            off[0].push_back(std::abs(truth.spillPct - report->spillPct));
            off[1].push_back(std::abs(truth.shortPct - report->shortPct));
            unmeasured.push_back(report->unmeasuredPct);
            if (std::getenv("EDGES_DETAIL"))
                std::printf("  kind %2d true %5.2f/%5.2f said %5.2f/%5.2f\n", kind, truth.spillPct, truth.shortPct,
                            report->spillPct, report->shortPct);
            if (kind < 1) exact = {report->spillPct, report->shortPct};
            spots += made.spots;
            for (const check::Finding& f : report->findings) {
                if (f.kind != check::FindingKind::gap && f.kind != check::FindingKind::speck) continue;
                const bool real = std::any_of(made.places.begin(), made.places.end(), [&](base::Point p) {
                    return p.x >= f.bounds.x0 - 2 && p.x <= f.bounds.x1 + 2 && p.y >= f.bounds.y0 - 2 &&
                           p.y <= f.bounds.y1 + 2;
                });
                ++(real ? found : wrong);
            }
        }
        std::printf(
            "%-13s hem: true %.2f/%.2f rho %.3f/%.3f mean error %.2f/%.2f exact %.2f/%.2f spots %d/%d false %d "
            "not measured %.0f %% of edge, %.2f s each\n",
            scene.name.c_str(), median(spill), median(missing), spearman(spill, spillSaid),
            spearman(missing, missingSaid), mean(off[0]), mean(off[1]), exact[0], exact[1], found, spots, wrong,
            mean(unmeasured), seconds / 14);
        std::fflush(stdout);
    }
}

// A correction through a known matte, mixed plainly and with a clean edge, beside what the subject alone, corrected,
// would have given: mean CIEDE2000 over the partly covered pixels.
struct Fault {
    const char* name;
    const char* kind;
    std::vector<std::pair<std::string_view, double>> values;
};

image::RgbPlanes pictureOf(const Scene& scene, const document::DocumentPtr& document) {
    const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
    const render::Sequence sequence(document, {});
    image::RgbPlanes out(scene.size());
    renderer.picture(sequence, {base::rectOf(scene.size()), 0}, out);
    return out;
}

double meanDifference(const Scene& scene, const image::RgbPlanes& a, const image::RgbPlanes& b) {
    double sum = 0, count = 0;
    for (int y = 0; y < scene.size().height; ++y) {
        for (int x = 0; x < scene.size().width; ++x) {
            const float m = scene.matte.row(y)[x];
            if (m < 0.02f || m > 0.98f) continue;
            const auto lab = [&](const image::RgbPlanes& p) {
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
image::RgbPlanes withKnownColour(const Scene& scene, const adjust::RowOperation& g) {
    const base::Size size = scene.size();
    image::RgbPlanes out(size), changed(size);
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
        g.row({changed.red.row(y).data(), changed.green.row(y).data(), changed.blue.row(y).data()}, width);
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

void unmixBench(const std::vector<Scene>& all) {
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
            for (const bool exact : {true, false}) {
                auto made = documentWith(movedMatte(scene.matte, 0));
                const auto id = made->corrections.front()->id;
                if (exact) {
                    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(scene.size());
                    for (int y = 0; y < scene.size().height; ++y)
                        std::transform(scene.matte.row(y).begin(), scene.matte.row(y).end(), pixels->row(y).begin(),
                                       [](float v) { return static_cast<std::uint16_t>(v * 65535 + 0.5f); });
                    made = documentWith(std::make_shared<mask::Matte>("exact.png", pixels));
                }
                const auto with = [&](bool clean) {
                    return document::withCorrection(*made, id, [&](document::Correction& c) {
                        c.cleanEdge = clean;
                        if (!exact) c.mask.refine.edgeSnapPx = 4;
                        c.adjustments = {{100, &kind, true, values}};
                    });
                };
                const image::RgbPlanes best = withKnownColour(scene, *kind.prepare(values));
                const double plain = meanDifference(scene, pictureOf(scene, with(false)), best);
                const double clean = meanDifference(scene, pictureOf(scene, with(true)), best);
                std::printf("%-13s %-15s %-7s matte: from the known colour, plain %.2f clean %.2f, closed %.0f %%\n",
                            scene.name.c_str(), fault.name, exact ? "exact" : "snapped", plain, clean,
                            100 * (1 - clean / plain));
                std::fflush(stdout);
            }
        }
    }
}

}  // namespace

int main(int argc, char** argv) {
    base::keepBlocksInHeap();
    const std::string demo = argc > 1 ? argv[1] : "demo";
    const auto seed = static_cast<std::uint32_t>(argc > 2 ? std::atoi(argv[2]) : 7);
    const std::string what = argc > 3 ? argv[3] : "";
    std::vector<Scene> all = scenes(demo, seed);
    const std::string only = argc > 4 ? argv[4] : "";
    if (!only.empty()) std::erase_if(all, [&](const Scene& s) { return s.name != only; });
    const auto wanted = [&](const char* name) { return what.empty() || what == name; };
    if (wanted("brush")) brushBench(all, seed);
    if (wanted("whole")) wholeBench(all);
    if (wanted("region")) regionBench(all, seed);
    if (wanted("outline")) outlineBench(all, seed);
    if (wanted("snap")) snapBench(all);
    if (wanted("hem")) hemBench(all, seed);
    if (wanted("unmix")) unmixBench(all);
    if (wanted("latency")) {
        for (const Scene& scene : all) {
            if (scene.name == "plain" || scene.name == "texture") printLatencies(scene);
        }
    }
}
