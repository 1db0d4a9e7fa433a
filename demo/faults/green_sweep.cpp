#include "core/colour/srgb.h"
#include "demo/faults/picture.h"

namespace dimhem::demo {

// The lantern before the green sweep, cut out; its truth is the same lantern before a grey one. Four tenths of the
// light of the sweep reach it.
void makeGreenSweep(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "lantern-green.png"), clean = load(renders / "lantern.png"),
            lantern = load(renders / "lantern-matte1.png");
    save(out / "truth/green-sweep-clean.jpg", clean, 3, 97);
    save(out / "truth/green-sweep-lantern.png", lantern, 1, 0);
    constexpr double reaches = 0.4;
    for (std::size_t i = 0; i < photo.rgb.size(); ++i) {
        const double green = colour::linearFromEncoded(double{photo.rgb[i]}),
                     grey = colour::linearFromEncoded(double{clean.rgb[i]});
        photo.rgb[i] = static_cast<float>(colour::encodedFromLinear(grey + reaches * (green - grey)));
    }
    save(out / "green-sweep.png", photo, 4, 0, &lantern);
}

}  // namespace dimhem::demo
