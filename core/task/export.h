// Writing the finished picture to a file.
//
// The picture keeps the photo's profile and metadata. Where no correction reaches, samples of the photo's own depth go
// into the file exactly as they are, so that an untouched photo comes back bit for bit (JPEG excepted: it loses),
// unless it is made smaller. Rendered at full precision, band by band, never through half floats.
#pragma once

#include <filesystem>
#include <functional>
#include <optional>

#include "core/base/parallel.h"
#include "core/io/format.h"
#include "core/render/renderer.h"
#include "core/task/open.h"

namespace dimhem::task {

struct ExportSettings {
    const io::Format* format = nullptr;     // null: by the file name's extension
    std::optional<image::SampleType> type;  // nothing: the photo's own where the format can, else the deepest it can
    bool replaceReadOnly = false;           // a write-protected file may be replaced: the person was asked
    bool overBackdrop = false;              // a photo with transparency laid over the document's backdrop
    std::optional<int> longSidePx;          // >= 1, made smaller where it is longer; nothing: the photo's own size
    int quality = 92;                       // 1..100, for formats that lose
    base::Workers workers;
};

using Progress = std::function<void(double part)>;  // 0..1, from the exporting thread

base::Size exportedSize(base::Size photo, const ExportSettings& settings);

struct Exported {
    std::string warning;  // what of the metadata could not be kept, in whole sentences; empty: nothing was lost
};

// Writes a version of what was opened. The photo, its backdrop, its mattes and the document are never written over.
base::Result<Exported> exportPicture(const Opened& opened, const document::DocumentPtr& version,
                                     const std::filesystem::path& path, const ExportSettings& settings,
                                     const base::CancelToken& cancel = {}, const Progress& progress = {});

// A correction's mask as a 16-bit grey picture of the photo's size (PNG or TIFF by extension).
base::Result<void> exportMask(const Opened& opened, const document::DocumentPtr& version, document::Id correction,
                              const std::filesystem::path& path, const ExportSettings& settings = {},
                              const base::CancelToken& cancel = {});

// A small PNG of the finished picture, at most `longSidePx` long.
std::vector<std::uint8_t> thumbnailPng(const render::Renderer& renderer, const document::DocumentPtr& document,
                                       int longSidePx, const base::CancelToken& cancel = {});

}  // namespace dimhem::task
