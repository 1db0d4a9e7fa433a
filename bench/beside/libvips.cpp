#include <vips/vips8>

#include "bench/beside/work.h"

namespace dimhem::bench {

namespace {

using vips::VImage;

VImage decoded(const VImage& picture) {
    return (picture <= 0.04045).ifthenelse(picture / 12.92, ((picture + 0.055) / 1.055).pow(2.4));
}

VImage encoded(const VImage& linear) {
    return (linear <= 0.0031308).ifthenelse(linear * 12.92, linear.pow(1 / 2.4) * 1.055 - 0.055);
}

}  // namespace

std::vector<float> withVips(const Work& work) {
    static const bool started = vips_init("engine_bench") == 0;
    if (!started) return {};
    const std::size_t pixels = work.coverage.size();
    VImage picture = VImage::new_from_memory(const_cast<std::uint8_t*>(work.rgb), pixels * 3, work.size.width,
                                             work.size.height, 3, VIPS_FORMAT_UCHAR)
                         .cast(VIPS_FORMAT_FLOAT) /
                     255;
    const VImage coverage = VImage::new_from_memory(const_cast<std::uint16_t*>(work.coverage.data()), pixels * 2,
                                                    work.size.width, work.size.height, 1, VIPS_FORMAT_USHORT)
                                .cast(VIPS_FORMAT_FLOAT) /
                            65535;
    for (const auto& step : work.steps) {
        const VImage matrix = VImage::new_matrix(3, 3, const_cast<double*>(step.data()), 9);
        picture = picture + (encoded(decoded(picture).recomb(matrix)) - picture) * coverage;
    }
    std::size_t bytes = 0;
    const std::unique_ptr<float, void (*)(void*)> values(
        static_cast<float*>(picture.cast(VIPS_FORMAT_FLOAT).write_to_memory(&bytes)), g_free);
    return {values.get(), values.get() + pixels * 3};
}

}  // namespace dimhem::bench
