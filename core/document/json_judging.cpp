#include "core/document/json_judging.h"

#include <algorithm>
#include <cmath>

#include "core/document/json_correction.h"
#include "core/document/json_list.h"
#include "core/document/json_read.h"
#include "core/json/fields.h"

namespace dimhem::document {

namespace {

using base::Result;
using nlohmann::json;

json probeToJson(const Probe& probe) {
    json out;
    if (probe.area) {
        out["area"] = {probe.area->x0, probe.area->y0, probe.area->x1, probe.area->y1};
    } else {
        out["at"] = {probe.place.x, probe.place.y};
        out["size"] = probe.sizePx;
    }
    if (probe.neutral) out["neutral"] = true;
    return out;
}

bool areNumbers(const json& list, std::size_t count) {
    return list.is_array() && list.size() == count &&
           std::ranges::all_of(list, [](const json& v) { return v.is_number() && std::abs(v.get<double>()) <= farPx; });
}

Result<Probe> readProbe(const json& item) {
    Probe probe;
    if (!item.is_object()) return fields::wrongField("probes", "a list of objects");
    DIMHEM_READ(neutral, fields::readBool(item, "neutral", false));
    probe.neutral = neutral;
    if (const auto area = item.find("area"); area != item.end()) {
        if (!areNumbers(*area, 4)) return fields::wrongField("area", "[left, top, right, bottom]");
        const auto side = [&](std::size_t i) { return static_cast<int>((*area)[i].get<double>()); };
        probe.area = base::Rect{side(0), side(1), side(2), side(3)};
        if (probe.area->empty()) return fields::wrongField("area", "[left, top, right, bottom], which is not empty");
        return probe;
    }
    const auto at = item.find("at");
    if (at == item.end() || !areNumbers(*at, 2)) return fields::wrongField("at", "[x, y]");
    probe.place = {(*at)[0].get<double>(), (*at)[1].get<double>()};
    constexpr double usual = 5;
    DIMHEM_READ(size, fields::readNumber(item, "size", &usual));
    if (std::ranges::find(probeSizes, size) == probeSizes.end()) return fields::wrongField("size", "1, 3, 5, 15 or 51");
    probe.sizePx = static_cast<int>(size);
    return probe;
}

Result<Id> readId(const json& item, const char* name, bool needed) {
    const auto found = item.find(name);
    if (found == item.end() && !needed) return Id{0};
    if (found == item.end() || !found->is_number_integer() || found->get<Id>() < 0)
        return fields::wrongField(name, "the id of a correction");
    return found->get<Id>();
}

Result<DismissedNote> readDismissed(const json& item) {
    if (!item.is_object()) return fields::wrongField("dismissed", "a list of objects");
    DIMHEM_READ(name, fields::readText(item, "note", ""));
    const auto kind = noteKindOf(name);
    if (!kind) return fields::wrongField("note", "the name of a note");
    DIMHEM_READ(correction, readId(item, "correction", true));
    DIMHEM_READ(other, readId(item, "other", false));
    return DismissedNote{*kind, correction, other};
}

}  // namespace

void writeJudging(const Document& document, json& root) {
    for (const Probe& probe : document.probes) root["probes"].push_back(probeToJson(probe));
    for (const DismissedNote& note : document.dismissed) {
        json out{{"note", idOf(note.kind)}, {"correction", note.correction}};
        if (note.other != 0) out["other"] = note.other;
        root["dismissed"].push_back(std::move(out));
    }
}

Result<void> readJudging(const json& root, Document& out) {
    DIMHEM_READ(probes, readList(root, "probes"));
    if (probes->size() > mostProbes) return fields::wrongField("probes", "a list of at most 8");
    for (const json& item : *probes) {
        DIMHEM_READ(probe, readProbe(item));
        out.probes.push_back(probe);
    }
    DIMHEM_READ(dismissed, readList(root, "dismissed"));
    if (dismissed->size() > mostDismissed) return fields::wrongField("dismissed", "a list of at most 1000");
    for (const json& item : *dismissed) {
        DIMHEM_READ(note, readDismissed(item));
        out.dismissed.push_back(note);
    }
    return {};
}

}  // namespace dimhem::document
