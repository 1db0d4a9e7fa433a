#include "core/colour/icc.h"

#include <lcms2.h>

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

base::Result<std::shared_ptr<void>> makeTransform(std::span<const std::uint8_t> bytes, int channels, bool toWorking) {
    const Profile photo = openProfile(bytes);
    if (!photo) return base::fail(base::ErrorCode::damaged, "profile", "The colour profile in the file is damaged.");
    const cmsColorSpaceSignature wanted = channels == 1 ? cmsSigGrayData : cmsSigRgbData;
    if (cmsGetColorSpace(photo.get()) != wanted) {
        return base::fail(base::ErrorCode::unsupported, "profile",
                          "The colour profile in the file does not fit its number of channels.");
    }
    const Profile working = workingProfile();
    const cmsUInt32Number photoType = channels == 1 ? TYPE_GRAY_FLT : TYPE_RGB_FLT;
    constexpr cmsUInt32Number flags = cmsFLAGS_NOCACHE | cmsFLAGS_NOOPTIMIZE;  // no cache: safe from many threads
    cmsHTRANSFORM transform = toWorking ? cmsCreateTransform(photo.get(), photoType, working.get(), TYPE_RGB_FLT,
                                                             INTENT_RELATIVE_COLORIMETRIC, flags)
                                        : cmsCreateTransform(working.get(), TYPE_RGB_FLT, photo.get(), photoType,
                                                             INTENT_RELATIVE_COLORIMETRIC, flags);
    if (!transform) {
        return base::fail(base::ErrorCode::unsupported, "profile",
                          "The colour profile in the file cannot be used for conversion.");
    }
    return std::shared_ptr<void>(transform, cmsDeleteTransform);
}

}  // namespace

base::Result<IccTransform> IccTransform::toWorking(std::span<const std::uint8_t> profile, int channels) {
    return makeTransform(profile, channels, true).map([](auto t) { return IccTransform(std::move(t)); });
}

base::Result<IccTransform> IccTransform::fromWorking(std::span<const std::uint8_t> profile, int channels) {
    return makeTransform(profile, channels, false).map([](auto t) { return IccTransform(std::move(t)); });
}

void IccTransform::row(const float* from, float* to, std::size_t pixels) const {
    cmsDoTransform(transform_.get(), from, to, static_cast<cmsUInt32Number>(pixels));
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
    static const std::vector<std::uint8_t> bytes = [] {
        const Profile profile(cmsCreate_sRGBProfile());
        cmsUInt32Number size = 0;
        cmsSaveProfileToMem(profile.get(), nullptr, &size);
        std::vector<std::uint8_t> out(size);
        cmsSaveProfileToMem(profile.get(), out.data(), &size);
        return out;
    }();
    return bytes;
}

}  // namespace dimhem::colour
