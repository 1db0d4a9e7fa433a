// An adjustment changes the colour of pixels; one kind is one file pair, listed in registry.cpp.
//
// What it does is a list of operations of five sorts. Most change each pixel by itself, in encoded values or in linear
// light. One by coverage is told how much of the correction lies on each pixel and does its own mixing. A spatial one
// looks round each pixel. One that paints brings colours of its own, from elsewhere.
//
// Rules common to all of them, which a header repeats only where it departs from them:
//   - Pixels come in and go out as extended encoded sRGB (core/colour/types.h), any finite value. What an adjustment
//   does
//     is one operation after the other, each in the domain it is made for; neighbours in the same domain share the
//     conversion, whatever adjustment of the correction they belong to.
//   - Values of the parameters are in the order of `params`, tables in the order of `tables`, all within their ranges.
//   - With all settings at their neutral value nothing is called at all: output equals input, bit for bit.
//   - Mixing through the mask, strength and the switch are the renderer's.
//   - prepare() computes what is the same for all pixels; row() may be called from many threads at once.
#pragma once

#include <array>
#include <memory>
#include <span>
#include <string_view>
#include <variant>
#include <vector>

#include "core/adjust/scene.h"
#include "core/adjust/subject.h"
#include "core/base/content_key.h"
#include "core/base/param.h"
#include "core/colour/types.h"
#include "core/image/plane.h"
#include "core/kernel/convertible_row.h"

namespace dimhem::adjust {

// Change a row in place.
class EncodedOperation {
public:
    virtual ~EncodedOperation() = default;
    virtual void row(kernel::EncodedRow pixels, std::size_t count) const = 0;
};

class LinearOperation {
public:
    virtual ~LinearOperation() = default;
    virtual void row(kernel::LinearRow pixels, std::size_t count) const = 0;
};

// What it makes is not mixed through the mask again; what stands before it in the correction is mixed first.
class CoverageOperation {
public:
    virtual ~CoverageOperation() = default;
    // `weights`: coverage times strength, 0 (changes nothing) .. 1, or beyond where the correction is pushed.
    virtual void row(kernel::LinearRow pixels, const float* weights, std::size_t count) const = 0;
};

// What an operation that looks round a pixel sees beyond the photo: its edge goes on, the photo comes again, mirrored,
// or there is nothing, which stands as not a number.
enum class Beyond { edgeGoesOn, mirrored, nothing };

// Looks round each pixel by way of a model: a few planes made from the picture as it arrives at the operation, on a
// level of its own choosing, which the pixels of any level are then changed by. The larger what it looks at, the
// coarser the level: so it costs the same whatever the size, and a view and an export look at the same model.
class SpatialOperation {
public:
    virtual ~SpatialOperation() = default;
    // The level of the model for pixels of a level: that, a coarser one, or for very coarse views a finer one.
    virtual int modelLevel(int level) const = 0;
    // No finer level is worked on than this, whatever the settings say.
    virtual int leastModelLevel(base::Size /*photo*/) const { return 0; }
    // How far around a pixel the model is made from, in pixels of its level.
    virtual int reach(int modelLevel) const = 0;
    virtual std::size_t planes() const = 0;
    // What of the settings the model depends on: what only row() reads need not make it anew.
    virtual void addModelKey(base::KeyBuilder& key) const = 0;
    virtual Beyond beyondPhoto() const { return Beyond::edgeGoesOn; }
    // Whether the model on a level is made from the one on the next coarser level as well.
    virtual bool buildsOnCoarser(int /*modelLevel*/) const { return false; }
    // `around`: the area grown by the reach on every side; `coarser`: where it is built on it, the model of the next
    // coarser level's pixels that lie under it; `model`: planes() of the area's own size.
    virtual void makeModel(image::EncodedPlanes around, const Area& area, std::span<const image::Plane<float>> coarser,
                           std::span<image::Plane<float>> model) const = 0;
    // `model`: planes() rows of the same pixels.
    virtual void row(kernel::ConvertibleRow& pixels, std::span<const float* const> model) const = 0;
};

// Puts colours in the place of those that arrive, made from anywhere in the photo or from what was painted.
class PaintingOperation {
public:
    virtual ~PaintingOperation() = default;
    virtual Staged<image::EncodedPlanes> over(const Area& area, const Scene& scene) const = 0;
};

using Operation = std::variant<std::unique_ptr<const EncodedOperation>, std::unique_ptr<const LinearOperation>,
                               std::unique_ptr<const CoverageOperation>, std::unique_ptr<const SpatialOperation>,
                               std::unique_ptr<const PaintingOperation>>;
using Operations = std::vector<Operation>;

// One operation alone.
template <class T, class... Args>
Operations only(Args&&... args) {
    Operations out;
    out.emplace_back(std::make_unique<const T>(std::forward<Args>(args)...));
    return out;
}

bool isByCoverage(const Operation& operation);
bool isPainting(const Operation& operation);
// Whether it changes pixels by planes made beforehand: it is spatial, or it paints.
bool hasModel(const Operation& operation);

// The rows of the models of the operations that have one, in their order.
using ModelRows = std::vector<std::vector<const float*>>;

// One after the other over a row, which is left in the domain of the last: those by coverage as under full coverage.
// Those that want a model and find none are left out, as among pixels that are all alike.
void apply(std::span<const Operation> operations, kernel::ConvertibleRow& row, const ModelRows& models = {});
// Encoded again at the end.
void apply(std::span<const Operation> operations, kernel::EncodedRow pixels, std::size_t count,
           const ModelRows& models = {});

// A setting that is a list of rows of numbers: the points of a curve, the bands of hues.
struct TableSpec {
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
    std::span<const base::ParamSpec> columns;
    std::size_t leastRows = 0, mostRows = 0;
    std::span<const double> neutral;  // the rows it starts with, one after the other
    bool measured = false;            // filled by measuring (AdjustmentKind::measure), which leaves a row at least
    bool ofThisPhoto = false;         // besides what is measured: places in the photo, or what was read there
    std::size_t leftOut = 0;          // so many columns, the last, may be left out in a document: they are neutral then
};
using Table = std::vector<double>;  // row after row

struct Settings {
    Settings() = default;
    Settings(std::vector<double> v, std::vector<Table> t = {}) : values(std::move(v)), tables(std::move(t)) {}
    std::vector<double> values;
    std::vector<Table> tables;
    friend bool operator==(const Settings&, const Settings&) = default;
};

// How the colours of a place, or under a mask, lie in CIELAB.
struct ColourSpread {
    std::array<double, 3> mean{}, spread{};  // of L*, a*, b*
};

struct AdjustmentKind {
    std::string_view id;        // as written in documents
    std::string_view label;     // as shown
    std::string_view category;  // the kind of fault it is listed under: "tone", "colour cast"
    std::string_view tip;
    std::span<const base::ParamSpec> params = {};
    Operations (*prepare)(const Settings& settings);
    std::span<const TableSpec> tables = {};
    // What rows within the ranges of their columns must be besides, where there is such a thing: null where they are
    // so, else what is wanted ("points in rising order").
    const char* (*invalidReason)(const Settings& settings) = nullptr;
    // Whether the settings, though not the neutral ones, change no pixel. Null: only the neutral ones do not.
    bool (*isIdentity)(const Settings& settings) = nullptr;
    // For looking at what one row of a table touches: settings under which that row alone acts, glaringly. Null: there
    // is no such look.
    Settings (*glaring)(const Settings& settings, std::size_t row) = nullptr;
    // Measures what it has to know of the photo, once: what it finds is kept in the settings, in the tables that are
    // `measured`, so that it acts alike at any size. Null: it need not know anything.
    Settings (*measure)(Settings settings, const Subject& subject) = nullptr;
    // Settings that turn a colour that arrives neutral, but for `leave` (0..1) of its cast. Null: it is no balance.
    Settings (*neutralising)(const colour::LinearRgb& colour, double leave) = nullptr;
    // Settings that give the colours under the mask, `own`, those of a rectangle of the photo (x0 y0 x1 y1), `there`.
    // Null: it matches nothing.
    Settings (*matching)(Settings settings, const std::array<double, 4>& place, const ColourSpread& own,
                         const ColourSpread& there) = nullptr;
    // Settings that show at a glance what it does, for a small picture of it. Null: those it begins with.
    Settings (*sample)() = nullptr;
    // What the settings come to, in a word or two after the name of a place: "darker". Null: as the label says.
    std::string_view (*sense)(const Settings& settings) = nullptr;
    // Settings that do the opposite, as far as they can: darker where these make lighter. Null: it has none.
    Settings (*opposite)(Settings settings) = nullptr;
    // The values it begins with where it is added, as far as those are not the neutral ones: of a kind that is wanted
    // in full as soon as it is there. Empty: the neutral ones.
    std::span<const double> startValues = {};
    // Whether what it makes lies between the values of an 8-bit picture, and must not be rounded to them: where pixels
    // changed, exports of that depth and the view are dithered (kernel/dither_rows.h).
    bool needsDither = false;
    // Whether it brings colours of its own (PaintingOperation).
    bool paints = false;
    // What it does to the noise and the haze of a picture, for those who measure an outcome: lays grain down, which is
    // meant; brings out whatever is fine, noise too; takes haze off, or lays it on.
    bool laysGrain = false, bringsOutDetail = false, changesHaze = false;
};

// The settings without what belongs to the photo they were made on, for another one.
Settings forAnotherPhoto(const AdjustmentKind& kind, Settings settings);

std::vector<double> neutralValues(const AdjustmentKind& kind);
Settings neutralSettings(const AdjustmentKind& kind);
Settings startingSettings(const AdjustmentKind& kind);
Settings sampleSettings(const AdjustmentKind& kind);
// The neutral settings but for these values, by place.
Settings neutralWith(const AdjustmentKind& kind, std::initializer_list<std::pair<std::size_t, double>> values);

// The settings with these parameters mirrored about their neutral values (base::mirrored): AdjustmentKind::opposite.
Settings withMirrored(Settings settings, std::span<const base::ParamSpec> params, std::span<const std::size_t> which);
// All of them but toggles.
Settings withAllMirrored(Settings settings, std::span<const base::ParamSpec> params);

// Whether the adjustment does nothing: every number and table at its neutral value, or isIdentity says so. Toggles
// alone change no pixel.
bool isNeutral(const AdjustmentKind& kind, const Settings& settings);

// Whether it has yet to measure the photo.
bool lacksMeasuring(const AdjustmentKind& kind, const Settings& settings);

// Whether every number is finite and within its range, every table of a size and content that a document may hold.
bool isValid(const AdjustmentKind& kind, const Settings& settings);

inline std::size_t rowsOf(const TableSpec& spec, const Table& table) {
    return table.size() / spec.columns.size();
}

}  // namespace dimhem::adjust
