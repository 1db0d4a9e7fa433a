#include "core/mask/combine.h"

#include <algorithm>

#include "core/kernel/coverage_rows.h"

namespace dimhem::mask {

namespace {

std::uint16_t valueOf(std::uint16_t mask, std::uint16_t part, Combine combine) {
    switch (combine) {
        case Combine::add: return kernel::coverageAdd(mask, part);
        case Combine::subtract: return kernel::coverageSubtract(mask, part);
        case Combine::overlap: return kernel::coverageProduct(mask, part);
    }
    return mask;
}

// Such a part leaves any mask as it is.
bool changesNothing(const Coverage& part, Combine how) {
    if (how == Combine::overlap) return part.isConstant() && part.value() == kernel::fullCoverage;
    return part.isEmpty();
}

}  // namespace

CoveragePtr constantCoverage(std::uint16_t value) {
    static const CoveragePtr none = std::make_shared<Coverage>(std::uint16_t{0}),
                             full = std::make_shared<Coverage>(kernel::fullCoverage);
    if (value == 0) return none;
    return value == kernel::fullCoverage ? full : std::make_shared<Coverage>(value);
}

std::uint16_t opacityOf(const Part& part) {
    return static_cast<std::uint16_t>(part.opacityPct / 100 * kernel::fullCoverage + 0.5);
}

bool isSettled(const Coverage& mask, Combine how) {
    if (how == Combine::add) return mask.isConstant() && mask.value() == kernel::fullCoverage;
    return mask.isEmpty();
}

CoveragePtr combined(const CoveragePtr& mask, const CoveragePtr& part, Combine how, base::Size size) {
    if (isSettled(*mask, how) || changesNothing(*part, how)) return mask;
    if (mask->isConstant() && part->isConstant()) return constantCoverage(valueOf(mask->value(), part->value(), how));
    image::Plane<std::uint16_t> out = mask->copy(size);
    const image::Plane<std::uint16_t> other = part->isConstant() ? part->copy(size) : image::Plane<std::uint16_t>();
    const auto row = how == Combine::add        ? kernel::addRow
                     : how == Combine::subtract ? kernel::subtractRow
                                                : kernel::overlapRow;
    for (int y = 0; y < size.height; ++y) {
        row(out.row(y).data(), part->isConstant() ? other.row(y).data() : part->row(y),
            static_cast<std::size_t>(size.width));
    }
    return std::make_shared<Coverage>(std::move(out));
}

CoveragePtr prepared(const CoveragePtr& coverage, bool flipped, std::uint16_t opacity, base::Size size) {
    if (!flipped && opacity == kernel::fullCoverage) return coverage;
    if (coverage->isConstant()) {
        std::uint16_t value = coverage->value();
        kernel::preparePartRow(&value, flipped, opacity, 1);
        return constantCoverage(value);
    }
    image::Plane<std::uint16_t> plane = coverage->copy(size);
    for (int y = 0; y < size.height; ++y) {
        kernel::preparePartRow(plane.row(y).data(), flipped, opacity, static_cast<std::size_t>(size.width));
    }
    return std::make_shared<Coverage>(std::move(plane));
}

CoveragePtr replaced(const CoveragePtr& before, const CoveragePtr& by, double share, base::Size size) {
    if (share == 1) return by;
    image::Plane<float> out = floatsOf(*before, size);
    const image::Plane<float> other = floatsOf(*by, size);
    const auto part = static_cast<float>(share);
    for (int y = 0; y < size.height; ++y) {
        std::transform(out.row(y).begin(), out.row(y).end(), other.row(y).begin(), out.row(y).begin(),
                       [=](float was, float is) { return was + part * (is - was); });
    }
    return coverageOf(out);
}

std::string_view idOf(Combine combine) {
    switch (combine) {
        case Combine::add: return "add";
        case Combine::subtract: return "subtract";
        case Combine::overlap: return "overlap";
    }
    return {};
}

std::optional<Combine> combineOf(std::string_view id) {
    for (const Combine combine : {Combine::add, Combine::subtract, Combine::overlap}) {
        if (idOf(combine) == id) return combine;
    }
    return std::nullopt;
}

}  // namespace dimhem::mask
