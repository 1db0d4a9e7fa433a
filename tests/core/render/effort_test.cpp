// What a frame costs, counted in stages: it grows with what there is of a document, however much of it looks at one
// another.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <set>

#include "core/adjust/registry.h"
#include "core/render/renderer.h"
#include "core/stage/effort.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"

namespace dimhem::render {

namespace {

using nlohmann::json;
constexpr base::Size photoSize{140, 120};

// Each value well away from its neutral one, and rows enough to work with.
json strong(const adjust::AdjustmentKind& kind) {
    json out{{"kind", kind.id}};
    for (const base::ParamSpec& p : kind.params) {
        if (!p.toggle) out[std::string(p.id)] = p.neutral + 0.4 * ((p.max > p.neutral ? p.max : p.min) - p.neutral);
    }
    for (const adjust::TableSpec& table : kind.tables) {
        if (!table.measured) continue;
        json rows = json::array();
        for (std::size_t i = 0; i < std::min<std::size_t>(table.mostRows, 5); ++i) {
            json row = json::array();
            for (std::size_t c = 0; c < table.columns.size(); ++c) {
                const base::ParamSpec& p = table.columns[c];
                row.push_back(c == 0 ? std::min(p.max, p.min + static_cast<double>(i))
                                     : std::floor(p.min + 0.1 * (p.max - p.min)));
            }
            rows.push_back(row);
        }
        out[std::string(table.id)] = rows;
    }
    return out;
}

// What one picture of the photo costs, in keys and calls.
double effortOf(const json& corrections) {
    static const auto photo = *PhotoSource::make(tests::sharedPhoto(photoSize));
    const Renderer renderer(photo, std::make_shared<TileCache>());
    const Sequence sequence(tests::documentOf(corrections.dump()), {});
    image::EncodedPlanes out(photoSize);
    const stage::Effort before = stage::effortHere();
    renderer.picture(sequence, {base::rectOf(photoSize), 0}, out);
    const stage::Effort after = stage::effortHere();
    return static_cast<double>(after.keys - before.keys + after.calls - before.calls);
}

json everywhere(const json& uses) {
    return {{"mask", {{"starts", "everywhere"}}}, {"adjustments", uses}};
}

json together(const json& use, int count) {
    json uses = json::array();
    for (int i = 0; i < count; ++i) uses.push_back(use);
    return json::array({everywhere(uses)});
}

json apart(const json& use, int count) {
    json corrections = json::array();
    for (int i = 0; i < count; ++i) corrections.push_back(everywhere(json::array({use})));
    return corrections;
}

// From six to twelve each one more costs what it does from three to six, but for what is kept every few.
template <class Documents>
void expectProportional(const std::string& what, Documents documentOf) {
    const double three = effortOf(documentOf(3)), six = effortOf(documentOf(6)), twelve = effortOf(documentOf(12));
    EXPECT_GT(six, three) << what;
    EXPECT_LT((twelve - six) / 6, 1.5 * (six - three) / 3) << what << ": " << three << ", " << six << ", " << twelve;
}

}  // namespace

TEST(Effort, GrowsWithTheAdjustmentsAndNoFaster) {
    std::set<std::string_view> lookAround;
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds()) {
        const json use = strong(*kind);
        if (effortOf(together(use, 2)) == effortOf(together(use, 1))) continue;  // pixel by pixel: one run over all
        lookAround.insert(kind->id);
        expectProportional(std::string(kind->id) + " in one correction",
                           [&](int count) { return together(use, count); });
        expectProportional(std::string(kind->id) + " each in its own", [&](int count) { return apart(use, count); });
    }
    EXPECT_THAT(lookAround, testing::IsSupersetOf({"noise", "banding", "grain", "haze", "glow", "detail", "soften",
                                                   "smooth-fill", "line-fill", "texture-fill", "paint"}));
}

TEST(Effort, GrowsWithPartsOfFineDetailAndNoFaster) {
    expectProportional("fine detail", [](int count) {
        json parts{{{"kind", "outline"}, {"points", {{28, 20}, {110, 30}, {95, 90}, {32, 75}}}}};
        for (int i = 0; i < count; ++i)
            parts.push_back({{"kind", "fine-detail"},
                             {"strokes", {{{"size", 30}, {"points", {{28 + 5 * i, 20}, {110, 30 + 3 * i}}}}}}});
        return json::array({{{"mask", {{"parts", parts}}}, {"adjustments", {{{"kind", "light"}, {"exposure", 1}}}}}});
    });
}

TEST(Effort, GrowsWithTheDepthOfBorrowingAndNoFaster) {
    const auto borrowing = [](int depth) {
        json corrections = json::array();
        for (int i = 0; i < depth; ++i) {
            const json part =
                i == 0
                    ? json{{"kind", "radial-gradient"}, {"centre", {70, 60}}, {"half-width", 45}, {"half-height", 35}}
                    : json{{"kind", "borrowed"}, {"from", i}};
            corrections.push_back({{"id", i + 1},
                                   {"mask", {{"parts", {part, part}}, {"refine", {{"feather", 4}}}}},
                                   {"adjustments", {{{"kind", "light"}, {"exposure", 0.1}}}}});
        }
        return corrections;
    };
    const double ten = effortOf(borrowing(10)), thirty = effortOf(borrowing(30));
    EXPECT_LT(thirty, 3.5 * ten) << ten << ", " << thirty;
}

TEST(Effort, GrowsWithRangesOnWhatArrivesAndNoFaster) {
    expectProportional("ranges", [](int count) {
        json corrections = json::array();
        for (int i = 0; i < count; ++i)
            corrections.push_back({{"clean-edge", true},
                                   {"mask",
                                    {{"parts",
                                      {{{"kind", "luminosity-range"},
                                        {"tones", {10, 30, 60, 90}},
                                        {"smooth", 3},
                                        {"measured", "arriving"}}}}}},
                                   {"adjustments", {{{"kind", "light"}, {"exposure", 0.1}}}}});
        return corrections;
    });
}

TEST(Effort, GrowsWithPartsKeptToRangesAndNoFaster) {
    const auto part = [](int i) {
        return json{{"kind", "radial-gradient"},
                    {"centre", {60, 60}},
                    {"half-width", 45},
                    {"half-height", 35},
                    {"feather", 10 + i},
                    {"limit", {{"kind", "luminosity-range"}, {"tones", {10, 30, 60, 90}}, {"measured", "arriving"}}}};
    };
    const json light = {{{"kind", "light"}, {"exposure", 0.1}}};
    expectProportional("in one mask", [&](int count) {
        json parts = json::array();
        for (int i = 0; i < count; ++i) parts.push_back(part(i));
        return json::array({everywhere(light), {{"mask", {{"parts", parts}}}, {"adjustments", light}}});
    });
    expectProportional("each in its own", [&](int count) {
        json corrections = json::array();
        for (int i = 0; i < count; ++i)
            corrections.push_back({{"mask", {{"parts", {part(i)}}}}, {"adjustments", light}});
        return corrections;
    });
}

}  // namespace dimhem::render
