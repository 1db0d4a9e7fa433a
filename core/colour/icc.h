// Between the colours of a photo's ICC profile and the working colour, through Little CMS.
//
// The working side is linear light with sRGB primaries, float, unbounded; intent: relative colorimetric without
// black point compensation, so that going there and back gives the same colour. Rows may be converted from several
// threads at once.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/base/error.h"
#include "core/colour/types.h"

namespace dimhem::colour {

class IccTransform {
public:
    // From a profile of 1 (grey), 3 (RGB) or, only to the working colour, 4 (CMYK) channels; float samples, 0..1 for
    // the profile's full range (0 ink .. full ink).
    static base::Result<IccTransform> toWorking(std::span<const std::uint8_t> profile, int channels);
    static base::Result<IccTransform> fromWorking(std::span<const std::uint8_t> profile, int channels);

    // From CIELAB under D50: L* 0..100, a* and b* as they are.
    static IccTransform labToWorking();

    // `pixels` pixels, interleaved on both sides: 3 channels on the working side.
    void row(const float* from, float* to, std::size_t pixels) const;

private:
    explicit IccTransform(std::shared_ptr<void> transform) : transform_(std::move(transform)) {}
    std::shared_ptr<void> transform_;
    bool inPercent_ = false;  // the library takes inks as 0..100
};

// What the profiles of displays and cameras mostly are: a curve for each channel, then a matrix (ICC.1:2010, F.3).
// Found by trying the transform; samples of 8 and 16 bits then go through a table and nine products.
class MatrixTransform {
public:
    // Nothing where the profile is of another kind, that is, where this differs from the library by more than 1/4000 of
    // full light, or a hundredth of it, anywhere tried.
    static std::optional<MatrixTransform> toWorking(const IccTransform& exact, std::size_t steps);

    // The linear light of each channel, for the steps 0..steps-1 of its samples.
    const std::array<std::vector<float>, 3>& curves() const { return curves_; }
    // Working colour from the channels' linear light: row by row.
    const std::array<float, 9>& matrix() const { return matrix_; }

private:
    std::array<std::vector<float>, 3> curves_;
    std::array<float, 9> matrix_{};
};

// An RGB or grey profile from what a file says of its colours in figures: the exponent that decodes its samples, and
// the chromaticities of its white and primaries (only the white's where it is grey).
struct StatedColours {
    double exponent = 2.2;
    Chromaticity white, red, green, blue;
};
std::vector<std::uint8_t> profileFrom(const StatedColours& stated, int channels);

// The profile's own description, such as "Display P3"; a plain sentence where it has none.
std::string profileName(std::span<const std::uint8_t> profile);

// Whether the profile says what sRGB says, to less than half a step of 8 bits. Such photos skip the transform.
bool isSrgb(std::span<const std::uint8_t> profile);

// An sRGB profile to embed where a photo without one is exported.
const std::vector<std::uint8_t>& srgbProfile();

}  // namespace dimhem::colour
