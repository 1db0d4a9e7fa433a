#include "core/colour/icc.h"

#include <lcms2.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/colour/srgb.h"

namespace dimhem::colour {

namespace {

struct CloseProfile {
    void operator()(void* profile) const { cmsCloseProfile(profile); }
};
using Profile = std::unique_ptr<void, CloseProfile>;

Profile openProfile(std::span<const std::uint8_t> bytes) {
    return Profile(cmsOpenProfileFromMem(bytes.data(), static_cast<cmsUInt32Number>(bytes.size())));
}

Profile workingProfile() {
    // White and primaries of IEC 61966-2-1.
    const cmsCIExyY white = {0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries = {{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
    cmsToneCurve* linear = cmsBuildGamma(nullptr, 1.0);
    cmsToneCurve* curves[3] = {linear, linear, linear};
    Profile profile(cmsCreateRGBProfile(&white, &primaries, curves));
    cmsFreeToneCurve(linear);
    return profile;
}

constexpr cmsUInt32Number exact = cmsFLAGS_NOCACHE | cmsFLAGS_NOOPTIMIZE;  // no cache: safe from many threads

struct Layout {
    cmsColorSpaceSignature space;
    cmsUInt32Number type;
};

Layout layoutOf(int channels) {
    switch (channels) {
        case 1: return {cmsSigGrayData, TYPE_GRAY_FLT};
        case 4: return {cmsSigCmykData, TYPE_CMYK_FLT};
        default: return {cmsSigRgbData, TYPE_RGB_FLT};
    }
}

base::Result<std::shared_ptr<void>> makeTransform(std::span<const std::uint8_t> bytes, int channels, bool toWorking) {
    const Profile photo = openProfile(bytes);
    if (!photo) return base::fail(base::ErrorCode::damaged, "profile", "The colour profile in the file is damaged.");
    const Layout layout = layoutOf(channels);
    if (cmsGetColorSpace(photo.get()) != layout.space) {
        return base::fail(base::ErrorCode::unsupported, "profile",
                          "The colour profile in the file does not fit its number of channels.");
    }
    const Profile working = workingProfile();
    cmsHTRANSFORM transform = toWorking ? cmsCreateTransform(photo.get(), layout.type, working.get(), TYPE_RGB_FLT,
                                                             INTENT_RELATIVE_COLORIMETRIC, exact)
                                        : cmsCreateTransform(working.get(), TYPE_RGB_FLT, photo.get(), layout.type,
                                                             INTENT_RELATIVE_COLORIMETRIC, exact);
    if (!transform) {
        return base::fail(base::ErrorCode::unsupported, "profile",
                          "The colour profile in the file cannot be used for conversion.");
    }
    return std::shared_ptr<void>(transform, cmsDeleteTransform);
}

}  // namespace

base::Result<IccTransform> IccTransform::toWorking(std::span<const std::uint8_t> profile, int channels) {
    return makeTransform(profile, channels, true).map([channels](auto t) {
        IccTransform made(std::move(t));
        made.inPercent_ = channels == 4;
        return made;
    });
}

base::Result<IccTransform> IccTransform::fromWorking(std::span<const std::uint8_t> profile, int channels) {
    return makeTransform(profile, channels, false).map([](auto t) { return IccTransform(std::move(t)); });
}

IccTransform IccTransform::labToWorking() {
    const Profile lab(cmsCreateLab4Profile(nullptr)), working = workingProfile();
    return IccTransform(std::shared_ptr<void>(
        cmsCreateTransform(lab.get(), TYPE_Lab_FLT, working.get(), TYPE_RGB_FLT, INTENT_RELATIVE_COLORIMETRIC, exact),
        cmsDeleteTransform));
}

void IccTransform::row(const float* from, float* to, std::size_t pixels) const {
    std::vector<float> percent;
    if (inPercent_) {
        percent.resize(pixels * 4);
        std::transform(from, from + percent.size(), percent.begin(), [](float v) { return 100 * v; });
        from = percent.data();
    }
    cmsDoTransform(transform_.get(), from, to, static_cast<cmsUInt32Number>(pixels));
}

namespace {

std::vector<std::uint8_t> bytesOf(const Profile& profile) {
    if (!profile) return {};
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile.get(), nullptr, &size);
    std::vector<std::uint8_t> out(size);
    cmsSaveProfileToMem(profile.get(), out.data(), &size);
    return out;
}

}  // namespace

std::optional<MatrixTransform> MatrixTransform::toWorking(const IccTransform& exact, std::size_t steps) {
    MatrixTransform out;
    const auto lightOf = [&](const std::array<float, 3>& in) {
        std::array<float, 3> light;
        exact.row(in.data(), light.data(), 1);
        return light;
    };
    const std::array<float, 3> black = lightOf({0, 0, 0});
    for (std::size_t c = 0; c < 3; ++c) {
        std::array<float, 3> full{};
        full[c] = 1;
        const std::array<float, 3> column = lightOf(full);
        for (std::size_t i = 0; i < 3; ++i) out.matrix_[3 * i + c] = column[i] - black[i];
        // The curve, read off the working channel that this one lights most.
        const auto most = static_cast<std::size_t>(std::max_element(column.begin(), column.end()) - column.begin());
        std::vector<float> in(3 * steps), light(3 * steps);
        for (std::size_t s = 0; s < steps; ++s) in[3 * s + c] = static_cast<float>(s) / static_cast<float>(steps - 1);
        exact.row(in.data(), light.data(), steps);
        const float unit = out.matrix_[3 * most + c];
        if (!(unit > 0)) return std::nullopt;
        for (std::size_t s = 0; s < steps; ++s) out.curves_[c].push_back((light[3 * s + most] - black[most]) / unit);
    }
    // A table stands for the curve only at its steps: tried there, all over the cube.
    constexpr int across = 9;
    for (int i = 0; i < across * across * across; ++i) {
        std::array<float, 3> in{}, channels{};
        for (int c = 0, rest = i; c < 3; ++c, rest /= across) {
            const std::size_t s = static_cast<std::size_t>(rest % across) * (steps - 1) / (across - 1);
            in[static_cast<std::size_t>(c)] = static_cast<float>(s) / static_cast<float>(steps - 1);
            channels[static_cast<std::size_t>(c)] = out.curves_[static_cast<std::size_t>(c)][s];
        }
        const std::array<float, 3> wanted = lightOf(in);
        for (std::size_t r = 0; r < 3; ++r) {
            const float* m = &out.matrix_[3 * r];
            const float found = m[0] * channels[0] + m[1] * channels[1] + m[2] * channels[2];
            const float allowed = std::min(1.0f / 4000, 0.01f * std::abs(wanted[r]) + 1e-6f);
            if (!(std::abs(found - wanted[r]) <= allowed)) return std::nullopt;
        }
    }
    return out;
}

std::vector<std::uint8_t> profileFrom(const StatedColours& stated, int channels) {
    const auto xyY = [](const Chromaticity& c) { return cmsCIExyY{c.x, c.y, 1}; };
    cmsToneCurve* curve = cmsBuildGamma(nullptr, stated.exponent);
    const cmsCIExyY white = xyY(stated.white);
    const cmsCIExyYTRIPLE primaries = {xyY(stated.red), xyY(stated.green), xyY(stated.blue)};
    cmsToneCurve* curves[3] = {curve, curve, curve};
    const Profile profile(channels == 1 ? cmsCreateGrayProfile(&white, curve)
                                        : cmsCreateRGBProfile(&white, &primaries, curves));
    cmsFreeToneCurve(curve);
    return bytesOf(profile);
}

std::string profileName(std::span<const std::uint8_t> bytes) {
    const Profile profile = openProfile(bytes);
    if (!profile) return "a damaged profile";
    std::array<char, 256> text{};
    cmsGetProfileInfoASCII(profile.get(), cmsInfoDescription, "en", "US", text.data(), text.size());
    return text[0] ? std::string(text.data()) : "a profile without a name";
}

bool isSrgb(std::span<const std::uint8_t> profile) {
    const auto transform = IccTransform::toWorking(profile, 3);
    if (!transform) return false;
    constexpr std::array<float, 6> steps = {0.0f, 0.1f, 0.3f, 0.5f, 0.8f, 1.0f};
    for (const float r : steps) {
        for (const float g : steps) {
            for (const float b : steps) {
                const float in[3] = {r, g, b};
                float out[3];
                transform->row(in, out, 1);
                for (int i = 0; i < 3; ++i) {
                    if (std::abs(encodedFromLinear(double{out[i]}) - double{in[i]}) > 0.5 / 255) return false;
                }
            }
        }
    }
    return true;
}

const std::vector<std::uint8_t>& srgbProfile() {
    static const std::vector<std::uint8_t> bytes = bytesOf(Profile(cmsCreate_sRGBProfile()));
    return bytes;
}

}  // namespace dimhem::colour
