#include "core/io/exr.h"

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfIO.h>
#include <ImfInputFile.h>

#include <algorithm>
#include <cmath>
#include <cstring>

namespace dimhem::io {

namespace {

class MemoryStream final : public Imf::IStream {
public:
    explicit MemoryStream(Bytes bytes) : IStream("photo"), bytes_(bytes) {}
    bool read(char to[], int count) override {
        if (count < 0 || static_cast<std::size_t>(count) > bytes_.size() - at_)
            throw std::runtime_error("ends too early");
        std::memcpy(to, bytes_.data() + at_, static_cast<std::size_t>(count));
        at_ += static_cast<std::size_t>(count);
        return at_ < bytes_.size();
    }
    std::uint64_t tellg() override { return at_; }
    void seekg(std::uint64_t to) override { at_ = std::min<std::size_t>(to, bytes_.size()); }

private:
    Bytes bytes_;
    std::size_t at_ = 0;
};

bool matches(Bytes b) {
    return b.size() >= 4 && b[0] == 0x76 && b[1] == 0x2f && b[2] == 0x31 && b[3] == 0x01;
}

void makeFinite(image::Samples& samples) {
    auto* values = reinterpret_cast<float*>(samples.row(0));
    const std::size_t count = samples.bytes() / sizeof(float);
    for (std::size_t i = 0; i < count; ++i) {
        if (!std::isfinite(values[i])) values[i] = 0;
    }
}

// OpenEXR stores colours multiplied by their alpha; ours are not.
void divideByAlpha(image::Samples& samples) {
    const int channels = samples.channels();
    for (int y = 0; y < samples.size().height; ++y) {
        auto* pixel = reinterpret_cast<float*>(samples.row(y));
        for (int x = 0; x < samples.size().width; ++x, pixel += channels) {
            const float alpha = pixel[channels - 1];
            if (alpha <= 0 || alpha == 1) continue;
            for (int c = 0; c < channels - 1; ++c) pixel[c] /= alpha;
        }
    }
}

base::Result<image::Photo> readFile(Bytes bytes) {
    MemoryStream stream(bytes);
    Imf::InputFile file(stream);
    const Imath::Box2i window = file.header().dataWindow();
    const auto width = static_cast<std::int64_t>(window.max.x) - window.min.x + 1;
    const auto height = static_cast<std::int64_t>(window.max.y) - window.min.y + 1;
    if (width <= 0 || height <= 0) return damaged("OpenEXR", "says it has no pixels");
    const Imf::ChannelList& channels = file.header().channels();
    const bool colour = channels.findChannel("R") && channels.findChannel("G") && channels.findChannel("B");
    const bool alpha = channels.findChannel("A") != nullptr;
    if (!colour && !channels.findChannel("Y")) return unsupported("OpenEXR", "has neither R, G, B nor Y channels");
    const int count = (colour ? 3 : 1) + (alpha ? 1 : 0);
    if (auto fits = checkSize("OpenEXR", static_cast<std::uint64_t>(width), static_cast<std::uint64_t>(height), count,
                              image::SampleType::f32);
        !fits) {
        return tl::unexpected(fits.error());
    }
    image::Photo photo;
    photo.format = "OpenEXR";
    photo.linear = true;
    photo.samples = image::Samples({static_cast<int>(width), static_cast<int>(height)}, count, image::SampleType::f32);
    Imf::FrameBuffer frame;
    const char* names[] = {colour ? "R" : "Y", "G", "B"};
    const auto insert = [&](const char* name, int channel) {
        char* base = reinterpret_cast<char*>(photo.samples.row(0)) + static_cast<std::size_t>(channel) * sizeof(float);
        frame.insert(name,
                     Imf::Slice::Make(Imf::FLOAT, base, window, photo.samples.pixelBytes(), photo.samples.rowBytes()));
    };
    for (int c = 0; c < (colour ? 3 : 1); ++c) insert(names[c], c);
    if (alpha) insert("A", count - 1);
    file.setFrameBuffer(frame);
    file.readPixels(window.min.y, window.max.y);
    makeFinite(photo.samples);
    if (alpha) divideByAlpha(photo.samples);
    return photo;
}

base::Result<image::Photo> read(Bytes bytes) {
    try {
        return readFile(bytes);
    } catch (const std::exception&) {  // the library's way of reporting; its words are not for people
        return damaged("OpenEXR", "ends too early or its picture cannot be decoded");
    }
}

constexpr std::string_view extensions[] = {"exr"};

}  // namespace

const Format exr = {"OpenEXR", extensions, matches, read, nullptr, nullptr, {}, false};

}  // namespace dimhem::io
