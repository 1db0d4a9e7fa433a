#include "core/edge/followed_line.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>

#include "core/base/parallel.h"

namespace dimhem::edge {

namespace {

using Rgb = std::array<double, 3>;

constexpr std::array<double, 5> ridgeWidths = {1.5, 3, 6, 12, 24};
constexpr int alongPx = 3;  // rows to either side that are averaged before a ridge is looked for

// std::erf from a table, to 1e-5: many thousand are needed for a line.
class ErrorFunction {
public:
    ErrorFunction() {
        for (std::size_t i = 0; i < table_.size(); ++i) table_[i] = std::erf(static_cast<double>(i) / perUnit);
    }
    double operator()(double x) const {
        const double at = std::min(std::abs(x), static_cast<double>(most)) * perUnit;
        const auto i = static_cast<std::size_t>(at);
        return std::copysign(table_[i] + (at - static_cast<double>(i)) * (table_[i + 1] - table_[i]), x);
    }

private:
    static constexpr std::size_t most = 4, perUnit = 128;
    std::array<double, most * perUnit + 2> table_;
};
const ErrorFunction errorFunction;

// The square root of linear light: differences that look alike are alike.
struct Seen {
    base::Size size;
    std::vector<float> values;  // three a pixel
    const float* at(int x, int y) const {
        return values.data() +
               3 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width) + static_cast<std::size_t>(x));
    }
};

Seen seenIn(const image::LinearPlanes& strip) {
    Seen seen{strip.size(), {}};
    seen.values.reserve(3 * static_cast<std::size_t>(strip.size().width) *
                        static_cast<std::size_t>(strip.size().height));
    for (int y = 0; y < strip.size().height; ++y) {
        const auto r = strip.red.row(y), g = strip.green.row(y), b = strip.blue.row(y);
        for (std::size_t x = 0; x < r.size(); ++x) {
            for (const float v : {r[x], g[x], b[x]}) seen.values.push_back(std::sqrt(std::max(0.0f, v)));
        }
    }
    return seen;
}

// The sums of a row from its start, of several rows together.
std::vector<Rgb> sumsOf(const Seen& seen, int row) {
    const int first = std::max(0, row - alongPx), last = std::min(seen.size.height - 1, row + alongPx);
    std::vector<Rgb> sums(static_cast<std::size_t>(seen.size.width) + 1, Rgb{});
    for (int x = 0; x < seen.size.width; ++x) {
        const auto i = static_cast<std::size_t>(x);
        sums[i + 1] = sums[i];
        for (int y = first; y <= last; ++y) {
            for (std::size_t c = 0; c < 3; ++c)
                sums[i + 1][c] += double{seen.at(x, y)[c]} / static_cast<double>(last - first + 1);
        }
    }
    return sums;
}

// The mean between two places of a row; what lies beyond its ends counts for nothing.
Rgb meanBetween(const std::vector<Rgb>& sums, double from, double to) {
    const double last = static_cast<double>(sums.size() - 1);
    const double a = std::clamp(from, 0.0, last), b = std::clamp(to, 0.0, last);
    const auto upTo = [&](double place, std::size_t c) {
        const auto i = std::min(static_cast<std::size_t>(place), sums.size() - 2);
        return sums[i][c] + (place - static_cast<double>(i)) * (sums[i + 1][c] - sums[i][c]);
    };
    Rgb mean{};
    if (b - a < 0.25) return mean;
    for (std::size_t c = 0; c < 3; ++c) mean[c] = (upTo(b, c) - upTo(a, c)) / (b - a);
    return mean;
}

// How unlike both its sides a place is.
double ridgeAt(const std::vector<Rgb>& sums, double middle, double width) {
    const double half = width / 2, side = std::max(2.0, half), gap = 1;
    if (middle - half - gap < 1 || middle + half + gap > static_cast<double>(sums.size()) - 2) return 0;
    const Rgb here = meanBetween(sums, middle - half, middle + half);
    const Rgb left = meanBetween(sums, middle - half - gap - side, middle - half - gap),
              right = meanBetween(sums, middle + half + gap, middle + half + gap + side);
    double both = 0;
    for (std::size_t c = 0; c < 3; ++c) both += (here[c] - left[c]) * (here[c] - right[c]);
    return std::sqrt(std::max(0.0, both));
}

struct Ridges {
    image::Plane<float> strength;
    image::Plane<std::uint8_t> width;  // which of ridgeWidths
};

Ridges ridgesIn(const Seen& seen) {
    Ridges ridges{image::Plane<float>(seen.size), image::Plane<std::uint8_t>(seen.size)};
    base::parallelForAll(static_cast<std::size_t>(seen.size.height), {}, {}, [&](std::size_t row) {
        const int y = static_cast<int>(row);
        const std::vector<Rgb> sums = sumsOf(seen, y);
        for (int x = 0; x < seen.size.width; ++x) {
            double most = 0;
            std::size_t widest = 0;
            for (std::size_t w = 0; w < ridgeWidths.size(); ++w) {
                const double ridge = ridgeAt(sums, x + 0.5, ridgeWidths[w]);
                if (ridge <= most) continue;
                most = ridge;
                widest = w;
            }
            ridges.strength.row(y)[x] = static_cast<float>(most);
            ridges.width.row(y)[x] = static_cast<std::uint8_t>(widest);
        }
    });
    return ridges;
}

// What counts as a clear ridge here: a part of what the rows' strongest ones mostly are.
double clearRidge(const Ridges& ridges, double noise) {
    std::vector<float> strongest;
    for (int y = 0; y < ridges.strength.size().height; ++y)
        strongest.push_back(*std::ranges::max_element(ridges.strength.row(y)));
    const auto middle = strongest.begin() + static_cast<std::ptrdiff_t>(strongest.size() / 2);
    std::nth_element(strongest.begin(), middle, strongest.end());
    return std::max({1e-3, noise, 0.3 * double{*middle}});
}

// The column of the line in each row.
std::vector<int> courseThrough(const Ridges& ridges, const LineEnds& ends, double clear) {
    constexpr float sideways = 0.15f, offMiddle = 0.02f, never = 1e9f;
    const base::Size size = ridges.strength.size();
    const int middle = size.width / 2;
    const auto cost = [&](int x, int y) {
        const double r = double{ridges.strength.row(y)[x]} / clear;
        return static_cast<float>(1 / (1 + r * r));
    };
    const auto atEnd = [&](int x, double within) {
        const int off = std::abs(x - middle);
        return off <= static_cast<int>(within + 0.5) ? offMiddle * static_cast<float>(off) : never;
    };
    std::vector<float> least(static_cast<std::size_t>(size.width)), next(least.size());
    image::Plane<std::int8_t> from(size);
    for (int x = 0; x < size.width; ++x) least[static_cast<std::size_t>(x)] = atEnd(x, ends.first) + cost(x, 0);
    for (int y = 1; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            float best = least[static_cast<std::size_t>(x)];
            std::int8_t way = 0;
            for (const int step : {-1, 1}) {
                if (x + step < 0 || x + step >= size.width) continue;
                const float there = least[static_cast<std::size_t>(x + step)] + sideways;
                if (there >= best) continue;
                best = there;
                way = static_cast<std::int8_t>(step);
            }
            next[static_cast<std::size_t>(x)] = best + cost(x, y);
            from.row(y)[x] = way;
        }
        std::swap(least, next);
    }
    int at = middle;
    float best = never;
    for (int x = 0; x < size.width; ++x) {
        const float all = least[static_cast<std::size_t>(x)] + atEnd(x, ends.last);
        if (all >= best) continue;
        best = all;
        at = x;
    }
    std::vector<int> course(static_cast<std::size_t>(size.height));
    for (int y = size.height - 1; y >= 0; --y) {
        course[static_cast<std::size_t>(y)] = at;
        if (y > 0) at += from.row(y)[at];
    }
    return course;
}

// A straight line through values near by, weighted, at a place.
double fittedAt(const std::vector<double>& values, const std::vector<double>& weights, int place, double sigma) {
    const int reach = static_cast<int>(std::ceil(2.5 * sigma));
    const int first = std::max(0, place - reach), last = std::min(static_cast<int>(values.size()) - 1, place + reach);
    double w = 0, x = 0, y = 0, xx = 0, xy = 0;
    for (int i = first; i <= last; ++i) {
        const double d = (i - place) / sigma, v = values[static_cast<std::size_t>(i)];
        const double weight = weights[static_cast<std::size_t>(i)] * std::exp(-d * d / 2);
        w += weight;
        x += weight * d;
        y += weight * v;
        xx += weight * d * d;
        xy += weight * d * v;
    }
    if (w < 1e-12) return values[static_cast<std::size_t>(place)];
    const double spread = w * xx - x * x;
    return spread > 0.02 * w * w ? (y * xx - x * xy) / spread : y / w;
}

// The colours across a stretch of the line, in quarters of a pixel from where its middle is thought to be.
//
// Fitted are (1 - a) (g0 + g1 d) + a (l0 + l1 s + l2 s^2), d and s across, a what the line covers. The sums this takes
// are made of those over all bins, known beforehand, and those weighted by a and by a^2, over the few bins the line
// reaches.
class Across {
public:
    Across(const image::LinearPlanes& strip, const std::vector<double>& middle, int first, int last, int reachPx)
        : reach_(reachPx), bins_(static_cast<std::size_t>(2 * reachPx * perPixel)) {
        const int width = strip.size().width;
        for (int y = first; y <= last; ++y) {
            const double at = middle[static_cast<std::size_t>(y)];
            for (int x = std::max(0, static_cast<int>(at) - reachPx);
                 x < std::min(width, static_cast<int>(at) + reachPx + 1); ++x) {
                const double place = (x + 0.5 - at + reachPx) * perPixel;
                if (place < 0 || place >= static_cast<double>(bins_.size())) continue;
                Moments& bin = bins_[static_cast<std::size_t>(place)];
                bin[0] += 1;
                const float colour[] = {strip.red.row(y)[x], strip.green.row(y)[x], strip.blue.row(y)[x]};
                for (std::size_t c = 0; c < 3; ++c) {
                    bin[colourAt(c)] += double{colour[c]};
                    squares_ += double{colour[c]} * double{colour[c]};
                }
            }
        }
        for (std::size_t i = 0; i < bins_.size(); ++i) {
            const double d = placeOf(i) / reach_;
            for (std::size_t k = 1; k < counts; ++k) bins_[i][k] = bins_[i][k - 1] * d;
            for (std::size_t c = 0; c < 3; ++c) {
                for (std::size_t k = 1; k < 3; ++k) bins_[i][colourAt(c) + k] = bins_[i][colourAt(c) + k - 1] * d;
            }
            for (std::size_t k = 0; k < all_.size(); ++k) all_[k] += bins_[i][k];
        }
    }

    struct Fit {
        double left = 0;  // squared, summed: what the fit does not explain
        Rgb line{};
    };

    // The ground alone, without a line.
    std::optional<Fit> ground() const { return solved(Normal(all_, {}, {}, 0, 0), 2); }

    // With a line of that width whose middle is off by so much. Wider ones may be shaded across, as round poles are.
    std::optional<Fit> fit(double width, double off, double blur) const {
        constexpr double shaded = 4, round = 7;  // pixels
        const int unknowns = width < shaded ? 3 : width < round ? 4 : mostUnknowns;
        const double most = width / 2 + 4 * blur;  // nothing of it lies farther out
        const auto bin = [&](double place) {
            return std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>((place + reach_) * perPixel), 0,
                                              static_cast<std::ptrdiff_t>(bins_.size()));
        };
        Moments weighted{};
        std::array<double, counts> twice{};
        for (auto i = static_cast<std::size_t>(bin(off - most)); i < static_cast<std::size_t>(bin(off + most) + 1);
             ++i) {
            if (i >= bins_.size() || bins_[i][0] == 0) continue;
            const double a = lineCoverage(placeOf(i) - off, width, blur);
            for (std::size_t k = 0; k < weighted.size(); ++k) weighted[k] += a * bins_[i][k];
            for (std::size_t k = 0; k < counts; ++k) twice[k] += a * a * bins_[i][k];
        }
        auto fit = solved(Normal(all_, weighted, twice, 2 * reach_ / width, -2 * off / width), unknowns);
        constexpr double perShading = 0.2;  // what a further unknown must at least explain of what is left
        if (fit) fit->left *= 1 + perShading * std::max(0, unknowns - 3);
        return fit;
    }

private:
    static constexpr int perPixel = 4, mostUnknowns = 5;
    static constexpr std::size_t counts = 5;  // how many, times d^0 .. d^4; then each colour's sum times d^0 .. d^2
    using Moments = std::array<double, counts + 9>;
    using Row = std::array<double, mostUnknowns>;
    static std::size_t at(int i) { return static_cast<std::size_t>(i); }
    static constexpr std::size_t colourAt(std::size_t c) { return counts + 3 * c; }
    double placeOf(std::size_t bin) const { return (static_cast<double>(bin) + 0.5) / perPixel - reach_; }

    // The normal equations; s = slope d + start.
    struct Normal {
        std::array<Row, mostUnknowns> left{};
        std::array<Row, 3> right{};

        Normal(const Moments& all, const Moments& weighted, const std::array<double, counts>& twice, double slope,
               double start) {
            // The sum of what has these moments, times s^power d^from.
            std::array<double, counts> ofSlope{1}, ofStart{1};
            for (std::size_t k = 1; k < counts; ++k) {
                ofSlope[k] = ofSlope[k - 1] * slope;
                ofStart[k] = ofStart[k - 1] * start;
            }
            const auto shaded = [&](const auto& moments, int power, std::size_t from) {
                double sum = 0, binomial = 1;
                for (int i = 0; i <= power; ++i) {
                    sum += binomial * ofSlope[at(i)] * ofStart[at(power - i)] * moments[from + at(i)];
                    binomial = binomial * (power - i) / (i + 1);
                }
                return sum;
            };
            std::array<double, counts> both{};  // weighted by a (1 - a)
            for (std::size_t k = 0; k < counts; ++k) both[k] = weighted[k] - twice[k];
            for (std::size_t j = 0; j < 2; ++j) {
                for (std::size_t k = 0; k < 2; ++k) left[j][k] = all[j + k] - weighted[j + k] - both[j + k];
                for (int k = 0; k < 3; ++k) left[j][at(2 + k)] = left[at(2 + k)][j] = shaded(both, k, j);
                for (std::size_t c = 0; c < 3; ++c) right[c][j] = all[colourAt(c) + j] - weighted[colourAt(c) + j];
            }
            for (int j = 0; j < 3; ++j) {
                for (int k = 0; k < 3; ++k) left[at(2 + j)][at(2 + k)] = shaded(twice, j + k, 0);
                for (std::size_t c = 0; c < 3; ++c) right[c][at(2 + j)] = shaded(weighted, j, colourAt(c));
            }
        }
        std::optional<Row> solved(std::size_t c, int unknowns) const {
            std::array<Row, mostUnknowns> m = left;
            Row v = right[c];
            for (int j = 0; j < unknowns; ++j) {
                if (m[at(j)][at(j)] < 1e-6) return {};  // nothing tells these apart
                for (int k = j + 1; k < unknowns; ++k) {
                    const double f = m[at(k)][at(j)] / m[at(j)][at(j)];
                    for (int l = j; l < unknowns; ++l) m[at(k)][at(l)] -= f * m[at(j)][at(l)];
                    v[at(k)] -= f * v[at(j)];
                }
            }
            for (int j = unknowns - 1; j >= 0; --j) {
                for (int l = j + 1; l < unknowns; ++l) v[at(j)] -= m[at(j)][at(l)] * v[at(l)];
                v[at(j)] /= m[at(j)][at(j)];
            }
            return v;
        }
    };

    std::optional<Fit> solved(const Normal& normal, int unknowns) const {
        Fit fit{squares_, {}};
        for (std::size_t c = 0; c < 3; ++c) {
            const auto values = normal.solved(c, unknowns);
            if (!values) return {};
            for (int j = 0; j < unknowns; ++j) fit.left -= (*values)[at(j)] * normal.right[c][at(j)];
            if (unknowns > 2) fit.line[c] = (*values)[2];
        }
        fit.left = std::max(fit.left, 0.0);
        return fit;
    }

    int reach_;
    std::vector<Moments> bins_;
    Moments all_{};
    double squares_ = 0;
};

struct Stretch {
    double off = 0, width = 1, sure = 0, left = 0;
};

// No line has a colour below black.
bool isPossible(const Rgb& colour) {
    return std::ranges::all_of(colour, [](double v) { return v > -0.02; });
}

// The best of widths and places about one already found, or of all.
void tryOn(const Across& across, double ground, double width, double off, double blur, Stretch& best) {
    const auto fit = across.fit(width, off, blur);
    if (!fit || fit->left >= best.left || !isPossible(fit->line)) return;
    best = {off, width, 1 - fit->left / std::max(1e-12, ground), fit->left};
}

// The line is about so wide, and its middle off by up to four steps.
Stretch fitted(const Across& across, double about, double coarseStep, double blur) {
    constexpr double coarse = 1.4, fine = 1.12, fineStep = 0.125;
    const auto ground = across.ground();
    Stretch best;
    if (!ground) return best;
    best.left = ground->left;
    for (double width = 0.4; width < 3 * about + 1; width *= coarse) {
        for (int o = -4; o <= 4; ++o) tryOn(across, ground->left, width, o * coarseStep, blur, best);
    }
    const Stretch found = best;
    if (found.sure == 0) return found;
    for (int w = -3; w <= 3; ++w) {
        for (int o = -3; o <= 3; ++o)
            tryOn(across, ground->left, found.width * std::pow(fine, w), found.off + o * fineStep * coarseStep / 0.5,
                  blur, best);
    }
    return best;
}

// How wide it is thought to be, from the ridges under its course.
double widthAbout(const Ridges& ridges, const std::vector<int>& course, int first, int last) {
    std::array<double, ridgeWidths.size()> weight{};
    for (int y = first; y <= last; ++y) {
        const int x = course[static_cast<std::size_t>(y)];
        weight[ridges.width.row(y)[x]] += double{ridges.strength.row(y)[x]};
    }
    return ridgeWidths[static_cast<std::size_t>(std::ranges::max_element(weight) - weight.begin())];
}

// One every so many rows. `stepOfWidth`: how far the middle may be off, in quarters of the width thought of.
std::vector<Stretch> stretchesOf(const image::LinearPlanes& strip, const std::vector<double>& middle,
                                 const std::vector<double>& about, double blur, int everyPx,
                                 double stepOfWidth = 1.0 / 6) {
    const int rows = strip.size().height;
    std::vector<Stretch> stretches(static_cast<std::size_t>((rows + everyPx - 1) / everyPx));
    base::parallelForAll(stretches.size(), {}, {}, [&](std::size_t i) {
        const int y = std::min(static_cast<int>(i) * everyPx + everyPx / 2, rows - 1);
        const double wide = about[static_cast<std::size_t>(y)];
        const int half = wide < 4 ? 24 : 12;  // a thin line is told by more of it
        const int reach = static_cast<int>(std::ceil(1.2 * wide)) + 9;
        const Across across(strip, middle, std::max(0, y - half), std::min(rows - 1, y + half), reach);
        stretches[i] = fitted(across, wide, std::max(0.5, wide * stepOfWidth), blur);
    });
    return stretches;
}

// The blur that leaves least, over some stretches.
double blurOf(const image::LinearPlanes& strip, const std::vector<double>& middle, const std::vector<double>& about) {
    const int everyPx = std::max(8, strip.size().height / 12);
    double least = 1e30, best = 0.6;
    for (const double blur : {0.45, 0.52, 0.6, 0.67, 0.75, 0.85, 0.95, 1.1, 1.25, 1.5, 1.8, 2.1, 2.5, 3.0}) {
        double left = 0;
        for (const Stretch& stretch : stretchesOf(strip, middle, about, blur, everyPx)) left += stretch.left;
        if (left >= least) continue;
        least = left;
        best = blur;
    }
    return best;
}

double usuallyLeft(const std::vector<Stretch>& stretches) {
    std::vector<double> left;
    for (const Stretch& stretch : stretches) left.push_back(stretch.left);
    const auto middle = left.begin() + static_cast<std::ptrdiff_t>(left.size() / 2);
    std::nth_element(left.begin(), middle, left.end());
    return *middle + 1e-9;
}

// Where a ball or a knot sits on it, or another line crosses it, the line itself is no wider.
std::vector<double> withoutKnots(const std::vector<double>& widths) {
    constexpr int reach = 90;
    constexpr double most = 1.3;
    std::vector<double> out;
    for (int y = 0; y < static_cast<int>(widths.size()); ++y) {
        const auto first = widths.begin() + std::max(0, y - reach),
                   last = widths.begin() + std::min(static_cast<int>(widths.size()), y + reach + 1);
        std::vector<double> near(first, last);
        const auto middle = near.begin() + static_cast<std::ptrdiff_t>(near.size() / 2);
        std::nth_element(near.begin(), middle, near.end());
        out.push_back(std::clamp(widths[static_cast<std::size_t>(y)], *middle / most, *middle * most));
    }
    return out;
}

}  // namespace

double lineCoverage(double distance, double width, double blur) {
    const double scale = 1 / (blur * std::numbers::sqrt2);
    return 0.5 * (errorFunction((width / 2 - distance) * scale) + errorFunction((width / 2 + distance) * scale));
}

FollowedLine followedLine(const image::LinearPlanes& strip, const LineEnds& ends, double noise) {
    constexpr double smooth = 6, leastSmooth = 10, leastSure = 0.3;
    constexpr int everyPx = 6;
    const int rows = strip.size().height;
    const Ridges ridges = ridgesIn(seenIn(strip));
    const double clear = clearRidge(ridges, noise);
    const std::vector<int> course = courseThrough(ridges, ends, clear);
    std::vector<double> middle, weight, about;
    for (int y = 0; y < rows; ++y) {
        const int x = course[static_cast<std::size_t>(y)];
        const double strength = double{ridges.strength.row(y)[x]} / clear;
        middle.push_back(x + 0.5);
        weight.push_back(0.01 + std::min(1.0, strength * strength));
        about.push_back(widthAbout(ridges, course, std::max(0, y - 24), std::min(rows - 1, y + 24)));
    }
    std::vector<double> even(middle.size());
    for (int y = 0; y < rows; ++y) even[static_cast<std::size_t>(y)] = fittedAt(middle, weight, y, smooth);

    FollowedLine line;
    // In rounds: the first middle lags behind where the line bends.
    for (int round = 0; round < 2; ++round) {
        line.blur = blurOf(strip, even, about);
        const std::vector<Stretch> stretches =
            stretchesOf(strip, even, about, line.blur, everyPx, round == 0 ? 1.0 / 6 : 1.0 / 16);
        const auto of = [&](int row) { return stretches[static_cast<std::size_t>(row / everyPx)]; };
        const double usual = usuallyLeft(stretches);
        std::vector<double> middles, widths, sures;
        for (int y = 0; y < rows; ++y) {
            middles.push_back(even[static_cast<std::size_t>(y)] + of(y).off);
            widths.push_back(of(y).width);
            const double clean = usual / (usual + of(y).left);  // not across a ball or another line
            sures.push_back(of(y).sure < leastSure ? 1e-4 : of(y).sure * of(y).sure * clean * clean);
        }
        widths = withoutKnots(widths);
        for (std::size_t i = 0; i < about.size(); ++i) about[i] = std::clamp(widths[i], about[i] / 2, about[i] * 1.5);
        line.spots.clear();
        for (int y = 0; y < rows; ++y) {
            const auto i = static_cast<std::size_t>(y);
            const double over = std::max(leastSmooth, about[i]);
            // It stays near its places though what is fitted goes over some length.
            const double room = 1.5 + std::min(ends.first + y, ends.last + rows - 1 - y);
            const double inRow = strip.size().width / 2.0;
            even[i] = std::clamp(fittedAt(middles, sures, y, over), inRow - room, inRow + room);
            line.spots.push_back(
                {even[i] - strip.size().width / 2.0, std::max(0.3, fittedAt(widths, sures, y, 2 * over)), of(y).sure});
        }
    }
    return line;
}

}  // namespace dimhem::edge
