#include "core/adjust/hole_filling.h"

#include <algorithm>
#include <cmath>

#include "core/image/tiles.h"
#include "core/kernel/gaussian.h"
#include "core/repair/membrane.h"

namespace dimhem::adjust {

namespace {

using image::EncodedPlanes;
using image::Plane;
using repair::Hole;
using repair::holeIn;

constexpr int rounds = 24;  // of relaxing, on a level finer than the one filled
// A piece with no square of thickPx in it is thin: the membrane forgets what lies as far off as the margin, by a factor
// of exp(-pi margin / thickness).
constexpr int thickPx = 64, blockPx = 384, blockMarginPx = 128;

LevelArea grown(const LevelArea& area, int by) {
    return {base::grown(area.rect, by), area.level};
}

LevelArea onPhoto(base::Size photo, const LevelArea& area) {
    const base::Size size = image::levelSize(photo, area.level);
    const int x0 = std::clamp(area.rect.x0, 0, size.width - 1), y0 = std::clamp(area.rect.y0, 0, size.height - 1);
    return {{x0, y0, std::clamp(area.rect.x1, x0 + 1, size.width), std::clamp(area.rect.y1, y0 + 1, size.height)},
            area.level};
}

// From the pixels on the photo to those of the whole area.
EncodedPlanes edgeGoneOn(EncodedPlanes from, const LevelArea& inside, const LevelArea& area) {
    if (inside.rect == area.rect) return from;
    const auto extended = [&](const Plane<float>& plane) {
        return image::planeOf(area.rect.size(), [&](int x, int y) {
            return plane.view().at(std::clamp(area.rect.x0 + x, inside.rect.x0, inside.rect.x1 - 1) - inside.rect.x0,
                                   std::clamp(area.rect.y0 + y, inside.rect.y0, inside.rect.y1 - 1) - inside.rect.y0);
        });
    };
    EncodedPlanes out;
    out.red = extended(from.red);
    out.green = extended(from.green);
    out.blue = extended(from.blue);
    return out;
}

// A part of what is filled; of a tile that the filling does not cover all of, what it does.
void copyPart(const Plane<float>& from, const base::Rect& fromRect, const base::Rect& part, Plane<float>& to,
              const base::Rect& toRect) {
    const base::Rect both = base::intersected(part, fromRect);
    for (int y = both.y0; y < both.y1; ++y)
        std::copy_n(from.row(y - fromRect.y0).data() + (both.x0 - fromRect.x0), both.width(),
                    to.row(y - toRect.y0).data() + (both.x0 - toRect.x0));
}

void copyPart(const EncodedPlanes& from, const base::Rect& fromRect, const base::Rect& part, EncodedPlanes& to,
              const base::Rect& toRect) {
    copyPart(from.red, fromRect, part, to.red, toRect);
    copyPart(from.green, fromRect, part, to.green, toRect);
    copyPart(from.blue, fromRect, part, to.blue, toRect);
}

// The pixels of the next coarser level that those of an area are read between.
LevelArea under(const LevelArea& area) {
    const base::Rect& r = area.rect;
    return {{base::floorDiv(r.x0 - 1, 2), base::floorDiv(r.y0 - 1, 2), base::floorDiv(r.x1, 2) + 1,
             base::floorDiv(r.y1, 2) + 1},
            area.level + 1};
}

// Three quarters of the nearer coarse pixel and one of the other, across and down.
Plane<float> readBetween(const Plane<float>& from, const LevelArea& coarse, const LevelArea& area) {
    const auto along = [](int fine, int first, int& near, int& far) {
        near = base::floorDiv(fine, 2);
        far = (fine - 2 * near ? near + 1 : near - 1) - first;
        near -= first;
    };
    return image::planeOf(area.rect.size(), [&](int x, int y) {
        int nearX, farX, nearY, farY;
        along(area.rect.x0 + x, coarse.rect.x0, nearX, farX);
        along(area.rect.y0 + y, coarse.rect.y0, nearY, farY);
        const auto row = [&](int at) { return 0.75f * from.view().at(nearX, at) + 0.25f * from.view().at(farX, at); };
        return 0.75f * row(nearY) + 0.25f * row(farY);
    });
}

void forEachPlane(EncodedPlanes& a, const EncodedPlanes& b, auto&& visit) {
    visit(a.red, b.red);
    visit(a.green, b.green);
    visit(a.blue, b.blue);
}

// What the filling is off by where the picture is known, spread into the hole and added.
void mendBorder(Plane<float>& filling, const Plane<float>& picture, const Hole& hole) {
    Plane<float> off = image::planeOf(filling.size(), [&](int x, int y) {
        return hole.view().at(x, y) ? 0.0f : picture.view().at(x, y) - filling.view().at(x, y);
    });
    repair::relaxMembrane(off, hole, rounds);
    for (int y = 0; y < filling.size().height; ++y)
        std::transform(filling.row(y).begin(), filling.row(y).end(), off.row(y).begin(), filling.row(y).begin(),
                       std::plus<>());
}

// Under a Gaussian, over the hole's pixels only.
Plane<float> meanInHole(const Plane<float>& values, const Hole& hole, const Plane<float>& weights, double sigma) {
    Plane<float> sums = image::planeOf(
        values.size(), [&](int x, int y) { return hole.view().at(x, y) ? values.view().at(x, y) : 0.0f; });
    kernel::gaussianBlur(sums, sigma);
    for (int y = 0; y < sums.size().height; ++y) {
        for (std::size_t x = 0; x < sums.row(y).size(); ++x) sums.row(y)[x] /= std::max(weights.row(y)[x], 1e-6f);
    }
    return sums;
}

Plane<float> holeWeights(const Hole& hole, double sigma) {
    Plane<float> weights =
        image::planeOf(hole.size(), [&](int x, int y) { return hole.view().at(x, y) ? 1.0f : 0.0f; });
    kernel::gaussianBlur(weights, sigma);
    return weights;
}

// What a hole is left as when the pixels at its border are taken off; beyond the plane it goes on.
void eatOnePixel(Hole& hole) {
    const base::Size size = hole.size();
    const Hole before = image::copied(hole);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            for (int ny = std::max(0, y - 1); ny <= std::min(size.height - 1, y + 1); ++ny) {
                for (int nx = std::max(0, x - 1); nx <= std::min(size.width - 1, x + 1); ++nx)
                    hole.view().at(x, y) &= before.view().at(nx, ny);
            }
        }
    }
}

// Whether a square of thickPx of the level lies in the hole anywhere in a rectangle: looked for on a coarser
// level, which is near enough.
bool isThick(const base::Rect& rect, int level, const Scene& scene) {
    const int coarse = std::min(level + 3, image::maxLevel), rounds = thickPx >> (coarse - level + 1);
    const int by = coarse - level;
    const LevelArea area{{rect.x0 >> by, rect.y0 >> by, ((rect.x1 - 1) >> by) + 1, ((rect.y1 - 1) >> by) + 1}, coarse};
    Hole hole = holeIn(scene.coverage(area));
    for (int round = 0; round < rounds; ++round) eatOnePixel(hole);
    for (int y = 0; y < hole.size().height; ++y) {
        if (std::ranges::find(hole.row(y), 1) != hole.row(y).end()) return true;
    }
    return false;
}

}  // namespace

HoleFilling::Manner HoleFilling::mannerFor(const base::Rect& piece, int level, const Scene& scene) const {
    if (static_cast<double>(piece.width()) * piece.height() <= mostPixels()) return Manner::whole;
    if (level == image::maxLevel) return Manner::whole;
    base::KeyBuilder key;
    key.add("thickness")
        .add(level)
        .add(piece.x0)
        .add(piece.y0)
        .add(piece.x1)
        .add(piece.y1)
        .add(scene.coverageKey({piece, level}));
    const auto thick = std::static_pointer_cast<const bool>(scene.once(key.key(), [&]() -> Scene::Made {
        return {std::make_shared<const bool>(isThick(piece, level, scene)), sizeof(bool)};
    }));
    return *thick ? Manner::coarser : Manner::blocks;
}

std::vector<HoleFilling::Part> HoleFilling::partsOf(const LevelArea& inside, const Scene& scene) const {
    const int level = inside.level;
    const base::Rect photo = base::rectOf(image::levelSize(scene.photoSize(), level));
    const auto around = [&](const base::Rect& rect, base::Size piece) {
        return LevelArea{base::intersected(base::grown(rect, looksAround(piece, level)), photo), level};
    };
    const auto covered = scene.covered(level);
    std::vector<Part> parts;
    covered->grid().forEach(inside.rect, [&](const base::Rect& tile) {
        const int piece = covered->pieceOf(tile);
        if (piece < 0) return;
        const base::Rect part = base::intersected(tile, inside.rect), &whole = covered->rectOf(piece);
        const Manner manner = mannerFor(whole, level, scene);
        if (manner == Manner::blocks) {
            image::forEachTile(part, blockPx, [&](const base::Rect& block) {
                const LevelArea wide = around(base::grown(block, blockMarginPx), {thickPx, thickPx});
                parts.push_back({base::intersected(block, part), wide, manner});
            });
        } else {
            parts.push_back({part, around(whole, whole.size()), manner});
        }
    });
    return parts;
}

base::ContentKey HoleFilling::filledKey(const LevelArea& from, const Scene& scene) const {
    return base::KeyBuilder()
        .add("filled")
        .add(from.level)
        .add(from.rect.x0)
        .add(from.rect.y0)
        .add(from.rect.x1)
        .add(from.rect.y1)
        .add(scene.pictureKey(from))
        .add(scene.coverageKey(from))
        .key();
}

std::shared_ptr<const EncodedPlanes> HoleFilling::filled(const LevelArea& from, const Scene& scene) const {
    base::KeyBuilder key;
    key.add(filledKey(from, scene)).add(settingsKey());
    return std::static_pointer_cast<const EncodedPlanes>(scene.once(key.key(), [&]() -> Scene::Made {
        auto planes = std::make_shared<EncodedPlanes>(scene.picture(from));
        fill(*planes, holeIn(scene.coverage(from)), from, scene);
        const std::size_t bytes = planes->bytes();
        return {std::move(planes), bytes};
    }));
}

base::ContentKey HoleFilling::fillingKey(const LevelArea& area, const Scene& scene) const {
    const LevelArea inside = onPhoto(scene.photoSize(), area);
    base::KeyBuilder key;
    key.add(scene.pictureKey(inside));
    base::Rect fromCoarser;
    for (const Part& part : partsOf(inside, scene)) {
        if (part.manner == Manner::coarser) {
            fromCoarser = base::united(fromCoarser, part.rect);
        } else {
            key.add(filledKey(part.from, scene));
        }
    }
    if (!fromCoarser.empty()) {
        const LevelArea around = grown({fromCoarser, area.level}, rounds);
        key.add(scene.pictureKey(around)).add(scene.coverageKey(around)).add(fillingKey(under(around), scene));
    }
    return key.key();
}

// Over an area that may reach beyond the photo.
EncodedPlanes HoleFilling::filling(const LevelArea& area, const Scene& scene) const {
    const LevelArea inside = onPhoto(scene.photoSize(), area);
    EncodedPlanes out = scene.picture(inside);
    const std::vector<Part> parts = partsOf(inside, scene);
    base::Rect fromCoarser;
    for (const Part& part : parts) {
        if (part.manner == Manner::coarser) {
            fromCoarser = base::united(fromCoarser, part.rect);
        } else {
            copyPart(*filled(part.from, scene), part.from.rect, part.rect, out, inside.rect);
        }
    }
    if (!fromCoarser.empty()) {
        const EncodedPlanes finer = refined({fromCoarser, area.level}, scene);
        for (const Part& part : parts) {
            if (part.manner == Manner::coarser) copyPart(finer, fromCoarser, part.rect, out, inside.rect);
        }
    }
    return edgeGoneOn(std::move(out), inside, area);
}

EncodedPlanes HoleFilling::refined(const LevelArea& area, const Scene& scene) const {
    const LevelArea around = grown(area, rounds), coarse = under(around);
    const Hole hole = holeIn(scene.coverage(around));
    const EncodedPlanes picture = scene.picture(around), coarser = filling(coarse, scene);
    EncodedPlanes out(area.rect.size());
    const auto mend = [&](Plane<float>& to, const Plane<float>& from, const Plane<float>& known) {
        Plane<float> mended = readBetween(from, coarse, around);
        mendBorder(mended, known, hole);
        image::copyShared(mended, around.rect, to, area.rect);
    };
    mend(out.red, coarser.red, picture.red);
    mend(out.green, coarser.green, picture.green);
    mend(out.blue, coarser.blue, picture.blue);
    return out;
}

int HoleFilling::textureReach(int level) const {
    return shared_.keepTexture == 0 ? 0 : kernel::gaussianReach(shared_.textureSizePx / (1 << level));
}

base::ContentKey HoleFilling::keyOn(const LevelArea& area, const Scene& scene) const {
    const LevelArea around = grown(area, textureReach(area.level));
    return base::KeyBuilder()
        .add(area.level)
        .add(fillingKey(area, scene))
        .add(scene.pictureKey(around))
        .add(scene.coverageKey(around))
        .key();
}

EncodedPlanes HoleFilling::over(const LevelArea& area, const Scene& scene) const {
    EncodedPlanes out = filling(area, scene);
    lay(area, scene, out);
    return out;
}

// The filling becomes what is shown: with what stays of the texture, by the amount; outside the hole the picture
// itself.
void HoleFilling::lay(const LevelArea& area, const Scene& scene, EncodedPlanes& filling) const {
    const int reach = textureReach(area.level);
    const LevelArea around = grown(area, reach);
    const Hole hole = holeIn(scene.coverage(around));
    const EncodedPlanes picture = scene.picture(around);
    const double sigma = shared_.textureSizePx / (1 << area.level);
    const Plane<float> weights = reach > 0 ? holeWeights(hole, sigma) : Plane<float>();
    const auto amount = static_cast<float>(shared_.amount), keep = static_cast<float>(shared_.keepTexture);
    forEachPlane(filling, picture, [&](Plane<float>& to, const Plane<float>& from) {
        const Plane<float> mean = reach > 0 ? meanInHole(from, hole, weights, sigma) : Plane<float>();
        for (int y = 0; y < area.rect.height(); ++y) {
            for (int x = 0; x < area.rect.width(); ++x) {
                const int px = x + reach, py = y + reach;
                const float own = from.view().at(px, py);
                float& value = to.view().at(x, y);
                if (!hole.view().at(px, py)) {
                    value = own;
                    continue;
                }
                if (reach > 0) value += keep * (own - mean.view().at(px, py));
                value = own + amount * (value - own);
            }
        }
    });
}

}  // namespace dimhem::adjust
