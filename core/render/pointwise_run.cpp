#include "core/render/pointwise_run.h"

#include <algorithm>

#include "core/kernel/convertible_row.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/mix_rows.h"

namespace dimhem::render {

namespace {

// Rows from y on that lie without gaps, as one.
kernel::ConvertibleRow rowsOf(StagePicture& picture, int y, int rows) {
    const kernel::EncodedRow row = kernel::rowOf(picture.planes, y);
    const auto count = static_cast<std::size_t>(picture.planes.size().width) * static_cast<std::size_t>(rows);
    if (picture.isLinear) return {kernel::LinearRow{row.red, row.green, row.blue}, count};
    return {row, count};
}

// Whether rows of the coverage can be taken together: there is one value, or one row begins where the one before ends.
bool isGapless(const mask::Coverage& coverage, base::Size size) {
    return coverage.isConstant() || size.height == 1 || coverage.row(1) - coverage.row(0) == size.width;
}

// How many rows are worked on together: in short ones it counts what each begins with, so several go as one that still
// fits in the processor's first cache.
int rowsAtOnce(std::span<const Acting> steps, const image::EncodedPlanes& planes) {
    constexpr int mostPixels = 1024;
    const bool canJoin = planes.red.isGapless() && std::all_of(steps.begin(), steps.end(), [&](const Acting& a) {
                             return !a.own && isGapless(*a.coverage, planes.size());
                         });
    return canJoin ? std::max(1, mostPixels / planes.size().width) : 1;
}

// The pixels [first, last) of a row that the coverage is above zero on; empty where there are none.
struct Span {
    std::size_t first, last;
    std::size_t count() const { return last - first; }
};

Span coveredSpan(const mask::Coverage& coverage, int y, std::size_t width) {
    if (coverage.isConstant()) return coverage.isEmpty() ? Span{0, 0} : Span{0, width};
    const std::uint16_t* row = coverage.row(y);
    Span span{0, width};
    while (span.first < span.last && row[span.first] == 0) ++span.first;
    while (span.last > span.first && row[span.last - 1] == 0) --span.last;
    return span;
}

// The covered pixels of so many rows from y on that lie without gaps: all as one span where they cover most of the
// rows, else row by row. visit(y, x, span) with the span counted from row y on, and x the column it begins in.
template <class Visit>
void forEachSpan(const mask::Coverage& coverage, int y, int rows, std::size_t width, Visit visit) {
    std::size_t covered = 0;
    for (int row = 0; row < rows; ++row) covered += coveredSpan(coverage, y + row, width).count();
    const std::size_t all = width * static_cast<std::size_t>(rows);
    if (covered == 0) return;
    if (4 * covered >= 3 * all && rows > 1) return visit(y, 0, Span{0, all});
    for (int row = 0; row < rows; ++row) {
        const Span span = coveredSpan(coverage, y + row, width);
        const std::size_t before = width * static_cast<std::size_t>(row);
        if (span.count() > 0) visit(y + row, before, span);
    }
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
    const auto count = static_cast<std::size_t>(std::count_if(group.begin(), group.end(), adjust::hasModel));
    for (std::size_t i = firstModel; i < firstModel + count; ++i) {
        rows.emplace_back();
        for (const image::Plane<float>& plane : acting.models[i]->planes)
            rows.back().push_back(plane.row(y).data() + x);
    }
    return rows;
}

// Rows of the picture that are worked on together, from y on.
struct Rows {
    int y, count;
    std::size_t width;
};

// Memory for some rows, of which one thread has one.
class Runner {
public:
    explicit Runner(int pixels)
        : scratch_({pixels, 1}), before_({pixels, 1}), weights_(static_cast<std::size_t>(pixels)), clean_(pixels) {}

    void apply(const Acting& acting, const Rows& rows, kernel::ConvertibleRow& pixels) {
        Operations operations = acting.operations;
        std::size_t models = 0;
        if (operations.empty()) applyGroup(acting, {}, 0, rows, pixels);  // blended with itself it acts
        while (!operations.empty()) {
            const auto parting = std::find_if(operations.begin(), operations.end(), adjust::isByCoverage);
            const Operations group = operations.first(static_cast<std::size_t>(parting - operations.begin()));
            if (!group.empty()) applyGroup(acting, group, models, rows, pixels);
            models += static_cast<std::size_t>(std::count_if(group.begin(), group.end(), adjust::hasModel));
            operations = operations.subspan(group.size());
            if (operations.empty()) return;
            applyByCoverage(operations.front(), acting, rows, pixels);
            operations = operations.subspan(1);
        }
    }

private:
    void applyGroup(const Acting& acting, Operations group, std::size_t models, const Rows& rows,
                    kernel::ConvertibleRow& pixels) {
        if (acting.replaces) return adjust::apply(group, pixels, modelRows(acting, models, group, rows.y, 0));
        const kernel::EncodedRow encoded = pixels.encoded();
        if (acting.own) copy(encoded, kernel::rowOf(before_, 0), pixels.count());
        forEachSpan(*acting.coverage, rows.y, rows.count, rows.width, [&](int y, std::size_t before, const Span& span) {
            mix(acting, group, modelRows(acting, models, group, y, span.first), y, span,
                encoded.from(before + span.first));
        });
        if (acting.own) {
            clean_.apply(*acting.step, group, modelRows(acting, models, group, rows.y, 0), *acting.own,
                         *acting.coverage, rows.y, kernel::rowOf(before_, 0), encoded,
                         static_cast<int>(pixels.count()));
        }
    }

    // The operations on a copy of a span of pixels, mixed back through the mask.
    void mix(const Acting& acting, Operations group, const adjust::ModelRows& model, int y, const Span& span,
             kernel::EncodedRow below) {
        const Sequence::Step& step = *acting.step;
        const mask::Coverage& coverage = *acting.coverage;
        const kernel::EncodedRow corrected = kernel::rowOf(scratch_, 0);
        copy(below, corrected, span.count());
        adjust::apply(group, corrected, span.count(), model);
        kernel::blendRow(step.correction->blend, below, corrected, span.count());
        const float constant =
            coverage.isConstant() ? static_cast<float>(coverage.value()) / kernel::fullCoverage : 1.0f;
        const std::uint16_t* weights = coverage.isConstant() ? nullptr : coverage.row(y) + span.first;
        const kernel::MixingLaw law = step.correction->mixing;
        if (law == kernel::MixingLaw::even) {
            kernel::mixRow(below, corrected, weights, step.strength * constant, span.count());
        } else {
            kernel::mixRowInLight(law, below, corrected, weights, step.strength * constant, span.count());
        }
    }

    void applyByCoverage(const adjust::Operation& operation, const Acting& acting, const Rows& rows,
                         kernel::ConvertibleRow& pixels) {
        const auto& by = *std::get<std::unique_ptr<const adjust::CoverageOperation>>(operation);
        if (acting.replaces) {
            std::fill_n(weights_.begin(), pixels.count(), 1.0f);
            return by.row(pixels.linear(), weights_.data(), pixels.count());
        }
        const kernel::EncodedRow encoded = pixels.encoded();
        forEachSpan(*acting.coverage, rows.y, rows.count, rows.width, [&](int y, std::size_t before, const Span& span) {
            weigh(acting, y, span);
            mixByCoverage(by, span.count(), encoded.from(before + span.first));
        });
    }

    void weigh(const Acting& acting, int y, const Span& span) {
        const mask::Coverage& coverage = *acting.coverage;
        const float scale = acting.step->strength / kernel::fullCoverage;
        for (std::size_t i = 0; i < span.count(); ++i) {
            const std::uint16_t c = coverage.isConstant() ? coverage.value() : coverage.row(y)[span.first + i];
            weights_[i] = static_cast<float>(c) * scale;
        }
    }

    // Taken over as it is wherever there is coverage; pixels without keep their bits.
    void mixByCoverage(const adjust::CoverageOperation& by, std::size_t count, kernel::EncodedRow below) {
        const kernel::EncodedRow corrected = kernel::rowOf(scratch_, 0);
        copy(below, corrected, count);
        by.row(kernel::decoded(corrected, count), weights_.data(), count);
        kernel::encoded({corrected.red, corrected.green, corrected.blue}, count);
        for (std::size_t i = 0; i < count; ++i) {
            if (weights_[i] == 0) continue;
            below.red[i] = corrected.red[i];
            below.green[i] = corrected.green[i];
            below.blue[i] = corrected.blue[i];
        }
    }

    image::EncodedPlanes scratch_, before_;
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

bool replaces(const Sequence::Step& step, const mask::Coverage& coverage) {
    return coverage.isConstant() && coverage.value() == kernel::fullCoverage && step.strength == 1 &&
           step.correction->blend == kernel::BlendMode::normal;
}

void run(std::span<const Acting> steps, StagePicture& picture) {
    if (steps.empty()) return;
    const base::Size size = picture.planes.size();
    const int atOnce = rowsAtOnce(steps, picture.planes);
    Runner runner(size.width * atOnce);
    bool isLinear = picture.isLinear;
    for (int y = 0; y < size.height; y += atOnce) {
        const Rows rows{y, std::min(atOnce, size.height - y), static_cast<std::size_t>(size.width)};
        kernel::ConvertibleRow pixels = rowsOf(picture, y, rows.count);
        for (const Acting& acting : steps) runner.apply(acting, rows, pixels);
        isLinear = pixels.isLinear();
    }
    picture.isLinear = isLinear;
}

void runInside(const Acting& acting, image::EncodedPlanes& picture) {
    const bool isMixed = adjust::isByCoverage(acting.operations.back());
    const base::Size size = picture.size();
    Runner runner(size.width);
    for (int y = 0; y < size.height; ++y) {
        kernel::ConvertibleRow row(kernel::rowOf(picture, y), static_cast<std::size_t>(size.width));
        if (isMixed) {
            runner.apply(acting, {y, 1, row.count()}, row);
        } else {
            adjust::apply(acting.operations, row, modelRows(acting, 0, acting.operations, y, 0));
        }
        row.encoded();
    }
}

}  // namespace dimhem::render
