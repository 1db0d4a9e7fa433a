#include "core/edge/grid_cut.h"

#include <algorithm>

namespace dimhem::edge {

GridCut::GridCut(int nodes)
    : neighbour_(index(nodes), {-1, -1, -1, -1, -1, -1, -1, -1}), capacity_(index(nodes)), nodes_(index(nodes)) {}

// What a node would pay outside pulls it to the source, whose side is inside.
void GridCut::addCost(int node, int ifInside, int ifOutside) {
    at(node).terminal += ifOutside - ifInside;
}

void GridCut::join(int node, int direction, int other, int weight) {
    const int back = 7 - direction;
    neighbour_[index(node)][index(direction)] = other;
    neighbour_[index(other)][index(back)] = node;
    capacity_[index(node)][index(direction)] = capacity_[index(other)][index(back)] = weight;
}

void GridCut::activate(int node) {
    if (at(node).isActive) return;
    at(node).isActive = true;
    active_.push_back(node);
}

int GridCut::nextActive() {
    while (nextInQueue_ < active_.size()) {
        const int node = active_[nextInQueue_++];
        at(node).isActive = false;
        if (at(node).parent != noParent) return node;
    }
    return -1;
}

void GridCut::start() {
    for (int node = 0; node < static_cast<int>(nodes_.size()); ++node) {
        const int rest = at(node).terminal;
        if (rest == 0) continue;
        at(node).tree = rest > 0 ? Tree::source : Tree::sink;
        at(node).parent = atTerminal;
        at(node).distance = 1;
        activate(node);
    }
}

// Along a tree, flow goes from the source's root down to a node, and from a node of the sink's tree to its root.
int GridCut::roomFromRoot(int node, int direction) const {
    return room(neighbour(node, direction), 7 - direction);
}

int GridCut::roomTowardsRoot(int node, int direction) const {
    return at(node).tree == Tree::source ? roomFromRoot(node, direction) : room(node, direction);
}

// Takes free neighbours into the node's tree; tells where it meets the other one.
GridCut::Meeting GridCut::grow(int node) {
    const Tree own = at(node).tree;
    for (int k = 0; k < 8; ++k) {
        const int other = neighbour(node, k);
        if (other < 0) continue;
        if ((own == Tree::source ? room(node, k) : room(other, 7 - k)) <= 0) continue;
        if (at(other).tree == Tree::none) {
            at(other).tree = own;
            at(other).parent = static_cast<std::int8_t>(7 - k);
            at(other).stamp = at(node).stamp;
            at(other).distance = at(node).distance + 1;
            activate(other);
        } else if (at(other).tree != own) {
            return own == Tree::source ? Meeting{node, k} : Meeting{other, 7 - k};
        } else if (at(other).stamp <= at(node).stamp && at(other).distance > at(node).distance + 1) {
            at(other).parent = static_cast<std::int8_t>(7 - k);  // a shorter way to the root
            at(other).stamp = at(node).stamp;
            at(other).distance = at(node).distance + 1;
        }
    }
    return {};
}

int GridCut::bottleneck(const Meeting& meeting) const {
    int least = room(meeting.sourceSide, meeting.direction);
    for (int node : {meeting.sourceSide, neighbour(meeting.sourceSide, meeting.direction)}) {
        while (at(node).parent != atTerminal) {
            least = std::min(least, roomTowardsRoot(node, at(node).parent));
            node = neighbour(node, at(node).parent);
        }
        least = std::min(least, std::abs(at(node).terminal));
    }
    return least;
}

void GridCut::push(int node, int direction, int amount) {
    capacity_[index(node)][index(direction)] -= amount;
    capacity_[index(neighbour(node, direction))][index(7 - direction)] += amount;
}

void GridCut::orphan(int node) {
    at(node).parent = orphaned;
    orphans_.push_back(node);
}

void GridCut::augment(const Meeting& meeting) {
    const int amount = bottleneck(meeting);
    push(meeting.sourceSide, meeting.direction, amount);
    const int sinkSide = neighbour(meeting.sourceSide, meeting.direction);
    for (int node : {meeting.sourceSide, sinkSide}) {
        const bool source = at(node).tree == Tree::source;
        while (at(node).parent != atTerminal) {
            const int k = at(node).parent, up = neighbour(node, k);
            if (source) {
                push(up, 7 - k, amount);
            } else {
                push(node, k, amount);
            }
            if (roomTowardsRoot(node, k) == 0) orphan(node);
            node = up;
        }
        at(node).terminal += source ? -amount : amount;
        if (at(node).terminal == 0) orphan(node);
    }
}

// How far a node is from its root; unreachable where its way ends at an orphan. Marks the way, to be found sooner.
int GridCut::distanceToRoot(int node) {
    int steps = 0, here = node;
    for (;;) {
        if (at(here).stamp == time_) {
            steps += at(here).distance;
            break;
        }
        const std::int8_t parent = at(here).parent;
        ++steps;
        if (parent == atTerminal) {
            at(here).stamp = time_;
            at(here).distance = 1;
            break;
        }
        if (parent == orphaned || parent == noParent) return unreachable;
        here = neighbour(here, parent);
    }
    int rest = steps;
    for (here = node; at(here).stamp != time_; here = neighbour(here, at(here).parent)) {
        at(here).stamp = time_;
        at(here).distance = rest--;
    }
    return steps;
}

void GridCut::adopt(int node) {
    const Tree own = at(node).tree;
    int best = -1, least = unreachable;
    for (int k = 0; k < 8; ++k) {
        const int other = neighbour(node, k);
        if (other < 0 || at(other).tree != own || at(other).parent == noParent) continue;
        if (roomTowardsRoot(node, k) <= 0) continue;
        const int distance = distanceToRoot(other);
        if (distance < least) {
            least = distance;
            best = k;
        }
    }
    if (best >= 0) {
        at(node).parent = static_cast<std::int8_t>(best);
        at(node).stamp = time_;
        at(node).distance = least + 1;
        return;
    }
    for (int k = 0; k < 8; ++k) {
        const int other = neighbour(node, k);
        if (other < 0 || at(other).tree != own || at(other).parent == noParent) continue;
        if (roomTowardsRoot(node, k) > 0) activate(other);
        const std::int8_t parent = at(other).parent;
        if (parent < 8 && neighbour(other, parent) == node) orphan(other);
    }
    at(node).tree = Tree::none;
    at(node).parent = noParent;
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
        if (at(node).parent == noParent) node = nextActive();
    }
}

}  // namespace dimhem::edge
