#include "core/check/opposed.h"

#include <algorithm>
#include <cmath>

namespace dimhem::check {

Opposition opposition(const Effect& one, const Effect& other, double least) {
    Opposition out;
    const base::Size size = one.l.size();
    out.amount = image::filled(size, 0.0f);
    double weaker[2] = {};  // of each, where both act
    double cancelled = 0;
    for (int y = 0; y < size.height; ++y) {
        for (std::size_t x = 0; x < static_cast<std::size_t>(size.width); ++x) {
            const double e[3] = {one.l.row(y)[x], one.a.row(y)[x], one.b.row(y)[x]},
                         f[3] = {other.l.row(y)[x], other.a.row(y)[x], other.b.row(y)[x]};
            const double eLength = std::hypot(e[0], e[1], e[2]), fLength = std::hypot(f[0], f[1], f[2]);
            if (eLength < least || fLength < least) continue;
            weaker[0] += eLength;
            weaker[1] += fLength;
            const double along = (e[0] * f[0] + e[1] * f[1] + e[2] * f[2]) / (eLength * fLength);
            if (along >= 0) continue;
            const double lost = -along * std::min(eLength, fLength);
            out.amount.row(y)[x] = static_cast<float>(lost);
            out.pixels += 1;
            cancelled += lost;
        }
    }
    if (out.pixels == 0) return out;
    out.cancelled = cancelled / out.pixels;
    out.cancelledPct = 100 * cancelled / std::min(weaker[0], weaker[1]);
    return out;
}

}  // namespace dimhem::check
