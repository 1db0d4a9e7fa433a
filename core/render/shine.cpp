#include "core/render/shine.h"

#include <limits>

#include "core/colour/lab.h"
#include "core/colour/srgb.h"

namespace dimhem::render {

namespace {

double valueOf(Shine::Channel channel, const colour::EncodedRgb& c) {
    switch (channel) {
        case Shine::Channel::lightness: return colour::labFromEncoded(c).l / 100;
        case Shine::Channel::red: return c.r;
        case Shine::Channel::green: return c.g;
        case Shine::Channel::blue: return c.b;
        case Shine::Channel::luminance:
            return colour::encodedFromLinear(colour::luminance(colour::linearFromEncoded(c)));
    }
    return 0;
}

struct Pixel {
    float &r, &g, &b;
    colour::EncodedRgb colour() const { return {r, g, b}; }
    void set(double red, double green, double blue) const {
        r = static_cast<float>(red);
        g = static_cast<float>(green);
        b = static_cast<float>(blue);
    }
};

Pixel pixelOf(image::EncodedPlanes& picture, int x, int y) {
    const auto column = static_cast<std::size_t>(x);
    return {picture.red.row(y)[column], picture.green.row(y)[column], picture.blue.row(y)[column]};
}

}  // namespace

void shineTones(const Shine& shine, const mask::Coverage* coverage, const image::EncodedPlanes* tones,
                image::EncodedPlanes& picture) {
    constexpr double dark = 0.22, ground = 0.04;
    constexpr double anything = std::numeric_limits<double>::infinity();
    const double from = shine.from <= 0 ? -anything : shine.from, to = shine.to >= 1 ? anything : shine.to;
    for (int y = 0; y < picture.size().height; ++y) {
        for (int x = 0; x < picture.size().width; ++x) {
            const Pixel pixel = pixelOf(picture, x, y);
            const colour::EncodedRgb c = pixel.colour();
            const auto column = static_cast<std::size_t>(x);
            const colour::EncodedRgb told =
                tones ? colour::EncodedRgb{tones->red.row(y)[column], tones->green.row(y)[column],
                                           tones->blue.row(y)[column]}
                      : c;
            const double value = valueOf(shine.channel, told);
            const bool covered = !coverage || (coverage->isConstant() ? coverage->value() : coverage->row(y)[x]) > 0;
            if (covered && value >= from && value < to) continue;
            pixel.set(ground + dark * c.r, ground + dark * c.g, ground + dark * c.b);
        }
    }
}

void shineLost(const WrittenColours& written, const image::EncodedPlanes& before, image::EncodedPlanes& picture) {
    std::vector<check::Fault> was, is;
    for (int y = 0; y < picture.size().height; ++y) {
        written.faultsOf(before, y, was);
        written.faultsOf(picture, y, is);
        for (int x = 0; x < picture.size().width; ++x) {
            const Pixel pixel = pixelOf(picture, x, y);
            const check::Fault fault = is[static_cast<std::size_t>(x)];
            if (fault == check::Fault::none || fault == was[static_cast<std::size_t>(x)]) {
                const double grey = 0.1 + 0.5 * colour::labFromEncoded(pixel.colour()).l / 100;
                pixel.set(grey, grey, grey);
                continue;
            }
            for (const LostColour& lost : lostColours) {
                if (lost.fault == fault) pixel.set(lost.red / 255.0, lost.green / 255.0, lost.blue / 255.0);
            }
        }
    }
}

}  // namespace dimhem::render
