#include "core/io/tiff_reading.h"

#include <algorithm>
#include <atomic>
#include <cstring>
#include <memory>
#include <mutex>
#include <thread>

#include "core/base/parallel.h"
#include "core/image/repair.h"
#include "core/io/inks.h"
#include "core/io/tiff_layout.h"

namespace dimhem::io {

namespace {

using base::Result;
using image::SampleType;
using Colours = TiffLayout::Colours;

struct Input {
    Bytes bytes;
    std::size_t at = 0;
};

tmsize_t readInput(thandle_t handle, void* to, tmsize_t count) {
    auto& input = *static_cast<Input*>(handle);
    const std::size_t n =
        std::min(static_cast<std::size_t>(count), input.bytes.size() - std::min(input.at, input.bytes.size()));
    std::memcpy(to, input.bytes.data() + input.at, n);
    input.at += n;
    return static_cast<tmsize_t>(n);
}

toff_t seekInput(thandle_t handle, toff_t offset, int whence) {
    auto& input = *static_cast<Input*>(handle);
    const toff_t base = whence == SEEK_CUR ? input.at : whence == SEEK_END ? input.bytes.size() : 0;
    input.at = static_cast<std::size_t>(std::min<toff_t>(base + offset, input.bytes.size()));
    return input.at;
}

tmsize_t writeNothing(thandle_t, void*, tmsize_t) {
    return 0;
}

int closeNothing(thandle_t) {
    return 0;
}

toff_t sizeOfInput(thandle_t handle) {
    return static_cast<Input*>(handle)->bytes.size();
}

// The bytes are there already: the library reads them where they lie, and never writes to them.
int mapInput(thandle_t handle, void** base, toff_t* size) {
    const auto& input = *static_cast<Input*>(handle);
    *base = const_cast<std::uint8_t*>(input.bytes.data());
    *size = input.bytes.size();
    return 1;
}

void unmapNothing(thandle_t, void*, toff_t) {}

// libtiff prints its complaints by default; ours come as sentences from the calls that fail.
int keepQuiet(TIFF*, void*, const char*, const char*, va_list) {
    return 1;
}

struct Close {
    void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};
using Handle = std::unique_ptr<TIFF, Close>;

Handle openTiff(Input& input) {
    const std::unique_ptr<TIFFOpenOptions, void (*)(TIFFOpenOptions*)> options(TIFFOpenOptionsAlloc(),
                                                                               TIFFOpenOptionsFree);
    TIFFOpenOptionsSetErrorHandlerExtR(options.get(), keepQuiet, nullptr);
    TIFFOpenOptionsSetWarningHandlerExtR(options.get(), keepQuiet, nullptr);
    TIFFOpenOptionsSetMaxSingleMemAlloc(options.get(), tmsize_t{2} << 30);
    return Handle(TIFFClientOpenExt("photo", "r", &input, readInput, writeNothing, seekInput, closeNothing, sizeOfInput,
                                    mapInput, unmapNothing, options.get()));
}

tl::unexpected<base::Error> cannotBeDecoded() {
    return damaged("TIFF", "ends too early or part of its picture cannot be decoded");
}

// Puts a row of unpacked samples, of all channels or of one plane, in its place among the stored ones.
class StoredRows {
public:
    StoredRows(const TiffLayout& layout, image::Samples& to) : layout_(layout), to_(to) {}

    void put(const std::byte* packed, int y, std::uint32_t x, std::uint32_t pixels, int plane) {
        const std::size_t sample = image::bytesOf(to_.type());
        std::byte* row = to_.row(y) + to_.pixelBytes() * x;
        if (!layout_.planar) {
            unpack(layout_.numbers, packed, std::size_t{pixels} * layout_.channels, row);
            return;
        }
        one_.resize(std::size_t{pixels} * sample);
        unpack(layout_.numbers, packed, pixels, one_.data());
        row += static_cast<std::size_t>(plane) * sample;
        for (std::size_t i = 0; i < pixels; ++i)
            std::memcpy(row + i * to_.pixelBytes(), one_.data() + i * sample, sample);
    }

private:
    const TiffLayout& layout_;
    image::Samples& to_;
    std::vector<std::byte> one_;
};

// The file, opened once for each thread that reads of it: a handle of the library serves one at a time.
class Handles {
public:
    Handles(Bytes bytes, TIFF* first) : bytes_(bytes), page_(TIFFCurrentDirOffset(first)) {}

    // What `read(TIFF*)` says; false where the file cannot be opened again.
    template <class Read>
    bool lend(Read read) {
        std::unique_ptr<Opened> opened = take();
        if (!opened->tiff) return false;
        const bool isRead = read(opened->tiff.get());
        const std::lock_guard lock(mutex_);
        free_.push_back(std::move(opened));
        return isRead;
    }

private:
    struct Opened {
        Input input;
        Handle tiff;
    };
    std::unique_ptr<Opened> take() {
        {
            const std::lock_guard lock(mutex_);
            if (!free_.empty()) {
                auto opened = std::move(free_.back());
                free_.pop_back();
                return opened;
            }
        }
        auto opened = std::make_unique<Opened>(Input{bytes_}, nullptr);
        opened->tiff = openTiff(opened->input);
        if (opened->tiff && !TIFFSetSubDirectory(opened->tiff.get(), page_)) opened->tiff.reset();
        return opened;
    }

    const Bytes bytes_;
    const toff_t page_;
    std::mutex mutex_;
    std::vector<std::unique_ptr<Opened>> free_;
};

// Rows from `y0` on of one plane, or of all channels.
struct Band {
    int plane;
    std::uint32_t y0, rows;
};

// Bands of at least so many rows that each can be decoded by itself, `step` rows being the fewest that can.
std::vector<Band> bandsOf(const TiffLayout& layout, std::uint32_t step) {
    constexpr std::uint32_t leastRows = 64;
    const std::uint64_t rows = std::uint64_t{step} * ((std::uint64_t{leastRows} + step - 1) / step);
    std::vector<Band> bands;
    for (int plane = 0; plane < (layout.planar ? layout.channels : 1); ++plane) {
        for (std::uint64_t y = 0; y < layout.height; y += rows) {
            const std::uint64_t left = layout.height - y;
            bands.push_back({plane, static_cast<std::uint32_t>(y), static_cast<std::uint32_t>(std::min(rows, left))});
        }
    }
    return bands;
}

// Over several threads: `read(TIFF*, band, goOn)`, which says whether it could; goOn(part of the band) whether to go
// on.
template <class Read>
Result<void> readBands(Handles& handles, const std::vector<Band>& bands, const Reading& reading, Read read) {
    std::atomic<std::size_t> done{0};
    std::atomic<bool> isStopped{false}, isDamaged{false};
    const std::thread::id asker = std::this_thread::get_id();  // is told how far it is, on its own thread
    const bool all = base::parallelFor(bands.size(), {}, reading.cancel, [&](std::size_t i) {
        const auto goOn = [&](double part) {
            const double all = (static_cast<double>(done) + part) / static_cast<double>(bands.size());
            const bool goes = std::this_thread::get_id() == asker ? reading.goOn(all) : !reading.cancel.cancelled();
            if (!goes) isStopped = true;
            return !isStopped && !isDamaged;
        };
        if (!goOn(0)) return;
        if (!handles.lend([&](TIFF* tiff) { return read(tiff, bands[i], goOn); }) && goOn(1)) isDamaged = true;
        ++done;
    });
    if (isDamaged) return cannotBeDecoded();
    if (!all || isStopped) return stopped();
    return {};
}

Result<void> readStrips(Handles& handles, TIFF* tiff, const TiffLayout& layout, image::Samples& stored,
                        const Reading& reading) {
    std::uint32_t rowsOfStrip = 0;
    TIFFGetFieldDefaulted(tiff, TIFFTAG_ROWSPERSTRIP, &rowsOfStrip);
    const auto bytes = static_cast<std::size_t>(TIFFScanlineSize(tiff));
    const auto bands = bandsOf(layout, std::clamp(rowsOfStrip, std::uint32_t{1}, layout.height));
    return readBands(handles, bands, reading, [&](TIFF* own, const Band& band, const auto& goOn) {
        StoredRows rows(layout, stored);
        const auto packed = std::make_unique_for_overwrite<std::byte[]>(bytes);
        for (std::uint32_t y = band.y0; y < band.y0 + band.rows; ++y) {
            if (TIFFReadScanline(own, packed.get(), y, static_cast<std::uint16_t>(band.plane)) < 0) return false;
            rows.put(packed.get(), static_cast<int>(y), 0, layout.width, band.plane);
            if (y % 32 == 31 && !goOn((y - band.y0) / static_cast<double>(band.rows))) return false;
        }
        return true;
    });
}

Result<void> readTiles(Handles& handles, TIFF* tiff, const TiffLayout& layout, image::Samples& stored,
                       const Reading& reading) {
    std::uint32_t width = 0, height = 0;
    TIFFGetField(tiff, TIFFTAG_TILEWIDTH, &width);
    TIFFGetField(tiff, TIFFTAG_TILELENGTH, &height);
    const tmsize_t bytes = TIFFTileSize(tiff), rowBytes = TIFFTileRowSize(tiff);
    if (width == 0 || height == 0 || bytes <= 0 || rowBytes <= 0 || bytes / rowBytes < static_cast<tmsize_t>(height))
        return damaged("TIFF", "has tiles of an impossible size");
    const auto tileAt = [&](TIFF* own, const Band& band, std::uint32_t x, std::uint32_t y, std::byte* packed) {
        const std::uint32_t tile = TIFFComputeTile(own, x, y, 0, static_cast<std::uint16_t>(band.plane));
        if (TIFFReadEncodedTile(own, tile, packed, bytes) < bytes) return false;
        StoredRows rows(layout, stored);
        for (std::uint32_t row = 0; row < height && row < layout.height - y; ++row) {
            rows.put(packed + static_cast<std::size_t>(rowBytes) * row, static_cast<int>(y + row), x,
                     std::min(width, layout.width - x), band.plane);
        }
        return true;
    };
    return readBands(handles, bandsOf(layout, height), reading, [&](TIFF* own, const Band& band, const auto& goOn) {
        const auto packed = std::make_unique_for_overwrite<std::byte[]>(static_cast<std::size_t>(bytes));
        for (std::uint64_t y = band.y0; y < std::uint64_t{band.y0} + band.rows; y += height) {
            for (std::uint64_t x = 0; x < layout.width; x += width) {
                if (!goOn(static_cast<double>(y - band.y0) / band.rows)) return false;
                if (!tileAt(own, band, static_cast<std::uint32_t>(x), static_cast<std::uint32_t>(y), packed.get()))
                    return false;
            }
        }
        return true;
    });
}

// One type's worth of the changes below.
template <class Number>
void pickRow(const TiffLayout& layout, const std::byte* from, std::byte* to, int width) {
    constexpr bool real = std::is_floating_point_v<Number>;
    constexpr Number full = real ? Number{1} : static_cast<Number>(~std::uint64_t{0});
    const auto* in = reinterpret_cast<const Number*>(from);
    auto* out = reinterpret_cast<Number*>(to);
    for (int x = 0; x < width; ++x, in += layout.channels) {
        for (int c = 0; c < layout.colourChannels(); ++c)
            *out++ = layout.inverted ? static_cast<Number>(full - in[c]) : in[c];
        if (layout.alpha >= 0) *out++ = in[layout.alpha];
    }
}

// Colours and alpha alone, white as the largest value.
image::Samples plainColours(const TiffLayout& layout, image::Samples stored) {
    const int channels = layout.colourChannels() + (layout.alpha >= 0 ? 1 : 0);
    if (channels == layout.channels && !layout.inverted) return stored;
    image::Samples out(stored.size(), channels, stored.type());
    for (int y = 0; y < stored.size().height; ++y) {
        switch (stored.type()) {
            case SampleType::u8: pickRow<std::uint8_t>(layout, stored.row(y), out.row(y), stored.size().width); break;
            case SampleType::u16: pickRow<std::uint16_t>(layout, stored.row(y), out.row(y), stored.size().width); break;
            case SampleType::f32: pickRow<float>(layout, stored.row(y), out.row(y), stored.size().width); break;
        }
    }
    return out;
}

// TIFF 6.0, ColorMap: 16 bits a colour; files that write 8 bits there have nothing above 255 (libtiff's own rule).
Result<image::Samples> lookedUp(TIFF* tiff, const TiffLayout& layout, const image::Samples& stored) {
    const std::uint16_t *red = nullptr, *green = nullptr, *blue = nullptr;
    if (!TIFFGetField(tiff, TIFFTAG_COLORMAP, &red, &green, &blue)) return damaged("TIFF", "lacks its palette");
    const int bits = layout.numbers.bits;
    const std::size_t count = std::size_t{1} << bits;
    const auto most = std::max({*std::max_element(red, red + count), *std::max_element(green, green + count),
                                *std::max_element(blue, blue + count)});
    const int scale = most < 256 ? 257 : 1;
    const bool alpha = layout.alpha >= 0;
    image::Samples out(stored.size(), alpha ? 4 : 3, SampleType::u16);
    // Indexes of fewer bits were scaled up to 8 or 16 when they were unpacked.
    const std::uint32_t stored8Or16 = stored.type() == SampleType::u8 ? 255 : 65535;
    const auto valueAt = [&](const std::byte* row, std::size_t i) -> std::uint32_t {
        if (stored.type() == SampleType::u8) return std::to_integer<std::uint32_t>(row[i]);
        return reinterpret_cast<const std::uint16_t*>(row)[i];
    };
    for (int y = 0; y < out.size().height; ++y) {
        auto* to = reinterpret_cast<std::uint16_t*>(out.row(y));
        for (std::size_t x = 0; x < static_cast<std::size_t>(out.size().width); ++x) {
            const std::uint64_t value = valueAt(stored.row(y), x * layout.channels);
            const auto index = static_cast<std::size_t>((value * (count - 1) + stored8Or16 / 2) / stored8Or16);
            for (const std::uint16_t* map : {red, green, blue}) *to++ = static_cast<std::uint16_t>(map[index] * scale);
            if (alpha) {
                const std::uint32_t a =
                    valueAt(stored.row(y), x * layout.channels + static_cast<unsigned>(layout.alpha));
                *to++ = static_cast<std::uint16_t>(a * (65535 / stored8Or16));
            }
        }
    }
    return out;
}

// A row of CIELAB, as TIFF 6.0 section 23 stores it (16 bits: L* to 65535, a* and b* times 256), or, from 0 up, as ICC
// profiles do (ICC.1:2010, 6.3.4: L* 100 at 255 and at 65280).
void labOf(const TiffLayout& layout, const image::Samples& stored, int y, float* lab) {
    const bool deep = stored.type() == SampleType::u16;
    const std::byte* row = stored.row(y);
    for (std::size_t x = 0; x < static_cast<std::size_t>(stored.size().width); ++x, lab += 3) {
        for (std::size_t c = 0; c < 3; ++c) {
            const std::size_t at = x * layout.channels + c;
            const std::uint32_t v =
                deep ? reinterpret_cast<const std::uint16_t*>(row)[at] : std::to_integer<std::uint32_t>(row[at]);
            const float unit = deep ? static_cast<float>(v) / 256 : static_cast<float>(v);
            if (c == 0) {
                const float full = !deep || layout.iccLab ? 255.0f : 65535.0f / 256;
                lab[c] = unit / full * 100;
            } else if (layout.iccLab) {
                lab[c] = unit - 128;
            } else {
                lab[c] = unit < 128 ? unit : unit - 256;
            }
        }
    }
}

image::Samples lightOfLab(const TiffLayout& layout, const image::Samples& stored) {
    const colour::IccTransform transform = colour::IccTransform::labToWorking();
    image::Samples out(stored.size(), 3, SampleType::f32);
    const auto width = static_cast<std::size_t>(out.size().width);
    std::vector<float> lab(width * 3);
    for (int y = 0; y < out.size().height; ++y) {
        labOf(layout, stored, y, lab.data());
        transform.row(lab.data(), reinterpret_cast<float*>(out.row(y)), width);
    }
    return out;
}

image::Samples lightOfInks(const TiffLayout& layout, const image::Samples& stored,
                           const std::vector<std::uint8_t>& profile, std::vector<std::string>& warnings) {
    const Inks light(profile, warnings);
    image::Samples out(stored.size(), 3, SampleType::f32);
    const auto width = static_cast<std::size_t>(out.size().width), channels = std::size_t{layout.channels};
    std::vector<float> row(width * channels), inks(width * 4);
    for (int y = 0; y < out.size().height; ++y) {
        stored.readRow(y, 0, out.size().width, row.data());
        for (std::size_t x = 0; x < width; ++x) std::copy_n(row.data() + x * channels, 4, inks.data() + 4 * x);
        light.row(inks.data(), reinterpret_cast<float*>(out.row(y)), width);
    }
    return out;
}

std::vector<std::uint8_t> profileOf(TIFF* tiff) {
    std::uint32_t length = 0;
    const void* profile = nullptr;
    if (!TIFFGetField(tiff, TIFFTAG_ICCPROFILE, &length, &profile) || !profile) return {};
    const auto* data = static_cast<const std::uint8_t*>(profile);
    return {data, data + length};
}

// Stored samples to those of a photo, by the kind of colours.
Result<void> fill(TIFF* tiff, const TiffLayout& layout, image::Samples stored, image::Photo& photo) {
    switch (layout.colours) {
        case Colours::palette: {
            auto colours = lookedUp(tiff, layout, stored);
            if (!colours) return tl::unexpected(colours.error());
            photo.samples = std::move(*colours);
            break;
        }
        case Colours::lab:
        case Colours::inks: {
            if (layout.alpha >= 0)
                photo.warnings.push_back("The TIFF file's alpha is not read, since its colours are not RGB.");
            photo.linear = true;
            photo.samples = layout.colours == Colours::lab ? lightOfLab(layout, stored)
                                                           : lightOfInks(layout, stored, photo.profile, photo.warnings);
            photo.profile.clear();
            break;
        }
        default: photo.samples = plainColours(layout, std::move(stored));
    }
    image::makeFinite(photo.samples);
    if (layout.alphaMultiplied) image::divideByAlpha(photo.samples);
    image::makeFinite(photo.samples);
    return {};
}

Result<void> readPlain(Bytes bytes, TIFF* tiff, const TiffLayout& layout, image::Photo& photo, const Reading& reading) {
    image::Samples stored(layout.size(), layout.channels, *layout.numbers.type());
    Handles handles(bytes, tiff);
    auto read = TIFFIsTiled(tiff) ? readTiles(handles, tiff, layout, stored, reading)
                                  : readStrips(handles, tiff, layout, stored, reading);
    return read ? fill(tiff, layout, std::move(stored), photo) : read;
}

// Luminance with chroma and the like, through libtiff's own conversion to 8-bit RGBA, a strip or tile at a time; its
// rows begin at the bottom.
Result<void> readConverted(TIFF* tiff, const TiffLayout& layout, std::size_t fileBytes, image::Photo& photo,
                           const Reading& reading) {
    char reason[1024] = {};
    std::uint16_t photometric = 0;
    TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &photometric);
    if (photometric != PHOTOMETRIC_YCBCR || layout.numbers.bits != 8 || !TIFFRGBAImageOK(tiff, reason))
        return unsupported("TIFF", "stores its colours in an uncommon way");
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);  // turning is not its affair
    const bool tiled = TIFFIsTiled(tiff) != 0;
    std::uint32_t width = layout.width, height = layout.height;
    if (tiled) {
        TIFFGetField(tiff, TIFFTAG_TILEWIDTH, &width);
        TIFFGetField(tiff, TIFFTAG_TILELENGTH, &height);
    } else {
        TIFFGetFieldDefaulted(tiff, TIFFTAG_ROWSPERSTRIP, &height);
        height = std::min(height, layout.height);
    }
    if (auto fits = checkSize("TIFF", width, height, 4, SampleType::u8, fileBytes, reading); !fits) return fits;
    const auto raster = std::make_unique_for_overwrite<std::uint32_t[]>(std::size_t{width} * height);
    photo.samples = image::Samples(layout.size(), 3, SampleType::u8);
    for (std::uint32_t y = 0; y < layout.height; y += height) {
        if (!reading.goOn(y / static_cast<double>(layout.height))) return stopped();
        for (std::uint32_t x = 0; x < layout.width; x += width) {
            const int ok = tiled ? TIFFReadRGBATileExt(tiff, x, y, raster.get(), 1)
                                 : TIFFReadRGBAStripExt(tiff, y, raster.get(), 1);
            if (!ok) return cannotBeDecoded();
            const std::uint32_t rows = std::min(height, layout.height - y), columns = std::min(width, layout.width - x);
            for (std::uint32_t row = 0; row < rows; ++row) {
                const std::uint32_t bottom = tiled ? height : rows;
                const std::uint32_t* from = raster.get() + std::size_t{bottom - 1 - row} * width;
                auto* to = reinterpret_cast<std::uint8_t*>(photo.samples.row(static_cast<int>(y + row))) + 3 * x;
                for (std::uint32_t i = 0; i < columns; ++i) {
                    *to++ = static_cast<std::uint8_t>(TIFFGetR(from[i]));
                    *to++ = static_cast<std::uint8_t>(TIFFGetG(from[i]));
                    *to++ = static_cast<std::uint8_t>(TIFFGetB(from[i]));
                }
            }
        }
    }
    return {};
}

}  // namespace

Result<Decoded> readTiff(Bytes bytes, const Reading& reading) {
    Input input{bytes};
    const Handle tiff = openTiff(input);
    if (!tiff) return damaged("TIFF", "has no valid beginning");
    Decoded out;
    out.photo.format = "TIFF";
    choosePage(tiff.get(), out.photo.warnings);
    std::uint16_t orientation = ORIENTATION_TOPLEFT;
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_ORIENTATION, &orientation);
    out.orientation = orientation;
    const auto layout = layoutOf(tiff.get(), bytes.size(), reading, out.photo.warnings);
    if (!layout) return tl::unexpected(layout.error());
    out.photo.profile = profileOf(tiff.get());
    auto read = layout->colours == Colours::other ? readConverted(tiff.get(), *layout, bytes.size(), out.photo, reading)
                                                  : readPlain(bytes, tiff.get(), *layout, out.photo, reading);
    if (!read) return tl::unexpected(read.error());
    return out;
}

}  // namespace dimhem::io
