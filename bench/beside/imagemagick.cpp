#include <Magick++.h>

#include "bench/beside/work.h"

namespace dimhem::bench {

// 16 bits to the channel: what goes above white is lost, which the work does not ask for.
std::vector<float> withImageMagick(const Work& work) {
    static const bool started = (Magick::InitializeMagick(nullptr), true);
    if (!started) return {};
    const auto columns = static_cast<std::size_t>(work.size.width), rows = static_cast<std::size_t>(work.size.height);
    Magick::Image picture(columns, rows, "RGB", Magick::CharPixel, work.rgb);
    const Magick::Image coverage(columns, rows, "I", Magick::ShortPixel, work.coverage.data());
    for (const auto& step : work.steps) {
        Magick::Image corrected = picture;
        corrected.colorSpace(Magick::RGBColorspace);
        corrected.colorMatrix(3, step.data());
        corrected.colorSpace(Magick::sRGBColorspace);
        corrected.matte(true);
        corrected.composite(coverage, 0, 0, Magick::CopyOpacityCompositeOp);
        picture.composite(corrected, 0, 0, Magick::OverCompositeOp);
    }
    std::vector<float> values(columns * rows * 3);
    picture.write(0, 0, columns, rows, "RGB", Magick::FloatPixel, values.data());
    return values;
}

}  // namespace dimhem::bench
