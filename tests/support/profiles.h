// A colour profile unlike sRGB, made with Little CMS: wider primaries, a plain gamma of 2.2.
#pragma once

#include <lcms2.h>

#include <cstdint>
#include <vector>

namespace dimhem::tests {

inline std::vector<std::uint8_t> savedAndClosed(cmsHPROFILE profile) {
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile, nullptr, &size);
    std::vector<std::uint8_t> out(size);
    cmsSaveProfileToMem(profile, out.data(), &size);
    cmsCloseProfile(profile);
    return out;
}

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
        std::vector<std::uint8_t> out = savedAndClosed(profile);
        cmsFreeToneCurve(gamma);
        return out;
    }();
    return bytes;
}

// A profile of printing inks, as a table to CIELAB: cyan takes red away, and so on, more strongly than plain arithmetic
// does; black takes all.
inline const std::vector<std::uint8_t>& inkProfile() {
    static const std::vector<std::uint8_t> bytes = [] {
        const auto sample = [](const cmsUInt16Number in[], cmsUInt16Number out[], void*) -> cmsInt32Number {
            const double k = 1 - in[3] / 65535.0;
            cmsCIEXYZ xyz{};
            const double r = (1 - in[0] / 65535.0) * k, g = (1 - in[1] / 65535.0) * k, b = (1 - in[2] / 65535.0) * k;
            // Linear sRGB to XYZ under D50 (the columns of an sRGB profile, from memory).
            xyz.X = 0.4361 * r + 0.3851 * g + 0.1431 * b;
            xyz.Y = 0.2225 * r + 0.7169 * g + 0.0606 * b;
            xyz.Z = 0.0139 * r + 0.0971 * g + 0.7141 * b;
            cmsCIELab lab;
            cmsXYZ2Lab(nullptr, &lab, &xyz);
            cmsFloat2LabEncoded(out, &lab);
            return 1;
        };
        cmsHPROFILE profile = cmsCreateProfilePlaceholder(nullptr);
        cmsSetProfileVersion(profile, 4.2);
        cmsSetDeviceClass(profile, cmsSigOutputClass);
        cmsSetColorSpace(profile, cmsSigCmykData);
        cmsSetPCS(profile, cmsSigLabData);
        cmsPipeline* pipeline = cmsPipelineAlloc(nullptr, 4, 3);
        cmsStage* table = cmsStageAllocCLut16bit(nullptr, 17, 4, 3, nullptr);
        cmsStageSampleCLut16bit(table, sample, nullptr, 0);
        // The form that the format wants: curves, the table, curves; a null curve is the identity.
        cmsPipelineInsertStage(pipeline, cmsAT_END, cmsStageAllocToneCurves(nullptr, 4, nullptr));
        cmsPipelineInsertStage(pipeline, cmsAT_END, table);
        cmsPipelineInsertStage(pipeline, cmsAT_END, cmsStageAllocToneCurves(nullptr, 3, nullptr));
        cmsWriteTag(profile, cmsSigAToB0Tag, pipeline);
        cmsPipelineFree(pipeline);
        std::vector<std::uint8_t> out = savedAndClosed(profile);
        return out;
    }();
    return bytes;
}

}  // namespace dimhem::tests
