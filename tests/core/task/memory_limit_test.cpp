// What documents made to hurt take of memory: never more than the program lets itself take.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/base/heap.h"
#include "core/render/frame.h"
#include "core/task/export.h"
#include "core/task/hem_check.h"
#include "tests/support/documents.h"
#include "tests/support/memory.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

using nlohmann::json;
constexpr base::Size photoSize{3464, 2310};

json everywhere(const json& adjustments) {
    return {{"mask", {{"starts", "everywhere"}}}, {"adjustments", adjustments}};
}

json lightUnder(const json& parts, const json& refine = json::object()) {
    return {{"mask", {{"parts", parts}, {"refine", refine}}}, {"adjustments", {{{"kind", "light"}, {"exposure", 1}}}}};
}

json strokes(int count, const json& more, double size) {
    json out = json::array();
    for (int i = 0; i < count; ++i) {
        const double x = 400 + (i * 137) % 2600, y = 300 + (i * 211) % 1700;
        json stroke{{"size", size}, {"points", {{x, y}, {x + 60, y + 40}}}};
        stroke.update(more);
        out.push_back(stroke);
    }
    return out;
}

json repeated(int count, const json& one) {
    json out = json::array();
    for (int i = 0; i < count; ++i) out.push_back(one);
    return out;
}

json brush(const json& strokes) {
    return {{"kind", "brush"}, {"strokes", strokes}};
}

const json outline{
    {"kind", "outline"}, {"points", {{500, 400}, {2900, 500}, {2700, 1900}, {600, 1800}}}, {"feather", 400}};

json hazeDepths() {
    const json depth{{"kind", "haze-depth"}, {"haze", {10, 30, 70, 90}}, {"measured", "arriving"}};
    json one = lightUnder(json::array({depth, outline}), {{"feather", 1000}, {"edge-snap", 8}});
    one["clean-edge"] = true;
    return repeated(2, one);
}

json ranges() {
    const json range{{"kind", "luminosity-range"},
                     {"tones", {10, 30, 60, 90}},
                     {"smooth", 50},
                     {"measured", "arriving"},
                     {"combine", "overlap"}};
    json under = lightUnder(repeated(12, range));
    under["mask"]["starts"] = "everywhere";
    return json::array({everywhere(json::array({{{"kind", "light"}, {"exposure", 1}}})), under});
}

json fineDetail() {
    json parts =
        repeated(7, {{"kind", "fine-detail"}, {"along-edge", true}, {"strokes", strokes(6, json::object(), 300)}});
    parts.insert(parts.begin(), outline);
    return json::array({lightUnder(parts)});
}

json detail() {
    const json one{{"kind", "detail"}, {"local-contrast", 60}, {"sharpen", 60}, {"measured", {{1}}}};
    return json::array({everywhere(repeated(12, one))});
}

json clones() {
    const json bringing{{"brings", {{"kind", "clone"}, {"offset", {300, 200}}}}};
    return json::array({{{"mask", {{"parts", json::array({brush(strokes(1500, bringing, 120))})}}},
                         {"adjustments", json::array({{{"kind", "paint"}, {"amount", 100}}})}}});
}

json holes() {
    return json::array({{{"mask", {{"parts", json::array({brush(strokes(40, json::object(), 700))})}}},
                         {"adjustments", json::array({{{"kind", "texture-fill"}, {"amount", 100}},
                                                      {{"kind", "smooth-fill"}, {"amount", 50}}})}}});
}

json heldStrokes() {
    return json::array({lightUnder(json::array({brush(strokes(200, {{"holds", true}}, 600))}))});
}

json refined() {
    return json::array({lightUnder(json::array({outline}), {{"feather", 1000}, {"expand", 200}, {"edge-snap", 8}})});
}

struct Hurtful {
    const char* name;
    json (*corrections)();
    bool isExported = false;
};

constexpr Hurtful hurtful[] = {
    {"haze depth, snapped and feathered", hazeDepths},
    {"ranges on what arrives", ranges, true},
    {"fine detail seven times", fineDetail},
    {"detail twelve times", detail, true},
    {"strokes cloned from one another", clones, true},
    {"large holes", holes},
    {"held strokes", heldStrokes},
    {"refined as far as it goes", refined},
};

constexpr std::size_t limit = std::size_t{300} << 20;
// Beyond the limit: what a few tiles take between two looks at what is in use.
constexpr double mostMb = 1.25 * 300;

// What some work takes, which may fail for lack of memory, and nothing else.
template <class Work>
double taken(const Work& work) {
    base::giveBackFreed();
    return tests::memoryTaken([&] {
        try {
            work();
        } catch (const base::CeilingReached&) {
            SUCCEED() << "too large for the limit";
        }
    });
}

class HurtfulDocument : public testing::TestWithParam<Hurtful> {};

}  // namespace

TEST_P(HurtfulDocument, IsKeptToTheLimit) {
    const auto photo = *render::PhotoSource::make(tests::sharedPhoto(photoSize));
    const document::DocumentPtr document = tests::documentOf(GetParam().corrections().dump());
    base::giveBackFreed();
    const auto ceiling = std::make_shared<base::MemoryCeiling>(base::memoryInUse() + limit);
    {
        const render::Renderer renderer(photo, std::make_shared<render::TileCache>(limit / 2, ceiling));
        for (const int level : {2, 0}) {
            EXPECT_LT(taken([&] {
                          const render::FrameRequest seen{document, {}, level, {400, 250, 800, 550}, {600, 400}};
                          render::renderFrame(renderer, seen, {}, {}, [](const auto&, const auto&) {});
                      }),
                      mostMb)
                << "a frame on level " << level;
        }
        EXPECT_LT(taken([&] { hemCheck(renderer, document, document->corrections.back()->id); }), mostMb) << "a check";
    }
    if (!GetParam().isExported) return;
    const tests::TempFolder folder;
    const std::filesystem::path out = folder / "out.jpg";
    Opened opened = tests::openedOf(photo);
    opened.ceiling = ceiling;
    bool isWritten = false;
    EXPECT_LT(taken([&] { isWritten = exportPicture(opened, document, out, {}).has_value(); }), mostMb) << "an export";
    EXPECT_EQ(isWritten, std::filesystem::exists(out)) << "whole or not at all";
}

INSTANTIATE_TEST_SUITE_P(LongMemory, HurtfulDocument, testing::ValuesIn(hurtful), [](const auto& info) {
    std::string name;
    for (const char* c = info.param.name; *c; ++c) {
        if (std::isalpha(static_cast<unsigned char>(*c))) name += *c;
    }
    return name;
});

}  // namespace dimhem::task
