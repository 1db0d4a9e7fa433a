#include "core/colour/print_gamut.h"

#include <array>
#include <cmath>

#include "core/colour/matrix3.h"

namespace dimhem::colour {

namespace {

constexpr Vector3 grey{55, 0, 0}, paper{100, 0, 0}, allInks{0, 0, 0};
// Round the circle of hues: magenta, red, yellow, green, cyan, blue.
constexpr std::array<Vector3, 6> solids{
    {{48, 74, -3}, {47, 68, 48}, {89, -5, 93}, {50, -65, 27}, {55, -37, -50}, {24, 17, -46}}};

Vector3 from(const Vector3& origin, const Vector3& to) {
    return {to[0] - origin[0], to[1] - origin[1], to[2] - origin[2]};
}

// How far along `direction` from grey a face is met, as a part of it; 0: it is not.
double meets(const Vector3& direction, const Vector3& a, const Vector3& b, const Vector3& c) {
    const Vector3 p = from(grey, a), q = from(grey, b), r = from(grey, c);
    // direction = u p + v q + w r; the face is where u + v + w = 1.
    const Matrix3 columns{{{p[0], q[0], r[0]}, {p[1], q[1], r[1]}, {p[2], q[2], r[2]}}};
    const Vector3 parts = product(inverse(columns), direction);
    constexpr double rounding = -1e-9;
    if (parts[0] < rounding || parts[1] < rounding || parts[2] < rounding) return 0;
    return parts[0] + parts[1] + parts[2];
}

}  // namespace

double printReach(const Lab& colour) {
    const Vector3 direction{colour.l - grey[0], colour.a, colour.b};
    double reach = 0;
    for (std::size_t i = 0; i < solids.size(); ++i) {
        const Vector3 &one = solids[i], &next = solids[(i + 1) % solids.size()];
        for (const Vector3& end : {paper, allInks}) reach = std::max(reach, meets(direction, end, one, next));
    }
    return reach;
}

}  // namespace dimhem::colour
