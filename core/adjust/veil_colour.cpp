#include "core/adjust/veil_colour.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "core/image/tiles.h"
#include "core/kernel/gaussian.h"
#include "core/kernel/srgb_rows.h"

namespace dimhem::adjust {

namespace {

using image::Plane;
using Light = std::array<double, 3>;

constexpr double brightest = 10;  // times white: light shone into a lens is no less
constexpr double unveiled = 0.02, leastDensity = 0.1;

double medianOf(std::vector<double>& values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

// The picture and the mask on a level of at most a megapixel.
struct Seen {
    int level;
    image::LinearPlanes light;
    Plane<float> coverage;

    explicit Seen(const Subject& subject) : level(image::levelOfAtMost(subject.photoSize(), 1e6)) {
        const base::Rect all = base::rectOf(image::levelSize(subject.photoSize(), level));
        light = kernel::decoded(subject.picture(all, level));
        coverage = subject.coverage(all, level);
    }
    base::Size size() const { return coverage.size(); }
    Light at(int x, int y) const {
        const auto i = static_cast<std::size_t>(x);
        return {double{light.red.row(y)[i]}, double{light.green.row(y)[i]}, double{light.blue.row(y)[i]}};
    }
    double covered(int x, int y) const { return double{coverage.row(y)[static_cast<std::size_t>(x)]}; }
};

// Where the veil thins out, a fifth wider on every side: what lies further in and further out is other stuff.
base::Rect boundsOf(const Seen& seen) {
    base::Rect bounds{seen.size().width, seen.size().height, 0, 0};
    constexpr double dense = 0.98;
    for (int y = 0; y < seen.size().height; ++y) {
        for (int x = 0; x < seen.size().width; ++x) {
            if (seen.covered(x, y) < unveiled || seen.covered(x, y) > dense) continue;
            bounds = {std::min(bounds.x0, x), std::min(bounds.y0, y), std::max(bounds.x1, x + 1),
                      std::max(bounds.y1, y + 1)};
        }
    }
    if (bounds.empty()) return bounds;
    return base::intersected(base::grown(bounds, std::min(bounds.width(), bounds.height()) / 5),
                             base::rectOf(seen.size()));
}

// What a Gaussian of two pixels leaves of the green light at a place, and what it takes out.
struct Detail {
    double w, left, even;
};

std::vector<Detail> detailOf(const Seen& seen) {
    Plane<float> blurred = image::copied(seen.light.green);
    kernel::gaussianBlur(blurred, 2);
    std::vector<Detail> all;
    constexpr int step = 2;
    const base::Rect bounds = boundsOf(seen);
    for (int y = bounds.y0; y < bounds.y1; y += step) {
        for (int x = bounds.x0; x < bounds.x1; x += step) {
            const double light = seen.at(x, y)[1], even = double{blurred.row(y)[static_cast<std::size_t>(x)]};
            all.push_back({seen.covered(x, y), std::abs(light - even), even});
        }
    }
    return all;
}

// How far the detail under the veil is from that beside it once this much is taken off: on the mean of ten bins of its
// density, as a logarithm. Detail counts beside the light it lies in, which the veil's own adds to.
double unlike(const std::vector<Detail>& details, double density, double green) {
    constexpr std::size_t bins = 10, fewest = 300;
    std::array<std::vector<double>, bins + 1> parts;
    for (const Detail& d : details) {
        const double below = std::max(1e-3, d.even - density * d.w * green);
        const std::size_t bin =
            d.w < unveiled ? 0 : 1 + std::min(bins - 1, static_cast<std::size_t>(d.w * static_cast<double>(bins)));
        parts[bin].push_back(d.left / below);
    }
    if (parts[0].size() < fewest) return 0;
    const double clear = std::max(1e-6, medianOf(parts[0]));
    double sum = 0, count = 1e-9;
    for (std::size_t bin = 1; bin <= bins; ++bin) {
        if (parts[bin].size() < fewest) continue;
        sum += std::abs(std::log((medianOf(parts[bin]) + 1e-4) / clear));
        ++count;
    }
    return sum / count;
}

struct Sample {
    double w;
    Light light;
};

std::vector<Sample> samplesOf(const Seen& seen, double density) {
    std::vector<Sample> samples;
    const base::Rect bounds = boundsOf(seen);
    const int step = std::max(2, static_cast<int>(std::sqrt(bounds.width() * bounds.height() / 40'000.0)));
    for (int y = bounds.y0; y < bounds.y1; y += step) {
        for (int x = bounds.x0; x < bounds.x1; x += step)
            samples.push_back({density * seen.covered(x, y), seen.at(x, y)});
    }
    return samples;
}

// X and C - X of one channel by weighted least squares; false where the density hardly varies.
bool fitLine(const std::vector<Sample>& samples, const std::vector<double>& weights, std::size_t c, double& mean,
             double& slope) {
    double n = 0, w = 0, ww = 0, p = 0, wp = 0;
    for (std::size_t i = 0; i < samples.size(); ++i) {
        const double weight = weights[i], density = samples[i].w, light = samples[i].light[c];
        n += weight, w += weight * density, ww += weight * density * density;
        p += weight * light, wp += weight * density * light;
    }
    const double variance = ww / n - (w / n) * (w / n);
    if (!(variance > 1e-3)) return false;
    slope = (wp / n - w / n * p / n) / variance;
    mean = p / n - slope * w / n;
    return true;
}

// The colour of a veil as dense as that beside its mask; none where that is too small or too even.
std::optional<colour::LinearRgb> colourAt(const Seen& seen, double density) {
    const std::vector<Sample> samples = samplesOf(seen, density);
    constexpr std::size_t fewest = 400;
    if (samples.size() < fewest) return std::nullopt;
    Light mean{}, slope{};
    std::vector<double> weights(samples.size(), 1.0), off(samples.size());
    constexpr int rounds = 10;
    for (int round = 0; round < rounds; ++round) {
        for (std::size_t c = 0; c < 3; ++c) {
            if (!fitLine(samples, weights, c, mean[c], slope[c])) return std::nullopt;
        }
        for (std::size_t i = 0; i < samples.size(); ++i) {
            double squares = 0;
            for (std::size_t c = 0; c < 3; ++c) {
                const double r = samples[i].light[c] - mean[c] - slope[c] * samples[i].w;
                squares += r * r;
            }
            // What lies below shows the less the denser the veil is.
            off[i] = std::sqrt(squares) / std::max(0.05, 1 - samples[i].w);
        }
        std::vector<double> sorted = off;
        const double middle = std::max(1e-6, medianOf(sorted));
        for (std::size_t i = 0; i < weights.size(); ++i) {
            const double far = off[i] / (2 * middle), clear = std::max(0.05, 1 - samples[i].w);
            weights[i] = 1 / (1 + far * far) / (clear * clear);
        }
    }
    const auto at = [&](std::size_t c) { return std::clamp(mean[c] + slope[c], 0.0, brightest); };
    return colour::LinearRgb{at(0), at(1), at(2)};
}

// A window of one material: its own light and how fast what is seen goes over into the veil's, P = J + slope w.
struct Line {
    Light own, slope;
    double weight;
};

// Over windows of a level: those in which the mask varies and every channel is a line of it.
void gatherLines(const Subject& subject, int level, std::vector<Line>& lines) {
    constexpr int side = 25, step = 8;
    constexpr double leastVariance = 0.002, leastFit = 0.7;
    const base::Rect all = base::rectOf(image::levelSize(subject.photoSize(), level));
    const Plane<float> coverage = subject.coverage(all, level);
    const image::LinearPlanes light = kernel::decoded(subject.picture(all, level));
    const Plane<float>* planes[3] = {&light.red, &light.green, &light.blue};
    for (int y = 0; y + side <= all.height(); y += step) {
        for (int x = 0; x + side <= all.width(); x += step) {
            if (coverage.row(y)[static_cast<std::size_t>(x)] ==
                coverage.row(y + side - 1)[static_cast<std::size_t>(x + side - 1)])
                continue;
            double n = 0, w = 0, ww = 0;
            Light p{}, wp{}, pp{};
            for (int row = y; row < y + side; ++row) {
                for (auto i = static_cast<std::size_t>(x); i < static_cast<std::size_t>(x + side); ++i) {
                    const double m = double{coverage.row(row)[i]};
                    n += 1, w += m, ww += m * m;
                    for (std::size_t c = 0; c < 3; ++c) {
                        const double v = double{planes[c]->row(row)[i]};
                        p[c] += v, wp[c] += m * v, pp[c] += v * v;
                    }
                }
            }
            const double variance = ww / n - (w / n) * (w / n);
            if (variance < leastVariance) continue;
            Line line{{}, {}, variance};
            bool fits = true;
            for (std::size_t c = 0; c < 3; ++c) {
                const double with = wp[c] / n - w / n * p[c] / n, own = pp[c] / n - p[c] / n * p[c] / n;
                fits = fits && own > 0 && with * with / (variance * own) >= leastFit;
                line.slope[c] = with / variance;
                line.own[c] = p[c] / n - line.slope[c] * w / n;
            }
            if (fits) lines.push_back(line);
        }
    }
}

// Each line has slope = s C - s J: a line of its own over materials of all tones, robustly, for the three channels
// with one s.
std::optional<FoundVeil> veilFromLines(const Subject& subject) {
    std::vector<Line> lines;
    const int finest = image::levelOfAtMost(subject.photoSize(), 1e6);
    for (int level = finest; level < finest + 4 && level <= image::maxLevel; ++level)
        gatherLines(subject, level, lines);
    constexpr std::size_t fewest = 40;
    if (lines.size() < fewest) return std::nullopt;
    std::vector<double> weights(lines.size(), 1.0), off(lines.size());
    double density = 0, spread = 0;
    Light veil{};  // s C
    constexpr int rounds = 15;
    for (int round = 0; round < rounds; ++round) {
        double all = 0, with = 0;
        Light own{}, slope{};
        spread = 0;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            const double weight = weights[i] * lines[i].weight;
            all += weight;
            for (std::size_t c = 0; c < 3; ++c)
                own[c] += weight * lines[i].own[c], slope[c] += weight * lines[i].slope[c];
        }
        for (std::size_t i = 0; i < lines.size(); ++i) {
            const double weight = weights[i] * lines[i].weight;
            for (std::size_t c = 0; c < 3; ++c) {
                const double j = lines[i].own[c] - own[c] / all;
                with += weight * j * (lines[i].slope[c] - slope[c] / all);
                spread += weight * j * j;
            }
        }
        density = -with / spread;
        for (std::size_t c = 0; c < 3; ++c) veil[c] = slope[c] / all + density * own[c] / all;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            double squares = 0;
            for (std::size_t c = 0; c < 3; ++c) {
                const double r = lines[i].slope[c] - veil[c] + density * lines[i].own[c];
                squares += r * r;
            }
            off[i] = std::sqrt(squares);
        }
        std::vector<double> sorted = off;
        const double middle = std::max(1e-6, medianOf(sorted));
        for (std::size_t i = 0; i < weights.size(); ++i) {
            const double far = off[i] / (2 * middle);
            weights[i] = 1 / (1 + far * far);
        }
        spread /= 3 * all;
    }
    constexpr double leastSpread = 2e-4;  // of tones: of one tone alone nothing can be told
    if (!(spread > leastSpread) || density < leastDensity || density > 1.05) return std::nullopt;
    const double held = std::min(density, 1.0);
    const auto of = [&](std::size_t c) { return std::clamp(veil[c] / density, 0.0, brightest); };
    return FoundVeil{{of(0), of(1), of(2)}, held};
}

}  // namespace

std::optional<FoundVeil> foundVeil(const Subject& subject) {
    if (const auto lines = veilFromLines(subject)) return lines;
    const Seen seen(subject);
    const std::vector<Detail> details = detailOf(seen);
    std::optional<FoundVeil> best;
    double least = 0;
    const auto attempt = [&](double density) {
        const auto colour = colourAt(seen, density);
        if (!colour) return;
        const double off = unlike(details, density, colour->g);
        if (best && off >= least) return;
        best = FoundVeil{*colour, density};
        least = off;
    };
    constexpr double coarse = 0.05, fine = 0.01;
    for (double density = 1; density >= leastDensity; density -= coarse) attempt(density);
    if (!best) return std::nullopt;
    const double from = std::max(leastDensity, best->density - coarse), to = std::min(1.0, best->density + coarse);
    for (double density = from; density <= to; density += fine) attempt(density);
    // A light that would have to be brighter than any was not found.
    const colour::LinearRgb& c = best->colour;
    return std::max({c.r, c.g, c.b}) < brightest ? best : std::nullopt;
}

std::optional<colour::LinearRgb> pickedVeil(const Subject& subject, base::Point place, double density) {
    const Seen seen(subject);
    const int px = std::clamp(static_cast<int>(std::ldexp(place.x, -seen.level)), 0, seen.size().width - 1),
              py = std::clamp(static_cast<int>(std::ldexp(place.y, -seen.level)), 0, seen.size().height - 1);
    Light light{};
    double w = 0, count = 0;
    for (int y = std::max(0, py - 2); y <= std::min(seen.size().height - 1, py + 2); ++y) {
        for (int x = std::max(0, px - 2); x <= std::min(seen.size().width - 1, px + 2); ++x, ++count) {
            for (std::size_t c = 0; c < 3; ++c) light[c] += seen.at(x, y)[c];
            w += density * seen.covered(x, y);
        }
    }
    w /= count;
    constexpr double leastVeil = 0.05;
    if (w < leastVeil) return std::nullopt;
    // Squares about the place, twice as wide each time, until there is enough without a veil.
    constexpr std::size_t enough = 400;
    const int widest = std::max(seen.size().width, seen.size().height);
    std::array<std::vector<double>, 3> around;
    for (int by = 16; around[0].size() < enough && by < 2 * widest; by *= 2) {
        for (auto& channel : around) channel.clear();
        const base::Rect square =
            base::intersected({px - by, py - by, px + by + 1, py + by + 1}, base::rectOf(seen.size()));
        for (int y = square.y0; y < square.y1; ++y) {
            for (int x = square.x0; x < square.x1; ++x) {
                if (seen.covered(x, y) >= unveiled) continue;
                for (std::size_t c = 0; c < 3; ++c) around[c].push_back(seen.at(x, y)[c]);
            }
        }
    }
    if (around[0].empty()) return std::nullopt;
    const auto solved = [&](std::size_t c) {
        return std::clamp((light[c] / count - (1 - w) * medianOf(around[c])) / w, 0.0, brightest);
    };
    return colour::LinearRgb{solved(0), solved(1), solved(2)};
}

}  // namespace dimhem::adjust
