// TIFF is decoded in bands on several threads: whatever its strips and tiles, every sample must come to its own place.
// Files are made with libtiff itself, by the fields of TIFF 6.0.
#include <gtest/gtest.h>
#include <tiffio.h>

#include <fstream>

#include "core/io/tiff_reading.h"
#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

constexpr int width = 301, height = 397, channels = 3;
constexpr int deflate = 8;  // as registered for TIFF (Technical Note 2, 2002)

std::uint16_t sampleAt(int x, int y, int c) {
    return static_cast<std::uint16_t>(x * 211 + y * 97 + c * 20011);
}

struct Layout {
    int compression = COMPRESSION_NONE;
    bool planar = false;
    int rowsPerStrip = 0;  // 0: in tiles
    int tileWidth = 0, tileHeight = 0;
};

struct Close {
    void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};

void writeStrips(TIFF* tiff, const Layout& layout) {
    const int planes = layout.planar ? channels : 1, together = layout.planar ? 1 : channels;
    std::vector<std::uint16_t> row(static_cast<std::size_t>(width * together));
    for (int plane = 0; plane < planes; ++plane) {
        for (int y = 0; y < height; ++y) {
            for (int x = 0; x < width; ++x) {
                for (int c = 0; c < together; ++c)
                    row[static_cast<std::size_t>(x * together + c)] = sampleAt(x, y, plane + c);
            }
            ASSERT_EQ(
                TIFFWriteScanline(tiff, row.data(), static_cast<std::uint32_t>(y), static_cast<std::uint16_t>(plane)),
                1);
        }
    }
}

void writeTiles(TIFF* tiff, const Layout& layout) {
    const int planes = layout.planar ? channels : 1, together = layout.planar ? 1 : channels;
    std::vector<std::uint16_t> tile(static_cast<std::size_t>(layout.tileWidth * layout.tileHeight * together));
    for (int plane = 0; plane < planes; ++plane) {
        for (int y0 = 0; y0 < height; y0 += layout.tileHeight) {
            for (int x0 = 0; x0 < width; x0 += layout.tileWidth) {
                for (int i = 0; i < layout.tileWidth * layout.tileHeight * together; ++i) {
                    const int pixel = i / together;
                    tile[static_cast<std::size_t>(i)] =
                        sampleAt(x0 + pixel % layout.tileWidth, y0 + pixel / layout.tileWidth, plane + i % together);
                }
                ASSERT_GT(TIFFWriteTile(tiff, tile.data(), static_cast<std::uint32_t>(x0),
                                        static_cast<std::uint32_t>(y0), 0, static_cast<std::uint16_t>(plane)),
                          0);
            }
        }
    }
}

std::vector<std::uint8_t> fileOf(const Layout& layout) {
    const tests::TempFolder folder;
    const std::filesystem::path path = folder / "bands.tif";
    {
        const std::unique_ptr<TIFF, Close> tiff(TIFFOpen(path.c_str(), "w"));
        TIFFSetField(tiff.get(), TIFFTAG_IMAGEWIDTH, width);
        TIFFSetField(tiff.get(), TIFFTAG_IMAGELENGTH, height);
        TIFFSetField(tiff.get(), TIFFTAG_SAMPLESPERPIXEL, channels);
        TIFFSetField(tiff.get(), TIFFTAG_BITSPERSAMPLE, 16);
        TIFFSetField(tiff.get(), TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
        TIFFSetField(tiff.get(), TIFFTAG_PLANARCONFIG, layout.planar ? PLANARCONFIG_SEPARATE : PLANARCONFIG_CONTIG);
        TIFFSetField(tiff.get(), TIFFTAG_COMPRESSION, layout.compression);
        if (layout.rowsPerStrip) {
            TIFFSetField(tiff.get(), TIFFTAG_ROWSPERSTRIP, layout.rowsPerStrip);
            writeStrips(tiff.get(), layout);
        } else {
            TIFFSetField(tiff.get(), TIFFTAG_TILEWIDTH, layout.tileWidth);
            TIFFSetField(tiff.get(), TIFFTAG_TILELENGTH, layout.tileHeight);
            writeTiles(tiff.get(), layout);
        }
    }
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

int wrongSamples(const image::Samples& samples) {
    int wrong = 0;
    for (int y = 0; y < height; ++y) {
        const auto* row = reinterpret_cast<const std::uint16_t*>(samples.row(y));
        for (int x = 0; x < width; ++x) {
            for (int c = 0; c < channels; ++c) wrong += row[x * channels + c] != sampleAt(x, y, c);
        }
    }
    return wrong;
}

}  // namespace

TEST(TiffBands, EverySampleComesToItsPlaceWhateverTheLayout) {
    for (const int compression : {COMPRESSION_NONE, COMPRESSION_LZW, deflate}) {
        for (const bool planar : {false, true}) {
            for (const int rows : {1, 7, 64, 65, 200, 1000}) {
                const auto read = readTiff(fileOf({compression, planar, rows}), {});
                ASSERT_TRUE(read) << read.error().message;
                EXPECT_EQ(wrongSamples(read->photo.samples), 0) << compression << " " << planar << " " << rows;
            }
            for (const auto& [w, h] : {std::pair{16, 16}, {48, 80}, {320, 16}, {64, 400}}) {
                const auto read = readTiff(fileOf({compression, planar, 0, w, h}), {});
                ASSERT_TRUE(read) << read.error().message;
                EXPECT_EQ(wrongSamples(read->photo.samples), 0) << compression << " " << planar << " " << w << "x" << h;
            }
        }
    }
}

TEST(TiffBands, OneDamagedStripOrTileIsAnError) {
    for (const Layout& layout : {Layout{deflate, false, 32}, Layout{COMPRESSION_LZW, true, 0, 64, 64}}) {
        std::vector<std::uint8_t> file = fileOf(layout);
        const std::size_t middle = file.size() / 2;
        std::fill_n(file.begin() + static_cast<std::ptrdiff_t>(middle), 600, std::uint8_t{0xff});
        const auto read = readTiff(file, {});
        ASSERT_FALSE(read);
        EXPECT_NE(read.error().message.find("cannot be decoded"), std::string::npos) << read.error().message;
    }
}

TEST(TiffBands, ReadingStopsAtAnyBandAndSaysHowFarItIs) {
    const std::vector<std::uint8_t> file = fileOf({deflate, false, 16});
    double before = 0;
    bool isOrdered = true;
    Reading told;
    told.progress = [&](double part) {
        isOrdered = isOrdered && part >= 0 && part <= 1;
        before = std::max(before, part);
    };
    ASSERT_TRUE(readTiff(file, told));
    EXPECT_TRUE(isOrdered);
    EXPECT_GT(before, 0);
    for (int at = 0; at < 4; ++at) {
        base::CancelSource source;
        int asked = 0;
        Reading stopped;
        stopped.cancel = source.token();
        stopped.progress = [&](double) {
            if (asked++ == at) source.cancel();
        };
        const auto read = readTiff(file, stopped);
        if (asked > at) {
            ASSERT_FALSE(read) << at;
            EXPECT_EQ(read.error().code, base::ErrorCode::cancelled);
        }
    }
}

}  // namespace dimhem::io
