#include "core/task/export.h"

#include <algorithm>
#include <cstring>

#include "core/image/tiles.h"
#include "core/io/metadata.h"
#include "core/io/png.h"
#include "core/io/registry.h"
#include "core/kernel/dither_rows.h"
#include "core/task/kept_files.h"
#include "core/task/sample_rows.h"
#include "core/task/smaller_picture.h"

namespace dimhem::task {

using base::ErrorCode;
using base::Result;
using image::SampleType;

namespace {

// What an export keeps: for each correction that looks at what arrives at it or round its pixels, three rows of tiles
// as wide as the photo, since the next one looks beside it: the picture, its coverage and, for a clean edge, the
// subject's own colours.
std::size_t cacheBytesFor(const document::Document& document, base::Size photo) {
    constexpr std::size_t plain = std::size_t{96} << 20, most = std::size_t{4} << 30, rowsKept = 3 * 256,
                          pixelBytes = 40;
    const auto looks = [](const document::CorrectionPtr& c) {
        const bool looksAround = std::any_of(c->adjustments.begin(), c->adjustments.end(), [](const auto& use) {
            return std::ranges::any_of(use.kind->prepare(use.settings), adjust::hasModel);
        });
        return looksAround || c->cleanEdge ||
               std::any_of(c->mask.parts.begin(), c->mask.parts.end(),
                           [](const mask::PartPtr& part) { return mask::looksAtArriving(*part); });
    };
    const auto count =
        static_cast<std::size_t>(std::count_if(document.corrections.begin(), document.corrections.end(), looks));
    const auto rows = std::min(rowsKept, static_cast<std::size_t>(photo.height));
    return std::min(most, plain + count * rows * static_cast<std::size_t>(photo.width) * pixelBytes);
}

std::shared_ptr<render::TileCache> cacheFor(const Opened& opened, const document::Document& document) {
    std::size_t bytes = cacheBytesFor(document, opened.photo->size());
    if (opened.ceiling) bytes = std::min(bytes, opened.ceiling->bytes() / 2);
    return std::make_shared<render::TileCache>(bytes, opened.ceiling, opened.found);
}

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
                 bool overBackdrop, bool dithers, const base::Workers& workers, const base::CancelToken& cancel)
        : renderer_(renderer),
          sequence_(sequence),
          packing_(packing),
          overBackdrop_(overBackdrop),
          dithers_(dithers),
          workers_(workers),
          cancel_(cancel) {}

    Result<void> operator()(int y0, int y1, std::byte* rows) const {
        const std::size_t rowBytes = packing_.pixelBytes() * static_cast<std::size_t>(renderer_.photo().size().width);
        return eachTile(y0, y1, [&](const base::Rect& rect) {
            std::optional<image::EncodedPlanes> corrected = pictureOf({rect, 0});
            if (corrected && dithers_) renderer_.addDither(sequence_, {rect, 0}, *corrected);
            packing_.pack(renderer_.photo(), rect, corrected ? &*corrected : nullptr,
                          rows + packing_.pixelBytes() * static_cast<std::size_t>(rect.x0), rowBytes);
        });
    }

    // The same rows as they are worked with.
    Result<image::RgbaPlanes> planes(int y0, int y1) const {
        const base::Size size{renderer_.photo().size().width, y1 - y0};
        image::RgbaPlanes out;
        out.colours = image::EncodedPlanes(size);
        out.alpha = image::filled(size, 1.0f);
        const bool hasAlpha = renderer_.photo().photo().samples.hasAlpha() && !overBackdrop_;
        const auto done = eachTile(y0, y1, [&](const base::Rect& rect) {
            const std::optional<image::EncodedPlanes> corrected = pictureOf({rect, 0});
            image::EncodedPlanes photo;
            image::Plane<float> alpha;
            if (!corrected || hasAlpha) {
                photo = image::EncodedPlanes(rect.size());
                if (hasAlpha) alpha = image::Plane<float>(rect.size());
                renderer_.photo().read(rect, 0, photo, hasAlpha ? &alpha : nullptr);
            }
            const image::EncodedPlanes& picture = corrected ? *corrected : photo;
            const auto put = [&](const image::Plane<float>& from, image::Plane<float>& to) {
                for (int y = 0; y < rect.height(); ++y) std::ranges::copy(from.row(y), to.row(y).begin() + rect.x0);
            };
            put(picture.red, out.colours.red);
            put(picture.green, out.colours.green);
            put(picture.blue, out.colours.blue);
            if (hasAlpha) put(alpha, out.alpha);
        });
        if (!done) return tl::unexpected(done.error());
        return out;
    }

private:
    template <class Work>
    Result<void> eachTile(int y0, int y1, Work work) const {
        const int width = renderer_.photo().size().width;
        const auto columns = static_cast<std::size_t>((width + image::defaultTilePx - 1) / image::defaultTilePx);
        const bool finished = base::parallelFor(columns, workers_, cancel_, [&](std::size_t column) {
            const int x0 = static_cast<int>(column) * image::defaultTilePx;
            work(base::Rect{x0, y0, std::min(x0 + image::defaultTilePx, width), y1});
        });
        if (!finished) return base::fail(ErrorCode::cancelled, "", "The export was stopped; no file was written.");
        return {};
    }

    // None where it is the photo itself.
    std::optional<image::EncodedPlanes> pictureOf(const mask::Area& area) const {
        if (!overBackdrop_) return renderer_.changedPicture(sequence_, area);
        image::EncodedPlanes picture(area.rect.size());
        renderer_.picture(sequence_, area, picture);
        renderer_.layOverBackdrop(sequence_, area, picture, false);
        return picture;
    }

    const render::Renderer& renderer_;
    const render::Sequence& sequence_;
    const SampleRows& packing_;
    bool overBackdrop_, dithers_;
    const base::Workers& workers_;
    const base::CancelToken& cancel_;
};

// All of a picture that was averaged is new: none of it is left as it was.
void ditherAll(image::EncodedPlanes& picture, int y0) {
    const image::EncodedPlanes nothing = [&] {
        image::EncodedPlanes planes({picture.size().width, 1});
        for (image::Plane<float>* plane : {&planes.red, &planes.green, &planes.blue})
            std::ranges::fill(plane->row(0), -1.0f);
        return planes;
    }();
    for (int y = 0; y < picture.size().height; ++y)
        kernel::addDither(kernel::rowOf(picture, y), kernel::rowOf(nothing, 0),
                          static_cast<std::size_t>(picture.size().width), 0, y0 + y, kernel::eightBitStep);
}

Result<io::Notes> writePicture(const std::filesystem::path& path, const io::WriteRules& rules, const io::Format& format,
                               const io::Picture& picture) {
    auto file = io::PendingFile::create(path, rules);
    if (!file) return tl::unexpected(file.error());
    auto notes = format.write(*file, picture);
    if (!notes) return notes;
    if (auto done = file->commit(); !done) return tl::unexpected(done.error());
    return notes;
}

std::string joined(const std::vector<std::string>& lost, const io::Notes& notes) {
    std::string text;
    for (const auto* sentences : {&lost, &notes}) {
        for (const std::string& sentence : *sentences) text += (text.empty() ? "" : " ") + sentence;
    }
    return text;
}

}  // namespace

base::Size exportedSize(base::Size photo, const ExportSettings& settings) {
    return settings.longSidePx ? image::sizeWithin(photo, *settings.longSidePx) : photo;
}

Result<Exported> exportPicture(const Opened& opened, const document::DocumentPtr& document,
                               const std::filesystem::path& path, const ExportSettings& settings,
                               const base::CancelToken& cancel, const Progress& progress) {
    const auto& photo = opened.photo;
    const auto format = formatFor(path, settings.format);
    if (!format) return tl::unexpected(format.error());
    const io::WriteRules rules = exportRules(opened, *document, settings.replaceReadOnly);
    // Said before the work, not after it.
    if (const auto target = io::writableTarget(path, rules); !target) return tl::unexpected(target.error());
    const render::Renderer renderer(photo, cacheFor(opened, *document));
    const render::Sequence sequence(document, {}, cancel);
    const SampleType type = typeFor(**format, photo->photo(), settings.type);
    const bool overBackdrop =
        settings.overBackdrop && photo->photo().samples.hasAlpha() && document->backdrop.index() != 0;
    const auto* behind = std::get_if<document::BackdropPicture>(&document->backdrop);
    if (overBackdrop && behind && !behind->photo) {
        return base::fail(ErrorCode::notFound, behind->path,
                          "The picture of the backdrop cannot be read: choose another, or export without it.");
    }
    const base::Size size = exportedSize(photo->size(), settings);
    const bool smaller = size != photo->size();
    const bool corrected = overBackdrop || !sequence.steps().empty();
    const auto packing =
        SampleRows::make(photo->photo(), type, (*format)->alpha && !overBackdrop, corrected, overBackdrop);
    if (!packing) return tl::unexpected(packing.error());
    const BandRenderer band(renderer, sequence, *packing, overBackdrop, type == SampleType::u8, settings.workers,
                            cancel);
    SmallerPicture scaled(
        photo->size(), size, image::defaultTilePx, [&](int y0, int y1) { return band.planes(y0, y1); },
        settings.workers);

    io::Picture picture;
    picture.size = size;
    picture.channels = packing->channels();
    picture.type = type;
    picture.profile = packing->profile();
    picture.quality = settings.quality;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> Result<void> {
        if (progress) progress(static_cast<double>(y0) / picture.size.height);
        if (!smaller) return band(y0, y1, rows);
        auto planes = scaled.rows(y0, y1);
        if (!planes) return tl::unexpected(planes.error());
        if (type == SampleType::u8 && sequence.needsDither()) ditherAll(planes->colours, y0);
        packing->pack(*planes, rows, packing->pixelBytes() * static_cast<std::size_t>(size.width));
        return {};
    };
    picture.metadata = smaller ? io::withSize(photo->photo().metadata, size) : photo->photo().metadata;
    const auto notes = writePicture(path, rules, **format, picture);
    if (!notes) return tl::unexpected(notes.error());
    if (progress) progress(1);
    return Exported{joined(picture.metadata.lost, *notes)};
}

Result<void> exportMask(const Opened& opened, const document::DocumentPtr& document, document::Id correction,
                        const std::filesystem::path& path, const ExportSettings& settings,
                        const base::CancelToken& cancel) {
    const auto& photo = opened.photo;
    const base::Workers& workers = settings.workers;
    const auto format = formatFor(path, nullptr);
    if (!format) return tl::unexpected(format.error());
    const auto depths = (*format)->depths;
    if (std::find(depths.begin(), depths.end(), SampleType::u16) == depths.end()) {
        return base::fail(ErrorCode::unsupported, path, "A mask is written as 16-bit PNG or TIFF.");
    }
    const render::Renderer renderer(photo, cacheFor(opened, *document));
    const render::Sequence sequence(document, {}, cancel);
    const int width = photo->size().width;
    io::Picture picture;
    picture.size = photo->size();
    picture.channels = 1;
    picture.type = SampleType::u16;
    picture.rows = [&](int y0, int y1, std::byte* rows) -> Result<void> {
        const auto columns = static_cast<std::size_t>((width + image::defaultTilePx - 1) / image::defaultTilePx);
        const bool whole = base::parallelFor(columns, workers, cancel, [&](std::size_t column) {
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
        if (!whole) return base::fail(ErrorCode::cancelled, "", "The export was stopped; no file was written.");
        return {};
    };
    const auto written =
        writePicture(path, exportRules(opened, *document, settings.replaceReadOnly), **format, picture);
    if (!written) return tl::unexpected(written.error());
    return {};
}

std::vector<std::uint8_t> thumbnailPng(const render::Renderer& renderer, const document::DocumentPtr& document,
                                       int longSidePx, const base::CancelToken& cancel) {
    const base::Size photo = renderer.photo().size();
    const int last = renderer.photo().levels() - 1;
    const int level = image::finestLevel(
        [&](int l) {
            const base::Size side = image::levelSize(photo, l);
            return std::max(side.width, side.height) <= longSidePx;
        },
        last);
    const base::Size size = image::levelSize(photo, level);
    const render::Sequence sequence(document, {}, cancel);
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
