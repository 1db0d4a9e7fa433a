#include <cmath>

#include "core/colour/srgb.h"
#include "demo/faults/picture.h"

namespace dimhem::demo {

// Haze by the distance, warm grey from a low sun; a little noise. The depth render is linear, from 0 to 1 at 1500
// units.
void makeHeadlands(const fs::path& renders, const fs::path& out) {
    constexpr double farthest = 1500, clearing = 520;  // the distance over which the light falls to a third
    constexpr double air[3] = {0.66, 0.64, 0.60};      // linear light
    Picture photo = load(renders / "headlands.png"), depth = load(renders / "headlands-depth.png"),
            near = load(renders / "headlands-matte1.png");
    save(out / "truth/headlands-clean.jpg", photo, 3, 97);
    save(out / "truth/headlands-near.png", near, 1, 0);
    Picture through = photo;
    Noise noise(1911);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            const double t = std::exp(-farthest / clearing * double{depth.at(x, y)[0]});
            float *p = photo.at(x, y), *share = through.at(x, y);
            for (int c = 0; c < 3; ++c) {
                const double light = t * colour::linearFromEncoded(double{p[c]}) + (1 - t) * air[c];
                p[c] = static_cast<float>(colour::encodedFromLinear(light)) + noise() * 0.004f;
                share[c] = static_cast<float>(t);
            }
        }
    }
    save(out / "truth/headlands-through.png", through, 1, 0);
    // Far land and water: neither sky nor shore.
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            const bool isLand = through.at(x, y)[0] > 0.06f && near.at(x, y)[0] < 0.02f;
            for (int c = 0; c < 3; ++c) through.at(x, y)[c] = isLand ? 1.0f : 0.0f;
        }
    }
    save(out / "truth/headlands-land.png", through, 1, 0);
    save(out / "headlands.jpg", photo, 3, 97);
}

}  // namespace dimhem::demo
