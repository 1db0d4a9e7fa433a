#include "core/mask/coverage.h"

#include <algorithm>

#include "core/kernel/coverage_rows.h"

namespace dimhem::mask {

namespace {

bool allEqual(const image::Plane<std::uint16_t>& plane, std::uint16_t value) {
    for (int y = 0; y < plane.size().height; ++y) {
        const auto row = plane.row(y);
        if (!std::all_of(row.begin(), row.end(), [value](std::uint16_t v) { return v == value; })) return false;
    }
    return true;
}

}  // namespace

Coverage::Coverage(image::Plane<std::uint16_t> plane) {
    const std::uint16_t first = plane.row(0)[0];
    if (allEqual(plane, first)) {
        constant_ = first;
    } else {
        plane_ = std::move(plane);
    }
}

image::Plane<std::uint16_t> Coverage::copy(base::Size size) const {
    image::Plane<std::uint16_t> out(size);
    for (int y = 0; y < size.height; ++y) {
        if (isConstant()) {
            std::fill_n(out.row(y).data(), size.width, value());
        } else {
            std::copy_n(row(y), size.width, out.row(y).data());
        }
    }
    return out;
}

image::Plane<float> floatsOf(const Coverage& coverage, base::Size size) {
    image::Plane<float> out(size);
    for (int y = 0; y < size.height; ++y) {
        float* row = out.row(y).data();
        for (int x = 0; x < size.width; ++x) {
            row[x] = static_cast<float>(coverage.isConstant() ? coverage.value() : coverage.row(y)[x]) /
                     kernel::fullCoverage;
        }
    }
    return out;
}

CoveragePtr coverageOf(const image::Plane<float>& values) {
    image::Plane<std::uint16_t> out(values.size());
    for (int y = 0; y < values.size().height; ++y) {
        std::transform(values.row(y).begin(), values.row(y).end(), out.row(y).begin(), [](float v) {
            return static_cast<std::uint16_t>(std::clamp(v, 0.0f, 1.0f) * kernel::fullCoverage + 0.5f);
        });
    }
    return std::make_shared<Coverage>(std::move(out));
}

base::KeyBuilder keyOf(const Area& area) {
    return base::KeyBuilder().add(area.level).add(area.rect.x0).add(area.rect.y0).add(area.rect.x1).add(area.rect.y1);
}

}  // namespace dimhem::mask
