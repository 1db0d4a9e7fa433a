#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

// Noise everywhere, banding in the sky: steps of four 8-bit levels, as a sky stretched too far shows them.
void makeTowerDusk(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "tower.png"), sky = load(renders / "tower-matte1.png"),
            tower = load(renders / "tower-matte2.png");
    save(out / "truth/tower-dusk-clean.jpg", photo, 3, 97);
    save(out / "truth/tower-dusk-sky.png", sky, 1, 0);
    save(out / "truth/tower-dusk-tower.png", tower, 1, 0);
    Noise noise(1871);
    const Blotches red(photo.size, 5, 7), blue(photo.size, 6, 11);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            const float inSky = sky.at(x, y)[0];
            constexpr float steps = 255.0f / 4;
            for (int c = 0; c < 3; ++c) p[c] += inSky * (std::round(p[c] * steps) / steps - p[c]);
            const float sigma = 0.020f - 0.013f * inSky;
            const float grey = noise() * sigma;
            p[0] += grey + red.at(x, y) * sigma * 0.7f;
            p[1] += grey - (red.at(x, y) + blue.at(x, y)) * sigma * 0.2f;
            p[2] += grey + blue.at(x, y) * sigma * 0.9f;
        }
    }
    save(out / "tower-dusk.jpg", photo, 3, 92);
}

}  // namespace dimhem::demo
