#include "core/io/exr.h"

#include <ImfChannelList.h>
#include <ImfChromaticitiesAttribute.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfIO.h>
#include <ImfInputPart.h>
#include <ImfMultiPartInputFile.h>
#include <ImfPartType.h>
#include <ImfRgbaFile.h>
#include <ImfStandardAttributes.h>

#include <algorithm>
#include <array>
#include <cstring>
#include <set>

#include "core/colour/white_point.h"
#include "core/image/repair.h"

namespace dimhem::io {

namespace {

using base::Result;

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

// The channels that make the picture; empty names: none.
struct Chosen {
    std::vector<std::string> colours;  // three, or one that is grey
    std::string alpha;
    bool chroma = false;  // luminance with chroma (technical introduction to OpenEXR): the library makes RGB of it
};

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return std::tolower(c); });
    return text;
}

// The channel of a layer ("" for none) that has one of these names, in capitals or not.
std::string named(const Imf::ChannelList& channels, const std::string& layer,
                  std::initializer_list<const char*> names) {
    const std::string before = layer.empty() ? "" : layer + ".";
    for (auto channel = channels.begin(); channel != channels.end(); ++channel) {
        const std::string name = channel.name();
        if (!name.starts_with(before)) continue;
        const std::string last = lower(name.substr(before.size()));
        if (std::find(names.begin(), names.end(), last) != names.end()) return name;
    }
    return {};
}

std::optional<Chosen> coloursOf(const Imf::ChannelList& channels, const std::string& layer) {
    Chosen chosen;
    chosen.alpha = named(channels, layer, {"a", "alpha"});
    for (const auto& names : {std::initializer_list<const char*>{"r", "red"}, {"g", "green"}, {"b", "blue"}}) {
        if (std::string name = named(channels, layer, names); !name.empty()) chosen.colours.push_back(std::move(name));
    }
    if (chosen.colours.size() == 3) return chosen;
    const std::string luminance = named(channels, layer, {"y"});
    if (luminance.empty()) return std::nullopt;
    chosen.colours = {luminance};
    chosen.chroma = layer.empty() && channels.findChannel("RY") && channels.findChannel("BY");
    return chosen;
}

std::optional<Chosen> choose(const Imf::ChannelList& channels) {
    if (auto plain = coloursOf(channels, "")) return plain;
    std::set<std::string> layers;
    channels.layers(layers);
    for (const std::string& layer : layers) {
        if (auto found = coloursOf(channels, layer)) return found;
    }
    if (channels.begin() == channels.end()) return std::nullopt;
    Chosen any;
    any.colours = {channels.begin().name()};
    return any;
}

// How many bytes of samples one byte of the file can make. Run lengths go up to 128 samples' bytes for two; the wavelet
// method's run lengths stay below deflate's; two methods have no bound worth naming.
double mostOfAByte(Imf::Compression compression) {
    switch (compression) {
        case Imf::NO_COMPRESSION: return 1;
        case Imf::RLE_COMPRESSION: return 64;
        case Imf::ZIPS_COMPRESSION:
        case Imf::ZIP_COMPRESSION:
        case Imf::PIZ_COMPRESSION: return mostInflated;
        case Imf::PXR24_COMPRESSION: return mostInflated * 4 / 3;
        case Imf::B44_COMPRESSION:
        case Imf::B44A_COMPRESSION: return 32.0 / 3;  // 16 half-precision samples in 3 bytes
        default: return 1e9;
    }
}

Result<base::Size> sizeOf(const Imf::Header& header, const Chosen& chosen, std::size_t fileBytes,
                          const Reading& reading) {
    const Imath::Box2i window = header.dataWindow();
    const auto width = static_cast<std::int64_t>(window.max.x) - window.min.x + 1;
    const auto height = static_cast<std::int64_t>(window.max.y) - window.min.y + 1;
    if (width <= 0 || height <= 0) return damaged("OpenEXR", "says it has no pixels");
    const auto w = static_cast<std::uint64_t>(width), h = static_cast<std::uint64_t>(height);
    const int channels = chosen.chroma ? 4 : static_cast<int>(chosen.colours.size()) + (chosen.alpha.empty() ? 0 : 1);
    if (auto fits = checkSize("OpenEXR", w, h, channels, image::SampleType::f32, fileBytes, reading); !fits)
        return tl::unexpected(fits.error());
    constexpr std::uint64_t leastBytes = 2;  // a half-precision sample
    const std::uint64_t raw = chosen.chroma ? w * h : w * h * leastBytes * chosen.colours.size();
    if (auto holds = checkHolds("OpenEXR", raw, fileBytes, mostOfAByte(header.compression())); !holds)
        return tl::unexpected(holds.error());
    return base::Size{static_cast<int>(width), static_cast<int>(height)};
}

constexpr int rowsAtOnce = 256;  // as many as any of the compressions packs together

// Calls `read(y0, y1)`, both included, for bands of rows of the window.
template <class Read>
Result<void> inBands(const Imath::Box2i& window, const Reading& reading, Read read) {
    const double rows = static_cast<double>(window.max.y) - window.min.y + 1;
    for (int y = window.min.y;; y += rowsAtOnce) {
        if (!reading.goOn((static_cast<double>(y) - window.min.y) / rows)) return stopped();
        const int last = window.max.y - y < rowsAtOnce ? window.max.y : y + rowsAtOnce - 1;
        read(y, last);
        if (last == window.max.y) return {};
    }
}

Result<image::Samples> readChannels(Imf::InputPart& part, const Chosen& chosen, base::Size size,
                                    const Reading& reading) {
    const Imath::Box2i window = part.header().dataWindow();
    std::vector<std::string> names = chosen.colours;
    if (!chosen.alpha.empty()) names.push_back(chosen.alpha);
    image::Samples samples(size, static_cast<int>(names.size()), image::SampleType::f32);
    Imf::FrameBuffer frame;
    for (std::size_t c = 0; c < names.size(); ++c) {
        const Imf::Channel* channel = part.header().channels().findChannel(names[c]);
        if (!channel || channel->xSampling != 1 || channel->ySampling != 1)
            return unsupported("OpenEXR", "stores some of its colours at a lower resolution");
        char* base = reinterpret_cast<char*>(samples.row(0)) + c * sizeof(float);
        frame.insert(names[c], Imf::Slice::Make(Imf::FLOAT, base, window, samples.pixelBytes(), samples.rowBytes()));
    }
    part.setFrameBuffer(frame);
    if (auto ok = inBands(window, reading, [&](int y0, int y1) { part.readPixels(y0, y1); }); !ok)
        return tl::unexpected(ok.error());
    return samples;
}

// Luminance of every pixel, chroma of every fourth: put together by the library, in half precision.
Result<image::Samples> readChroma(Bytes bytes, base::Size size, bool alpha, const Reading& reading) {
    MemoryStream stream(bytes);
    Imf::RgbaInputFile file(stream);
    const Imath::Box2i window = file.dataWindow();
    image::Samples samples(size, alpha ? 4 : 3, image::SampleType::f32);
    std::vector<Imf::Rgba> band(static_cast<std::size_t>(size.width) * rowsAtOnce);
    const auto ok = inBands(window, reading, [&](int y0, int y1) {
        // The library counts from the window's own beginning, which need not be at (0, 0).
        file.setFrameBuffer(band.data() - window.min.x - static_cast<std::ptrdiff_t>(y0) * size.width, 1,
                            static_cast<std::size_t>(size.width));
        file.readPixels(y0, y1);
        const Imf::Rgba* from = band.data();
        for (int y = y0; y <= y1; ++y) {
            auto* to = reinterpret_cast<float*>(samples.row(y - window.min.y));
            for (int x = 0; x < size.width; ++x, ++from) {
                *to++ = from->r;
                *to++ = from->g;
                *to++ = from->b;
                if (alpha) *to++ = from->a;
            }
        }
    });
    if (!ok) return tl::unexpected(ok.error());
    return samples;
}

// Linear light of the file's primaries to that of sRGB's, for row vectors.
Imath::M44f toSrgb(const Imf::Chromaticities& from) {
    const colour::Matrix3 adapted = colour::bradford({from.white.x, from.white.y}, colour::srgbWhite);
    Imath::M44f adaptation;
    for (std::size_t i = 0; i < 3; ++i) {
        for (std::size_t j = 0; j < 3; ++j) adaptation[static_cast<int>(j)][i] = static_cast<float>(adapted[i][j]);
    }
    return Imf::RGBtoXYZ(from, 1) * adaptation * Imf::XYZtoRGB(Imf::Chromaticities(), 1);
}

void convert(image::Samples& samples, const Imath::M44f& matrix) {
    const int channels = samples.channels();
    for (int y = 0; y < samples.size().height; ++y) {
        auto* pixel = reinterpret_cast<float*>(samples.row(y));
        for (int x = 0; x < samples.size().width; ++x, pixel += channels) {
            const Imath::V3f out = Imath::V3f(pixel[0], pixel[1], pixel[2]) * matrix;
            std::copy_n(&out.x, 3, pixel);
        }
    }
}

void useChromaticities(const Imf::Header& header, image::Photo& photo) {
    if (!Imf::hasChromaticities(header) || photo.samples.colourChannels() != 3) return;
    const Imf::Chromaticities& stated = Imf::chromaticities(header);
    const Imf::Chromaticities srgb;  // the library's default is BT.709, as of sRGB
    const auto near = [](Imath::V2f a, Imath::V2f b) { return (a - b).length() < 0.001f; };
    if (near(stated.red, srgb.red) && near(stated.green, srgb.green) && near(stated.blue, srgb.blue) &&
        near(stated.white, srgb.white))
        return;
    try {
        convert(photo.samples, toSrgb(stated));
    } catch (const std::exception&) {  // primaries on one line, or a white without light
        photo.warnings.push_back("What the OpenEXR file says of its colours makes no sense; they are taken as sRGB.");
    }
}

void sayWhatIsLeftOut(const Imf::MultiPartInputFile& file, const Imf::Header& header, const Chosen& chosen,
                      image::Photo& photo) {
    if (file.parts() > 1)
        photo.warnings.push_back("The OpenEXR file holds " + std::to_string(file.parts()) + " parts; one is read.");
    std::string others;
    for (auto channel = header.channels().begin(); channel != header.channels().end(); ++channel) {
        const std::string name = channel.name();
        const bool read = std::find(chosen.colours.begin(), chosen.colours.end(), name) != chosen.colours.end() ||
                          name == chosen.alpha || (chosen.chroma && (name == "RY" || name == "BY"));
        if (!read) others += (others.empty() ? "" : ", ") + name;
    }
    if (!others.empty()) {
        photo.warnings.push_back("The OpenEXR file's channels " + others + " are not read.");
    } else if (chosen.colours.size() == 1 && lower(chosen.colours[0]) != "y") {
        photo.warnings.push_back("The OpenEXR file has no colours; its channel " + chosen.colours[0] +
                                 " is shown as grey.");
    }
}

Result<Decoded> readPart(Bytes bytes, Imf::MultiPartInputFile& file, int index, const Chosen& chosen,
                         const Reading& reading) {
    Imf::InputPart part(file, index);
    const auto size = sizeOf(part.header(), chosen, bytes.size(), reading);
    if (!size) return tl::unexpected(size.error());
    auto samples = chosen.chroma && index == 0 ? readChroma(bytes, *size, !chosen.alpha.empty(), reading)
                                               : readChannels(part, chosen, *size, reading);
    if (!samples) return tl::unexpected(samples.error());
    Decoded out;
    out.photo.format = "OpenEXR";
    out.photo.linear = true;
    out.photo.samples = std::move(*samples);
    image::makeFinite(out.photo.samples);
    image::divideByAlpha(out.photo.samples);
    useChromaticities(part.header(), out.photo);
    image::makeFinite(out.photo.samples);
    sayWhatIsLeftOut(file, part.header(), chosen, out.photo);
    return out;
}

Result<Decoded> read(Bytes bytes, const Reading& reading) {
    try {
        MemoryStream stream(bytes);
        Imf::MultiPartInputFile file(stream);
        for (int index = 0; index < file.parts(); ++index) {
            const Imf::Header& header = file.header(index);
            if (header.hasType() && Imf::isDeepData(header.type())) continue;
            if (const auto chosen = choose(header.channels())) return readPart(bytes, file, index, *chosen, reading);
        }
        return unsupported("OpenEXR", "holds no flat picture");
    } catch (const std::bad_alloc&) {
        return base::fail(base::ErrorCode::outOfMemory, "", "There is not enough memory for this OpenEXR file.");
    } catch (const std::exception&) {  // the library's way of reporting; its words are not for people
        return damaged("OpenEXR", "ends too early or its picture cannot be decoded");
    }
}

constexpr std::string_view extensions[] = {"exr"};

}  // namespace

const Format exr = {
    .name = "OpenEXR",
    .extensions = extensions,
    .matches = matches,
    .read = read,
};

}  // namespace dimhem::io
