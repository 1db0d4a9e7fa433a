#include "core/task/kept_files.h"

#include "core/mask/matte.h"

namespace dimhem::task {

io::WriteRules saveRules(const Opened& opened, const document::Document& version, bool replaceReadOnly) {
    io::WriteRules rules;
    rules.replaceReadOnly = replaceReadOnly;
    rules.keep.push_back({opened.photoPath, "the photo itself, which is never changed", opened.photoFile});
    for (const auto& file : opened.otherFiles)
        rules.keep.push_back({{}, "a picture that the document uses, which is never changed", file});
    // Where a copy is packed inside, the file it was taken from may still be there.
    if (!version.photo.path.empty())
        rules.keep.push_back({opened.documentPath.parent_path() / version.photo.path,
                              "the photo this document was made from, which is never changed"});
    if (const auto* picture = std::get_if<document::BackdropPicture>(&version.backdrop))
        rules.keep.push_back({picture->path, "the picture of the backdrop, which is never changed"});
    document::forEachCorrection(version, [&](const document::CorrectionPtr& correction) {
        for (const auto& part : correction->mask.parts) {
            const auto* matte = dynamic_cast<const mask::Matte*>(part->shape.get());
            if (!matte || matte->isAlpha()) continue;
            // Named absolutely, or beside the document; an entry of its zip file leads to no file.
            rules.keep.push_back(
                {opened.documentPath.parent_path() / matte->file(), "the picture of a matte, which is never changed"});
        }
    });
    return rules;
}

io::WriteRules exportRules(const Opened& opened, const document::Document& version, bool replaceReadOnly) {
    io::WriteRules rules = saveRules(opened, version, replaceReadOnly);
    rules.keep.push_back({opened.documentPath, "the document with the corrections"});
    return rules;
}

}  // namespace dimhem::task
