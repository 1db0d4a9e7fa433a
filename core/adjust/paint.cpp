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

template <class Visit>
void forEachChannel(const EncodedPlanes& from, EncodedPlanes& to, Visit visit) {
    visit(from.red, to.red);
    visit(from.green, to.green);
    visit(from.blue, to.blue);
}

void leaveUnpainted(const Plane<float>& alpha, const EncodedPlanes& picture, EncodedPlanes& out) {
    forEachChannel(picture, out, [&](const Plane<float>& from, Plane<float>& to) {
        for (int y = 0; y < to.size().height; ++y) {
            for (std::size_t x = 0; x < to.row(y).size(); ++x) {
                if (!(alpha.row(y)[x] > 0)) to.row(y)[x] = from.row(y)[x];
            }
        }
    });
}

void makeAsLight(const EncodedPlanes& picture, float light, EncodedPlanes& out) {
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
                luminance(was[0][x], was[1][x], was[2][x]) / luminance(row[0][x], row[1][x], row[2][x]), light);
            for (float* channel : row) channel[x] *= gain;
        }
        for (float* channel : row) kernel::encodeRow(channel, count);
    }
}

void addTexture(const EncodedPlanes& around, const base::Rect& inside, double sigma, float share, EncodedPlanes& out) {
    forEachChannel(around, out, [&](const Plane<float>& from, Plane<float>& to) {
        Plane<float> mean = image::copied(from);
        kernel::gaussianBlur(mean, sigma);
        for (int y = 0; y < to.size().height; ++y) {
            for (int x = 0; x < to.size().width; ++x) {
                const int px = x + inside.x0, py = y + inside.y0;
                to.view().at(x, y) += share * (from.view().at(px, py) - mean.view().at(px, py));
            }
        }
    });
}

void mixIn(const Plane<float>& alpha, const EncodedPlanes& picture, float amount, EncodedPlanes& out) {
    forEachChannel(picture, out, [&](const Plane<float>& from, Plane<float>& to) {
        for (int y = 0; y < to.size().height; ++y) {
            for (std::size_t x = 0; x < to.row(y).size(); ++x) {
                float& value = to.row(y)[x];
                const float own = from.row(y)[x];
                value = alpha.row(y)[x] > 0 ? own + amount * (value - own) : own;
            }
        }
    });
}

struct Manner {
    float amount, light, texture;
    double textureSigma;  // in pixels of the level
};
void addTo(base::KeyBuilder& key, const Manner& manner) {
    key.add(manner.amount).add(manner.light).add(manner.texture).add(manner.textureSigma);
}

// `around`: the picture over the area and some pixels more on all sides, which texture is told by.
constexpr auto layPainted = [](const image::RgbaPlanes& painted, const EncodedPlanes& around, const Manner& manner) {
    const base::Size size = painted.alpha.size();
    const int by = (around.size().width - size.width) / 2;
    const base::Rect inside{by, by, by + size.width, by + size.height}, all = base::rectOf(size);
    EncodedPlanes picture(size), out(size);
    picture.red = image::cropped(around.red, inside);
    picture.green = image::cropped(around.green, inside);
    picture.blue = image::cropped(around.blue, inside);
    image::copyShared(painted.colours, all, out, all);
    leaveUnpainted(painted.alpha, picture, out);
    if (manner.light > 0) makeAsLight(picture, manner.light, out);
    if (manner.texture > 0) addTexture(around, inside, manner.textureSigma, manner.texture, out);
    mixIn(painted.alpha, picture, manner.amount, out);
    return out;
};

class Painting final : public PaintingOperation {
public:
    explicit Painting(const Settings& settings)
        : amount_(static_cast<float>(settings.values[amount] / 100)),
          light_(static_cast<float>(settings.values[keepLight] / 100)),
          texture_(static_cast<float>(settings.values[keepTexture] / 100)),
          textureSizePx_(settings.values[textureSize]) {}

    Staged<EncodedPlanes> over(const Area& area, const Scene& scene) const override {
        const Manner manner{amount_, light_, texture_, textureSizePx_ / (1 << area.level)};
        const int reach = texture_ > 0 ? kernel::gaussianReach(manner.textureSigma) : 0;
        return staged<EncodedPlanes>("paint", layPainted, scene.painted(area), scene.picture(image::grown(area, reach)),
                                     manner);
    }

private:
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
    .paints = true,
};

}  // namespace dimhem::adjust
