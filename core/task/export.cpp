#include "core/task/export.h"

#include <algorithm>
#include <cstring>

#include "core/image/tiles.h"
#include "core/io/metadata.h"
#include "core/io/png.h"
#include "core/io/registry.h"
#include "core/task/sample_rows.h"

namespace dimhem::task {

using base::ErrorCode;
using base::Result;
using image::SampleType;

namespace {

constexpr std::size_t exportCacheBytes = std::size_t{96} << 20;

Result<const io::Format*> formatFor(const std::filesystem::path& path, const io::Format* asked) {
    const io::Format* format = asked ? asked : io::formatByExtension(path.filename().string());
    if (format && format->write) return format;
    return base::fail(
        ErrorCode::unknownFormat, path,
        "\"" + path.filename().string() + "\" does not end in a format that can be written (.jpg, .png or .tif).");
}

SampleType typeFor(const io::Format& format, const image::Photo& photo, const std::optional<SampleType>& asked) {
    const SampleType wanted = asked.value_or(photo.samples.type());
    const auto depths = format.depths;
    return std::find(depths.begin(), depths.end(), wanted) != depths.end() ? wanted : depths.back();
}

// Renders bands of rows and packs them as samples of the output.
class BandRenderer {
public:
    BandRenderer(const render::Renderer& renderer, const render::Sequence& sequence, const SampleRows& packing,
                 bool overBackdrop, const base::Workers& workers, const base::CancelToken& cancel)
        : renderer_(renderer),
          sequence_(sequence),
          packing_(packing),
          overBackdrop_(overBackdrop),
          workers_(workers),
          cancel_(cancel) {}

    Result<void> operator()(int y0, int y1, std::byte* rows) const {
        const int width = renderer_.photo().size().width;
        const std::size_t rowBytes = packing_.pixelBytes() * static_cast<std::size_t>(width);
        const auto columns = static_cast<std::size_t>((width + image::defaultTilePx - 1) / image::defaultTilePx);
        const bool finished = base::parallelFor(columns, workers_, cancel_, [&](std::size_t column) {
            const int x0 = static_cast<int>(column) * image::defaultTilePx;
            const base::Rect rect{x0, y0, std::min(x0 + image::defaultTilePx, width), y1};
            image::RgbPlanes picture(rect.size());
            const bool touched = renderer_.picture(sequence_, {rect, 0}, picture) || overBackdrop_;
            if (overBackdrop_) renderer_.layOverBackdrop(sequence_.document(), {rect, 0}, picture, false);
            packing_.pack(renderer_.photo(), rect, picture, touched,
                          rows + packing_.pixelBytes() * static_cast<std::size_t>(x0), rowBytes);
        });
        if (!finished) return base::fail(ErrorCode::cancelled, "", "The export was stopped; no file was written.");
        return {};
    }

private:
    const render::Renderer& renderer_;
    const render::Sequence& sequence_;
    const SampleRows& packing_;
    bool overBackdrop_;
    const base::Workers& workers_;
    const base::CancelToken& cancel_;
};

Result<void> writePicture(const std::filesystem::path& path, const io::Format& format, const io::Picture& picture,
                          const image::Metadata& metadata) {
    auto file = io::PendingFile::create(path);
    if (!file) return tl::unexpected(file.error());
    if (auto written = format.write(*file, picture); !written) return written;
    if (auto closed = file->close(); !closed) return closed;
    const io::Bytes profile = format.embedsProfile ? io::Bytes() : io::Bytes(picture.profile);
    if (auto described = io::writeMetadata(*file, metadata, profile); !described) return described;
    return file->commit();
}

}  // namespace

Result<void> exportPicture(const document::DocumentPtr& document,
                           const std::shared_ptr<const render::PhotoSource>& photo, const std::filesystem::path& path,
                           const ExportSettings& settings, const base::CancelToken& cancel, const Progress& progress) {
    const auto format = formatFor(path, settings.format);
    if (!format) return tl::unexpected(format.error());
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>(exportCacheBytes));
    const render::Sequence sequence(document, {});
    const SampleType type = typeFor(**format, photo->photo(), settings.type);
    const bool overBackdrop =
        settings.overBackdrop && photo->photo().samples.hasAlpha() && document->backdrop.index() != 0;
    const auto* behind = std::get_if<document::BackdropPicture>(&document->backdrop);
    if (overBackdrop && behind && !behind->photo) {
        return base::fail(ErrorCode::notFound, behind->path,
                          "The picture of the backdrop cannot be read: choose another, or export without it.");
    }
    const bool corrected = overBackdrop || !sequence.steps().empty();
    const auto packing =
        SampleRows::make(photo->photo(), type, (*format)->alpha && !overBackdrop, corrected, overBackdrop);
    if (!packing) return tl::unexpected(packing.error());
    const BandRenderer band(renderer, sequence, *packing, overBackdrop, settings.workers, cancel);

    io::Picture picture;
    picture.size = photo->size();
    picture.channels = packing->channels();
    picture.type = type;
    picture.profile = packing->profile();
    picture.quality = settings.quality;
    picture.rows = [&](int y0, int y1, std::byte* rows) {
        if (progress) progress(static_cast<double>(y0) / picture.size.height);
        return band(y0, y1, rows);
    };
    auto written = writePicture(path, **format, picture, photo->photo().metadata);
    if (written && progress) progress(1);
    return written;
}

Result<void> exportMask(const document::DocumentPtr& document, document::Id correction,
                        const std::shared_ptr<const render::PhotoSource>& photo, const std::filesystem::path& path,
                        const base::Workers& workers) {
    const auto format = formatFor(path, nullptr);
    if (!format) return tl::unexpected(format.error());
    const auto depths = (*format)->depths;
    if (std::find(depths.begin(), depths.end(), SampleType::u16) == depths.end()) {
        return base::fail(ErrorCode::unsupported, path, "A mask is written as 16-bit PNG or TIFF.");
    }
    const render::Renderer renderer(photo, std::make_shared<render::TileCache>(exportCacheBytes));
    const render::Sequence sequence(document, {});
    const int width = photo->size().width;
    io::Picture picture;
    picture.size = photo->size();
    picture.channels = 1;
    picture.type = SampleType::u16;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> Result<void> {
        const auto columns = static_cast<std::size_t>((width + image::defaultTilePx - 1) / image::defaultTilePx);
        base::parallelFor(columns, workers, {}, [&](std::size_t column) {
            const int x0 = static_cast<int>(column) * image::defaultTilePx;
            const base::Rect rect{x0, y0, std::min(x0 + image::defaultTilePx, width), y1};
            const auto coverage = renderer.coverage(sequence, correction, {rect, 0})->copy(rect.size());
            for (int y = y0; y < y1; ++y) {
                std::byte* to = rows + (static_cast<std::size_t>(y - y0) * static_cast<std::size_t>(width) +
                                        static_cast<std::size_t>(x0)) *
                                           2;
                std::memcpy(to, coverage.row(y - y0).data(), static_cast<std::size_t>(rect.width()) * 2);
            }
        });
        return {};
    };
    return writePicture(path, **format, picture, {});
}

std::vector<std::uint8_t> thumbnailPng(const render::Renderer& renderer, const document::DocumentPtr& document,
                                       int longSidePx) {
    int level = 0;
    base::Size size = renderer.photo().size();
    while (std::max(size.width, size.height) > longSidePx && level + 1 < renderer.photo().levels()) {
        size = image::levelSize(renderer.photo().size(), ++level);
    }
    const render::Sequence sequence(document, {});
    const auto tile = renderer.display(sequence, {}, {base::rectOf(size), level});
    io::Picture picture;
    picture.size = size;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> Result<void> {
        for (int y = y0; y < y1; ++y) {
            for (const std::uint32_t pixel : tile->row(y)) {
                *rows++ = static_cast<std::byte>(pixel >> 16);
                *rows++ = static_cast<std::byte>(pixel >> 8);
                *rows++ = static_cast<std::byte>(pixel);
            }
        }
        return {};
    };
    return io::pngBytes(picture);
}

}  // namespace dimhem::task
