// Writing the finished picture to a file.
//
// The picture keeps the photo's profile and metadata. Where no correction reaches, samples of the photo's own depth go
// into the file exactly as they are, so that an untouched photo comes back bit for bit (JPEG excepted: it loses).
// Rendered at full precision, band by band, never through half floats.
#pragma once

#include <filesystem>
#include <functional>
#include <optional>

#include "core/base/parallel.h"
#include "core/io/format.h"
#include "core/render/renderer.h"

namespace dimhem::task {

struct ExportSettings {
    const io::Format* format = nullptr;     // null: by the file name's extension
    std::optional<image::SampleType> type;  // nothing: the photo's own where the format can, else the deepest it can
    bool overBackdrop = false;              // a photo with transparency laid over the document's backdrop
    int quality = 92;                       // 1..100, for formats that lose
    base::Workers workers;
};

using Progress = std::function<void(double part)>;  // 0..1, from the exporting thread

base::Result<void> exportPicture(const document::DocumentPtr& document,
                                 const std::shared_ptr<const render::PhotoSource>& photo,
                                 const std::filesystem::path& path, const ExportSettings& settings,
                                 const base::CancelToken& cancel = {}, const Progress& progress = {});

// A correction's mask as a 16-bit grey picture of the photo's size (PNG or TIFF by extension).
base::Result<void> exportMask(const document::DocumentPtr& document, document::Id correction,
                              const std::shared_ptr<const render::PhotoSource>& photo,
                              const std::filesystem::path& path, const base::Workers& workers = {});

// A small PNG of the finished picture, at most `longSidePx` long.
std::vector<std::uint8_t> thumbnailPng(const render::Renderer& renderer, const document::DocumentPtr& document,
                                       int longSidePx);

}  // namespace dimhem::task
