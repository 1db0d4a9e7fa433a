// Each piece of long work, stopped at every place where it can be stopped, by count: it throws base::Cancelled, or
// gives that as its error, and nothing else; what it was to write is not there; and what it left in the cache is no
// other than what work that was never stopped leaves.
#include <gtest/gtest.h>

#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/render/frame.h"
#include "core/task/export.h"
#include "core/task/hem_check.h"
#include "core/task/masked_colours.h"
#include "core/task/masked_noise.h"
#include "core/task/measuring.h"
#include "core/task/noise.h"
#include "core/task/notes.h"
#include "core/task/open.h"
#include "core/task/probe.h"
#include "core/task/save.h"
#include "tests/support/documents.h"
#include "tests/support/opened.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

namespace dimhem::task {
namespace {

constexpr int hangs = 200'000;  // polls: no work on so small a photo asks as often

// What borrows, holds to edges, looks round and paints, on a small photo.
const char* const everyWay = R"([
  {"name": "Noise", "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "noise", "luminance": 40}]},
  {"name": "Held", "mask": {"parts": [{"kind": "brush", "strokes": [{"size": 40, "holds": true, "points": [[30, 30], [60, 45]]}]}],
     "refine": {"edge-snap": 3}}, "clean-edge": true, "adjustments": [{"kind": "light", "exposure": 1}, {"kind": "detail", "sharpen": 30}]},
  {"name": "Region", "mask": {"parts": [{"kind": "luminosity-range", "tones": [0, 0, 60, 80]}]},
     "adjustments": [{"kind": "light", "exposure": -0.7}]}])";

// The same without what takes long to find, which the test of frames stops in the middle of as well.
const char* const quickWays = R"([
  {"name": "Noise", "mask": {"starts": "everywhere"}, "adjustments": [{"kind": "noise", "luminance": 40}]},
  {"name": "Painted", "mask": {"parts": [{"kind": "brush", "strokes": [{"size": 40, "points": [[30, 30], [60, 45]]}]}],
     "refine": {"feather": 3}}, "adjustments": [{"kind": "light", "exposure": 1}, {"kind": "detail", "sharpen": 30}]},
  {"name": "Range", "mask": {"parts": [{"kind": "luminosity-range", "tones": [0, 0, 60, 80]}]},
     "adjustments": [{"kind": "light", "exposure": -0.7}]}])";

class Cancelling : public testing::Test {
protected:
    std::shared_ptr<const render::PhotoSource> photo =
        *render::PhotoSource::make(std::make_shared<const image::Photo>(tests::madePhoto({96, 80})));
    document::DocumentPtr document = withAllMeasured(fresh(), tests::documentOf(everyWay));
    document::Id held = document->corrections[1]->id;
    document::DocumentPtr quick = withAllMeasured(fresh(), tests::documentOf(quickWays));
    document::Id painted = quick->corrections[1]->id;
    tests::TempFolder folder;

    render::Renderer fresh() { return render::Renderer(photo, std::make_shared<render::TileCache>()); }

    // `work(token)` is stopped after 0, 1, 2 ... polls until it ends by itself; `stopped` says whether it was.
    template <class Work>
    void atEachPoll(const char* name, const Work& work) {
        int polls = 0;
        for (; polls < hangs; polls = polls < 20 ? polls + 1 : polls + polls / 4) {
            base::CancelSource source;
            source.cancelAfter(polls);
            bool whole = false;
            try {
                whole = work(source.token());
            } catch (const base::Cancelled&) {
            }
            if (whole) break;
            ASSERT_TRUE(source.token().cancelled()) << name << " gave up by itself after " << polls;
            ASSERT_TRUE(std::filesystem::is_empty(folder.path())) << name << " " << polls;
        }
        EXPECT_GT(polls, 0) << name << " cannot be stopped";
        EXPECT_LT(polls, hangs) << name << " never ends";
    }
    template <class T>
    static bool done(const base::Result<T>& result) {
        if (!result) {
            EXPECT_EQ(result.error().code, base::ErrorCode::cancelled);
            EXPECT_TRUE(result.error().message.ends_with(".")) << result.error().message;
        }
        return result.has_value();
    }
};

}  // namespace

TEST_F(Cancelling, WhatLooksGivesNothingElse) {
    atEachPoll("hem check",
               [&](const base::CancelToken& token) { return hemCheck(fresh(), document, held, {}, token)->measured; });
    atEachPoll("noise", [&](const auto& token) { return photoNoise(*photo, token).y.blocks > 0; });
    atEachPoll("colours", [&](const auto& token) { return maskedColours(fresh(), quick, painted, token).has_value(); });
    atEachPoll("whole colours", [&](const auto& token) { return wholeColours(fresh(), quick, token).has_value(); });
    atEachPoll("notes", [&](const auto& token) { return notesOf(fresh(), quick, token), true; });
    atEachPoll("noise under the mask",
               [&](const auto& token) { return maskedNoise(fresh(), quick, painted, token), true; });
    const Note note{.kind = document::NoteKind::clipped, .correction = painted};
    atEachPoll("ease", [&](const auto& token) { return easeOf(fresh(), quick, note, token), true; });
    const document::Id noise = quick->corrections[0]->adjustments[0].id;
    atEachPoll("measuring", [&](const auto& token) {
        return measured(fresh(), quick, quick->corrections[0]->id, noise, {}, token).has_value();
    });
}

TEST_F(Cancelling, WhatWritesLeavesNoFile) {
    const Opened opened = tests::openedOf(photo);
    const auto remove = [](const auto& result, const std::filesystem::path& path) {
        const bool whole = done(result);
        if (whole) std::filesystem::remove(path);
        return whole;
    };
    for (const char* name : {"out.png", "out.jpg", "out.tif"}) {
        atEachPoll(name, [&](const base::CancelToken& token) {
            return remove(exportPicture(opened, quick, folder / name, {}, token), folder / name);
        });
    }
    atEachPoll("smaller", [&](const base::CancelToken& token) {
        ExportSettings settings;
        settings.longSidePx = 60;
        return remove(exportPicture(opened, quick, folder / "small.png", settings, token), folder / "small.png");
    });
    atEachPoll("mask", [&](const base::CancelToken& token) {
        return remove(exportMask(opened, quick, painted, folder / "mask.png", {}, token), folder / "mask.png");
    });
    atEachPoll("save", [&](const base::CancelToken& token) {
        return remove(save(opened, quick, folder / "a.dimhem", {}, token), folder / "a.dimhem");
    });
}

TEST_F(Cancelling, OpeningIsStoppedAnywhere) {
    const tests::TempFolder elsewhere;
    ASSERT_TRUE(exportPicture(tests::openedOf(photo), tests::documentOf("[]"), elsewhere / "photo.png", {}));
    const auto unmeasured = tests::documentOf(everyWay);
    auto opened = open(elsewhere / "photo.png");
    ASSERT_TRUE(opened);
    ASSERT_TRUE(save(*opened, unmeasured, elsewhere / "a.dimhem"));
    atEachPoll("open", [&](const base::CancelToken& token) {
        return done(open(elsewhere / "a.dimhem", {}, {}, io::Reading{token, {}}));
    });
}

// One cache for all: what stopped work has left in it is never half of something.
TEST_F(Cancelling, StoppedFramesLeaveNothingHalfInTheCache) {
    const render::Renderer shared = fresh();
    const auto frame = [&](const render::Renderer& renderer, const base::CancelToken& token) {
        std::map<std::pair<int, int>, std::shared_ptr<const render::DisplayTile>> tiles;
        std::mutex mutex;
        const bool whole = render::renderFrame(renderer, {document, {}, 0, {0, 0, 96, 80}, {}}, {}, token,
                                               [&](const base::Rect& rect, const auto& tile) {
                                                   const std::lock_guard lock(mutex);
                                                   tiles[{rect.x0, rect.y0}] = tile;
                                               });
        return std::pair(whole, tiles);
    };
    const auto right = frame(fresh(), {});
    ASSERT_TRUE(right.first);
    atEachPoll("frame", [&](const base::CancelToken& token) {
        const auto made = frame(shared, token);
        for (const auto& [place, tile] : made.second) {
            for (int y = 0; y < tile->size().height; ++y)
                EXPECT_TRUE(std::ranges::equal(tile->row(y), right.second.at(place)->row(y))) << place.first;
        }
        return made.first;
    });
}

}  // namespace dimhem::task
