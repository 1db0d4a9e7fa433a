// Every member of a document changed, one at a time and in pairs, in a cache that has seen all versions before: each is
// shown as a fresh one shows it, bit for bit.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <numeric>
#include <random>

#include "core/document/json_format.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::render {

namespace {

using nlohmann::json;
constexpr base::Size photoSize{120, 90};

// The places of all members and items of a document's corrections.
void collect(const json& value, const json::json_pointer& at, std::vector<json::json_pointer>& out) {
    if (value.is_object()) {
        for (const auto& [name, member] : value.items()) {
            if (name != "id" && name != "from" && name != "kind") collect(member, at / name, out);
        }
    } else if (value.is_array()) {
        for (std::size_t i = 0; i < value.size(); ++i) collect(value[i], at / i, out);
    }
    out.push_back(at);
}

// Another value in the place, of the kind it is; an item of a list may also be taken out.
void change(json& document, const json::json_pointer& at, std::mt19937& random) {
    json& value = document[at];
    const std::vector<std::string> words{"multiply", "screen",     "luminosity", "light", "shadow", "everywhere",
                                         "arriving", "subtract",   "overlap",    "add",   "linear", "normal",
                                         "even",     "difference", "nowhere",    "photo"};
    if (value.is_boolean()) {
        value = !value.get<bool>();
    } else if (value.is_number()) {
        const double factors[] = {0.5, 0.8, 1.1, 1.5, 0, -1};
        const double now = value.get<double>();
        value = now == 0 ? 10.0 * static_cast<double>(1 + random() % 3) : now * factors[random() % 6];
        if (value.get<double>() == std::floor(value.get<double>()) && random() % 2) value = value.get<int>();
    } else if (value.is_string()) {
        value = words[random() % words.size()];
    } else if (value.is_array() && !value.empty() && value[0].is_object()) {
        if (random() % 3 == 0 && value.size() > 1)
            std::swap(value[0], value[value.size() - 1]);
        else
            value.erase(random() % value.size());
    }
}

std::vector<std::uint32_t> shown(const Renderer& renderer, const document::DocumentPtr& document, MaskView maskView) {
    View view;
    view.maskView = maskView;
    view.selected = document->corrections.empty() ? 0 : document->corrections[0]->id;
    const Sequence sequence(document, {});
    std::vector<std::uint32_t> pixels;
    const image::TileGrid grid(photoSize, image::defaultTilePx);
    grid.forEach(base::rectOf(photoSize), [&](const base::Rect& tile) {
        const auto part = renderer.display(sequence, view, {tile, 0});
        for (int y = 0; y < tile.height(); ++y) pixels.insert(pixels.end(), part->row(y).begin(), part->row(y).end());
    });
    return pixels;
}

struct Outcome {
    std::size_t versions = 0, others = 0;  // tried, and unlike the first
    std::vector<std::string> wrong;
};

struct Version {
    std::string said;
    document::DocumentPtr document;
};

// The document itself, each of its members changed, and so many pairs of them.
std::vector<Version> versionsOf(const std::string& corrections, std::mt19937& random, int pairs) {
    const json begun = json::parse(R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"},
                        "brackets": [{"id": 90, "strength": 70}], "corrections": )" +
                                   corrections + "}");
    const auto first = document::fromJson(begun);
    if (!first) throw std::runtime_error(first.error().message);
    const json whole = document::toJson(**first);  // with every member written out
    std::vector<json::json_pointer> places;
    collect(whole["corrections"], json::json_pointer("/corrections"), places);
    collect(whole["brackets"], json::json_pointer("/brackets"), places);
    std::vector<Version> out{{"as it is", *first}};
    const auto tryOne = [&](const std::vector<json::json_pointer>& changed) {
        json next = whole;
        std::string said;
        for (const auto& place : changed) {
            if (!next.contains(place)) continue;
            change(next, place, random);
            said +=
                place.to_string() + " = " + (next.contains(place) ? next[place].dump().substr(0, 60) : "gone") + "; ";
        }
        if (const auto version = document::fromJson(next))
            out.push_back({said, *version});  // not every value is one of its kind
    };
    for (const auto& place : places) tryOne({place});
    for (int i = 0; i < pairs; ++i) tryOne({places[random() % places.size()], places[random() % places.size()]});
    return out;
}

Outcome changeAll(const std::string& corrections, std::uint32_t seed, int pairs) {
    std::mt19937 random(seed);
    const std::vector<Version> versions = versionsOf(corrections, random, pairs);
    const auto photo = *PhotoSource::make(tests::sharedPhoto(photoSize));
    const Renderer used(photo, std::make_shared<TileCache>());
    Outcome out;
    out.versions = versions.size();
    std::vector<std::vector<std::uint32_t>> right;
    for (const MaskView view : {MaskView::none, MaskView::change}) {
        right.clear();
        for (const Version& version : versions) {
            right.push_back(shown(Renderer(photo, std::make_shared<TileCache>()), version.document, view));
            if (shown(used, version.document, view) != right.back()) out.wrong.push_back(version.said);
        }
        std::vector<std::size_t> order(versions.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::shuffle(order.begin(), order.end(), random);
        for (const std::size_t i : order) {
            if (shown(used, versions[i].document, view) != right[i]) out.wrong.push_back("again " + versions[i].said);
        }
    }
    out.others = static_cast<std::size_t>(std::ranges::count_if(right, [&](const auto& r) { return r != right[0]; }));
    return out;
}

constexpr char pointwise[] = R"([
    {"id": 1, "strength": 80, "clean-edge": true, "bracket": 90, "mask": {"parts": [
        {"kind": "radial-gradient", "centre": [54, 42], "half-width": 36, "half-height": 24,
         "limit": {"kind": "luminosity-range", "tones": [15, 35, 75, 95], "smooth": 2}},
        {"kind": "brush", "combine": "subtract", "strokes": [{"size": 18, "softness": 40, "points": [[36, 24], [72, 60]]}]}],
        "refine": {"feather": 3, "expand": 2}},
     "adjustments": [{"kind": "light", "exposure": 0.7, "contrast": 20}, {"kind": "saturation", "amount": 30}]},
    {"id": 2, "mask": {"parts": [{"kind": "borrowed", "from": 1, "flipped": true},
        {"kind": "luminosity-range", "tones": [20, 30, 70, 90], "combine": "overlap", "measured": "arriving"},
        {"kind": "linear-gradient", "full": [20, 20], "none": [90, 60],
         "limit": {"kind": "colour-range", "picks": [{"at": [40, 40], "lab": [50, 5, 5]}], "tolerance": 60,
                   "measured": "arriving"}}]},
     "adjustments": [{"kind": "white-balance", "temperature": 5000}]}])";

constexpr char lookingAround[] = R"([
    {"id": 1, "mask": {"parts": [{"kind": "linear-gradient", "full": [24, 12], "none": [90, 66]}]},
     "adjustments": [{"kind": "light", "exposure": 0.5}, {"kind": "shadow-lift", "amount": 40},
                     {"kind": "soften", "amount": 70, "radius": 6}, {"kind": "glow", "amount": 40, "radius": 12}]},
    {"id": 2, "strength": 60, "mask": {"starts": "everywhere"},
     "adjustments": [{"kind": "detail", "local-contrast": 40, "measured": [[1]]},
                     {"kind": "banding", "amount": 90, "measured": [[0, 6, 0.2, 1], [1, 8, 0.5, 1], [2, 6, 0.1, 1]]},
                     {"kind": "veil", "amount": 20}]}])";

constexpr char holes[] = R"([
    {"id": 1, "strength": 70, "mask": {"parts": [
        {"kind": "outline", "points": [[24, 18], [54, 21], [48, 48], [21, 42]], "feather": 3},
        {"kind": "borrowed", "from": 2}]},
     "adjustments": [{"kind": "light", "midtone": 40}, {"kind": "smooth-fill", "amount": 90, "border": 2}]},
    {"id": 2, "mask": {"parts": [
        {"kind": "brush", "strokes": [{"size": 15, "points": [[72, 36], [90, 54]]}]},
        {"kind": "colour-range", "combine": "overlap", "picks": [{"at": [72, 36], "lab": [55, 5, 5]}], "tolerance": 60,
         "measured": "arriving"}]},
     "adjustments": [{"kind": "light", "exposure": -1}, {"kind": "smooth-fill", "amount": 100, "texture-size": 6}]}])";

constexpr char painted[] = R"([
    {"id": 1, "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 0.3}]},
    {"id": 2, "mask": {"parts": [{"kind": "brush", "strokes": [
        {"size": 18, "points": [[36, 36]], "brings": {"kind": "clone", "offset": [30, 6]}},
        {"size": 15, "points": [[39, 39], [54, 48]], "brings": {"kind": "heal", "offset": [-18, 12]}},
        {"size": 8, "removes": true, "points": [[37, 35]]}]}]},
     "adjustments": [{"kind": "paint", "amount": 100}]}])";

void expectAsFresh(const char* corrections, std::uint32_t seed, int pairs) {
    const Outcome outcome = changeAll(corrections, seed, pairs);
    EXPECT_GT(outcome.versions, 60u);
    EXPECT_GT(3 * outcome.others, outcome.versions) << "most change something";
    EXPECT_TRUE(outcome.wrong.empty()) << outcome.wrong.size() << " of " << outcome.versions << ", as "
                                       << (outcome.wrong.empty() ? std::string() : outcome.wrong.front());
}

}  // namespace

TEST(SharedCache, OfCorrectionsOfPixels) {
    expectAsFresh(pointwise, 1, 40);
}

TEST(SharedCache, OfCorrectionsThatLookAround) {
    expectAsFresh(lookingAround, 2, 40);
}

TEST(SharedCache, OfHoles) {
    expectAsFresh(holes, 3, 40);
}

TEST(SharedCache, OfWhatIsPainted) {
    expectAsFresh(painted, 4, 40);
}

}  // namespace dimhem::render
