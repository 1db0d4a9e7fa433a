#include <algorithm>
#include <cmath>

#include "demo/faults/picture.h"

namespace dimhem::demo {

// The lantern before the green sweep, cut out; its truth is the same lantern before a grey one.
void makeGreenSweep(const fs::path& renders, const fs::path& out) {
    Picture photo = load(renders / "lantern-green.png"), clean = load(renders / "lantern.png"),
            lantern = load(renders / "lantern-matte1.png");
    save(out / "truth/green-sweep-clean.jpg", clean, 3, 97);
    save(out / "truth/green-sweep-lantern.png", lantern, 1, 0);
    save(out / "green-sweep.png", photo, 4, 0, &lantern);
}

}  // namespace dimhem::demo
