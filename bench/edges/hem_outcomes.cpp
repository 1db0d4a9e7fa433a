#include <cmath>
#include <cstdio>
#include <random>

#include "bench/edges/outcomes.h"
#include "bench/edges/strokes.h"
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

}  // namespace

void hemOutcomes(const std::vector<Scene>& all, std::uint32_t seed) {
    for (const Scene& scene : all) {
        std::mt19937 random(seed);
        std::vector<double> spill, spillSaid, missing, missingSaid, off[2], exact, unmeasured;
        int spots = 0, found = 0, wrong = 0;
        double seconds = 0;
        for (int kind = 0; kind < 14; ++kind) {
            const WrongMask made = wrongMask(scene.matte, kind, random);
            auto pixels = std::make_shared<image::Plane<std::uint16_t>>(scene.size());
            for (int y = 0; y < scene.size().height; ++y)
                std::transform(made.mask.row(y).begin(), made.mask.row(y).end(), pixels->row(y).begin(),
                               [](float v) { return static_cast<std::uint16_t>(v * 65535 + 0.5f); });
            const auto document = documentWith(std::make_shared<mask::Matte>("made.png", pixels));
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
