// A photo as the renderer reads it: any rectangle, at any level, as encoded sRGB.
//
// Level 0 is converted from the photo's own samples each time it is read, at full precision. The coarser levels are
// averaged in linear light, once, and kept in half precision; they serve the view only. Exports read level 0.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/base/content_key.h"
#include "core/base/error.h"
#include "core/base/parallel.h"
#include "core/colour/icc.h"
#include "core/image/photo.h"
#include "core/image/plane.h"

namespace dimhem::render {

class PhotoSource {
public:
    // Fails where the photo's profile cannot be used, or when cancelled.
    static base::Result<std::shared_ptr<const PhotoSource>> make(std::shared_ptr<const image::Photo> photo,
                                                                 const base::Workers& workers = {},
                                                                 const base::CancelToken& cancel = {});

    const image::Photo& photo() const { return *photo_; }
    base::Size size() const { return photo_->size(); }
    const base::ContentKey& key() const { return key_; }
    int levels() const { return 1 + static_cast<int>(coarse_.size()); }

    // `rect` in pixels of the level, within it; `out` has its size. Alpha 0..1 into `alpha` where it is not null and
    // the photo has one.
    void read(const base::Rect& rect, int level, image::EncodedPlanes& out, image::Plane<float>* alpha = nullptr) const;

private:
    struct Level {
        image::Plane<std::uint16_t> red, green, blue, alpha;  // half precision; alpha empty where the photo has none
    };
    PhotoSource() = default;
    void colourRow(const std::vector<float>& raw, std::size_t width, float* const to[3], std::vector<float>& colour,
                   std::vector<float>& working) const;
    void fetchAhead(int y, const base::Rect& rect) const;
    void readByMatrix(int y, const base::Rect& rect, float* const to[3]) const;
    // Samples of 8 and 16 bits that are encoded sRGB as they are; false where they are not.
    bool readPlain(int y, const base::Rect& rect, float* const to[3]) const;
    void readFull(const base::Rect& rect, image::EncodedPlanes& out, image::Plane<float>* alpha) const;
    void readCoarse(const Level& level, const base::Rect& rect, image::EncodedPlanes& out,
                    image::Plane<float>* alpha) const;
    bool buildLevels(const base::Workers& workers, const base::CancelToken& cancel);
    void buildBlock(int blockX, int blockY);

    std::shared_ptr<const image::Photo> photo_;
    std::optional<colour::IccTransform> toWorking_;
    std::optional<colour::MatrixTransform> byMatrix_;  // instead, for samples of 8 and 16 bits
    base::ContentKey key_;
    std::vector<Level> coarse_;
};

}  // namespace dimhem::render
