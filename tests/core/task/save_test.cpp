// The small picture of a document that is saved: from what is known already, and never in the way of saving.
#include "core/task/save.h"

#include <gtest/gtest.h>

#include "core/io/document_file.h"
#include "tests/support/documents.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {

namespace {

std::shared_ptr<const render::PhotoSource> somePhoto() {
    return *render::PhotoSource::make(tests::sharedPhoto({400, 300}));
}

}  // namespace

TEST(Save, TheSmallPictureIsTheSameWhoeverWorksItOut) {
    const tests::TempFolder folder;
    const Opened opened = tests::openedOf(somePhoto(), folder / "photo.png");
    const auto document = tests::threeCorrections();
    SaveSettings settings;
    ASSERT_TRUE(save(opened, document, folder / "own.dimhem", settings));
    settings.renderer = std::make_shared<const render::Renderer>(opened.photo, std::make_shared<render::TileCache>());
    ASSERT_TRUE(save(opened, document, folder / "shared.dimhem", settings));
    const auto own = io::readThumbnail(folder / "own.dimhem"), shared = io::readThumbnail(folder / "shared.dimhem");
    ASSERT_TRUE(own && shared);
    EXPECT_EQ(*own, *shared);
    EXPECT_GT(settings.renderer->cache().bytes(), 0u) << "by that renderer";
}

TEST(Save, WithoutMemoryForTheSmallPictureTheWorkIsSavedAllTheSame) {
    const tests::TempFolder folder;
    const Opened opened = tests::openedOf(somePhoto(), folder / "photo.png");
    const auto document = tests::threeCorrections();
    SaveSettings settings;
    const auto ceiling = std::make_shared<base::MemoryCeiling>(1, [] { return std::size_t{2}; });
    const auto cache = std::make_shared<render::TileCache>(std::size_t{64} << 20, ceiling);
    settings.renderer = std::make_shared<const render::Renderer>(opened.photo, cache);
    // Whatever is kept next is too much.
    while (true) {
        try {
            cache->keepLatest(base::KeyBuilder().add("some").key(), std::make_shared<int>(0), std::size_t{1} << 20);
        } catch (const base::CeilingReached&) {
            break;
        }
    }
    for (int i = 0; i < 7; ++i)
        cache->keepLatest(base::KeyBuilder().add("some").key(), std::make_shared<int>(0), std::size_t{1} << 20);
    const auto saved = save(opened, document, folder / "work.dimhem", settings);
    ASSERT_TRUE(saved) << saved.error().message;
    const auto back = io::readDocument(folder / "work.dimhem");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->document->corrections.size(), 3u);
}

}  // namespace dimhem::task
