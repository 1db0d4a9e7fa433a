#include "cli/report.h"

#include <cmath>
#include <iomanip>
#include <nlohmann/json.hpp>
#include <sstream>

#include "core/colour/icc.h"
#include "core/io/metadata.h"
#include "core/task/noise.h"

namespace dimhem::cli {

namespace {

using nlohmann::ordered_json;

std::string depthName(const image::Photo& photo) {
    switch (photo.samples.type()) {
        case image::SampleType::u8: return "8 bit";
        case image::SampleType::u16: return "16 bit";
        case image::SampleType::f32: return photo.linear ? "float, linear" : "float";
    }
    return {};
}

ordered_json photoReport(const task::Opened& opened) {
    const image::Photo& photo = opened.photo->photo();
    ordered_json facts = ordered_json::object();
    for (const auto& [name, value] : io::readableFacts(photo.metadata)) facts[name] = value;
    return {{"path", opened.photoPath.string()},
            {"packed", opened.packedPhoto != nullptr},
            {"format", photo.format},
            {"width", photo.size().width},
            {"height", photo.size().height},
            {"channels", photo.samples.channels()},
            {"depth", depthName(photo)},
            {"profile", photo.profile.empty() ? "none (taken as sRGB)" : colour::profileName(photo.profile)},
            {"sha256", opened.document->photo.sha256},
            {"metadata", facts}};
}

ordered_json correctionReport(const document::Document& document, const document::Correction& correction) {
    ordered_json parts = ordered_json::array(), adjustments = ordered_json::array();
    for (const auto& part : correction.mask.parts) {
        parts.push_back({{"kind", part->shape->kind().id},
                         {"name", part->name},
                         {"combine", mask::idOf(part->combine)},
                         {"enabled", part->enabled}});
        if (part->limit) parts.back()["limit"] = part->limit->kind().id;
    }
    for (const auto& use : correction.adjustments) {
        adjustments.push_back({{"kind", use.kind->id},
                               {"enabled", use.enabled},
                               {"neutral", adjust::isNeutral(*use.kind, use.settings)}});
    }
    return {{"name", correction.name},
            {"enabled", correction.enabled},
            {"active", document::isActive(document, correction)},
            {"strength", correction.strengthPct},
            {"parts", parts},
            {"adjustments", adjustments}};
}

// Of 255: the luminance's, and that of the two colour differences together.
struct Noise {
    double luminance = 0, colour = 0;
};

Noise noiseOf(const task::Opened& opened) {
    const adjust::NoiseLevel level = task::photoNoise(*opened.photo);
    return {255 * level.y.overall, 255 * std::hypot(level.u.overall, level.v.overall)};
}

}  // namespace

std::string jsonReport(const task::Opened& opened) {
    ordered_json corrections = ordered_json::array();
    for (const auto& correction : opened.document->corrections)
        corrections.push_back(correctionReport(*opened.document, *correction));
    ordered_json photo = photoReport(opened);
    const Noise noise = noiseOf(opened);
    photo["noise"] = {{"luminance", noise.luminance}, {"colour", noise.colour}};
    const ordered_json report{
        {"document", opened.documentPath.string()}, {"photo", photo}, {"corrections", corrections}};
    return report.dump(2, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

std::string textReport(const task::Opened& opened) {
    const image::Photo& photo = opened.photo->photo();
    std::ostringstream out;
    out << photo.format << ", " << photo.size().width << " x " << photo.size().height << ", " << depthName(photo)
        << ", " << photo.samples.channels() << " channels\n";
    out << "profile: " << (photo.profile.empty() ? "none (taken as sRGB)" : colour::profileName(photo.profile)) << "\n";
    const Noise noise = noiseOf(opened);
    out << std::fixed << std::setprecision(1) << "noise: about " << noise.luminance << " of 255 in luminance, "
        << noise.colour << " in colour\n"
        << std::defaultfloat << std::setprecision(6);
    for (const auto& [name, value] : io::readableFacts(photo.metadata)) out << name << ": " << value << "\n";
    for (const auto& correction : opened.document->corrections) {
        out << (correction->enabled ? "on   " : "off  ") << correction->name << ", " << correction->strengthPct
            << " %, " << correction->mask.parts.size() << " mask parts";
        for (const auto& use : correction->adjustments) out << ", " << use.kind->label << (use.enabled ? "" : " (off)");
        out << "\n";
    }
    return out.str();
}

}  // namespace dimhem::cli
