// An adjustment changes the colour of pixels; one kind is one file pair, listed in registry.cpp.
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

#include <memory>
#include <span>
#include <string_view>
#include <variant>
#include <vector>

#include "core/base/param.h"
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

using Operation = std::variant<std::unique_ptr<const EncodedOperation>, std::unique_ptr<const LinearOperation>>;
using Operations = std::vector<Operation>;

// One operation alone.
template <class T, class... Args>
Operations only(Args&&... args) {
    Operations out;
    out.emplace_back(std::make_unique<const T>(std::forward<Args>(args)...));
    return out;
}

// One after the other over a row, which is left in the domain of the last.
void apply(const Operations& operations, kernel::ConvertibleRow& row);
// Encoded again at the end.
void apply(const Operations& operations, kernel::EncodedRow pixels, std::size_t count);

// A setting that is a list of rows of numbers: the points of a curve, the bands of hues.
struct TableSpec {
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view tip;
    std::span<const base::ParamSpec> columns;
    std::size_t leastRows = 0, mostRows = 0;
    std::span<const double> neutral;  // the rows it starts with, one after the other
};
using Table = std::vector<double>;  // row after row

struct Settings {
    Settings() = default;
    Settings(std::vector<double> v, std::vector<Table> t = {}) : values(std::move(v)), tables(std::move(t)) {}
    std::vector<double> values;
    std::vector<Table> tables;
    friend bool operator==(const Settings&, const Settings&) = default;
};

struct AdjustmentKind {
    std::string_view id;     // as written in documents
    std::string_view label;  // as shown
    std::string_view cures;  // the kind of fault it is listed under: "tone", "colour cast"
    std::string_view tip;
    std::span<const base::ParamSpec> params;
    Operations (*prepare)(const Settings& settings);
    std::span<const TableSpec> tables = {};
    // What rows within the ranges of their columns must be besides, where there is such a thing: null where they are
    // so, else what is wanted ("points in rising order").
    const char* (*wanted)(const Settings& settings) = nullptr;
    // Whether the settings, though not the neutral ones, change no pixel. Null: only the neutral ones do not.
    bool (*idle)(const Settings& settings) = nullptr;
    // For looking at what one row of a table touches: settings under which that row alone acts, glaringly. Null: there
    // is no such look.
    Settings (*glaring)(const Settings& settings, std::size_t row) = nullptr;
};

std::vector<double> neutralValues(const AdjustmentKind& kind);
Settings neutralSettings(const AdjustmentKind& kind);

// Whether the adjustment does nothing: every number and table at its neutral value, or idle. Toggles alone change no
// pixel.
bool isNeutral(const AdjustmentKind& kind, const Settings& settings);

// Whether every number is finite and within its range, every table of a size and content that a document may hold.
bool isValid(const AdjustmentKind& kind, const Settings& settings);

inline std::size_t rowsOf(const TableSpec& spec, const Table& table) {
    return table.size() / spec.columns.size();
}

}  // namespace dimhem::adjust
