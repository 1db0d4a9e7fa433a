// A colour profile unlike sRGB, made with Little CMS: wider primaries, a plain gamma of 2.2.
#pragma once

#include <lcms2.h>

#include <cstdint>
#include <vector>

namespace dimhem::tests {

inline const std::vector<std::uint8_t>& wideProfile() {
    static const std::vector<std::uint8_t> bytes = [] {
        const cmsCIExyY white = {0.3127, 0.3290, 1};
        const cmsCIExyYTRIPLE primaries = {{0.68, 0.32, 1}, {0.24, 0.68, 1}, {0.15, 0.06, 1}};
        cmsToneCurve* gamma = cmsBuildGamma(nullptr, 2.2);
        cmsToneCurve* curves[3] = {gamma, gamma, gamma};
        cmsHPROFILE profile = cmsCreateRGBProfile(&white, &primaries, curves);
        cmsMLU* text = cmsMLUalloc(nullptr, 1);
        cmsMLUsetASCII(text, "en", "US", "made wide gamut");
        cmsWriteTag(profile, cmsSigProfileDescriptionTag, text);
        cmsMLUfree(text);
        cmsUInt32Number size = 0;
        cmsSaveProfileToMem(profile, nullptr, &size);
        std::vector<std::uint8_t> out(size);
        cmsSaveProfileToMem(profile, out.data(), &size);
        cmsCloseProfile(profile);
        cmsFreeToneCurve(gamma);
        return out;
    }();
    return bytes;
}

}  // namespace dimhem::tests
