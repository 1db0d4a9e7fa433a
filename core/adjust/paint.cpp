#include "core/adjust/paint.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/hole_filling.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {

namespace {

using image::EncodedPlanes;
using image::Plane;

constexpr base::ParamSpec params[] = {
    {.id = "amount",
     .label = "Amount",
     .unit = "%",
     .max = 100,
     .tip = "How much of what was painted takes the place of what is there."},
    {.id = "keep-light",
     .label = "Keep light",
     .unit = "%",
     .max = 100,
     .tip = "How far what was painted is made as light as what is there, so that it tints without covering."},
    keepTextureSpec,
    textureSizeSpec,
};
constexpr double startValues[] = {100, 0, 0, 8};
static_assert(std::size(startValues) == std::size(params));
constexpr std::size_t amount = base::placeOf(params, "amount"), keepLight = base::placeOf(params, "keep-light"),
                      keepTexture = base::placeOf(params, "keep-texture"),
                      textureSize = base::placeOf(params, "texture-size");

class Painting final : public PaintingOperation {
public:
    explicit Painting(const Settings& settings)
        : amount_(static_cast<float>(settings.values[amount] / 100)),
          light_(static_cast<float>(settings.values[keepLight] / 100)),
          texture_(static_cast<float>(settings.values[keepTexture] / 100)),
          textureSizePx_(settings.values[textureSize]) {}

    base::ContentKey keyOn(const LevelArea& area, const Scene& scene) const override {
        return base::KeyBuilder()
            .add(scene.paintedKey(area))
            .add(scene.pictureKey({base::grown(area.rect, reach(area.level)), area.level}))
            .key();
    }

    EncodedPlanes over(const LevelArea& area, const Scene& scene) const override {
        const image::RgbaPlanes painted = scene.painted(area);
        const int by = reach(area.level);
        const EncodedPlanes around = scene.picture({base::grown(area.rect, by), area.level});
        const base::Rect inside{by, by, by + area.rect.width(), by + area.rect.height()};
        EncodedPlanes picture(area.rect.size()), out(area.rect.size());
        picture.red = image::cropped(around.red, inside);
        picture.green = image::cropped(around.green, inside);
        picture.blue = image::cropped(around.blue, inside);
        const base::Rect all = base::rectOf(out.size());
        image::copyShared(painted.colours, all, out, all);
        leaveUnpainted(painted.alpha, picture, out);
        if (light_ > 0) makeAsLight(picture, out);
        if (texture_ > 0) addTexture(around, inside, textureSizePx_ / (1 << area.level), out);
        mixIn(painted.alpha, picture, out);
        return out;
    }

private:
    int reach(int level) const { return texture_ > 0 ? kernel::gaussianReach(textureSizePx_ / (1 << level)) : 0; }

    template <class Visit>
    static void forEachChannel(const EncodedPlanes& from, EncodedPlanes& to, Visit visit) {
        visit(from.red, to.red);
        visit(from.green, to.green);
        visit(from.blue, to.blue);
    }

    static void leaveUnpainted(const Plane<float>& alpha, const EncodedPlanes& picture, EncodedPlanes& out) {
        forEachChannel(picture, out, [&](const Plane<float>& from, Plane<float>& to) {
            for (int y = 0; y < to.size().height; ++y) {
                for (std::size_t x = 0; x < to.row(y).size(); ++x) {
                    if (!(alpha.row(y)[x] > 0)) to.row(y)[x] = from.row(y)[x];
                }
            }
        });
    }

    void makeAsLight(const EncodedPlanes& picture, EncodedPlanes& out) const {
        static constexpr float least = 1e-4f;  // of a luminance that is taken for one
        const auto count = static_cast<std::size_t>(out.size().width);
        std::vector<float> was[3] = {std::vector<float>(count), std::vector<float>(count), std::vector<float>(count)};
        const auto luminance = [](float r, float g, float b) {
            return std::max(0.2126f * r + 0.7152f * g + 0.0722f * b, least);
        };
        for (int y = 0; y < out.size().height; ++y) {
            std::ranges::copy(picture.red.row(y), was[0].begin());
            std::ranges::copy(picture.green.row(y), was[1].begin());
            std::ranges::copy(picture.blue.row(y), was[2].begin());
            float* row[3] = {out.red.row(y).data(), out.green.row(y).data(), out.blue.row(y).data()};
            for (auto& channel : was) kernel::decodeRow(channel.data(), count);
            for (float* channel : row) kernel::decodeRow(channel, count);
            for (std::size_t x = 0; x < count; ++x) {
                const float gain = std::pow(
                    luminance(was[0][x], was[1][x], was[2][x]) / luminance(row[0][x], row[1][x], row[2][x]), light_);
                for (float* channel : row) channel[x] *= gain;
            }
            for (float* channel : row) kernel::encodeRow(channel, count);
        }
    }

    void addTexture(const EncodedPlanes& around, const base::Rect& inside, double sigma, EncodedPlanes& out) const {
        forEachChannel(around, out, [&](const Plane<float>& from, Plane<float>& to) {
            Plane<float> mean = image::copied(from);
            kernel::gaussianBlur(mean, sigma);
            for (int y = 0; y < to.size().height; ++y) {
                for (int x = 0; x < to.size().width; ++x) {
                    const int px = x + inside.x0, py = y + inside.y0;
                    to.view().at(x, y) += texture_ * (from.view().at(px, py) - mean.view().at(px, py));
                }
            }
        });
    }

    void mixIn(const Plane<float>& alpha, const EncodedPlanes& picture, EncodedPlanes& out) const {
        forEachChannel(picture, out, [&](const Plane<float>& from, Plane<float>& to) {
            for (int y = 0; y < to.size().height; ++y) {
                for (std::size_t x = 0; x < to.row(y).size(); ++x) {
                    float& value = to.row(y)[x];
                    const float own = from.row(y)[x];
                    value = alpha.row(y)[x] > 0 ? own + amount_ * (value - own) : own;
                }
            }
        });
    }

    float amount_, light_, texture_;
    double textureSizePx_;
};

}  // namespace

const AdjustmentKind paint = {
    .id = "paint",
    .label = "Paint and repair",
    .category = "missing from the photo",
    .tip = "Lays down what the brush brings: colours, or other places of the photo.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<Painting>(settings); },
    .isIdentity = [](const Settings& settings) { return settings.values[amount] == 0; },
    .startValues = startValues,
};

}  // namespace dimhem::adjust
