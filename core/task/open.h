// Opening a photo or a document, ready for rendering.
#pragma once

#include <filesystem>
#include <optional>

#include "core/base/parallel.h"
#include "core/document/document.h"
#include "core/io/file_stamp.h"
#include "core/io/format.h"
#include "core/io/held_file.h"
#include "core/render/renderer.h"

namespace dimhem::task {

struct Opened {
    document::DocumentPtr document;                                // of a bare photo: one without corrections
    std::filesystem::path documentPath;                            // empty for a bare photo
    std::optional<io::FileStamp> documentStamp;                    // of its file as it was read
    std::filesystem::path photoPath;                               // empty where the photo is packed into the document
    std::shared_ptr<const io::HeldFile> photoFile;                 // as it was read; null where it is packed
    std::vector<std::shared_ptr<const io::HeldFile>> otherFiles;   // pictures of mattes and of the backdrop
    std::shared_ptr<const std::vector<std::uint8_t>> packedPhoto;  // its file, where it is the photo in use; else null
    bool hasOtherCopy = false;     // the document's file holds a copy of its photo, but another was asked for
    bool differsFromFile = false;  // another photo was asked for than the document names, or unsaved work goes on
    std::shared_ptr<const render::PhotoSource> photo;
    std::shared_ptr<base::MemoryCeiling> ceiling;  // that work on it keeps to; null: none
    std::shared_ptr<base::FoundStore> found;       // where what took long to find is kept; null: nowhere
    std::string warning;                           // whole sentences; empty: all is as it was
};

// Reads `path`, a photo or a document by its first bytes. Where a document's photo is missing, the error's code is
// notFound and `photoInstead` is the way to go on. Pictures of backdrops and mattes that mayRead() (chosen_files.h)
// rules out are left out, with a warning.
// What adjustments measure and a document does not state is measured here, unless only what stands in it is wanted.
enum class Unstated { measured, left };
base::Result<Opened> open(const std::filesystem::path& path,
                          const std::optional<std::filesystem::path>& photoInstead = {},
                          const base::Workers& workers = {}, const io::Reading& reading = {},
                          Unstated unstated = Unstated::measured);

// Goes on with a version of a document that its file does not hold: `path` may be empty, or lead to a file that is
// gone.
base::Result<Opened> openVersion(const document::DocumentPtr& version, const std::filesystem::path& path,
                                 const base::Workers& workers = {}, const io::Reading& reading = {});

// For work on it, with memory of its own for so many bytes of what was done.
render::Renderer rendererOf(const Opened& opened, std::size_t cacheBytes = render::TileCache::defaultBudget);

}  // namespace dimhem::task
