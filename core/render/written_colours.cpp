#include "core/render/written_colours.h"

#include "core/kernel/srgb_rows.h"

namespace dimhem::render {

WrittenColours::WrittenColours(const image::Photo& photo) {
    const bool converts = !photo.linear && !photo.profile.empty() && photo.samples.colourChannels() == 3 &&
                          !colour::isSrgb(photo.profile);
    if (!converts) return;
    if (auto transform = colour::IccTransform::fromWorking(photo.profile, 3)) fromWorking_ = std::move(*transform);
}

void WrittenColours::faultsOf(const image::EncodedPlanes& picture, int y, std::vector<check::Fault>& out) const {
    const auto width = static_cast<std::size_t>(picture.size().width);
    out.resize(width);
    const float* planes[3] = {picture.red.row(y).data(), picture.green.row(y).data(), picture.blue.row(y).data()};
    if (!fromWorking_) {
        for (std::size_t x = 0; x < width; ++x) out[x] = check::faultOf({planes[0][x], planes[1][x], planes[2][x]});
        return;
    }
    std::vector<float> rgb(width * 3), written(width * 3);
    for (std::size_t x = 0; x < width; ++x) {
        for (std::size_t c = 0; c < 3; ++c) rgb[x * 3 + c] = planes[c][x];
    }
    kernel::decodeRow(rgb.data(), rgb.size());
    fromWorking_->row(rgb.data(), written.data(), width);
    for (std::size_t x = 0; x < width; ++x)
        out[x] = check::faultOf({written[x * 3], written[x * 3 + 1], written[x * 3 + 2]});
}

}  // namespace dimhem::render
