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

namespace {

class InStore final : public stage::Staged<Coverage>::Work {
public:
    InStore(CoverageStore& store, stage::Staged<Coverage> stage) : store_(store), stage_(std::move(stage)) {}

    base::ContentKey key() const override { return stage_.key(); }
    CoveragePtr value() const override {
        const base::ContentKey key = stage_.key();
        if (CoveragePtr known = store_.find(key)) return known;
        CoveragePtr made = stage_.value();
        store_.keep(key, made);
        return made;
    }

private:
    CoverageStore& store_;
    stage::Staged<Coverage> stage_;
};

}  // namespace

stage::Staged<Coverage> uniformCoverage(std::uint16_t value) {
    return stage::staged<Coverage>(
        "uniform", [](std::uint16_t value) { return Coverage(value); }, value);
}

stage::Staged<Coverage> inStore(CoverageStore& store, stage::Staged<Coverage> stage) {
    return stage::Staged<Coverage>(std::make_shared<const InStore>(store, std::move(stage)));
}

base::KeyBuilder keyOf(const Area& area) {
    base::KeyBuilder key;
    addTo(key, area);
    return key;
}

}  // namespace dimhem::mask

namespace dimhem::stage {

void Packing<mask::Coverage>::pack(const mask::Coverage& coverage, Packer& to) {
    to.add(coverage.isConstant());
    if (coverage.isConstant()) {
        to.add(coverage.value());
    } else {
        Packing<image::Plane<std::uint16_t>>::pack(coverage.plane(), to);
    }
}

std::optional<mask::Coverage> Packing<mask::Coverage>::unpack(Unpacker& from) {
    bool isConstant = false;
    if (!from.read(isConstant)) return std::nullopt;
    std::uint16_t value = 0;
    if (isConstant) return from.read(value) ? std::optional<mask::Coverage>(std::in_place, value) : std::nullopt;
    auto plane = Packing<image::Plane<std::uint16_t>>::unpack(from);
    return plane ? std::optional<mask::Coverage>(std::in_place, std::move(*plane)) : std::nullopt;
}

}  // namespace dimhem::stage
