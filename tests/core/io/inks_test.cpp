#include "core/io/inks.h"

#include <gtest/gtest.h>
#include <tiffio.h>

#include <cmath>

#include "core/io/registry.h"
#include "tests/support/profiles.h"
#include "tests/support/temp_folder.h"

namespace dimhem::io {

namespace {

constexpr int side = 16;

std::uint8_t inkAt(int x, int y, int ink) {
    return static_cast<std::uint8_t>(ink == 3 ? 8 * y : (x * (ink + 2) * 9) % 200);
}

std::filesystem::path inkTiff(const std::filesystem::path& path, const std::vector<std::uint8_t>& profile) {
    TIFF* tiff = TIFFOpen(path.c_str(), "w");
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, side);
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, side);
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 8);
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, 4);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_SEPARATED);
    TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, side);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(tiff, TIFFTAG_ICCPROFILE, static_cast<std::uint32_t>(profile.size()), profile.data());
    std::vector<std::uint8_t> row(4 * side);
    for (int y = 0; y < side; ++y) {
        for (int x = 0; x < side; ++x) {
            for (int ink = 0; ink < 4; ++ink) row[static_cast<std::size_t>(4 * x + ink)] = inkAt(x, y, ink);
        }
        TIFFWriteScanline(tiff, row.data(), static_cast<std::uint32_t>(y), 0);
    }
    TIFFClose(tiff);
    return path;
}

}  // namespace

// The made profile's law in linear light; its table is linear in between, hence the tolerance.
TEST(Inks, GoThroughTheirProfile) {
    const tests::TempFolder folder;
    const auto photo = readPhoto(inkTiff(folder / "inks.tif", tests::inkProfile()));
    ASSERT_TRUE(photo) << photo.error().message;
    EXPECT_TRUE(photo->warnings.empty());
    EXPECT_TRUE(photo->linear);
    for (int y = 0; y < side; ++y) {
        float row[3 * side];
        photo->samples.readRow(y, 0, side, row);
        for (int x = 0; x < side; ++x) {
            for (int c = 0; c < 3; ++c) {
                const double expected = (1 - inkAt(x, y, c) / 255.0) * (1 - inkAt(x, y, 3) / 255.0);
                EXPECT_NEAR(row[3 * x + c], expected, 0.012) << x << ", " << y << ", channel " << c;
            }
        }
    }
}

TEST(Inks, AProfileForOtherColoursIsLeftOutWithAWarning) {
    const tests::TempFolder folder;
    const auto photo = readPhoto(inkTiff(folder / "inks.tif", tests::wideProfile()));
    ASSERT_TRUE(photo) << photo.error().message;
    ASSERT_EQ(photo->warnings.size(), 1u);
    EXPECT_NE(photo->warnings[0].find("estimated"), std::string::npos) << photo->warnings[0];
}

}  // namespace dimhem::io
