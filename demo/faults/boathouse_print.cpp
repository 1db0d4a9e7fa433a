#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

namespace {

// An old print: grey tones through the warm colours of its paper and silver, with grain.
void print(Picture& photo) {
    Noise grain(1911);
    const Blotches clumps(photo.size, 3, 5);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            double v = std::pow(luminanceOf(p), 1 / 2.2);
            v = std::clamp(0.5 + 1.25 * (v - 0.52), 0.0, 1.0);
            v += 0.018 * clumps.at(x, y) + 0.008 * double{grain()};
            const double t = std::clamp(v, 0.0, 1.0);
            p[0] = static_cast<float>(0.105 + 0.835 * t);
            p[1] = static_cast<float>(0.085 + 0.815 * t - 0.02 * t * (1 - t));
            p[2] = static_cast<float>(0.070 + 0.745 * t - 0.09 * t * (1 - t));
        }
    }
}

// How far a place lies from a fold, in pixels; folds are straight lines through the whole print.
double fromFold(double x, double y, double x0, double y0, double degrees) {
    const double a = degrees * 3.14159265358979 / 180;
    return std::abs((x - x0) * std::sin(a) - (y - y0) * std::cos(a));
}

}  // namespace

// A bright leak of light from the right, two fold lines, and the whole print faded.
void makeBoathousePrint(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "boathouse.png");
    print(photo);
    save(out / "truth/boathouse-print-clean.jpg", photo, 3, 96);
    Picture leakMap{photo.size, std::vector<float>(photo.rgb.size())}, foldMap = leakMap;
    const Blotches cracked(photo.size, 9, 43), cloud(photo.size, 260, 17);
    const double w = photo.size.width, h = photo.size.height;
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            for (int c = 0; c < 3; ++c) p[c] = 0.19f + 0.66f * p[c];  // faded
            const double slant = x - 0.22 * (y - 0.5 * h), middle = 0.80 * w + 60 * cloud.at(x, y);
            const double leak =
                0.78 * std::exp(-std::pow((slant - middle) / (0.085 * w), 2)) * (0.75 + 0.25 * smooth(y / h));
            const double light[3] = {1.0, 0.86, 0.62};
            for (int c = 0; c < 3; ++c) p[c] += static_cast<float>(leak * light[c] * 0.62) * (1 - p[c] * 0.45f);
            const double d = std::min(fromFold(x, y, 0.36 * w, 0, 90.6), fromFold(x, y, 0, 0.47 * h, -0.5));
            const double fold = std::clamp(2.6 + 1.3 * cracked.at(x, y) - d, 0.0, 1.0);
            for (int c = 0; c < 3; ++c)
                p[c] += static_cast<float>(fold) * (0.88f - 0.03f * static_cast<float>(c) - p[c]) * 0.8f -
                        0.05f * static_cast<float>(std::exp(-d / 9));
            leakMap.at(x, y)[0] = static_cast<float>(std::min(1.0, leak / 0.78));
            foldMap.at(x, y)[0] = static_cast<float>(fold);
        }
    }
    save(out / "truth/boathouse-print-leak.png", leakMap, 1, 0);
    save(out / "truth/boathouse-print-folds.png", foldMap, 1, 0);
    save(out / "boathouse-print.jpg", photo, 3, 92);
}

}  // namespace dimhem::demo
