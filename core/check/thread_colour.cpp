#include "core/check/thread_colour.h"

#include <algorithm>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"

namespace dimhem::check {

double contrast(const colour::ThreadColour& thread, std::span<const Sample> under) {
    const colour::Lab lab = colour::labFromEncoded({thread.red / 255.0, thread.green / 255.0, thread.blue / 255.0});
    double sum = 0, weight = 0;
    for (const Sample& sample : under) {
        sum += sample.weight * colour::ciede2000(lab, sample.lab);
        weight += sample.weight;
    }
    return weight > 0 ? sum / weight : 0;
}

int chooseThreadColour(std::span<const Sample> under, std::span<const int> taken, int current) {
    const auto isTaken = [&](int i) { return std::find(taken.begin(), taken.end(), i) != taken.end(); };
    const int count = static_cast<int>(colour::threadColours.size());
    const bool allTaken = [&] {
        for (int i = 0; i < count; ++i) {
            if (!isTaken(i)) return false;
        }
        return true;
    }();
    constexpr double clearlyBetter = 1.4;
    int best = current;
    double bestContrast = contrast(colour::threadColours[static_cast<std::size_t>(current)], under) * clearlyBetter;
    for (int i = 0; i < count; ++i) {
        if (i == current || (isTaken(i) && !allTaken)) continue;
        const double found = contrast(colour::threadColours[static_cast<std::size_t>(i)], under);
        if (found > bestContrast) {
            best = i;
            bestContrast = found;
        }
    }
    return best;
}

}  // namespace dimhem::check
