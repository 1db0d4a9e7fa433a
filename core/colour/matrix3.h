// Matrices that take one linear colour space to another, row by row.
#pragma once

#include <array>
#include <cstddef>

namespace dimhem::colour {

using Vector3 = std::array<double, 3>;
using Matrix3 = std::array<Vector3, 3>;

constexpr Vector3 product(const Matrix3& m, const Vector3& v) {
    Vector3 out{};
    for (std::size_t r = 0; r < 3; ++r) out[r] = m[r][0] * v[0] + m[r][1] * v[1] + m[r][2] * v[2];
    return out;
}

constexpr Matrix3 product(const Matrix3& a, const Matrix3& b) {
    Matrix3 out{};
    for (std::size_t r = 0; r < 3; ++r) {
        for (std::size_t c = 0; c < 3; ++c) out[r][c] = a[r][0] * b[0][c] + a[r][1] * b[1][c] + a[r][2] * b[2][c];
    }
    return out;
}

// Of a matrix that has one.
constexpr Matrix3 inverse(const Matrix3& m) {
    const auto minor = [&](std::size_t r, std::size_t c) {
        const std::size_t r1 = (r + 1) % 3, r2 = (r + 2) % 3, c1 = (c + 1) % 3, c2 = (c + 2) % 3;
        return m[r1][c1] * m[r2][c2] - m[r1][c2] * m[r2][c1];
    };
    const double det = m[0][0] * minor(0, 0) + m[0][1] * minor(0, 1) + m[0][2] * minor(0, 2);
    Matrix3 out{};
    for (std::size_t r = 0; r < 3; ++r) {
        for (std::size_t c = 0; c < 3; ++c) out[c][r] = minor(r, c) / det;
    }
    return out;
}

}  // namespace dimhem::colour
