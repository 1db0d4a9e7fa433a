#include <algorithm>
#include <cmath>
#include <filesystem>

#include "bench/edges/drawn.h"
#include "core/kernel/gaussian.h"

namespace dimhem::edges {

namespace {

using Picture = image::EncodedPlanes;

Picture copyOf(const Picture& from) {
    Picture out(from.size());
    image::copyShared(from, base::rectOf(from.size()), out, base::rectOf(from.size()));
    return out;
}

// Calm and busy pictures, those of Debian's mate-backgrounds where they are installed.
std::vector<Picture> photosOr(const Picture& otherwise, const std::vector<std::string>& names) {
    std::vector<Picture> out;
    for (const std::string& name : names) {
        const std::string path = "/usr/share/backgrounds/mate/nature/" + name + ".jpg";
        if (std::filesystem::exists(path)) out.push_back(linearCrop(load(path), 0, 0, compositeSize));
    }
    if (out.empty()) out.push_back(copyOf(otherwise));
    return out;
}

std::array<float, 3> meanOf(const Picture& picture) {
    std::array<double, 3> sum{};
    for (int y = 0; y < picture.size().height; ++y) {
        for (int x = 0; x < picture.size().width; ++x) {
            sum[0] += double{picture.red.row(y)[x]};
            sum[1] += double{picture.green.row(y)[x]};
            sum[2] += double{picture.blue.row(y)[x]};
        }
    }
    const double n = static_cast<double>(picture.size().width) * picture.size().height;
    return {static_cast<float>(sum[0] / n), static_cast<float>(sum[1] / n), static_cast<float>(sum[2] / n)};
}

// Patches of many colours, each with its own light and grain: a quilt, a painted boat, a dressed person.
Picture manyColoured(Random& random) {
    struct Patch {
        double x, y;
        std::array<double, 3> colour;
    };
    std::vector<Patch> patches;
    for (int i = 0; i < 22; ++i) {
        const double light = random.between(0.02, 0.45);
        patches.push_back(
            {random.between(250, 950),
             random.between(80, 740),
             {light * random.between(0.3, 1.6), light * random.between(0.3, 1.6), light * random.between(0.3, 1.6)}});
    }
    Picture out(compositeSize);
    for (int y = 0; y < compositeSize.height; ++y) {
        for (int x = 0; x < compositeSize.width; ++x) {
            const Patch* nearest = &patches.front();
            double least = 1e18;
            for (const Patch& patch : patches) {
                const double d = std::hypot(patch.x - x, patch.y - y);
                if (d < least) {
                    least = d;
                    nearest = &patch;
                }
            }
            const double light = (1.1 - 0.25 * x / compositeSize.width) * (1 + 0.03 * random.normal());
            out.red.row(y)[x] = static_cast<float>(nearest->colour[0] * light);
            out.green.row(y)[x] = static_cast<float>(nearest->colour[1] * light);
            out.blue.row(y)[x] = static_cast<float>(nearest->colour[2] * light);
        }
    }
    return out;
}

}  // namespace

std::vector<Scene> kinds(const std::string& demo, std::uint32_t seed) {
    Random random(seed);
    const image::Photo bay = load(demo + "/truth/bay-gradient-clean.jpg");
    const std::vector<Picture> calm = photosOr(linearCrop(bay, 600, 0, compositeSize), {"Aqua", "Blinds", "Storm"}),
                               busy = photosOr(linearCrop(bay, 60, 1080, compositeSize),
                                               {"Garden", "GreenMeadow", "Wood", "RainDrops"});
    std::vector<Scene> all;
    for (const bool isBusy : {false, true}) {
        const std::vector<Picture>& grounds = isBusy ? busy : calm;
        std::size_t next = 0;
        const auto ground = [&] { return copyOf(grounds[next++ % grounds.size()]); };
        const auto add = [&](const char* name, Difficulty difficulty, Picture subject, Picture behind, int softPx,
                             double noise) {
            all.push_back(composite(std::string(name) + (isBusy ? ", busy" : ", calm"), difficulty, std::move(subject),
                                    std::move(behind), bodyMatte(random), softPx, noise, random));
        };
        const float plaster[3] = {0.42f, 0.24f, 0.14f}, slate[3] = {0.05f, 0.07f, 0.12f};
        add("plain", Difficulty::clear, shaded(plaster, random), ground(), 0, 0.004);
        add("texture", Difficulty::clear, copyOf(busy[(next + 1) % busy.size()]), ground(), 0, 0.004);
        add("noise 10", Difficulty::noisy, shaded(slate, random), ground(), 0, 10 / 255.0);
        add("noise 20", Difficulty::noisy, shaded(plaster, random), ground(), 0, 20 / 255.0);
        add("colours", Difficulty::manyColoured, manyColoured(random), ground(), 0, 0.004);
        add("colours 2", Difficulty::manyColoured, manyColoured(random), ground(), 0, 0.01);
        Picture behind = ground();
        const std::array<float, 3> mean = meanOf(behind);
        const float same[3] = {mean[0], mean[1], mean[2]}, lower[3] = {mean[0] * .7f, mean[1] * .7f, mean[2] * .7f};
        add("same colour", Difficulty::sameColour, shaded(same, random), copyOf(behind), 0, 0.004);
        add("low contrast", Difficulty::lowContrast, shaded(lower, random), std::move(behind), 0, 0.012);
        add("soft", Difficulty::soft, shaded(slate, random), ground(), 8, 0.004);
    }
    return all;
}

}  // namespace dimhem::edges
