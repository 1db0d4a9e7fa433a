#include "core/io/tiff_layout.h"

#include <algorithm>

namespace dimhem::io {

namespace {

using base::Result;
using Colours = TiffLayout::Colours;

struct Page {
    std::uint64_t offset = 0;
    double pixels = 0;
    bool whole = false;  // neither a reduced picture nor a mask
};

Page currentPage(TIFF* tiff) {
    std::uint32_t width = 0, height = 0, kind = 0;
    std::uint16_t oldKind = 0;
    TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &height);
    TIFFGetField(tiff, TIFFTAG_SUBFILETYPE, &kind);
    TIFFGetField(tiff, TIFFTAG_OSUBFILETYPE, &oldKind);
    const bool part = (kind & (FILETYPE_REDUCEDIMAGE | FILETYPE_MASK)) != 0 || oldKind == OFILETYPE_REDUCEDIMAGE;
    return {TIFFCurrentDirOffset(tiff), static_cast<double>(width) * height, !part && width > 0 && height > 0};
}

constexpr std::size_t mostPages = 1000;

// Those of the main list, or of the lists that hang from them.
std::vector<Page> mainPages(TIFF* tiff) {
    std::vector<Page> pages;
    do pages.push_back(currentPage(tiff));
    while (pages.size() < mostPages && TIFFReadDirectory(tiff));
    return pages;
}

std::vector<Page> pagesBelow(TIFF* tiff, const std::vector<Page>& main) {
    std::vector<Page> pages;
    for (const Page& page : main) {
        std::uint16_t count = 0;
        const std::uint64_t* offsets = nullptr;
        if (!TIFFSetSubDirectory(tiff, page.offset) || !TIFFGetField(tiff, TIFFTAG_SUBIFD, &count, &offsets)) continue;
        const std::vector<std::uint64_t> below(offsets, offsets + count);
        for (const std::uint64_t offset : below) {
            if (pages.size() < mostPages && TIFFSetSubDirectory(tiff, offset)) pages.push_back(currentPage(tiff));
        }
    }
    return pages;
}

}  // namespace

void choosePage(TIFF* tiff, std::vector<std::string>& warnings) {
    std::vector<Page> pages = mainPages(tiff);
    const auto isWhole = [](const Page& page) { return page.whole; };
    if (std::none_of(pages.begin(), pages.end(), isWhole)) {
        const std::vector<Page> below = pagesBelow(tiff, pages);
        pages.insert(pages.end(), below.begin(), below.end());
    }
    auto chosen = std::find_if(pages.begin(), pages.end(), isWhole);
    if (chosen == pages.end()) {
        chosen = std::max_element(pages.begin(), pages.end(),
                                  [](const Page& a, const Page& b) { return a.pixels < b.pixels; });
    }
    TIFFSetSubDirectory(tiff, chosen->offset);
    const auto whole = std::count_if(pages.begin(), pages.end(), isWhole);
    if (whole > 1) warnings.push_back("The TIFF file holds " + std::to_string(whole) + " pictures; the first is read.");
}

int TiffLayout::colourChannels() const {
    switch (colours) {
        case Colours::grey:
        case Colours::palette: return 1;
        case Colours::inks: return 4;
        default: return 3;
    }
}

namespace {

constexpr std::uint16_t deflate = 8;  // as registered for TIFF (Technical Note 2, 2002), beside the older number

// How many bytes of samples one byte of the file can make; 0: no bound worth naming.
double mostOfAByte(std::uint16_t compression) {
    switch (compression) {
        case COMPRESSION_NONE: return 1;
        case COMPRESSION_PACKBITS: return 64;  // 128 bytes in two (TIFF 6.0, section 9)
        case COMPRESSION_LZW: return 4096;     // a code of 9 to 12 bits stands for at most that many bytes (section 13)
        case COMPRESSION_DEFLATE:
        case deflate: return mostInflated;
        default: return 0;
    }
}

Colours coloursOf(TIFF* tiff, TiffLayout& layout) {
    std::uint16_t photometric = layout.channels >= 3 ? PHOTOMETRIC_RGB : PHOTOMETRIC_MINISBLACK;
    TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &photometric);
    layout.inverted = photometric == PHOTOMETRIC_MINISWHITE;
    layout.iccLab = photometric == PHOTOMETRIC_ICCLAB;
    switch (photometric) {
        case PHOTOMETRIC_MINISWHITE:
        case PHOTOMETRIC_MINISBLACK: return Colours::grey;
        case PHOTOMETRIC_RGB: return Colours::rgb;
        case PHOTOMETRIC_PALETTE: return Colours::palette;
        case PHOTOMETRIC_CIELAB:
        case PHOTOMETRIC_ICCLAB: return Colours::lab;
        case PHOTOMETRIC_SEPARATED: return Colours::inks;
        case PHOTOMETRIC_YCBCR:
            if (layout.compression != COMPRESSION_JPEG) return Colours::other;
            TIFFSetField(tiff, TIFFTAG_JPEGCOLORMODE, JPEGCOLORMODE_RGB);
            return Colours::rgb;
        default: return Colours::other;
    }
}

TiffNumbers numbersOf(TIFF* tiff) {
    std::uint16_t bits = 1, format = SAMPLEFORMAT_UINT;
    TIFFGetFieldDefaulted(tiff, TIFFTAG_BITSPERSAMPLE, &bits);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLEFORMAT, &format);
    using Kind = TiffNumbers::Kind;
    switch (format) {
        case SAMPLEFORMAT_IEEEFP: return {Kind::real, bits};
        case SAMPLEFORMAT_INT: return {Kind::signedWhole, bits};
        case SAMPLEFORMAT_COMPLEXINT:
        case SAMPLEFORMAT_COMPLEXIEEEFP: return {Kind::real, 0};
        default: return {Kind::whole, bits};
    }
}

// TIFF 6.0, ExtraSamples: 1 is alpha that its colours are multiplied by, 2 alpha that they are not; 0 says nothing.
void findAlpha(TIFF* tiff, TiffLayout& layout, std::vector<std::string>& warnings) {
    std::uint16_t count = 0;
    const std::uint16_t* kinds = nullptr;
    if (!TIFFGetField(tiff, TIFFTAG_EXTRASAMPLES, &count, &kinds)) count = 0;
    const int first = layout.colourChannels();
    const int extra = layout.channels - first;
    for (int i = 0; i < std::min<int>(count, extra) && layout.alpha < 0; ++i) {
        if (kinds[i] != EXTRASAMPLE_ASSOCALPHA && kinds[i] != EXTRASAMPLE_UNASSALPHA) continue;
        layout.alpha = first + i;
        layout.alphaMultiplied = kinds[i] == EXTRASAMPLE_ASSOCALPHA;
    }
    const int unread = extra - (layout.alpha >= 0 ? 1 : 0);
    if (unread == 1) warnings.push_back("The TIFF file has a further channel, of no stated use; it is not read.");
    if (unread > 1)
        warnings.push_back("The TIFF file has " + std::to_string(unread) + " further channels; they are not read.");
}

Result<void> checkColours(TIFF* tiff, const TiffLayout& layout) {
    constexpr int mostChannels = 64;
    if (layout.channels > mostChannels || layout.channels < layout.colourChannels())
        return unsupported("TIFF", "has an uncommon number of channels");
    if (!layout.numbers.type()) return unsupported("TIFF", "stores its samples as uncommon numbers");
    const bool isSigned = layout.numbers.kind == TiffNumbers::Kind::signedWhole;
    if (isSigned && layout.colours != Colours::lab) return unsupported("TIFF", "stores its samples as signed numbers");
    if (layout.colours == Colours::lab && layout.numbers.bits != 8 && layout.numbers.bits != 16)
        return unsupported("TIFF", "stores CIELAB colours in an uncommon way");
    if (layout.colours == Colours::palette &&
        (layout.numbers.kind != TiffNumbers::Kind::whole || layout.numbers.bits > 16))
        return unsupported("TIFF", "has a palette of an uncommon kind");
    std::uint16_t inkSet = INKSET_CMYK;
    if (layout.colours == Colours::inks && TIFFGetField(tiff, TIFFTAG_INKSET, &inkSet) && inkSet != INKSET_CMYK)
        return unsupported("TIFF", "holds printing inks other than cyan, magenta, yellow and black");
    return {};
}

}  // namespace

Result<TiffLayout> layoutOf(TIFF* tiff, std::size_t fileBytes, const Reading& reading,
                            std::vector<std::string>& warnings) {
    TiffLayout layout;
    std::uint16_t planar = PLANARCONFIG_CONTIG;
    TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &layout.width);
    TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &layout.height);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLESPERPIXEL, &layout.channels);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_PLANARCONFIG, &planar);
    TIFFGetFieldDefaulted(tiff, TIFFTAG_COMPRESSION, &layout.compression);
    layout.planar = planar == PLANARCONFIG_SEPARATE && layout.channels > 1;
    layout.numbers = numbersOf(tiff);
    layout.colours = coloursOf(tiff, layout);
    const auto fits = [&](int channels, image::SampleType type) {
        return checkSize("TIFF", layout.width, layout.height, channels, type, fileBytes, reading);
    };
    if (layout.colours == Colours::other) {
        if (auto ok = fits(3, image::SampleType::u8); !ok) return tl::unexpected(ok.error());
        return layout;
    }
    if (auto ok = checkColours(tiff, layout); !ok) return tl::unexpected(ok.error());
    // Palettes, inks and CIELAB become three of a larger type, beside what is stored.
    const bool converted = layout.colours != Colours::grey && layout.colours != Colours::rgb;
    if (auto ok = fits(converted ? layout.channels + 3 : layout.channels,
                       converted ? image::SampleType::f32 : *layout.numbers.type());
        !ok)
        return tl::unexpected(ok.error());
    const double ratio = mostOfAByte(layout.compression);
    const std::uint64_t rowBits =
        std::uint64_t{layout.width} * layout.channels * static_cast<unsigned>(layout.numbers.bits);
    if (ratio > 0) {
        // A tile may be larger than the picture, but no larger than what the file can hold either.
        const std::uint64_t tile = TIFFIsTiled(tiff) ? TIFFTileSize64(tiff) : 0;
        const std::uint64_t most = std::max(rowBits / 8 * layout.height, tile);
        if (auto ok = checkHolds("TIFF", most, fileBytes, ratio); !ok) return tl::unexpected(ok.error());
    }
    constexpr std::uint64_t mostTile = std::uint64_t{1} << 30;
    if (TIFFIsTiled(tiff) && TIFFTileSize64(tiff) > mostTile) return damaged("TIFF", "has tiles of an impossible size");
    findAlpha(tiff, layout, warnings);
    return layout;
}

}  // namespace dimhem::io
