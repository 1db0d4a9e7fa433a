// Matte: the photo's own alpha, or a grey picture scaled to the photo's size.
//
// A picture is named by the file it came from and held as 16-bit coverage; a document carries it along as a PNG entry
// of its zip file. Until it has been read (core/task/open), or where it cannot be, it covers nothing.
#pragma once

#include <memory>
#include <string>

#include "core/mask/shape.h"

namespace dimhem::mask {

using MattePixels = std::shared_ptr<const image::Plane<std::uint16_t>>;

class Matte final : public Shape {
public:
    Matte() = default;  // the photo's own alpha
    Matte(std::string file, MattePixels pixels);
    static const ShapeKind kindInfo;

    bool isAlpha() const { return file_.empty(); }
    const std::string& file() const { return file_; }
    const MattePixels& pixels() const { return pixels_; }

    const ShapeKind& kind() const override { return kindInfo; }
    Staged<Coverage> over(const Area& area, Context& context) const override;
    void toJson(nlohmann::json& json) const override;

private:
    std::string file_;
    MattePixels pixels_;
    base::ContentKey pixelsKey_;
};

}  // namespace dimhem::mask
