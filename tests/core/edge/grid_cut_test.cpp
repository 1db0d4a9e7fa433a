#include "core/edge/grid_cut.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <queue>
#include <random>

namespace dimhem::edge {

namespace {

struct Pair {
    int node, direction, other, weight;
};
struct Problem {
    int width, height;
    std::vector<std::array<int, 2>> cost;  // if inside, if outside
    std::vector<Pair> pairs;
    int nodes() const { return width * height; }
};

Problem randomProblem(int width, int height, std::uint32_t seed, int most) {
    std::mt19937 random(seed);
    const auto upTo = [&](int limit) { return static_cast<int>(random() % static_cast<unsigned>(limit)); };
    Problem problem{width, height, {}, {}};
    for (int i = 0; i < width * height; ++i) problem.cost.push_back({upTo(most), upTo(most)});
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            for (int k = 4; k < 8; ++k) {
                const int nx = x + directions[static_cast<std::size_t>(k)].x,
                          ny = y + directions[static_cast<std::size_t>(k)].y;
                if (nx < 0 || ny < 0 || nx >= width || ny >= height || upTo(5) == 0) continue;
                problem.pairs.push_back({y * width + x, k, ny * width + nx, upTo(most)});
            }
        }
    }
    return problem;
}

std::vector<bool> solved(const Problem& problem) {
    GridCut cut(problem.nodes());
    for (int i = 0; i < problem.nodes(); ++i) {
        const auto& c = problem.cost[static_cast<std::size_t>(i)];
        cut.addCost(i, c[0], 0);  // in two steps, which must add up
        cut.addCost(i, 0, c[1]);
    }
    for (const Pair& p : problem.pairs) cut.join(p.node, p.direction, p.other, p.weight);
    cut.solve();
    std::vector<bool> inside(static_cast<std::size_t>(problem.nodes()));
    for (int i = 0; i < problem.nodes(); ++i) inside[static_cast<std::size_t>(i)] = cut.isInside(i);
    return inside;
}

long costOf(const Problem& problem, const std::vector<bool>& inside) {
    long sum = 0;
    for (std::size_t i = 0; i < inside.size(); ++i) sum += problem.cost[i][inside[i] ? 0 : 1];
    for (const Pair& p : problem.pairs) {
        if (inside[static_cast<std::size_t>(p.node)] != inside[static_cast<std::size_t>(p.other)]) sum += p.weight;
    }
    return sum;
}

long leastByTryingAll(const Problem& problem) {
    long least = 1L << 40;
    for (unsigned choice = 0; choice < 1u << problem.nodes(); ++choice) {
        std::vector<bool> inside(static_cast<std::size_t>(problem.nodes()));
        for (std::size_t i = 0; i < inside.size(); ++i) inside[i] = (choice >> i) & 1;
        least = std::min(least, costOf(problem, inside));
    }
    return least;
}

// The maximum flow by shortest augmenting paths (Edmonds and Karp, 1972), which the least cut must equal (Ford and
// Fulkerson, 1956).
long maximumFlow(const Problem& problem) {
    const int source = problem.nodes(), sink = source + 1, count = sink + 1;
    std::vector<std::vector<long>> room(static_cast<std::size_t>(count),
                                        std::vector<long>(static_cast<std::size_t>(count)));
    const auto at = [&](int a, int b) -> long& {
        return room[static_cast<std::size_t>(a)][static_cast<std::size_t>(b)];
    };
    for (int i = 0; i < problem.nodes(); ++i) {
        at(source, i) += problem.cost[static_cast<std::size_t>(i)][1];
        at(i, sink) += problem.cost[static_cast<std::size_t>(i)][0];
    }
    for (const Pair& p : problem.pairs) {
        at(p.node, p.other) += p.weight;
        at(p.other, p.node) += p.weight;
    }
    long flow = 0;
    for (;;) {
        std::vector<int> from(static_cast<std::size_t>(count), -1);
        std::queue<int> queue({source});
        from[static_cast<std::size_t>(source)] = source;
        while (!queue.empty() && from[static_cast<std::size_t>(sink)] < 0) {
            const int node = queue.front();
            queue.pop();
            for (int next = 0; next < count; ++next) {
                if (from[static_cast<std::size_t>(next)] >= 0 || at(node, next) == 0) continue;
                from[static_cast<std::size_t>(next)] = node;
                queue.push(next);
            }
        }
        if (from[static_cast<std::size_t>(sink)] < 0) return flow;
        long least = 1L << 40;
        for (int n = sink; n != source; n = from[static_cast<std::size_t>(n)])
            least = std::min(least, at(from[static_cast<std::size_t>(n)], n));
        for (int n = sink; n != source; n = from[static_cast<std::size_t>(n)]) {
            at(from[static_cast<std::size_t>(n)], n) -= least;
            at(n, from[static_cast<std::size_t>(n)]) += least;
        }
        flow += least;
    }
}

}  // namespace

TEST(GridCut, IsTheCheapestOfAllCutsOfSmallGrids) {
    for (std::uint32_t seed = 0; seed < 120; ++seed) {
        const Problem problem = randomProblem(4, 3, seed, 20);
        ASSERT_EQ(costOf(problem, solved(problem)), leastByTryingAll(problem)) << seed;
    }
}

TEST(GridCut, EqualsTheMaximumFlowOnLargerOnes) {
    for (std::uint32_t seed = 0; seed < 12; ++seed) {
        const Problem problem = randomProblem(9, 8, 1000 + seed, seed % 2 ? 1000 : 6);
        ASSERT_EQ(costOf(problem, solved(problem)), maximumFlow(problem)) << seed;
    }
}

TEST(GridCut, PixelsWithoutNeighboursTakeTheCheaperSide) {
    GridCut cut(3);
    cut.addCost(0, 5, 2);
    cut.addCost(1, 2, 5);
    cut.solve();
    EXPECT_FALSE(cut.isInside(0));
    EXPECT_TRUE(cut.isInside(1));
}

TEST(GridCut, AStrongPairPullsAWeakPixelAlong) {
    GridCut cut(2);
    cut.addCost(0, 0, 100);
    cut.addCost(1, 3, 0);
    cut.join(0, 4, 1, 50);
    cut.solve();
    EXPECT_TRUE(cut.isInside(0));
    EXPECT_TRUE(cut.isInside(1)) << "leaving it outside would cost 50";
}

}  // namespace dimhem::edge
