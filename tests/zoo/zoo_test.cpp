// Reads every file of the zoo (make_zoo.py) and holds it against the pixels it must come to; docs/files-read.md has the
// outcomes as a table, which this writes where DIMHEM_UPDATE_DOCS is set.
#include <gtest/gtest.h>

#include <cmath>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

#include "core/colour/icc.h"
#include "core/io/registry.h"
#include "tests/support/memory.h"

namespace dimhem::io {

namespace {

const std::filesystem::path zoo = DIMHEM_ZOO;
const std::filesystem::path table = std::filesystem::path(DIMHEM_SOURCE_DIR) / "docs/files-read.md";

struct Expected {
    std::int32_t width = 0, height = 0, channels = 0;
    std::vector<float> samples;
};

std::optional<Expected> expectedOf(const std::string& name) {
    std::ifstream file(zoo / (name + ".expected"), std::ios::binary);
    Expected out;
    if (!file.read(reinterpret_cast<char*>(&out), 3 * sizeof(std::int32_t))) return std::nullopt;
    out.samples.resize(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height * out.channels));
    file.read(reinterpret_cast<char*>(out.samples.data()),
              static_cast<std::streamsize>(out.samples.size() * sizeof(float)));
    return out;
}

// As floats; in light where the photo says how, by its profile, and it is asked for.
std::vector<float> samplesOf(const image::Photo& photo, bool asLight) {
    const image::Samples& samples = photo.samples;
    const auto width = static_cast<std::size_t>(samples.size().width),
               channels = static_cast<std::size_t>(samples.channels());
    std::vector<float> out(width * channels * static_cast<std::size_t>(samples.size().height));
    const auto light = asLight && !photo.profile.empty()
                           ? colour::IccTransform::toWorking(photo.profile, samples.colourChannels())
                           : base::fail(base::ErrorCode::failed, "", "");
    std::vector<float> converted(width * 3);
    for (int y = 0; y < samples.size().height; ++y) {
        float* row = out.data() + width * channels * static_cast<std::size_t>(y);
        samples.readRow(y, 0, samples.size().width, row);
        if (!light) continue;
        light->row(row, converted.data(), width);
        std::copy(converted.begin(), converted.end(), row);
    }
    return out;
}

double worstDifference(const image::Photo& photo, const Expected& expected, bool linear) {
    if (photo.size() != base::Size{expected.width, expected.height} || photo.samples.channels() != expected.channels)
        return 1e9;
    const std::vector<float> is = samplesOf(photo, linear);
    double worst = 0;
    for (std::size_t i = 0; i < is.size(); ++i)
        worst = std::max(worst, std::abs(double{is[i]} - double{expected.samples[i]}) /
                                    std::max(1.0, std::abs(double{expected.samples[i]})));
    return worst;
}

std::string joined(const std::vector<std::string>& sentences) {
    std::string text;
    for (const std::string& sentence : sentences) text += (text.empty() ? "" : " ") + sentence;
    return text;
}

struct Outcome {
    std::string what, says;
};

Outcome outcomeOf(const nlohmann::json& entry) {
    const std::string name = entry["file"];
    const auto photo = readPhoto(zoo / name);
    if (!photo) return {"refused", photo.error().message};
    EXPECT_EQ(photo->linear || !photo->profile.empty(), entry["linear"].get<bool>()) << name;
    if (const auto expected = expectedOf(name)) {
        EXPECT_LE(worstDifference(*photo, *expected, entry["linear"]), entry["tolerance"].get<double>())
            << name << ", " << photo->size().width << " x " << photo->size().height << ", " << photo->samples.channels()
            << " channels";
    }
    return {photo->warnings.empty() ? "read" : "warned", joined(photo->warnings)};
}

std::string textOf(const std::filesystem::path& path) {
    std::ifstream file(path);
    std::ostringstream text;
    text << file.rdbuf();
    return text.str();
}

constexpr char head[] = R"(# What is read of which file

Odd but valid pictures, and some that are not, as the tests make them (`tests/zoo/make_zoo.py`), and what the program makes of
each. Those that are read are compared pixel by pixel with what they must come to: known from how they were made, from a formula,
or from the reader named. `zoo_test` checks this table, and writes it anew where `DIMHEM_UPDATE_DOCS` is set.

| file | outcome | in the program's words | compared with |
|---|---|---|---|
)";

}  // namespace

TEST(Zoo, EveryFileComesToWhatItMust) {
    const auto entries = nlohmann::json::parse(textOf(zoo / "zoo.json"));
    ASSERT_GT(entries.size(), 100u);
    std::string lines = head;
    for (const auto& entry : entries) {
        const std::string name = entry["file"];
        Outcome outcome;
        const double mb = tests::memoryTaken([&] { outcome = outcomeOf(entry); });
        EXPECT_LT(mb, 300) << name;
        EXPECT_EQ(outcome.what, entry["outcome"].get<std::string>()) << name << ": " << outcome.says;
        EXPECT_NE(outcome.says.find(entry["says"].get<std::string>()), std::string::npos)
            << name << ": " << outcome.says;
        lines += "| " + name + " | " + (outcome.what == "warned" ? "read, with a warning" : outcome.what) + " | " +
                 outcome.says + " | " + entry["reference"].get<std::string>() + " |\n";
    }
    if (std::getenv("DIMHEM_UPDATE_DOCS")) std::ofstream(table) << lines;
    EXPECT_EQ(textOf(table), lines) << "run with DIMHEM_UPDATE_DOCS=1 and look at what has changed";
}

// The rows before the cut are as in the whole file.
TEST(Zoo, ACutJpegShowsWhatThereIs) {
    const auto photo = readPhoto(zoo / "cut.jpg");
    ASSERT_TRUE(photo) << photo.error().message;
    EXPECT_EQ(photo->size(), (base::Size{160, 120}));
    float row[3 * 160];
    photo->samples.readRow(20, 0, 160, row);
    EXPECT_NEAR(row[3 * 80], 0.05f + 0.9f * 80 / 159, 0.03f);
    EXPECT_NEAR(row[3 * 80 + 1], 0.05f + 0.9f * 20 / 119, 0.03f);
}

TEST(Zoo, EveryReaderSaysHowFarItIsAndCanBeStopped) {
    for (const std::string name :
         {"plain.jpg", "progressive.jpg", "inks-no-profile.jpg", "plain.png", "interlaced.png", "u16-little.tif",
          "tiles.tif", "planes.tif", "lossless.webp", "animation.webp", "float.exr", "luminance-chroma.exr"}) {
        int said = 0;
        Reading reading;
        reading.progress = [&](double part) {
            ++said;
            EXPECT_GE(part, 0) << name;
            EXPECT_LE(part, 1) << name;
        };
        EXPECT_TRUE(readPhoto(zoo / name, reading)) << name;
        EXPECT_GT(said, 0) << name;
        base::CancelSource stop;
        reading.cancel = stop.token();
        stop.cancel();
        const auto stopped = readPhoto(zoo / name, reading);
        ASSERT_FALSE(stopped) << name;
        EXPECT_EQ(stopped.error().code, base::ErrorCode::cancelled) << name;
    }
}

}  // namespace dimhem::io
