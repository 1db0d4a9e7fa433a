#include "bench/edges/scenes.h"

#include <algorithm>

#include "bench/edges/drawn.h"
#include "core/kernel/components.h"

namespace dimhem::edges {

namespace {

image::Plane<float> matteFrom(const std::string& path) {
    const image::Photo photo = load(path);
    image::Plane<float> out(photo.size());
    std::vector<float> row(static_cast<std::size_t>(photo.size().width * photo.samples.channels()));
    for (int y = 0; y < photo.size().height; ++y) {
        photo.samples.readRow(y, 0, photo.size().width, row.data());
        for (int x = 0; x < photo.size().width; ++x)
            out.row(y)[x] = row[static_cast<std::size_t>(x * photo.samples.channels())];
    }
    return out;
}

// What hangs together with the place alone.
void keepPiece(image::Plane<float>& matte, base::Point place) {
    image::Plane<std::uint8_t> ones(matte.size());
    for (int y = 0; y < matte.size().height; ++y)
        std::transform(matte.row(y).begin(), matte.row(y).end(), ones.row(y).begin(), [](float v) { return v > 0; });
    const image::Plane<std::uint8_t> kept = kernel::floodedFrom(ones, std::span(&place, 1));
    for (int y = 0; y < matte.size().height; ++y) {
        for (int x = 0; x < matte.size().width; ++x) {
            if (!kept.row(y)[x]) matte.row(y)[x] = 0;
        }
    }
}

Scene demoScene(std::string name, const std::string& photo, const std::string& matte, base::Point inside,
                int fromColumn = 0) {
    Scene scene;
    scene.name = std::move(name);
    scene.photo = *render::PhotoSource::make(std::make_shared<image::Photo>(load(photo)));
    scene.matte = matteFrom(matte);
    for (int y = 0; y < scene.size().height; ++y) std::fill_n(scene.matte.row(y).data(), fromColumn, 0.0f);
    keepPiece(scene.matte, inside);
    return scene;
}

}  // namespace

std::shared_ptr<const render::PhotoSource> sourceOf(const image::EncodedPlanes& linear) {
    Random none(1);
    return camera(linear, 0, none);
}

std::vector<Scene> scenes(const std::string& demo, std::uint32_t seed) {
    Random random(seed);
    const image::Photo dusk = load(demo + "/truth/tower-dusk-clean.jpg"),
                       bay = load(demo + "/truth/bay-gradient-clean.jpg");
    const auto clouds = [&] { return linearCrop(bay, 600, 0, compositeSize); };
    const auto meadow = [&](int step) { return linearCrop(bay, 60, 1080, compositeSize, step); };
    const auto duskSky = [&] { return linearCrop(dusk, 0, 0, compositeSize); };
    const auto bricks = [&] {  // a strip of the tower's wall, put side by side
        const image::EncodedPlanes strip = linearCrop(dusk, 1260, 640, {210, 800});
        image::EncodedPlanes out(compositeSize);
        for (int y = 0; y < compositeSize.height; ++y) {
            for (int x = 0; x < compositeSize.width; ++x) {
                const int at = x % 420 < 210 ? x % 210 : 209 - x % 210;
                out.red.row(y)[x] = strip.red.row(y)[at] * 1.6f;
                out.green.row(y)[x] = strip.green.row(y)[at] * 1.6f;
                out.blue.row(y)[x] = strip.blue.row(y)[at] * 1.6f;
            }
        }
        return out;
    };
    const float plaster[3] = {0.42f, 0.24f, 0.14f}, leaf[3] = {0.060f, 0.078f, 0.030f},
                soot[3] = {0.016f, 0.018f, 0.020f};
    std::vector<Scene> all;
    all.push_back(
        demoScene("tower", demo + "/tower-dusk.jpg", demo + "/truth/tower-dusk-tower.png", {1340, 900}, 1170));
    all.push_back(demoScene("shore", demo + "/truth/bay-gradient-clean.jpg", demo + "/truth/bay-gradient-ground.png",
                            {1200, 1400}));
    all.push_back(
        composite("plain", Difficulty::clear, shaded(plaster, random), clouds(), bodyMatte(random), 0, 0.004, random));
    all.push_back(composite("texture", Difficulty::clear, bricks(), meadow(1), bodyMatte(random), 0, 0.004, random));
    all.push_back(
        composite("noisy", Difficulty::clear, shaded(plaster, random), clouds(), bodyMatte(random), 0, 0.022, random));
    all.push_back(composite("same colour", Difficulty::sameColour, shaded(leaf, random), meadow(1), bodyMatte(random),
                            0, 0.004, random));
    all.push_back(composite("low contrast", Difficulty::lowContrast, shaded(soot, random),
                            linearCrop(dusk, 0, 1500, compositeSize), bodyMatte(random), 0, 0.012, random));
    all.push_back(
        composite("soft", Difficulty::soft, shaded(plaster, random), duskSky(), bodyMatte(random), 8, 0.004, random));
    all.push_back(
        composite("rods", Difficulty::thin, shaded(soot, random), duskSky(), rodMatte(random), 0, 0.004, random));
    return all;
}

}  // namespace dimhem::edges
