// Masks and views that look at the picture as it arrives at a correction.
#include <gtest/gtest.h>

#include "core/base/long_work.h"
#include "core/document/edits.h"
#include "core/render/frame.h"
#include "core/render/renderer.h"
#include "tests/support/documents.h"
#include "tests/support/pictures.h"
#include "tests/support/rendered.h"

namespace dimhem::render {

namespace {

std::shared_ptr<const PhotoSource> sourceOf(image::Photo photo) {
    return *PhotoSource::make(std::make_shared<const image::Photo>(std::move(photo)), {1});
}

Renderer rendererOf(base::Size size, int channels = 3, std::size_t cacheBytes = TileCache::defaultBudget) {
    return {sourceOf(tests::madePhoto(size, channels)), std::make_shared<TileCache>(cacheBytes)};
}

std::string looking(int i) {
    return R"({"mask": {"parts": [{"kind": "luminosity-range", "tones": [10, 30, 60, 90], "measured": "arriving", "smooth": )" +
           std::to_string(1 + 0.7 * i) +
           R"(}]}, "clean-edge": true, "adjustments": [{"kind": "light", "exposure": 0.1}]})";
}

std::string lookingCorrections(int count) {
    std::string text;
    for (int i = 0; i < count; ++i) text += (i ? "," : "") + looking(i);
    return "[" + text + "]";
}

bool samePixels(const DisplayTile& a, const DisplayTile& b) {
    for (int y = 0; y < a.size().height; ++y) {
        if (!std::equal(a.row(y).begin(), a.row(y).end(), b.row(y).begin())) return false;
    }
    return true;
}

}  // namespace

// Twice as many corrections took nine times as long; forty would outlast anybody's patience.
TEST(Arriving, WorkGrowsWithTheCorrectionsAndNoFaster) {
    const Renderer renderer = rendererOf({256, 256});
    const Sequence sequence(tests::documentOf(lookingCorrections(40)), {});
    image::EncodedPlanes out({256, 256});
    EXPECT_TRUE(renderer.picture(sequence, {{0, 0, 256, 256}, 0}, out));
}

// Nor where the cache is far too small for it: pieces of the same work do not throw each other out.
TEST(Arriving, WorkHasAnEndWhereTheCacheIsSmall) {
    const base::Size size{256, 256};
    const auto document = tests::documentOf(lookingCorrections(12));
    image::EncodedPlanes small(size), ample(size);
    const Renderer renderer = rendererOf(size, 3, std::size_t{64} << 10);
    renderer.picture(Sequence(document, {}), {base::rectOf(size), 0}, small);
    rendererOf(size).picture(Sequence(document, {}), {base::rectOf(size), 0}, ample);
    EXPECT_TRUE(tests::sameBits(small, ample));
    EXPECT_LE(renderer.cache().bytes(), std::size_t{2} << 20) << "what was held is let go";
}

TEST(Arriving, TheOutcomeDoesNotDependOnTheAreasItIsAskedFor) {
    const base::Size size{300, 200};
    const auto document = tests::documentOf(lookingCorrections(4));
    image::EncodedPlanes whole(size);
    rendererOf(size).picture(Sequence(document, {}), {base::rectOf(size), 0}, whole);
    const Renderer renderer = rendererOf(size);
    const Sequence sequence(document, {});
    for (const base::Rect& rect :
         {base::Rect{0, 0, 37, 200}, {37, 0, 180, 99}, {180, 20, 300, 131}, {90, 90, 170, 200}}) {
        image::EncodedPlanes part(rect.size());
        renderer.picture(sequence, {rect, 0}, part);
        for (int y = rect.y0; y < rect.y1; ++y) {
            for (int x = rect.x0; x < rect.x1; ++x)
                ASSERT_EQ(part.red.row(y - rect.y0)[x - rect.x0], whole.red.row(y)[x]) << x << ", " << y;
        }
    }
}

TEST(Arriving, AMaskLentByALaterCorrectionIsMeasuredOnWhatArrivesAtTheBorrower) {
    const auto document = tests::documentOf(R"([
        {"id": 1, "mask": {"parts": [{"kind": "borrowed", "from": 2}]}, "adjustments": [{"kind": "light", "exposure": 1}]},
        {"id": 2, "mask": {"parts": [{"kind": "luminosity-range", "tones": [0, 10, 50, 60], "measured": "arriving"}]},
         "adjustments": [{"kind": "light", "exposure": 1}]}])");
    const Renderer renderer = rendererOf({90, 60});
    const Sequence sequence(document, {});
    image::EncodedPlanes out({90, 60});
    EXPECT_TRUE(renderer.picture(sequence, {{0, 0, 90, 60}, 0}, out));
    const auto onPhoto = tests::documentOf(R"([{"mask": {"parts": [
        {"kind": "luminosity-range", "tones": [0, 10, 50, 60]}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
    const mask::Area all{{0, 0, 90, 60}, 0};
    const auto lent = renderer.coverage(sequence, 1, all);
    const auto own = renderer.coverage(Sequence(onPhoto, {}), onPhoto->corrections[0]->id, all);
    for (int y = 0; y < 60; ++y) ASSERT_TRUE(std::equal(lent->row(y), lent->row(y) + 90, own->row(y))) << y;
}

// Two corrections under masks that cover the same: which one is selected is part of what is seen.
TEST(Arriving, TheViewOfTheChangeIsThatOfTheSelectedCorrection) {
    const auto document = tests::documentOf(R"([
        {"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": 1}]},
        {"mask": {"starts": "everywhere"}, "adjustments": [{"kind": "light", "exposure": -0.4}]}])");
    const Renderer renderer = rendererOf({64, 48});
    View view;
    view.maskView = MaskView::change;
    const auto shown = [&](const Renderer& by, std::size_t index) {
        view.selected = document->corrections[index]->id;
        return by.display(Sequence(document, view.comparison), view, {{0, 0, 64, 48}, 0});
    };
    for (const std::size_t index : {0u, 1u})
        EXPECT_TRUE(samePixels(*shown(renderer, index), *shown(rendererOf({64, 48}), index))) << index;
}

// A part that is off is shown all the same when it is pointed at, and as it is now.
TEST(Arriving, TheViewOfAPartThatIsOffFollowsThePart) {
    const Renderer renderer = rendererOf({64, 48});
    const auto shown = [&](const Renderer& by, const std::string& size) {
        const auto document = tests::documentOf(R"([{"mask": {"parts": [{"kind": "brush", "enabled": false, "strokes": [
            {"size": )" + size + R"(, "points": [[30, 20]]}]}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
        View view;
        view.maskView = MaskView::plate;
        view.selected = document->corrections[0]->id;
        view.part = document->corrections[0]->mask.parts[0]->id;
        return by.display(Sequence(document, {}), view, {{0, 0, 64, 48}, 0});
    };
    for (const std::string size : {"10", "30"})
        EXPECT_TRUE(samePixels(*shown(renderer, size), *shown(rendererOf({64, 48}), size))) << size;
}

// A thin stroke cuts in two what hangs together; at the coarsest level it is not to be seen.
TEST(Arriving, WhatHangsTogetherIsNewWhenAnEarlierCorrectionCutsIt) {
    image::Photo photo;
    const base::Size size{600, 400};
    photo.samples = image::Samples(size, 3, image::SampleType::u8);
    std::memset(photo.samples.row(0), 128, photo.samples.bytes());
    const auto source = sourceOf(std::move(photo));
    const Renderer renderer(source, std::make_shared<TileCache>());
    const auto rightSide = [&](const std::string& y) {
        const auto document = tests::documentOf(
            R"([{"mask": {"parts": [{"kind": "brush", "strokes": [{"size": 8, "softness": 0, "points": [[300, -20], [300, )" +
            y + R"(]]}]}]}, "adjustments": [{"kind": "light", "exposure": -5}]},
            {"mask": {"parts": [{"kind": "colour-range", "measured": "arriving", "connected": true, "smooth": 0,
             "picks": [{"at": [100, 200], "lab": [53.6, 0, 0]}]}]}, "adjustments": [{"kind": "light", "exposure": 1}]}])");
        return renderer.coverage(Sequence(document, {}), document->corrections[1]->id, {{500, 100, 540, 140}, 0})
            ->copy({40, 40})
            .row(20)[20];
    };
    EXPECT_GT(rightSide("300"), 0) << "it goes round the end of the stroke";
    EXPECT_EQ(rightSide("420"), 0) << "the stroke goes right across";
}

TEST(Arriving, ABackdropLargerThanTheCacheIsMadeOnce) {
    const Renderer renderer = rendererOf({300, 200}, 4, 1 << 16);
    document::Document document = *tests::documentOf("[]");
    document::BackdropPicture picture;
    picture.photo = tests::sharedPhoto({900, 700});
    picture.key = base::KeyBuilder().add("behind").key();
    document.backdrop = picture;
    const Sequence sequence(std::make_shared<const document::Document>(document), {});
    const std::uint64_t before = base::longWorkHere();
    image::EncodedPlanes out({100, 100});
    for (int round = 0; round < 20; ++round) renderer.layOverBackdrop(sequence, {{0, 0, 100, 100}, 0}, out, false);
    EXPECT_EQ(base::longWorkHere() - before, 1u);
}

TEST(Arriving, FramesThatAreStoppedStop) {
    const Renderer renderer = rendererOf({500, 400});
    base::CancelSource stop;
    stop.cancel();
    const Sequence sequence(tests::documentOf(lookingCorrections(4)), {}, stop.token());
    image::EncodedPlanes out({64, 64});
    EXPECT_THROW(renderer.picture(sequence, {{0, 0, 64, 64}, 0}, out), base::Cancelled);
}

}  // namespace dimhem::render
