#include <cmath>
#include <cstdio>
#include <random>

#include "bench/edges/detail_scenes.h"
#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"
#include "core/edge/sides.h"
#include "core/kernel/signed_distance.h"
#include "core/task/hem_check.h"

namespace dimhem::edges {

namespace {

// A mask that is wrong in a known way: moved, wobbling, leaking, bitten, shifted, or right; with gaps and specks.
struct WrongMask {
    image::Plane<float> mask;
    int spots = 0;
    std::vector<base::Point> places;
};

WrongMask wrongMask(const image::Plane<float>& matte, int kind, std::mt19937& random) {
    const auto uniform = [&] { return random() / 4294967296.0; };
    const kernel::DistanceField field = kernel::signedDistance(matte);
    const base::Size size = matte.size();
    const double amount = (kind % 2 ? 1 : -1) * (1 + 5 * uniform()), soft = 1.5 + 4 * uniform();
    const double p0 = uniform() * 6.28, p1 = uniform() * 6.28, px = 25 + 50 * uniform(), py = 25 + 50 * uniform();
    struct Blob {
        double x, y, r;
        bool adds;
    };
    std::vector<Blob> blobs;
    for (int i = 0; i < 4000 && blobs.size() < (kind >= 8 && kind < 12 ? 4 : 0); ++i) {
        const double x = uniform() * size.width, y = uniform() * size.height;
        if (std::abs(field.distance.row(static_cast<int>(y))[static_cast<std::size_t>(x)]) < 3)
            blobs.push_back({x, y, 5 + 4 * uniform(), kind % 2 == 0});
    }
    WrongMask out{image::Plane<float>(size), 0, {}};
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            double d = double{field.distance.row(y)[static_cast<std::size_t>(x)]};
            if (kind >= 2 && kind < 5) d -= amount;
            if (kind >= 5 && kind < 8)
                d -= std::abs(amount) * (0.7 * std::sin(x / px + p0) + 0.5 * std::sin(y / py + p1));
            for (const Blob& blob : blobs) {
                const double to = std::hypot(x - blob.x, y - blob.y) - blob.r;
                d = blob.adds ? std::min(d, to) : std::max(d, -to);
            }
            const float plain = static_cast<float>(std::clamp(0.5 - d / soft, 0.0, 1.0));
            out.mask.row(y)[static_cast<std::size_t>(x)] = kind < 2 ? matte.row(y)[static_cast<std::size_t>(x)] : plain;
        }
    }
    for (int i = 0; i < 400 && kind % 2 && out.spots < 4; ++i) {
        const double x = uniform() * size.width, y = uniform() * size.height, r = 2 + 6 * uniform();
        const double d = double{field.distance.row(static_cast<int>(y))[static_cast<std::size_t>(x)]};
        bool apart = x > 30 && y > 30 && x < size.width - 30 && y < size.height - 30 && std::abs(d) > 30;
        for (const base::Point& p : out.places) apart = apart && std::hypot(p.x - x, p.y - y) > 60;
        if (!apart) continue;
        out.places.push_back({x, y});
        ++out.spots;
        for (int j = static_cast<int>(-r) - 1; j <= r + 1; ++j) {
            for (int k = static_cast<int>(-r) - 1; k <= r + 1; ++k) {
                const float in = static_cast<float>(std::clamp(r - std::hypot(j, k) + 0.5, 0.0, 1.0));
                float& v = out.mask.row(static_cast<int>(y) + j)[static_cast<std::size_t>(static_cast<int>(x) + k)];
                v = d < 0 ? v * (1 - in) : std::max(v, in);
            }
        }
    }
    return out;
}

double spearman(const std::vector<double>& a, const std::vector<double>& b) {
    const auto ranks = [](const std::vector<double>& v) {
        std::vector<double> out(v.size());
        for (std::size_t i = 0; i < v.size(); ++i) {
            for (std::size_t j = 0; j < v.size(); ++j) out[i] += v[j] < v[i] ? 1 : v[j] == v[i] ? 0.5 : 0;
        }
        return out;
    };
    const std::vector<double> x = ranks(a), y = ranks(b);
    const double mx = mean(x), my = mean(y);
    double xy = 0, xx = 0, yy = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        xy += (x[i] - mx) * (y[i] - my);
        xx += (x[i] - mx) * (x[i] - mx);
        yy += (y[i] - my) * (y[i] - my);
    }
    return xy / std::sqrt(xx * yy);
}

std::shared_ptr<const image::Plane<std::uint16_t>> pixelsOf(const image::Plane<float>& mask) {
    auto pixels = std::make_shared<image::Plane<std::uint16_t>>(mask.size());
    for (int y = 0; y < mask.size().height; ++y)
        std::transform(mask.row(y).begin(), mask.row(y).end(), pixels->row(y).begin(),
                       [](float v) { return static_cast<std::uint16_t>(v * 65535 + 0.5f); });
    return pixels;
}

// Grown, or shrunk where below 0, by so many pixels: the most, or least, about each.
image::Plane<float> spread(const image::Plane<float>& mask, int by) {
    const int reach = std::abs(by);
    return image::planeOf(mask.size(), [&](int x, int y) {
        float v = mask.view().at(x, y);
        for (int j = -reach; j <= reach; ++j) {
            for (int i = -reach; i <= reach; ++i) {
                if (i * i + j * j > reach * reach || !edge::isWithin(mask.size(), x + i, y + j)) continue;
                const float other = mask.view().at(x + i, y + j);
                v = by > 0 ? std::max(v, other) : std::min(v, other);
            }
        }
        return v;
    });
}

// Right, a hull, one drawn too small, half way to it, too full, too thin.
std::vector<image::Plane<float>> masksOf(const Detailed& made) {
    std::vector<image::Plane<float>> masks;
    masks.push_back(image::copied(made.matte));
    masks.push_back(image::copied(made.hull));
    masks.push_back(spread(made.hull, -5));
    masks.push_back(image::planeOf(
        made.matte.size(), [&](int x, int y) { return (made.matte.view().at(x, y) + made.hull.view().at(x, y)) / 2; }));
    masks.push_back(spread(made.matte, 2));
    masks.push_back(spread(made.matte, -1));
    return masks;
}

}  // namespace

void hemDetailOutcomes(const std::string& demo, std::uint32_t seed) {
    const std::vector<cv::Mat> grounds = detailGrounds(demo);
    for (const DetailKind& kind : detailKinds()) {
        std::vector<double> truth[2], said[2], off[2], right, unmeasured;
        for (std::size_t i = 0; i < grounds.size(); i += 2) {
            const Detailed made =
                detailed(kind, grounds[i], grounds[(i + 1) % grounds.size()], 0, seed + static_cast<std::uint32_t>(i));
            image::EncodedPlanes linear(made.matte.size());
            linear.red = image::copied(made.picture.red);
            linear.green = image::copied(made.picture.green);
            linear.blue = image::copied(made.picture.blue);
            const std::vector<image::Plane<float>> masks = masksOf(made);
            for (std::size_t m = 0; m < masks.size(); ++m) {
                const auto document = documentWith(std::make_shared<mask::Matte>("made.png", pixelsOf(masks[m])));
                const render::Renderer renderer(sourceOf(linear), std::make_shared<render::TileCache>());
                const auto report = task::hemCheck(renderer, document, document->corrections.front()->id);
                const Error error = errorOf(masks[m], made.matte, nullptr);
                truth[0].push_back(error.spillPct);
                truth[1].push_back(error.shortPct);
                said[0].push_back(report->spillPct);
                said[1].push_back(report->shortPct);
                off[0].push_back(std::abs(error.spillPct - report->spillPct));
                off[1].push_back(std::abs(error.shortPct - report->shortPct));
                if (m == 0) right.push_back(report->spillPct + report->shortPct);
                unmeasured.push_back(report->unmeasuredPct);
            }
        }
        std::printf(
            "%-13s hem of fine detail: true %.1f/%.1f said %.1f/%.1f (medians) rho %.2f/%.2f mean error %.1f/%.1f "
            "right mask said %.1f at worst %.1f, not measured %.0f %%\n",
            kind.name, median(truth[0]), median(truth[1]), median(said[0]), median(said[1]),
            spearman(truth[0], said[0]), spearman(truth[1], said[1]), mean(off[0]), mean(off[1]), median(right),
            *std::max_element(right.begin(), right.end()), mean(unmeasured));
        std::fflush(stdout);
    }
}

void hemOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        std::mt19937 random(seed);
        std::vector<double> spill, spillSaid, missing, missingSaid, off[2], exact, unmeasured;
        int spots = 0, found = 0, wrong = 0;
        double seconds = 0;
        for (int kind = 0; kind < 14; ++kind) {
            const WrongMask made = wrongMask(scene.matte, kind, random);
            const auto document = documentWith(std::make_shared<mask::Matte>("made.png", pixelsOf(made.mask)));
            const render::Renderer renderer(scene.photo, std::make_shared<render::TileCache>());
            std::optional<task::HemReport> report;
            seconds +=
                secondsOf([&] { report = task::hemCheck(renderer, document, document->corrections.front()->id); });
            const Error truth = errorOf(made.mask, scene.matte, nullptr);
            spill.push_back(truth.spillPct);
            missing.push_back(truth.shortPct);
            spillSaid.push_back(report->spillPct);
            missingSaid.push_back(report->shortPct);
            off[0].push_back(std::abs(truth.spillPct - report->spillPct));
            off[1].push_back(std::abs(truth.shortPct - report->shortPct));
            unmeasured.push_back(report->unmeasuredPct);
            if (kind == 0) exact = {report->spillPct, report->shortPct};
            spots += made.spots;
            for (const check::Finding& f : report->findings) {
                if (f.kind != check::FindingKind::gap && f.kind != check::FindingKind::speck) continue;
                const bool real = std::any_of(made.places.begin(), made.places.end(), [&](base::Point p) {
                    return p.x >= f.bounds.x0 - 2 && p.x <= f.bounds.x1 + 2 && p.y >= f.bounds.y0 - 2 &&
                           p.y <= f.bounds.y1 + 2;
                });
                ++(real ? found : wrong);
            }
        }
        std::printf(
            "%-13s hem: true %.2f/%.2f rho %.3f/%.3f mean error %.2f/%.2f exact %.2f/%.2f spots %d/%d false %d "
            "not measured %.0f %% of edge, %.2f s each\n",
            scene.name.c_str(), median(spill), median(missing), spearman(spill, spillSaid),
            spearman(missing, missingSaid), mean(off[0]), mean(off[1]), exact[0], exact[1], found, spots, wrong,
            mean(unmeasured), seconds / 14);
        std::fflush(stdout);
    }
}

}  // namespace dimhem::edges
