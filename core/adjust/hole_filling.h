// What the kinds that fill a hole have in common: which pixels are the hole, on which level it is filled as a whole,
// how a finer level goes on from there, and what of the hole's own texture stays.
//
// The hole is where the mask covers at least repair::leastCovered, in pieces that lie apart (covered.h). A piece of few
// enough pixels is filled as a whole, from the picture around it. One that has more but is thin everywhere is filled
// block by block, each with a margin beside which what lies further off counts for nothing. One that is neither is
// filled on the next coarser level; what that is off by at the border of the hole, on the finer level, is spread into
// the hole (relaxMembrane). So the outcome at a pixel does not depend on how the photo is cut, and a view and an export
// show the same filling.
//
// out = F + keep (P - mean of P), the mean over the hole's pixels under a Gaussian of sigma `textureSize`.
#pragma once

#include <vector>

#include "core/adjust/adjustment.h"
#include "core/repair/hole.h"

namespace dimhem::adjust {

// Settings they share, which a kind has among its own.
inline constexpr base::ParamSpec fillAmountSpec = {.id = "amount",
                                                   .label = "Amount",
                                                   .unit = "%",
                                                   .max = 100,
                                                   .tip = "How much of the filling takes the place of what is there."};
inline constexpr base::ParamSpec keepTextureSpec = {.id = "keep-texture",
                                                    .label = "Keep texture",
                                                    .unit = "%",
                                                    .max = 150,
                                                    .tip = "How much of the fine detail that is there stays on top."};
inline constexpr base::ParamSpec textureSizeSpec = {.id = "texture-size",
                                                    .label = "Texture size",
                                                    .unit = "px",
                                                    .min = 1,
                                                    .max = 50,
                                                    .neutral = 8,
                                                    .tip = "Detail finer than this counts as texture."};

class HoleFilling : public PaintingOperation {
public:
    struct Shared {
        double amount = 1;       // 0..1
        double keepTexture = 0;  // 0..1.5
        double textureSizePx = 8;
    };
    explicit HoleFilling(const Shared& shared) : shared_(shared) {}

    Staged<image::EncodedPlanes> over(const Area& area, const Scene& scene) const override;

protected:
    // The most pixels of a piece's rectangle that are filled as a whole.
    virtual double mostPixels() const = 0;
    // How far around a piece of some size it looks, in pixels of the level.
    virtual int looksAround(base::Size piece, int level) const = 0;
    // Of the settings that fill() goes by.
    virtual base::ContentKey settingsKey() const = 0;
    // `area`: where the planes lie, for what is set in pixels of the photo.
    virtual void fill(image::EncodedPlanes& planes, const repair::Hole& hole, const Area& area,
                      const base::CancelToken& cancel) const = 0;

private:
    enum class Manner { whole, blocks, coarser };
    // A part of an area, and what it is taken from: the filling of `from`, or the coarser level.
    struct Part {
        base::Rect rect;
        Area from;
        Manner manner;
    };
    std::vector<Part> partsOf(const Area& inside, const Scene& scene) const;
    Manner mannerFor(const base::Rect& piece, int level, const Scene& scene) const;
    Staged<image::EncodedPlanes> filled(const Area& from, const Scene& scene) const;
    Staged<image::EncodedPlanes> filling(const Area& area, const Scene& scene) const;
    Staged<image::EncodedPlanes> refined(const Area& area, const Scene& scene) const;

    Shared shared_;
};

}  // namespace dimhem::adjust
