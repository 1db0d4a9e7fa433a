#include "core/adjust/texture_fill.h"

#include <algorithm>
#include <cmath>

#include "core/adjust/hole_filling.h"
#include "core/repair/patches.h"

namespace dimhem::adjust {

namespace {

constexpr base::ParamSpec params[] = {
    fillAmountSpec,
    {.id = "around",
     .label = "From around",
     .unit = "%",
     .min = 10,
     .max = 300,
     .neutral = 100,
     .step = 5,
     .tip = "How far around the hole patches may come from, in sizes of the hole."},
    keepTextureSpec,
    textureSizeSpec,
};
constexpr double startValues[] = {100, 100, 0, 8};
static_assert(std::size(startValues) == std::size(params));
constexpr std::size_t amount = base::placeOf(params, "amount"), around = base::placeOf(params, "around"),
                      keepTexture = base::placeOf(params, "keep-texture"),
                      textureSize = base::placeOf(params, "texture-size");

class TextureFilling final : public HoleFilling {
public:
    explicit TextureFilling(const Settings& settings)
        : HoleFilling(
              {settings.values[amount] / 100, settings.values[keepTexture] / 100, settings.values[textureSize]}),
          around_(settings.values[around] / 100) {}

protected:
    double mostPixels() const override { return 2e5; }

    int looksAround(base::Size hole, int) const override {
        constexpr int least = 24, most = 600;
        return std::clamp(static_cast<int>(std::ceil(around_ * std::max(hole.width, hole.height))), least, most);
    }

    base::ContentKey settingsKey() const override { return base::KeyBuilder().add("texture fill").add(around_).key(); }

    void fill(image::EncodedPlanes& planes, const repair::Hole& hole, const Area&,
              const base::CancelToken& cancel) const override {
        const repair::Hole everywhere = image::filled(hole.size(), std::uint8_t{1});
        repair::fillWithPatches(planes, hole, everywhere, [&] { base::throwIfCancelled(cancel); });
    }

private:
    double around_;
};

}  // namespace

const AdjustmentKind textureFill = {
    .id = "texture-fill",
    .label = "Texture fill",
    .category = "missing from the photo",
    .tip = "Fills torn or covered places with patches of what is around them.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<TextureFilling>(settings); },
    .isIdentity = [](const Settings& settings) { return settings.values[amount] == 0; },
    .startValues = startValues,
    .paints = true,
};

}  // namespace dimhem::adjust
