#include "core/task/probe_reading.h"

#include <cmath>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/task/probe.h"

namespace dimhem::task {

std::optional<ProbeColour> readProbe(const render::Renderer& renderer, const render::Sequence& sequence,
                                     const document::Probe& probe) {
    const auto picture = pictureIn(renderer, sequence, probe.rect());
    if (!picture) return std::nullopt;
    const base::Size size = picture->size();
    colour::LinearRgb sum;
    const auto forEach = [&](auto use) {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) use(pixelOf(*picture, x, y));
        }
    };
    forEach([&](const colour::EncodedRgb& pixel) {
        const colour::LinearRgb linear = colour::linearFromEncoded(pixel);
        sum.r += linear.r;
        sum.g += linear.g;
        sum.b += linear.b;
    });
    const double count = static_cast<double>(size.width) * size.height;
    const colour::LinearRgb mean{sum.r / count, sum.g / count, sum.b / count};
    ProbeColour read{colour::encodedFromLinear(mean), colour::labFromLinear(mean), 0};
    forEach([&](const colour::EncodedRgb& pixel) {
        const colour::Lab lab = colour::labFromEncoded(pixel);
        read.spread += std::hypot(lab.l - read.lab.l, lab.a - read.lab.a, lab.b - read.lab.b) / count;
    });
    return read;
}

std::optional<ProbeReading> readProbe(const render::Renderer& renderer, const document::DocumentPtr& document,
                                      const document::Probe& probe) {
    render::Comparison allOff;
    allOff.allOff = true;
    const auto before = readProbe(renderer, render::Sequence(document, allOff), probe),
               after = readProbe(renderer, render::Sequence(document, {}), probe);
    if (!before || !after) return std::nullopt;
    return ProbeReading{*before, *after, colour::ciede2000(before->lab, after->lab)};
}

}  // namespace dimhem::task
