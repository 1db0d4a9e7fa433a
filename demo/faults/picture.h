// What the makers of the demo faults share: pictures in memory, and seeded noise.
#pragma once

#include <cstdint>
#include <filesystem>
#include <random>
#include <vector>

#include "core/base/rect.h"

namespace dimhem::demo {

namespace fs = std::filesystem;

struct Picture {
    base::Size size;
    std::vector<float> rgb;  // encoded sRGB, interleaved
    float* at(int x, int y) {
        return rgb.data() +
               3 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width) + static_cast<std::size_t>(x));
    }
};

// Both end the program with a message where they fail.
Picture load(const fs::path& path);
// As JPEG or PNG by the name; one channel or three, or four with `alpha` as the fourth.
void save(const fs::path& path, Picture& picture, int channels, int quality, Picture* alpha = nullptr);

// Normal noise, the same for the same seed on every machine: Box and Muller over a fixed generator.
class Noise {
public:
    explicit Noise(std::uint32_t seed) : random_(seed) {}
    float operator()();

private:
    std::mt19937 random_;
};

// Noise in blotches: a coarse grid of normal values, interpolated.
class Blotches {
public:
    Blotches(base::Size size, int cellPx, std::uint32_t seed);
    float at(int x, int y) const;

private:
    int cellPx_, columns_;
    std::vector<float> values_;
};

void expose(float* pixel, double ev);
void scaleLight(float* pixel, double red, double green, double blue);  // of linear light
double luminanceOf(const float* pixel);                                // linear
double smooth(double t);                                               // 0..1, flat at both ends

// The makers: each reads renders (demo/render.sh) and writes photo and truth.
void makeTowerDusk(const fs::path& renders, const fs::path& out);
void makeBayGradient(const fs::path& renders, const fs::path& out);
void makeHarmonium(const fs::path& renders, const fs::path& out);
void makeFigurehead(const fs::path& renders, const fs::path& out);
void makeGreenSweep(const fs::path& renders, const fs::path& out);
void makeBoathousePrint(const fs::path& renders, const fs::path& out);
void makeChartTable(const fs::path& renders, const fs::path& out);
void makeHeadlands(const fs::path& renders, const fs::path& out);

}  // namespace dimhem::demo
