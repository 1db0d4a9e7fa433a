#include "core/render/pointwise_run.h"

#include <algorithm>

#include "core/kernel/convertible_row.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/mix_rows.h"

namespace dimhem::render {

namespace {

kernel::EncodedRow rowOf(image::RgbPlanes& planes, int y) {
    return {planes.red.row(y).data(), planes.green.row(y).data(), planes.blue.row(y).data()};
}

// Rows from y on that lie without gaps, as one.
kernel::ConvertibleRow rowsOf(StagePicture& picture, int y, int rows) {
    const kernel::EncodedRow row = rowOf(picture.planes, y);
    const auto count = static_cast<std::size_t>(picture.planes.size().width) * static_cast<std::size_t>(rows);
    if (picture.isLinear) return {kernel::LinearRow{row.red, row.green, row.blue}, count};
    return {row, count};
}

// How many rows are worked on together: in short ones it counts what each begins with, so where coverage is the same
// all over several go as one that still fits in the processor's first cache.
int rowsAtOnce(std::span<const Acting> steps, const image::RgbPlanes& planes) {
    constexpr int mostPixels = 1024;
    const bool alike =
        std::all_of(steps.begin(), steps.end(), [](const Acting& a) { return a.coverage->isConstant() && !a.own; });
    return alike && planes.red.isGapless() ? std::max(1, mostPixels / planes.size().width) : 1;
}

// The pixels [first, last) of a row that the coverage is above zero on; empty where there are none.
struct Span {
    std::size_t first, last;
};

Span coveredSpan(const mask::Coverage& coverage, int y, std::size_t width) {
    if (coverage.isConstant()) return coverage.isEmpty() ? Span{0, 0} : Span{0, width};
    const std::uint16_t* row = coverage.row(y);
    Span span{0, width};
    while (span.first < span.last && row[span.first] == 0) ++span.first;
    while (span.last > span.first && row[span.last - 1] == 0) --span.last;
    return span;
}

void copy(kernel::ConstEncodedRow from, kernel::EncodedRow to, std::size_t count) {
    std::copy_n(from.red, count, to.red);
    std::copy_n(from.green, count, to.green);
    std::copy_n(from.blue, count, to.blue);
}

using Operations = std::span<const adjust::Operation>;

// The rows, from x on, of the models of a group's spatial operations.
adjust::ModelRows modelRows(const Acting& acting, std::size_t firstModel, Operations group, int y, std::size_t x) {
    adjust::ModelRows rows;
    const auto count = static_cast<std::size_t>(std::count_if(group.begin(), group.end(), adjust::isSpatial));
    for (std::size_t i = firstModel; i < firstModel + count; ++i) {
        rows.emplace_back();
        for (const image::Plane<float>& plane : acting.models[i]) rows.back().push_back(plane.row(y).data() + x);
    }
    return rows;
}

// Memory for one row, of which one thread has one.
class Runner {
public:
    explicit Runner(int pixels)
        : scratch_({pixels, 1}), before_({pixels, 1}), weights_(static_cast<std::size_t>(pixels)), clean_(pixels) {}

    void apply(const Acting& acting, int y, kernel::ConvertibleRow& row) {
        applySome(acting, acting.step->operations, y, row);
    }

    // Of the operations of the step, these, which are its first.
    void applySome(const Acting& acting, Operations operations, int y, kernel::ConvertibleRow& row) {
        std::size_t models = 0;
        if (operations.empty()) applyGroup(acting, {}, 0, y, row);  // blended with itself it acts
        while (!operations.empty()) {
            const auto parting = std::find_if(operations.begin(), operations.end(), adjust::isByCoverage);
            const Operations group = operations.first(static_cast<std::size_t>(parting - operations.begin()));
            if (!group.empty()) applyGroup(acting, group, models, y, row);
            models += static_cast<std::size_t>(std::count_if(group.begin(), group.end(), adjust::isSpatial));
            operations = operations.subspan(group.size());
            if (operations.empty()) return;
            byCoverage(operations.front(), acting, y, row);
            operations = operations.subspan(1);
        }
    }

private:
    void applyGroup(const Acting& acting, Operations group, std::size_t models, int y, kernel::ConvertibleRow& row) {
        if (acting.step->replaces) return adjust::apply(group, row, modelRows(acting, models, group, y, 0));
        const kernel::EncodedRow encoded = row.encoded();
        if (acting.own) copy(encoded, rowOf(before_, 0), row.count());
        mix(acting, group, models, y, encoded, row.count());
        if (acting.own) {
            clean_.apply(*acting.step, group, modelRows(acting, models, group, y, 0), *acting.own, *acting.coverage, y,
                         rowOf(before_, 0), encoded, static_cast<int>(row.count()));
        }
    }

    // The operations on a copy of the covered span, mixed back through the mask.
    void mix(const Acting& acting, Operations group, std::size_t models, int y, kernel::EncodedRow row,
             std::size_t width) {
        const Sequence::Step& step = *acting.step;
        const mask::Coverage& coverage = *acting.coverage;
        const Span span = coveredSpan(coverage, y, width);
        if (span.first >= span.last) return;
        const std::size_t count = span.last - span.first;
        const adjust::ModelRows model = modelRows(acting, models, group, y, span.first);
        const kernel::EncodedRow below = row.from(span.first), corrected = rowOf(scratch_, 0);
        const float constant =
            coverage.isConstant() ? static_cast<float>(coverage.value()) / kernel::fullCoverage : 1.0f;
        const bool takesPlace = coverage.isConstant() && constant * step.strength == 1 &&
                                step.correction->blend == kernel::BlendMode::normal;
        if (takesPlace) return adjust::apply(group, below, count, model);
        copy(below, corrected, count);
        adjust::apply(group, corrected, count, model);
        kernel::blendRow(step.correction->blend, below, corrected, count);
        kernel::mixRow(below, corrected, coverage.isConstant() ? nullptr : coverage.row(y) + span.first,
                       step.strength * constant, count);
    }

    // Pixels of no coverage keep their bits: they are left out, and those between get a weight of none.
    void byCoverage(const adjust::Operation& operation, const Acting& acting, int y, kernel::ConvertibleRow& row) {
        const mask::Coverage& coverage = *acting.coverage;
        const auto& by = *std::get<std::unique_ptr<const adjust::CoverageOperation>>(operation);
        if (acting.step->replaces) {
            std::fill_n(weights_.begin(), row.count(), 1.0f);
            return by.row(row.linear(), weights_.data(), row.count());
        }
        const kernel::EncodedRow encoded = row.encoded();
        const Span span = coveredSpan(coverage, y, row.count());
        if (span.first >= span.last) return;
        const std::size_t count = span.last - span.first;
        const float scale = acting.step->strength / kernel::fullCoverage;
        for (std::size_t i = 0; i < count; ++i) {
            const std::uint16_t c = coverage.isConstant() ? coverage.value() : coverage.row(y)[span.first + i];
            weights_[i] = static_cast<float>(c) * scale;
        }
        const kernel::EncodedRow below = encoded.from(span.first), corrected = rowOf(scratch_, 0);
        copy(below, corrected, count);
        by.row(kernel::decoded(corrected, count), weights_.data(), count);
        kernel::encoded({corrected.red, corrected.green, corrected.blue}, count);
        // Taken over as it is wherever there is coverage.
        for (std::size_t i = 0; i < count; ++i) {
            if (weights_[i] == 0) continue;
            below.red[i] = corrected.red[i];
            below.green[i] = corrected.green[i];
            below.blue[i] = corrected.blue[i];
        }
    }

    image::RgbPlanes scratch_, before_;
    std::vector<float> weights_;
    CleanEdgeRow clean_;
};

}  // namespace

void StagePicture::copyFrom(const StagePicture& other) {
    const base::Rect all = base::rectOf(planes.size());
    image::copyShared(other.planes, all, planes, all);
    isLinear = other.isLinear;
}

void StagePicture::encode() {
    for (int y = 0; isLinear && y < planes.size().height; ++y) rowsOf(*this, y, 1).encoded();
    isLinear = false;
}

bool cleansEdge(const Sequence::Step& step, const mask::Coverage& coverage) {
    const bool partly = !coverage.isConstant() || coverage.value() < kernel::fullCoverage;
    return step.correction->cleanEdge && partly;
}

void run(std::span<const Acting> steps, StagePicture& picture) {
    if (steps.empty()) return;
    const base::Size size = picture.planes.size();
    const int atOnce = rowsAtOnce(steps, picture.planes);
    Runner runner(size.width * atOnce);
    bool isLinear = picture.isLinear;
    for (int y = 0; y < size.height; y += atOnce) {
        kernel::ConvertibleRow rows = rowsOf(picture, y, std::min(atOnce, size.height - y));
        for (const Acting& acting : steps) runner.apply(acting, y, rows);
        isLinear = rows.isLinear();
    }
    picture.isLinear = isLinear;
}

void runInside(const Acting& acting, std::size_t operations, image::RgbPlanes& picture) {
    const Operations all = Operations(acting.step->operations).first(operations);
    const auto last = std::find_if(all.rbegin(), all.rend(), adjust::isByCoverage);
    const Operations mixed = all.first(static_cast<std::size_t>(all.rend() - last)), group = all.subspan(mixed.size());
    const auto modelsBefore = static_cast<std::size_t>(std::count_if(mixed.begin(), mixed.end(), adjust::isSpatial));
    const base::Size size = picture.size();
    Runner runner(size.width);
    for (int y = 0; y < size.height; ++y) {
        kernel::ConvertibleRow row(rowOf(picture, y), static_cast<std::size_t>(size.width));
        if (!mixed.empty()) runner.applySome(acting, mixed, y, row);
        adjust::apply(group, row, modelRows(acting, modelsBefore, group, y, 0));
        row.encoded();
    }
}

}  // namespace dimhem::render
