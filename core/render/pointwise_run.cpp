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
    const bool alike = std::all_of(steps.begin(), steps.end(),
                                   [](const Acting& a) { return a.coverage->isConstant() && !a.own; });
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

// Memory for one row, of which one thread has one.
class Runner {
public:
    explicit Runner(int pixels) : scratch_({pixels, 1}), before_({pixels, 1}), clean_(pixels) {}

    void apply(const Acting& acting, int y, kernel::ConvertibleRow& row) {
        if (acting.step->replaces) return adjust::apply(acting.step->operations, row);
        const kernel::EncodedRow encoded = row.encoded();
        if (acting.own) copy(encoded, rowOf(before_, 0), row.count());
        mix(*acting.step, *acting.coverage, y, encoded, row.count());
        if (acting.own) {
            clean_.apply(*acting.step, *acting.own, *acting.coverage, y, rowOf(before_, 0), encoded,
                         static_cast<int>(row.count()));
        }
    }

private:
    // The operations on a copy of the covered span, mixed back through the mask.
    void mix(const Sequence::Step& step, const mask::Coverage& coverage, int y, kernel::EncodedRow row,
             std::size_t width) {
        const Span span = coveredSpan(coverage, y, width);
        if (span.first >= span.last) return;
        const std::size_t count = span.last - span.first;
        const kernel::EncodedRow below = row.from(span.first), corrected = rowOf(scratch_, 0);
        const float constant =
            coverage.isConstant() ? static_cast<float>(coverage.value()) / kernel::fullCoverage : 1.0f;
        const bool takesPlace = coverage.isConstant() && constant * step.strength == 1 &&
                                step.correction->blend == kernel::BlendMode::normal;
        if (takesPlace) return adjust::apply(step.operations, below, count);
        copy(below, corrected, count);
        adjust::apply(step.operations, corrected, count);
        kernel::blendRow(step.correction->blend, below, corrected, count);
        kernel::mixRow(below, corrected, coverage.isConstant() ? nullptr : coverage.row(y) + span.first,
                       step.strength * constant, count);
    }

    image::RgbPlanes scratch_, before_;
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

}  // namespace dimhem::render
