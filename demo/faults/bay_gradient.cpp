#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

// The ground up to 1.7 stops too dark, most of all at the bottom; the sky up to 0.6 stops too light, most at the top.
void makeBayGradient(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "bay.png"), sky = load(renders / "bay-matte1.png"),
            ground = load(renders / "bay-matte3.png");
    save(out / "truth/bay-gradient-clean.jpg", photo, 3, 97);
    save(out / "truth/bay-gradient-sky.png", sky, 1, 0);
    save(out / "truth/bay-gradient-ground.png", ground, 1, 0);
    Noise noise(1902);
    const double height = photo.size.height;
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            expose(p, 0.6 * (1 - smooth(y / (0.52 * height))) * double{sky.at(x, y)[0]} -
                          1.7 * smooth((y - 0.60 * height) / (0.36 * height)) * double{ground.at(x, y)[0]});
            const float grey = noise() * 0.005f;
            for (int c = 0; c < 3; ++c) p[c] += grey;
        }
    }
    save(out / "bay-gradient.jpg", photo, 3, 92);
}

}  // namespace dimhem::demo
