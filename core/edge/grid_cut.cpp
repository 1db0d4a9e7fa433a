#include "core/edge/grid_cut.h"

#include <algorithm>

namespace dimhem::edge {

GridCut::GridCut(int nodes)
    : neighbour_(index(nodes), {-1, -1, -1, -1, -1, -1, -1, -1}),
      capacity_(index(nodes)),
      terminal_(index(nodes), 0),
      tree_(index(nodes), Tree::none),
      parent_(index(nodes), noParent),
      distance_(index(nodes), 0),
      stamp_(index(nodes), 0),
      isActive_(index(nodes), 0) {}

// What a node would pay outside pulls it to the source, whose side is inside.
void GridCut::addCost(int node, int ifInside, int ifOutside) {
    terminal_[index(node)] += ifOutside - ifInside;
}

void GridCut::join(int node, int direction, int other, int weight) {
    const int back = 7 - direction;
    neighbour_[index(node)][index(direction)] = other;
    neighbour_[index(other)][index(back)] = node;
    capacity_[index(node)][index(direction)] = capacity_[index(other)][index(back)] = weight;
}

void GridCut::activate(int node) {
    if (isActive_[index(node)]) return;
    isActive_[index(node)] = 1;
    active_.push_back(node);
}

int GridCut::nextActive() {
    while (nextInQueue_ < active_.size()) {
        const int node = active_[nextInQueue_++];
        isActive_[index(node)] = 0;
        if (parent_[index(node)] != noParent) return node;
    }
    return -1;
}

void GridCut::start() {
    for (int node = 0; node < static_cast<int>(terminal_.size()); ++node) {
        const int rest = terminal_[index(node)];
        if (rest == 0) continue;
        tree_[index(node)] = rest > 0 ? Tree::source : Tree::sink;
        parent_[index(node)] = atTerminal;
        distance_[index(node)] = 1;
        activate(node);
    }
}

// Along a tree, flow goes from the source's root down to a node, and from a node of the sink's tree to its root.
int GridCut::roomFromRoot(int node, int direction) const {
    return room(neighbour(node, direction), 7 - direction);
}

int GridCut::roomTowardsRoot(int node, int direction) const {
    return tree_[index(node)] == Tree::source ? roomFromRoot(node, direction) : room(node, direction);
}

// Takes free neighbours into the node's tree; tells where it meets the other one.
GridCut::Meeting GridCut::grow(int node) {
    const Tree own = tree_[index(node)];
    for (int k = 0; k < 8; ++k) {
        const int other = neighbour(node, k);
        if (other < 0) continue;
        if ((own == Tree::source ? room(node, k) : room(other, 7 - k)) <= 0) continue;
        if (tree_[index(other)] == Tree::none) {
            tree_[index(other)] = own;
            parent_[index(other)] = static_cast<std::int8_t>(7 - k);
            stamp_[index(other)] = stamp_[index(node)];
            distance_[index(other)] = distance_[index(node)] + 1;
            activate(other);
        } else if (tree_[index(other)] != own) {
            return own == Tree::source ? Meeting{node, k} : Meeting{other, 7 - k};
        } else if (stamp_[index(other)] <= stamp_[index(node)] &&
                   distance_[index(other)] > distance_[index(node)] + 1) {
            parent_[index(other)] = static_cast<std::int8_t>(7 - k);  // a shorter way to the root
            stamp_[index(other)] = stamp_[index(node)];
            distance_[index(other)] = distance_[index(node)] + 1;
        }
    }
    return {};
}

int GridCut::bottleneck(const Meeting& meeting) const {
    int least = room(meeting.sourceSide, meeting.direction);
    for (int node : {meeting.sourceSide, neighbour(meeting.sourceSide, meeting.direction)}) {
        while (parent_[index(node)] != atTerminal) {
            least = std::min(least, roomTowardsRoot(node, parent_[index(node)]));
            node = neighbour(node, parent_[index(node)]);
        }
        least = std::min(least, std::abs(terminal_[index(node)]));
    }
    return least;
}

void GridCut::push(int node, int direction, int amount) {
    capacity_[index(node)][index(direction)] -= amount;
    capacity_[index(neighbour(node, direction))][index(7 - direction)] += amount;
}

void GridCut::orphan(int node) {
    parent_[index(node)] = orphaned;
    orphans_.push_back(node);
}

void GridCut::augment(const Meeting& meeting) {
    const int amount = bottleneck(meeting);
    push(meeting.sourceSide, meeting.direction, amount);
    const int sinkSide = neighbour(meeting.sourceSide, meeting.direction);
    for (int node : {meeting.sourceSide, sinkSide}) {
        const bool source = tree_[index(node)] == Tree::source;
        while (parent_[index(node)] != atTerminal) {
            const int k = parent_[index(node)], up = neighbour(node, k);
            if (source) {
                push(up, 7 - k, amount);
            } else {
                push(node, k, amount);
            }
            if (roomTowardsRoot(node, k) == 0) orphan(node);
            node = up;
        }
        terminal_[index(node)] += source ? -amount : amount;
        if (terminal_[index(node)] == 0) orphan(node);
    }
}

// How far a node is from its root; unreachable where its way ends at an orphan. Marks the way, to be found sooner.
int GridCut::distanceToRoot(int node) {
    int steps = 0, at = node;
    for (;;) {
        if (stamp_[index(at)] == time_) {
            steps += distance_[index(at)];
            break;
        }
        const std::int8_t parent = parent_[index(at)];
        ++steps;
        if (parent == atTerminal) {
            stamp_[index(at)] = time_;
            distance_[index(at)] = 1;
            break;
        }
        if (parent == orphaned || parent == noParent) return unreachable;
        at = neighbour(at, parent);
    }
    int rest = steps;
    for (at = node; stamp_[index(at)] != time_; at = neighbour(at, parent_[index(at)])) {
        stamp_[index(at)] = time_;
        distance_[index(at)] = rest--;
    }
    return steps;
}

void GridCut::adopt(int node) {
    const Tree own = tree_[index(node)];
    int best = -1, least = unreachable;
    for (int k = 0; k < 8; ++k) {
        const int other = neighbour(node, k);
        if (other < 0 || tree_[index(other)] != own || parent_[index(other)] == noParent) continue;
        if (roomTowardsRoot(node, k) <= 0) continue;
        const int distance = distanceToRoot(other);
        if (distance < least) {
            least = distance;
            best = k;
        }
    }
    if (best >= 0) {
        parent_[index(node)] = static_cast<std::int8_t>(best);
        stamp_[index(node)] = time_;
        distance_[index(node)] = least + 1;
        return;
    }
    for (int k = 0; k < 8; ++k) {
        const int other = neighbour(node, k);
        if (other < 0 || tree_[index(other)] != own || parent_[index(other)] == noParent) continue;
        if (roomTowardsRoot(node, k) > 0) activate(other);
        const std::int8_t parent = parent_[index(other)];
        if (parent < 8 && neighbour(other, parent) == node) orphan(other);
    }
    tree_[index(node)] = Tree::none;
    parent_[index(node)] = noParent;
}

void GridCut::solve() {
    start();
    for (int node = nextActive(); node >= 0;) {
        const Meeting meeting = grow(node);
        ++time_;
        if (meeting.sourceSide < 0) {
            node = nextActive();
            continue;
        }
        augment(meeting);
        while (!orphans_.empty()) {
            const int lost = orphans_.back();
            orphans_.pop_back();
            adopt(lost);
        }
        if (parent_[index(node)] == noParent) node = nextActive();
    }
}

}  // namespace dimhem::edge
