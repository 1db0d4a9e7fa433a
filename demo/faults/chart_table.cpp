#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

namespace {

// Where the window shines back from the glaze: streaks down the mug, leaning as it does; places and half axes in
// pixels.
struct Streak {
    double x, y, across, along;
};
constexpr Streak streaks[] = {{196, 520, 34, 190}, {262, 500, 11, 170}};

}  // namespace

// The hard shadow of the window's bars across the table, and the sun's glare on the glaze of the mug blown out.
void makeChartTable(const fs::path& renders, const fs::path& out) {
    Picture clean = load(renders / "chart-table.png"), photo = load(renders / "chart-table-bars.png"),
            mug = load(renders / "chart-table-matte1.png");
    save(out / "truth/chart-table-clean.jpg", clean, 3, 97);
    Picture shadow{photo.size, std::vector<float>(photo.rgb.size())}, glare = shadow;
    Noise noise(1876);
    for (int y = 0; y < photo.size.height; ++y) {
        for (int x = 0; x < photo.size.width; ++x) {
            float* p = photo.at(x, y);
            const double ratio = luminanceOf(p) / std::max(1e-4, luminanceOf(clean.at(x, y)));
            shadow.at(x, y)[0] = static_cast<float>(smooth((1 - ratio - 0.04) / 0.25));
            double bright = 0;
            for (const Streak& s : streaks) {
                const double d = std::hypot((x - s.x - 0.12 * (y - s.y)) / s.across, (y - s.y) / s.along);
                bright = std::max(bright, smooth((1.25 - d) / 0.5));
            }
            bright *= double{mug.at(x, y)[0]};
            glare.at(x, y)[0] = static_cast<float>(bright);
            expose(p, 1.7 * bright);
            const float grey = noise() * 0.004f;
            for (int c = 0; c < 3; ++c) p[c] = std::min(1.0f, p[c] + grey);
        }
    }
    save(out / "truth/chart-table-shadow.png", shadow, 1, 0);
    save(out / "truth/chart-table-glare.png", glare, 1, 0);
    save(out / "chart-table.jpg", photo, 3, 92);
}

}  // namespace dimhem::demo
