#include "core/render/clean_edge.h"

#include <algorithm>

#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/kernel/srgb_rows.h"
#include "core/stage/placed.h"

namespace dimhem::render {

namespace {

constexpr int blockPx = 256;

bool hasPartial(const image::Plane<float>& coverage) {
    for (int y = 0; y < coverage.size().height; ++y) {
        for (const float v : coverage.row(y)) {
            if (v > 0 && v < 1) return true;
        }
    }
    return false;
}

// Of a block, from what lies as far about it as unmixing reaches.
constexpr auto estimated = [](const mask::Coverage& coverage, const stage::Reading<image::EncodedPlanes>& picture,
                              const mask::Area& block) {
    constexpr int reach = edge::unmixReach;
    OwnColours out;
    if (coverage.isConstant()) return out;
    const base::Rect own{reach, reach, reach + block.rect.width(), reach + block.rect.height()};
    const image::Plane<float> values = mask::floatsOf(coverage, base::grown(block.rect, reach).size());
    if (!hasPartial(values)) return out;
    const edge::Unmixed found = edge::unmix(kernel::decoded(picture.value()), values);
    image::LinearPlanes colours;
    colours.red = image::cropped(found.own.red, own);
    colours.green = image::cropped(found.own.green, own);
    colours.blue = image::cropped(found.own.blue, own);
    out.own = kernel::encoded(std::move(colours));
    out.trust = image::cropped(found.trust, own);
    return out;
};

using Block = stage::Placed<OwnColours>;

constexpr auto gatheredColours = [](const std::vector<Block>& blocks, const base::Rect& rect) {
    OwnColours out{image::EncodedPlanes(rect.size()), image::filled(rect.size(), 0.0f)};
    for (const Block& block : blocks) {
        const auto found = block.stage.value();
        if (found->trust.size().empty()) continue;
        image::copyShared(found->own, block.rect, out.own, rect);
        image::copyShared(found->trust, block.rect, out.trust, rect);
    }
    return out;
};

}  // namespace

stage::Staged<OwnColours> ownColours(const mask::Mask& mask, const mask::Area& area, mask::Context& context) {
    std::vector<Block> blocks;
    image::TileGrid(image::levelSize(context.photoSize(), area.level), blockPx)
        .forEach(area.rect, [&](const base::Rect& rect) {
            const mask::Area block{rect, area.level}, wide = image::grown(block, edge::unmixReach);
            blocks.push_back(
                {rect, stage::kept(context, stage::staged<OwnColours>(
                                                "own colours", estimated, mask::over(mask, wide, context),
                                                stage::later(context.picture(mask::Seen::arriving, wide)), block))});
        });
    return stage::staged<OwnColours>("own colours over an area", gatheredColours, std::move(blocks), area.rect);
}

CleanEdgeRow::CleanEdgeRow(int width) : own_({width, 1}), changed_({width, 1}), was_({width, 1}) {
    places_.reserve(static_cast<std::size_t>(width));
}

// The models at the places alone.
adjust::ModelRows CleanEdgeRow::gathered(const adjust::ModelRows& models) {
    adjust::ModelRows out;
    model_.clear();
    for (const auto& model : models) {
        for (const float* row : model) {
            std::vector<float>& there = model_.emplace_back();
            for (const int place : places_) there.push_back(row[place]);
        }
    }
    auto next = model_.begin();
    for (const auto& model : models) {
        out.emplace_back();
        for (std::size_t i = 0; i < model.size(); ++i) out.back().push_back((next++)->data());
    }
    return out;
}

void CleanEdgeRow::apply(const Sequence::Step& step, std::span<const adjust::Operation> operations,
                         const adjust::ModelRows& models, const OwnColours& own, const mask::Coverage& coverage, int y,
                         kernel::ConstEncodedRow before, kernel::EncodedRow row, int count) {
    const auto coverageAt = [&](int i) { return coverage.isConstant() ? coverage.value() : coverage.row(y)[i]; };
    places_.clear();
    for (int i = 0; i < count; ++i) {
        const std::uint16_t c = coverageAt(i);
        if (c > 0 && c < kernel::fullCoverage && own.trust.row(y)[i] > 0) places_.push_back(i);
    }
    if (places_.empty()) return;
    const std::size_t n = places_.size();
    const image::Plane<float>* from[3] = {&own.own.red, &own.own.green, &own.own.blue};
    image::Plane<float>* to[3] = {&own_.red, &own_.green, &own_.blue};
    image::Plane<float>* changed[3] = {&changed_.red, &changed_.green, &changed_.blue};
    image::Plane<float>* was[3] = {&was_.red, &was_.green, &was_.blue};
    const float* arriving[3] = {before.red, before.green, before.blue};
    float* out[3] = {row.red, row.green, row.blue};
    for (int c = 0; c < 3; ++c) {
        for (std::size_t i = 0; i < n; ++i) {
            to[c]->row(0)[i] = from[c]->row(y)[static_cast<std::size_t>(places_[i])];
            was[c]->row(0)[i] = arriving[c][places_[i]];
        }
        std::copy_n(to[c]->row(0).data(), n, changed[c]->row(0).data());
    }
    const kernel::EncodedRow changedRow{changed_.red.row(0).data(), changed_.green.row(0).data(),
                                        changed_.blue.row(0).data()};
    adjust::apply(operations, changedRow, n, gathered(models));
    kernel::blendRow(step.correction->blend,
                     {own_.red.row(0).data(), own_.green.row(0).data(), own_.blue.row(0).data()}, changedRow, n);
    for (int c = 0; c < 3; ++c) {
        float* g = changed[c]->row(0).data();
        float* f = to[c]->row(0).data();
        float* p = was[c]->row(0).data();
        for (std::size_t i = 0; i < n; ++i) g[i] = f[i] + (g[i] - f[i]) * step.strength;
        kernel::decodeRow(g, n);
        kernel::decodeRow(f, n);
        kernel::decodeRow(p, n);
        for (std::size_t i = 0; i < n; ++i) {
            const float a = static_cast<float>(coverageAt(places_[i])) / kernel::fullCoverage;
            p[i] = std::max(p[i] + a * (g[i] - f[i]), std::min(p[i], 0.0f));
        }
        kernel::encodeRow(p, n);
        for (std::size_t i = 0; i < n; ++i) {
            float& plain = out[c][places_[i]];
            plain += (p[i] - plain) * own.trust.row(y)[static_cast<std::size_t>(places_[i])];
        }
    }
}

}  // namespace dimhem::render
