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

using image::grown;
using image::onPhoto;

// From the pixels on the photo to those of the whole area.
EncodedPlanes edgeGoneOn(EncodedPlanes from, const Area& inside, const Area& area) {
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
Area under(const Area& area) {
    const base::Rect& r = area.rect;
    return {{base::floorDiv(r.x0 - 1, 2), base::floorDiv(r.y0 - 1, 2), base::floorDiv(r.x1, 2) + 1,
             base::floorDiv(r.y1, 2) + 1},
            area.level + 1};
}

// Three quarters of the nearer coarse pixel and one of the other, across and down.
Plane<float> readBetween(const Plane<float>& from, const Area& coarse, const Area& area) {
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

// The coarser level on which a rectangle is looked at for its thickness, which is near enough.
Area thicknessArea(const base::Rect& rect, int level) {
    const int coarse = std::min(level + 3, image::maxLevel), by = coarse - level;
    return {{rect.x0 >> by, rect.y0 >> by, ((rect.x1 - 1) >> by) + 1, ((rect.y1 - 1) >> by) + 1}, coarse};
}

// Whether a square of thickPx lies in the hole anywhere, so many rounds of eating at it being as much.
constexpr auto isThick = [](const Plane<float>& coverage, int rounds) {
    Hole hole = holeIn(coverage);
    for (int round = 0; round < rounds; ++round) eatOnePixel(hole);
    for (int y = 0; y < hole.size().height; ++y) {
        if (std::ranges::find(hole.row(y), 1) != hole.row(y).end()) return true;
    }
    return false;
};

// What a part of an area is taken from.
struct FilledPart {
    std::vector<base::Rect> rects;
    base::Rect from;  // what is filled
    Staged<EncodedPlanes> filled;
};
void addTo(base::KeyBuilder& key, const FilledPart& part) {
    addTo(key, part.rects);
    addTo(key, part.from);
    key.add(part.filled.key());
}

// The picture on the photo with its parts filled, and its edge gone on over the whole area.
constexpr auto withParts = [](EncodedPlanes picture, const std::vector<FilledPart>& parts, const Area& inside,
                              const Area& area) {
    for (const FilledPart& part : parts) {
        const auto filled = part.filled.value();
        for (const base::Rect& rect : part.rects) copyPart(*filled, part.from, rect, picture, inside.rect);
    }
    return edgeGoneOn(std::move(picture), inside, area);
};

// From the filling of the next coarser level.
constexpr auto refinedFrom = [](const EncodedPlanes& coarser, const EncodedPlanes& picture,
                                const Plane<float>& coverage, const Area& coarse, const Area& around,
                                const Area& area) {
    const Hole hole = holeIn(coverage);
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
};

// The filling becomes what is shown: with what stays of the texture, by the amount; outside the hole the picture
// itself. The picture and the coverage reach so many pixels further.
constexpr auto layFilling = [](const EncodedPlanes& filling, const EncodedPlanes& picture, const Plane<float>& coverage,
                               double amount, double keepTexture, double sigma, int reach) {
    const Hole hole = holeIn(coverage);
    const Plane<float> weights = reach > 0 ? holeWeights(hole, sigma) : Plane<float>();
    const auto share = static_cast<float>(amount), keep = static_cast<float>(keepTexture);
    const auto laid = [&](const Plane<float>& filled, const Plane<float>& from) {
        const Plane<float> mean = reach > 0 ? meanInHole(from, hole, weights, sigma) : Plane<float>();
        return image::planeOf(filled.size(), [&](int x, int y) {
            const int px = x + reach, py = y + reach;
            const float own = from.view().at(px, py);
            if (!hole.view().at(px, py)) return own;
            float value = filled.view().at(x, y);
            if (reach > 0) value += keep * (own - mean.view().at(px, py));
            return own + share * (value - own);
        });
    };
    EncodedPlanes out;
    out.red = laid(filling.red, picture.red);
    out.green = laid(filling.green, picture.green);
    out.blue = laid(filling.blue, picture.blue);
    return out;
};

}  // namespace

HoleFilling::Manner HoleFilling::mannerFor(const base::Rect& piece, int level, const Scene& scene) const {
    if (static_cast<double>(piece.width()) * piece.height() <= mostPixels()) return Manner::whole;
    if (level == image::maxLevel) return Manner::whole;
    const Area looked = thicknessArea(piece, level);
    const auto thick = stage::kept(scene.store(), staged<bool>("thickness", isThick, scene.coverage(looked),
                                                               thickPx >> (looked.level - level + 1)));
    return *thick.value() ? Manner::coarser : Manner::blocks;
}

std::vector<HoleFilling::Part> HoleFilling::partsOf(const Area& inside, const Scene& scene) const {
    const int level = inside.level;
    const base::Rect photo = base::rectOf(image::levelSize(scene.photoSize(), level));
    const auto around = [&](const base::Rect& rect, base::Size piece) {
        return Area{base::intersected(base::grown(rect, looksAround(piece, level)), photo), level};
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
                const Area wide = around(base::grown(block, blockMarginPx), {thickPx, thickPx});
                parts.push_back({base::intersected(block, part), wide, manner});
            });
        } else {
            parts.push_back({part, around(whole, whole.size()), manner});
        }
    });
    return parts;
}

Staged<EncodedPlanes> HoleFilling::filled(const Area& from, const Scene& scene) const {
    const auto fillIt = [](EncodedPlanes planes, const Plane<float>& coverage, const HoleFilling& how, const Area& from,
                           const base::CancelToken& cancel) {
        how.fill(planes, holeIn(coverage), from, cancel);
        return planes;
    };
    return stage::kept(scene.store(),
                       staged<EncodedPlanes>("filled", fillIt, scene.picture(from), scene.coverage(from),
                                             stage::keyed(settingsKey(), *this), from, stage::unkeyed(scene.cancel())));
}

// Over an area that may reach beyond the photo.
Staged<EncodedPlanes> HoleFilling::filling(const Area& area, const Scene& scene) const {
    const Area inside = onPhoto(scene.photoSize(), area);
    std::vector<FilledPart> all;
    std::vector<base::Rect> coarser;
    base::Rect fromCoarser;
    for (const Part& part : partsOf(inside, scene)) {
        if (part.manner == Manner::coarser) {
            coarser.push_back(part.rect);
            fromCoarser = base::united(fromCoarser, part.rect);
        } else {
            all.push_back({{part.rect}, part.from.rect, filled(part.from, scene)});
        }
    }
    if (!coarser.empty()) all.push_back({coarser, fromCoarser, refined({fromCoarser, area.level}, scene)});
    return staged<EncodedPlanes>("with holes filled", withParts, scene.picture(inside), std::move(all), inside, area);
}

Staged<EncodedPlanes> HoleFilling::refined(const Area& area, const Scene& scene) const {
    const Area around = grown(area, rounds), coarse = under(around);
    return staged<EncodedPlanes>("refined filling", refinedFrom, filling(coarse, scene), scene.picture(around),
                                 scene.coverage(around), coarse, around, area);
}

Staged<EncodedPlanes> HoleFilling::over(const Area& area, const Scene& scene) const {
    const double sigma = shared_.textureSizePx / (1 << area.level);
    const int reach = shared_.keepTexture == 0 ? 0 : kernel::gaussianReach(sigma);
    const Area around = grown(area, reach);
    return staged<EncodedPlanes>("hole filling", layFilling, filling(area, scene), scene.picture(around),
                                 scene.coverage(around), shared_.amount, shared_.keepTexture, sigma, reach);
}

}  // namespace dimhem::adjust
