#include "core/adjust/line_fill.h"

#include <algorithm>

#include "core/adjust/hole_filling.h"
#include "core/repair/carried.h"

namespace dimhem::adjust {

namespace {

constexpr base::ParamSpec params[] = {
    fillAmountSpec,
    {.id = "border",
     .label = "Border",
     .unit = "px",
     .max = 20,
     .neutral = 1,
     .step = 0.5,
     .decimals = 1,
     .tip = "How wide the end of each line is averaged, so that grain makes no streaks."},
    keepTextureSpec,
    textureSizeSpec,
};
constexpr double startValues[] = {100, 1, 0, 8};
static_assert(std::size(startValues) == std::size(params));
constexpr std::size_t amount = base::placeOf(params, "amount"), border = base::placeOf(params, "border"),
                      keepTexture = base::placeOf(params, "keep-texture"),
                      textureSize = base::placeOf(params, "texture-size");

constexpr base::ParamSpec placeSpec(std::string_view id) {
    return {.id = id, .label = id, .unit = "px", .min = -100'000, .max = 200'000, .tip = "A place on the photo."};
}
constexpr base::ParamSpec columns[] = {placeSpec("x0"), placeSpec("y0"), placeSpec("x1"), placeSpec("y1")};
constexpr TableSpec tables[] = {{.id = "directions",
                                 .label = "Directions",
                                 .tip = "Lines that the filling runs along.",
                                 .columns = columns,
                                 .mostRows = 64,
                                 .neutral = {},
                                 .ofThisPhoto = true}};

class LineFilling final : public HoleFilling {
public:
    explicit LineFilling(const Settings& settings)
        : HoleFilling(
              {settings.values[amount] / 100, settings.values[keepTexture] / 100, settings.values[textureSize]}),
          borderPx_(settings.values[border]),
          directions_(settings.tables[0]) {}

protected:
    double mostPixels() const override { return 5e5; }
    int looksAround(base::Size, int) const override { return 32; }

    base::ContentKey settingsKey() const override {
        return base::KeyBuilder().add("line fill").add(borderPx_).add(std::span<const double>(directions_)).key();
    }

    void fill(image::EncodedPlanes& planes, const repair::Hole& hole, const Area& area,
              const base::CancelToken& cancel) const override {
        const double scale = 1.0 / (1 << area.level);
        const auto placed = [&](double x, double y) {
            return base::Point{x * scale - area.rect.x0, y * scale - area.rect.y0};
        };
        std::vector<repair::Mark> marks;
        for (std::size_t i = 0; i + 3 < directions_.size(); i += 4)
            marks.push_back(
                {placed(directions_[i], directions_[i + 1]), placed(directions_[i + 2], directions_[i + 3])});
        repair::fillAlong(planes, hole, marks, borderPx_ * scale, repair::Elsewhere::membrane,
                          [&] { base::throwIfCancelled(cancel); });
    }

private:
    double borderPx_;
    Table directions_;
};

}  // namespace

Settings withDirection(Settings settings, base::Point from, base::Point to) {
    Table& table = settings.tables[0];
    if (rowsOf(tables[0], table) >= tables[0].mostRows) table.erase(table.begin(), table.begin() + 4);
    for (const double v : {from.x, from.y, to.x, to.y}) table.push_back(base::clamped(columns[0], v));
    return settings;
}

Settings withoutDirections(Settings settings) {
    settings.tables[0].clear();
    return settings;
}

const AdjustmentKind lineFill = {
    .id = "line-fill",
    .label = "Line fill",
    .category = "missing from the photo",
    .tip = "Fills folds, scratches and wires so that edges which meet them go on across.",
    .params = params,
    .prepare = [](const Settings& settings) { return only<LineFilling>(settings); },
    .tables = tables,
    .isIdentity = [](const Settings& settings) { return settings.values[amount] == 0; },
    .startValues = startValues,
    .paints = true,
};

}  // namespace dimhem::adjust
