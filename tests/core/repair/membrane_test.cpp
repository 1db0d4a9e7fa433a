#include "core/repair/membrane.h"

#include <gtest/gtest.h>

#include <Eigen/Sparse>
#include <Eigen/SparseCholesky>
#include <cmath>
#include <random>

#include "tests/core/repair/made.h"

namespace dimhem::repair {
namespace {

using image::Plane;

using tests::holeOf;

// The same equations, solved directly.
Plane<float> solvedDirectly(const Plane<float>& plane, const Hole& hole) {
    const base::Size size = plane.size();
    Plane<int> index = image::filled(size, -1);
    int count = 0;
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (hole.view().at(x, y)) index.view().at(x, y) = count++;
        }
    }
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd b = Eigen::VectorXd::Zero(count);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const int own = index.view().at(x, y);
            if (own < 0) continue;
            double sum = 0;
            for (const auto& [nx, ny] : {std::pair{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}}) {
                if (nx < 0 || ny < 0 || nx >= size.width || ny >= size.height) continue;
                sum += 1;
                const int other = index.view().at(nx, ny);
                if (other >= 0) {
                    entries.emplace_back(own, other, -1.0);
                } else {
                    b[own] += double{plane.view().at(nx, ny)};
                }
            }
            entries.emplace_back(own, own, sum);
        }
    }
    Eigen::SparseMatrix<double> a(count, count);
    a.setFromTriplets(entries.begin(), entries.end());
    const Eigen::VectorXd x = Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>>(a).solve(b);
    Plane<float> out = image::copied(plane);
    for (int y = 0; y < size.height; ++y) {
        for (int column = 0; column < size.width; ++column) {
            const int own = index.view().at(column, y);
            if (own >= 0) out.view().at(column, y) = static_cast<float>(x[own]);
        }
    }
    return out;
}

double furthest(const Plane<float>& a, const Plane<float>& b) {
    double most = 0;
    for (int y = 0; y < a.size().height; ++y) {
        for (std::size_t x = 0; x < a.row(y).size(); ++x)
            most = std::max(most, std::abs(double{a.row(y)[x]} - double{b.row(y)[x]}));
    }
    return most;
}

void filled(Plane<float>& plane, const Hole& hole) {
    Plane<float>* const planes[] = {&plane};
    fillMembrane(planes, hole);
}

struct Case {
    const char* name;
    base::Size size;
    std::function<bool(int, int)> isHole;
};

std::vector<Case> cases() {
    const auto disc = [](double cx, double cy, double r) {
        return [=](int x, int y) { return std::hypot(x - cx, y - cy) < r; };
    };
    std::mt19937 random(7);
    std::vector<bool> speckles(120 * 90);
    for (auto&& speckle : speckles) speckle = random() % 100 < 60;
    return {
        {"disc", {140, 130}, disc(70, 65, 55)},
        {"disc at the photo's corner", {120, 110}, disc(2, 3, 70)},
        {"a line", {200, 90}, [](int x, int y) { return std::abs(y - 10 - x / 3) < 4; }},
        {"ring",
         {150, 150},
         [](int x, int y) {
             const double r = std::hypot(x - 75, y - 75);
             return r > 30 && r < 65;
         }},
        {"speckles",
         {120, 90},
         [speckles](int x, int y) { return bool{speckles[static_cast<std::size_t>(y * 120 + x)]}; }},
        {"all but one pixel", {61, 47}, [](int x, int y) { return x != 20 || y != 31; }},
        {"two strips", {97, 33}, [](int x, int) { return x < 20 || (x > 40 && x < 90); }},
        {"one pixel", {3, 3}, [](int x, int y) { return x == 1 && y == 1; }},
    };
}

// Outside check: Eigen's sparse Cholesky solver on the same equations.
TEST(Membrane, AgreesWithADirectSolverToAThousandth) {
    for (const Case& c : cases()) {
        for (const std::uint32_t seed : {1u, 2u}) {
            std::mt19937 random(seed);
            std::uniform_real_distribution<float> noise(0, seed == 1 ? 1.0f : 0.05f);
            Plane<float> plane = image::planeOf(c.size, [&](int x, int y) {
                return noise(random) +
                       (seed == 2 ? static_cast<float>(x) / 200 + (y > c.size.height / 2 ? 0.3f : 0) : 0);
            });
            const Hole hole = holeOf(c.size, c.isHole);
            const Plane<float> wanted = solvedDirectly(plane, hole);
            filled(plane, hole);
            EXPECT_LT(furthest(plane, wanted), 1e-3) << c.name << ", seed " << seed;
        }
    }
}

TEST(Membrane, LeavesKnownPixelsAndAPlaneOfHolesAlone) {
    const base::Size size{40, 30};
    const auto value = [](int x, int y) { return static_cast<float>(x * 31 % 17 + y); };
    Plane<float> plane = image::planeOf(size, value);
    filled(plane, holeOf(size, [](int x, int y) { return x > 10 && x < 20 && y > 3; }));
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x <= 10; ++x) EXPECT_EQ(plane.view().at(x, y), value(x, y));
    }
    Plane<float> all = image::planeOf(size, value);
    filled(all, holeOf(size, [](int, int) { return true; }));
    EXPECT_EQ(furthest(all, image::planeOf(size, value)), 0);
}

// The discrete maximum principle: nothing beyond what is around.
TEST(Membrane, StaysWithinWhatIsAround) {
    for (const Case& c : cases()) {
        std::mt19937 random(3);
        Plane<float> plane =
            image::planeOf(c.size, [&](int, int) { return std::uniform_real_distribution<float>(-1, 2)(random); });
        filled(plane, holeOf(c.size, c.isHole));
        for (int y = 0; y < c.size.height; ++y) {
            for (const float v : plane.row(y)) {
                EXPECT_GE(v, -1.001f) << c.name;
                EXPECT_LE(v, 2.001f) << c.name;
            }
        }
    }
}

TEST(Membrane, RelaxingLeadsThere) {
    const Case c{"small disc", {40, 40}, [](int x, int y) { return std::hypot(x - 20, y - 18) < 10; }};
    Plane<float> plane = image::planeOf(c.size, [](int x, int y) { return static_cast<float>(x + 2 * y) / 300; });
    const Hole hole = holeOf(c.size, c.isHole);
    const Plane<float> wanted = image::copied(plane);  // a slope is a membrane
    filled(plane, hole);
    EXPECT_LT(furthest(plane, wanted), 1e-3);
    Plane<float> off = image::planeOf(c.size, [&](int x, int y) {
        return plane.view().at(x, y) + (hole.view().at(x, y) && (x + y) % 2 ? 0.2f : 0.0f);
    });
    relaxMembrane(off, hole, 12);
    const double after12 = furthest(off, wanted);
    relaxMembrane(off, hole, 400);
    EXPECT_LT(furthest(off, wanted), 0.5 * after12 + 1e-6);
}

}  // namespace
}  // namespace dimhem::repair
