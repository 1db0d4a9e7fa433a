#include "core/adjust/smooth_fill.h"

#include <algorithm>

#include "core/adjust/hole_filling.h"
#include "core/kernel/gaussian.h"
#include "core/repair/membrane.h"

namespace dimhem::adjust {

namespace {

using image::Plane;

constexpr base::ParamSpec params[] = {
    fillAmountSpec,
    {.id = "border",
     .label = "Border",
     .unit = "px",
     .max = 50,
     .neutral = 2,
     .tip = "How wide a strip beside the hole is averaged, so that its grain makes no streaks."},
    keepTextureSpec,
    textureSizeSpec,
};
constexpr double startValues[] = {100, 2, 0, 8};
static_assert(std::size(startValues) == std::size(params));
constexpr std::size_t amount = base::placeOf(params, "amount"), border = base::placeOf(params, "border"),
                      keepTexture = base::placeOf(params, "keep-texture"),
                      textureSize = base::placeOf(params, "texture-size");

class SmoothFilling final : public HoleFilling {
public:
    explicit SmoothFilling(const Settings& settings)
        : HoleFilling(
              {settings.values[amount] / 100, settings.values[keepTexture] / 100, settings.values[textureSize]}),
          borderPx_(settings.values[border]) {}

protected:
    double mostPixels() const override { return 5e5; }

    int looksAround(base::Size, int level) const override {
        return 1 + 2 * kernel::gaussianReach(borderPx_ / (1 << level));
    }

    base::ContentKey settingsKey() const override { return base::KeyBuilder().add("smooth fill").add(borderPx_).key(); }

    void fill(image::EncodedPlanes& planes, const repair::Hole& hole, const Area& area,
              const base::CancelToken& cancel) const override {
        const double sigma = borderPx_ / (1 << area.level);
        Plane<float>* const channels[] = {&planes.red, &planes.green, &planes.blue};
        if (kernel::gaussianReach(sigma) > 0) {
            const Plane<float> weights = blurredKnown(image::filled(planes.size(), 1.0f), hole, sigma);
            for (Plane<float>* plane : channels) evenOut(*plane, hole, weights, sigma);
        }
        repair::fillMembrane(channels, hole, [&] { base::throwIfCancelled(cancel); });
    }

private:
    static Plane<float> blurredKnown(const Plane<float>& values, const repair::Hole& hole, double sigma) {
        Plane<float> out = image::planeOf(
            values.size(), [&](int x, int y) { return hole.view().at(x, y) ? 0.0f : values.view().at(x, y); });
        kernel::gaussianBlur(out, sigma);
        return out;
    }

    static void evenOut(Plane<float>& plane, const repair::Hole& hole, const Plane<float>& weights, double sigma) {
        const Plane<float> sums = blurredKnown(plane, hole, sigma);
        for (int y = 0; y < plane.size().height; ++y) {
            for (int x = 0; x < plane.size().width; ++x) {
                if (!hole.view().at(x, y))
                    plane.view().at(x, y) = sums.view().at(x, y) / std::max(weights.view().at(x, y), 1e-6f);
            }
        }
    }

    double borderPx_;
};

bool isIdentity(const Settings& settings) {
    return settings.values[amount] == 0;
}

}  // namespace

const AdjustmentKind smoothFill = {
    .id = "smooth-fill",
    .label = "Smooth fill",
    .category = "missing from the photo",
    .tip = "Fills what is blown, greyed or stained with the tone and colour around it.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<SmoothFilling>(settings); },
    .isIdentity = isIdentity,
    .startValues = startValues,
    .paints = true,
};

}  // namespace dimhem::adjust
