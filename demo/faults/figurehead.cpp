#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

namespace {

// Two red patches that do not belong: places and half axes in pixels.
struct Patch {
    double x, y, across, along;
};
constexpr Patch patches[] = {{985, 905, 150, 120}, {1370, 360, 190, 95}};

}  // namespace

// The patches on the painted face, and a greenish cast of the glass eyes.
void makeFigurehead(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "figurehead.png"), face = load(renders / "figurehead-matte1.png"),
            lips = load(renders / "figurehead-matte2.png"), eyes = load(renders / "figurehead-matte3.png");
    save(out / "truth/figurehead-clean.jpg", photo, 3, 97);
    save(out / "truth/figurehead-lips.png", lips, 1, 0);
    save(out / "truth/figurehead-eyes.png", eyes, 1, 0);
    Picture map{photo.size, std::vector<float>(photo.rgb.size())};
    const Blotches uneven(photo.size, 24, 29), coarse(photo.size, 70, 31);
    Noise noise(1859);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            double red = 0;
            for (const Patch& patch : patches) {
                const double d = std::hypot((x - patch.x) / patch.across, (y - patch.y) / patch.along);
                red = std::max(red, smooth(1.35 - d + 0.10 * coarse.at(x, y)) *
                                        std::clamp(0.85 + 0.12 * uneven.at(x, y), 0.5, 1.0));
            }
            red *= double{face.at(x, y)[0]};
            const double green = eyes.at(x, y)[0];
            float* p = photo.at(x, y);
            scaleLight(p, (1 + 0.05 * red) * (1 - 0.20 * green), (1 - 0.18 * red) * (1 + 0.10 * green),
                       (1 - 0.10 * red) * (1 - 0.16 * green));
            map.at(x, y)[0] = static_cast<float>(red);
            const float grey = noise() * 0.004f;
            for (int c = 0; c < 3; ++c) p[c] += grey;
        }
    }
    save(out / "truth/figurehead-patches.png", map, 1, 0);
    save(out / "figurehead.jpg", photo, 3, 92);
}

}  // namespace dimhem::demo
