// The cheapest cut through a grid of pixels: every pixel goes to one of two sides, inside or outside.
//
// A pixel costs what it was given for the side it ends on, and every pair of neighbours on different sides costs the
// weight between them. The minimum is exact: Boykov and Kolmogorov, "An Experimental Comparison of Min-Cut/Max-Flow
// Algorithms for Energy Minimization in Vision", PAMI 2004. Costs are whole numbers, so that the same pixels give the
// same cut on any machine.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

namespace dimhem::edge {

// The neighbours of a pixel in reading order; the opposite of direction k is 7 - k.
struct Step {
    int x, y;
};
inline constexpr std::array<Step, 8> directions = {
    {{-1, -1}, {0, -1}, {1, -1}, {-1, 0}, {1, 0}, {-1, 1}, {0, 1}, {1, 1}}};

class GridCut {
public:
    explicit GridCut(int nodes);

    // May be called several times for a node; the costs add up. Costs are from 0.
    void addCost(int node, int ifInside, int ifOutside);
    // Between a node and the one in `direction` (4..7) of it.
    void join(int node, int direction, int other, int weight);

    void solve();
    bool isInside(int node) const { return at(node).tree == Tree::source; }

private:
    enum class Tree : std::uint8_t { none, source, sink };
    static constexpr std::int8_t atTerminal = 8, orphaned = 9, noParent = 10;
    static constexpr int unreachable = 1 << 30;
    static std::size_t index(int node) { return static_cast<std::size_t>(node); }
    // All that is asked of a node at once lies together: a cut is slow by what it has to fetch.
    struct Node {
        int terminal = 0;  // what is left towards the source (above 0) or the sink (below 0)
        int distance = 0, stamp = 0;
        Tree tree = Tree::none;
        std::int8_t parent = noParent;  // direction of the parent, or one of the marks above
        bool isActive = false;
    };
    struct Meeting {
        int sourceSide = -1, direction = 0;
    };

    Node& at(int node) { return nodes_[index(node)]; }
    const Node& at(int node) const { return nodes_[index(node)]; }
    int room(int node, int direction) const { return capacity_[index(node)][index(direction)]; }
    int neighbour(int node, int direction) const { return neighbour_[index(node)][index(direction)]; }
    int roomTowardsRoot(int node, int direction) const;
    int roomFromRoot(int node, int direction) const;
    void start();
    void activate(int node);
    int nextActive();
    Meeting grow(int node);
    void augment(const Meeting& meeting);
    int bottleneck(const Meeting& meeting) const;
    void push(int node, int direction, int amount);
    void orphan(int node);
    void adopt(int node);
    int distanceToRoot(int node);

    std::vector<std::array<int, 8>> neighbour_, capacity_;
    std::vector<Node> nodes_;
    std::vector<int> active_, orphans_;
    std::size_t nextInQueue_ = 0;
    int time_ = 0;
};

}  // namespace dimhem::edge
