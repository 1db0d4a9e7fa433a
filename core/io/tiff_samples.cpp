#include "core/io/tiff_samples.h"

#include <cstdint>
#include <cstring>

#include "core/kernel/half_rows.h"

namespace dimhem::io {

using image::SampleType;

std::optional<SampleType> TiffNumbers::type() const {
    switch (kind) {
        case Kind::real: return bits == 16 || bits == 32 || bits == 64 ? std::optional(SampleType::f32) : std::nullopt;
        case Kind::signedWhole:
            return bits == 8    ? std::optional(SampleType::u8)
                   : bits == 16 ? std::optional(SampleType::u16)
                                : std::nullopt;
        case Kind::whole: break;
    }
    if (bits == 32) return SampleType::f32;
    if (bits < 1 || bits > 16) return std::nullopt;
    return bits <= 8 ? SampleType::u8 : SampleType::u16;
}

namespace {

template <class From, class To, class Change>
void each(const std::byte* from, std::size_t count, std::byte* to, Change change) {
    for (std::size_t i = 0; i < count; ++i) {
        From value;
        std::memcpy(&value, from + i * sizeof value, sizeof value);
        const To changed = change(value);
        std::memcpy(to + i * sizeof changed, &changed, sizeof changed);
    }
}

// Numbers of any other width stand one after the other, the highest bit first (TIFF 6.0, FillOrder 1).
template <class To, class Change>
void eachBits(int bits, const std::byte* from, std::size_t count, std::byte* to, Change change) {
    std::uint64_t held = 0;
    int heldBits = 0;
    for (std::size_t i = 0; i < count; ++i) {
        while (heldBits < bits) {
            held = held << 8 | std::to_integer<std::uint64_t>(*from++);
            heldBits += 8;
        }
        heldBits -= bits;
        const std::uint64_t value = held >> heldBits & ((std::uint64_t{1} << bits) - 1);
        const To changed = change(value);
        std::memcpy(to + i * sizeof changed, &changed, sizeof changed);
    }
}

template <class To>
void unpackScaled(int bits, const std::byte* from, std::size_t count, std::byte* to) {
    const std::uint64_t most = (std::uint64_t{1} << bits) - 1, full = static_cast<To>(~To{0});
    eachBits<To>(bits, from, count, to, [&](std::uint64_t v) { return static_cast<To>((v * full + most / 2) / most); });
}

void unpackReal(int bits, const std::byte* from, std::size_t count, std::byte* to) {
    switch (bits) {
        case 16:
            return kernel::floatFromHalf(reinterpret_cast<const std::uint16_t*>(from), reinterpret_cast<float*>(to),
                                         count);
        case 32: std::memcpy(to, from, count * sizeof(float)); return;
        default: return each<double, float>(from, count, to, [](double v) { return static_cast<float>(v); });
    }
}

}  // namespace

void unpack(const TiffNumbers& numbers, const std::byte* from, std::size_t count, std::byte* to) {
    const int bits = numbers.bits;
    if (numbers.kind == TiffNumbers::Kind::real) return unpackReal(bits, from, count, to);
    if (bits == 8 || bits == 16) {
        std::memcpy(to, from, count * static_cast<std::size_t>(bits / 8));
    } else if (bits < 8) {
        unpackScaled<std::uint8_t>(bits, from, count, to);
    } else if (bits < 16) {
        unpackScaled<std::uint16_t>(bits, from, count, to);
    } else {
        each<std::uint32_t, float>(from, count, to,
                                   [](std::uint32_t v) { return static_cast<float>(v / 4294967295.0); });
    }
}

}  // namespace dimhem::io
