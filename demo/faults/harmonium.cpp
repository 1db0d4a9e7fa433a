#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

// The naturals yellowed, unevenly; two of them stained darker besides.
void makeHarmonium(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "harmonium.png"), keys = load(renders / "harmonium-matte1.png"),
            stained = load(renders / "harmonium-matte2.png");
    save(out / "truth/harmonium-clean.jpg", photo, 3, 97);
    save(out / "truth/harmonium-keys.png", keys, 1, 0);
    save(out / "truth/harmonium-stained.png", stained, 1, 0);
    Noise noise(1884);
    const Blotches uneven(photo.size, 160, 3), stain(photo.size, 60, 19);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            const double yellow = double{keys.at(x, y)[0]} * (1 + 0.10 * uneven.at(x, y));
            const double dark = double{stained.at(x, y)[0]} * std::clamp(0.85 + 0.2 * stain.at(x, y), 0.3, 1.0);
            scaleLight(p, 1 - 0.03 * yellow - 0.20 * dark, 1 - 0.10 * yellow - 0.27 * dark,
                       1 - 0.30 * yellow - 0.24 * dark);
            const float grey = noise() * 0.004f;
            for (int c = 0; c < 3; ++c) p[c] += grey;
        }
    }
    save(out / "harmonium.jpg", photo, 3, 92);
}

}  // namespace dimhem::demo
