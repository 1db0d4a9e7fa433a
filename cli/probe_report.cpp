#include "cli/probe_report.h"

#include <cmath>
#include <iomanip>
#include <nlohmann/json.hpp>
#include <numbers>
#include <sstream>

#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/colour/srgb.h"
#include "core/task/masked_colours.h"
#include "core/task/probe_reading.h"

namespace dimhem::cli {

namespace {

using nlohmann::ordered_json;

double hueDeg(const colour::Lab& lab) {
    const double deg = std::atan2(lab.b, lab.a) * 180 / std::numbers::pi;
    return deg < 0 ? deg + 360 : deg;
}

ordered_json jsonOf(const task::ProbeColour& c) {
    return {{"rgb", {255 * c.mean.r, 255 * c.mean.g, 255 * c.mean.b}},
            {"lab", {c.lab.l, c.lab.a, c.lab.b}},
            {"chroma", std::hypot(c.lab.a, c.lab.b)},
            {"hue", hueDeg(c.lab)},
            {"spread", c.spread}};
}

std::string lineOf(const char* when, const task::ProbeColour& c) {
    std::ostringstream out;
    out << std::fixed << std::setprecision(1) << when << ": RGB " << 255 * c.mean.r << " " << 255 * c.mean.g << " "
        << 255 * c.mean.b << ", L* " << c.lab.l << " a* " << c.lab.a << " b* " << c.lab.b << ", chroma "
        << std::hypot(c.lab.a, c.lab.b) << ", hue " << hueDeg(c.lab) << ", spread " << c.spread << "\n";
    return out.str();
}

std::string report(const task::ProbeReading& reading, bool asJson) {
    if (asJson) {
        const ordered_json out{
            {"before", jsonOf(reading.before)}, {"after", jsonOf(reading.after)}, {"difference", reading.difference}};
        return out.dump(1) + "\n";
    }
    std::ostringstream out;
    out << lineOf("before", reading.before) << lineOf("after", reading.after) << std::fixed << std::setprecision(2)
        << "difference: " << reading.difference << " (CIEDE2000)\n";
    return out.str();
}

task::ProbeColour colourOf(const task::Colours& colours) {
    const auto& mean = colours.lab.mean;
    const auto& spread = colours.lab.spread;
    const colour::Lab lab{mean[0], mean[1], mean[2]};
    return {colour::encodedFromLinear(colour::linearFromXyz(colour::xyzFromLab(lab))), lab,
            std::hypot(spread[0], spread[1], spread[2])};
}

}  // namespace

base::Result<std::string> probeReport(const task::Opened& opened, const document::Probe& probe, bool asJson) {
    const render::Renderer renderer = task::rendererOf(opened);
    const auto reading = task::readProbe(renderer, opened.document, probe);
    if (!reading) return base::fail(base::ErrorCode::invalidValue, "", "That place lies outside the photo.");
    return report(*reading, asJson);
}

base::Result<std::string> maskReport(const task::Opened& opened, document::Id correction, bool asJson) {
    const render::Renderer renderer = task::rendererOf(opened);
    const auto colours = task::maskedColours(renderer, opened.document, correction);
    if (!colours) return base::fail(base::ErrorCode::invalidValue, "", "The mask covers nothing.");
    const task::ProbeColour before = colourOf(colours->before), after = colourOf(colours->after);
    return report({before, after, colour::ciede2000(before.lab, after.lab)}, asJson);
}

}  // namespace dimhem::cli
