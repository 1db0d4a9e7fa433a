#include "core/render/photo_source.h"

#include <algorithm>
#include <functional>

#include "core/base/long_work.h"
#include "core/image/tiles.h"
#include "core/kernel/half_rows.h"
#include "core/kernel/sample_rows.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::render {

namespace {

constexpr int coarsestPx = 1 << image::maxLevel;  // one block of the photo makes one pixel of the coarsest level

base::ContentKey keyOf(const image::Photo& photo) {
    base::KeyBuilder builder;
    const image::Samples& samples = photo.samples;
    builder.add(samples.size().width).add(samples.size().height).add(samples.channels()).add(samples.type());
    builder.add(photo.linear).add(base::keyOfBytes(photo.profile.data(), photo.profile.size()));
    return builder.add(base::keyOfBytes(samples.row(0), samples.bytes())).key();
}

base::Result<std::optional<colour::IccTransform>> transformFor(const image::Photo& photo) {
    const int channels = photo.samples.colourChannels();
    if (photo.profile.empty() || photo.linear) return std::nullopt;
    if (channels == 3 && colour::isSrgb(photo.profile)) return std::nullopt;
    auto transform = colour::IccTransform::toWorking(photo.profile, channels);
    if (!transform) return tl::unexpected(transform.error());
    return std::move(*transform);
}

// A plane of the next level: each pixel the mean of the up to four below it that exist.
image::Plane<float> halved(const image::Plane<float>& from) {
    const base::Size size = from.size();
    image::Plane<float> out({(size.width + 1) / 2, (size.height + 1) / 2});
    const int whole = size.width / 2;
    for (int y = 0; y < out.size().height; ++y) {
        const float* above = from.row(2 * y).data();
        const float* below =
            from.row(std::min(2 * y + 1, size.height - 1)).data();  // the last row stands for a missing one
        float* to = out.row(y).data();
        for (int x = 0; x < whole; ++x)
            to[x] = (above[2 * x] + above[2 * x + 1] + below[2 * x] + below[2 * x + 1]) * 0.25f;
        if (whole < out.size().width) to[whole] = (above[2 * whole] + below[2 * whole]) * 0.5f;
    }
    return out;
}

image::Plane<float> product(const image::Plane<float>& a, const image::Plane<float>& b) {
    image::Plane<float> out(a.size());
    for (int y = 0; y < a.size().height; ++y) {
        std::transform(a.row(y).begin(), a.row(y).end(), b.row(y).begin(), out.row(y).begin(), std::multiplies<>());
    }
    return out;
}

// With alpha, colours count by it: what is transparent has none to give. Plainly where all of it is transparent.
image::Plane<float> halvedByAlpha(const image::Plane<float>& from, const image::Plane<float>& alpha,
                                  const image::Plane<float>& halvedAlpha) {
    image::Plane<float> weighted = halved(product(from, alpha));
    const image::Plane<float> plain = halved(from);
    for (int y = 0; y < weighted.size().height; ++y) {
        for (std::size_t x = 0; x < weighted.row(y).size(); ++x) {
            const float weight = halvedAlpha.row(y)[x];
            weighted.row(y)[x] = weight > 0 ? weighted.row(y)[x] / weight : plain.row(y)[x];
        }
    }
    return weighted;
}

void keepPlane(const image::Plane<float>& block, image::Plane<std::uint16_t>& level, int x, int y, bool encode) {
    const auto width = static_cast<std::size_t>(block.size().width);
    std::vector<float> row(width);
    for (int by = 0; by < block.size().height; ++by) {
        std::copy_n(block.row(by).data(), width, row.begin());
        if (encode) kernel::encodeRow(row.data(), width);
        for (float& v : row) v = std::clamp(v, -60000.0f, 60000.0f);
        kernel::halfFromFloat(row.data(), level.row(y + by).data() + x, width);
    }
}

}  // namespace

base::Result<std::shared_ptr<const PhotoSource>> PhotoSource::make(std::shared_ptr<const image::Photo> photo,
                                                                   const base::Workers& workers,
                                                                   const base::CancelToken& cancel) {
    base::countLongWork();
    auto transform = transformFor(*photo);
    if (!transform) return tl::unexpected(transform.error());
    std::shared_ptr<PhotoSource> source(new PhotoSource);
    source->photo_ = std::move(photo);
    source->toWorking_ = std::move(*transform);
    const image::Samples& samples = source->photo_->samples;
    if (source->toWorking_ && samples.colourChannels() == 3 && samples.type() != image::SampleType::f32) {
        const std::size_t steps = samples.type() == image::SampleType::u8 ? 256 : 65536;
        source->byMatrix_ = colour::MatrixTransform::toWorking(*source->toWorking_, steps);
    }
    source->key_ = keyOf(*source->photo_);
    if (!source->buildLevels(workers, cancel))
        return base::fail(base::ErrorCode::cancelled, "", "Opening was stopped.");
    return source;
}

bool PhotoSource::buildLevels(const base::Workers& workers, const base::CancelToken& cancel) {
    for (int level = 1; level <= image::maxLevel; ++level) {
        const base::Size size = image::levelSize(this->size(), level);
        Level made{image::Plane<std::uint16_t>(size),
                   image::Plane<std::uint16_t>(size),
                   image::Plane<std::uint16_t>(size),
                   {}};
        if (photo_->samples.hasAlpha()) made.alpha = image::Plane<std::uint16_t>(size);
        coarse_.push_back(std::move(made));
    }
    const base::Size blocks = image::levelSize(size(), image::maxLevel);
    const auto count = static_cast<std::size_t>(blocks.width) * static_cast<std::size_t>(blocks.height);
    return base::parallelFor(count, workers, cancel, [&](std::size_t i) {
        buildBlock(static_cast<int>(i) % blocks.width, static_cast<int>(i) / blocks.width);
    });
}

void PhotoSource::buildBlock(int blockX, int blockY) {
    const base::Rect rect = base::intersected(
        {blockX * coarsestPx, blockY * coarsestPx, (blockX + 1) * coarsestPx, (blockY + 1) * coarsestPx},
        base::rectOf(size()));
    const bool hasAlpha = photo_->samples.hasAlpha();
    image::EncodedPlanes colour(rect.size());
    image::Plane<float> alpha = hasAlpha ? image::Plane<float>(rect.size()) : image::Plane<float>();
    readFull(rect, colour, hasAlpha ? &alpha : nullptr);
    for (image::Plane<float>* plane : {&colour.red, &colour.green, &colour.blue}) {
        for (int y = 0; y < rect.height(); ++y)
            kernel::decodeRow(plane->row(y).data(), static_cast<std::size_t>(rect.width()));
    }
    for (int level = 1; level <= image::maxLevel; ++level) {
        image::Plane<float> nextAlpha = hasAlpha ? halved(alpha) : image::Plane<float>();
        for (image::Plane<float>* plane : {&colour.red, &colour.green, &colour.blue}) {
            *plane = hasAlpha ? halvedByAlpha(*plane, alpha, nextAlpha) : halved(*plane);
        }
        alpha = std::move(nextAlpha);
        Level& to = coarse_[static_cast<std::size_t>(level - 1)];
        const int x = rect.x0 >> level, y = rect.y0 >> level;
        keepPlane(colour.red, to.red, x, y, true);
        keepPlane(colour.green, to.green, x, y, true);
        keepPlane(colour.blue, to.blue, x, y, true);
        if (hasAlpha) keepPlane(alpha, to.alpha, x, y, false);
    }
}

void PhotoSource::read(const base::Rect& rect, int level, image::EncodedPlanes& out, image::Plane<float>* alpha) const {
    if (level == 0) {
        readFull(rect, out, alpha);
    } else {
        readCoarse(coarse_[static_cast<std::size_t>(level - 1)], rect, out, alpha);
    }
}

namespace {

template <class Sample>
void lightRow(const Sample* from, std::size_t channels, const colour::MatrixTransform& by, float* const to[3],
              std::size_t width) {
    const float *r = by.curves()[0].data(), *g = by.curves()[1].data(), *b = by.curves()[2].data();
    for (std::size_t x = 0; x < width; ++x, from += channels) {
        to[0][x] = r[from[0]];
        to[1][x] = g[from[1]];
        to[2][x] = b[from[2]];
    }
    const std::array<float, 9> m = by.matrix();
    for (std::size_t x = 0; x < width; ++x) {
        const float red = to[0][x], green = to[1][x], blue = to[2][x];
        to[0][x] = m[0] * red + m[1] * green + m[2] * blue;
        to[1][x] = m[3] * red + m[4] * green + m[5] * blue;
        to[2][x] = m[6] * red + m[7] * green + m[8] * blue;
    }
}

}  // namespace

void PhotoSource::readByMatrix(int y, const base::Rect& rect, float* const to[3]) const {
    const image::Samples& samples = photo_->samples;
    const auto channels = static_cast<std::size_t>(samples.channels());
    const auto width = static_cast<std::size_t>(rect.width());
    const std::byte* from = samples.row(y) + samples.pixelBytes() * static_cast<std::size_t>(rect.x0);
    if (samples.type() == image::SampleType::u8) {
        lightRow(reinterpret_cast<const std::uint8_t*>(from), channels, *byMatrix_, to, width);
    } else {
        lightRow(reinterpret_cast<const std::uint16_t*>(from), channels, *byMatrix_, to, width);
    }
    for (int c = 0; c < 3; ++c) kernel::encodeRow(to[c], width);
}

// Rows of a tile lie far apart in the photo, where the processor does not expect them: it is told some rows ahead.
void PhotoSource::fetchAhead(int y, const base::Rect& rect) const {
    constexpr int rowsAhead = 6, lineBytes = 64;
    const image::Samples& samples = photo_->samples;
    if (y + rowsAhead >= rect.y1) return;
    const std::byte* row = samples.row(y + rowsAhead) + samples.pixelBytes() * static_cast<std::size_t>(rect.x0);
    const std::size_t bytes = samples.pixelBytes() * static_cast<std::size_t>(rect.width());
    for (std::size_t i = 0; i < bytes; i += lineBytes) __builtin_prefetch(row + i);
}

bool PhotoSource::readPlain(int y, const base::Rect& rect, float* const to[3]) const {
    const image::Samples& samples = photo_->samples;
    if (toWorking_ || photo_->linear || samples.colourChannels() != 3) return false;
    const auto channels = static_cast<std::size_t>(samples.channels());
    const auto width = static_cast<std::size_t>(rect.width());
    const std::byte* from = samples.row(y) + samples.pixelBytes() * static_cast<std::size_t>(rect.x0);
    switch (samples.type()) {
        case image::SampleType::u8:
            kernel::planesFromSamples(reinterpret_cast<const std::uint8_t*>(from), channels, to, width);
            return true;
        case image::SampleType::u16:
            kernel::planesFromSamples(reinterpret_cast<const std::uint16_t*>(from), channels, to, width);
            return true;
        case image::SampleType::f32: return false;
    }
    return false;
}

// Samples of a row, as floats, to encoded working colour.
void PhotoSource::colourRow(const std::vector<float>& raw, std::size_t width, float* const to[3],
                            std::vector<float>& colour, std::vector<float>& working) const {
    const auto channels = static_cast<std::size_t>(photo_->samples.channels());
    const auto colours = static_cast<std::size_t>(photo_->samples.colourChannels());
    const float* from = raw.data();
    std::size_t stride = channels, step = colours == 1 ? 0 : 1;
    if (toWorking_) {
        for (std::size_t x = 0; x < width; ++x)
            std::copy_n(raw.data() + x * channels, colours, colour.data() + x * colours);
        toWorking_->row(colour.data(), working.data(), width);
        from = working.data();
        stride = 3;
        step = 1;
    }
    for (std::size_t c = 0; c < 3; ++c) {
        for (std::size_t x = 0; x < width; ++x) to[c][x] = from[x * stride + c * step];
        if (toWorking_ || photo_->linear) kernel::encodeRow(to[c], width);
    }
}

void PhotoSource::readFull(const base::Rect& rect, image::EncodedPlanes& out, image::Plane<float>* alpha) const {
    const image::Samples& samples = photo_->samples;
    const auto channels = static_cast<std::size_t>(samples.channels());
    const auto colours = static_cast<std::size_t>(samples.colourChannels());
    const auto width = static_cast<std::size_t>(rect.width());
    std::vector<float> raw(width * channels), colour(width * colours), working(width * 3);
    for (int y = rect.y0; y < rect.y1; ++y) {
        float* to[3] = {out.red.row(y - rect.y0).data(), out.green.row(y - rect.y0).data(),
                        out.blue.row(y - rect.y0).data()};
        const bool wantsAlpha = alpha && samples.hasAlpha();
        fetchAhead(y, rect);
        const bool read = byMatrix_ ? (readByMatrix(y, rect, to), true) : readPlain(y, rect, to);
        if (read && !wantsAlpha) continue;
        samples.readRow(y, rect.x0, rect.x1, raw.data());
        if (!read) colourRow(raw, width, to, colour, working);
        if (wantsAlpha) {
            float* row = alpha->row(y - rect.y0).data();
            for (std::size_t x = 0; x < width; ++x) row[x] = raw[x * channels + channels - 1];
        }
    }
}
void PhotoSource::readCoarse(const Level& level, const base::Rect& rect, image::EncodedPlanes& out,
                             image::Plane<float>* alpha) const {
    const auto width = static_cast<std::size_t>(rect.width());
    for (int y = rect.y0; y < rect.y1; ++y) {
        const int to = y - rect.y0;
        kernel::floatFromHalf(level.red.row(y).data() + rect.x0, out.red.row(to).data(), width);
        kernel::floatFromHalf(level.green.row(y).data() + rect.x0, out.green.row(to).data(), width);
        kernel::floatFromHalf(level.blue.row(y).data() + rect.x0, out.blue.row(to).data(), width);
        if (alpha && photo_->samples.hasAlpha()) {
            kernel::floatFromHalf(level.alpha.row(y).data() + rect.x0, alpha->row(to).data(), width);
        }
    }
}

}  // namespace dimhem::render
