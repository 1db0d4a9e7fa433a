// Saving a document: its small picture made, its link to the photo set right, and all of it written at once.
#pragma once

#include <filesystem>

#include "core/render/renderer.h"
#include "core/task/open.h"

namespace dimhem::task {

struct SaveSettings {
    bool pack = false;  // put a copy of the photo inside, where it is not there already
    // What the person was asked, and answered with yes.
    bool replaceReadOnly = false;  // a write-protected file
    bool replaceChanged = false;   // a file that another program has written since it was opened
    bool replaceCopy = false;      // a document that holds a copy of another photo than the one in use
    // Of the same photo: what it knows already is not worked out again for the small picture. Null: one of its own.
    std::shared_ptr<const render::Renderer> renderer{};
};

struct Saved {
    io::FileStamp stamp;                                           // of the new file
    std::shared_ptr<const std::vector<std::uint8_t>> packedPhoto;  // what it holds of the photo; null: a link alone
};

// Writes a version of what was opened. The photo is linked by a path relative to the
// document, or packed into it: where it was packed before, or where `pack` asks for it. Never over the photo, its
// backdrop, a matte or any other photo. The codes readOnly, changedOnDisk and losesCopy are questions for the person.
// Stopped before the file is put in its place, the document on disk is the one before.
base::Result<Saved> save(const Opened& opened, const document::DocumentPtr& version, const std::filesystem::path& path,
                         const SaveSettings& settings = {}, const base::CancelToken& cancel = {});

}  // namespace dimhem::task
