#include "core/document/json_format.h"

#include <algorithm>
#include <set>

#include "core/document/json_bracket.h"
#include "core/document/json_correction.h"
#include "core/document/json_judging.h"
#include "core/document/json_list.h"
#include "core/document/json_read.h"
#include "core/document/json_text.h"
#include "core/document/unknown_members.h"
#include "core/json/fields.h"
#include "core/mask/borrowed_mask.h"

namespace dimhem::document {

namespace {

using base::ErrorCode;
using base::Result;
using nlohmann::json;

constexpr std::string_view formatName = "dim-hem-document";

json photoToJson(const PhotoLink& photo) {
    json out{{"packed", photo.packed}};
    fields::writePath(out, "path", photo.path);
    if (!photo.sha256.empty()) out["sha256"] = photo.sha256;
    if (!photo.size.empty()) out["size"] = {photo.size.width, photo.size.height};
    return out;
}

Result<PhotoLink> readPhoto(const json& object) {
    const auto found = object.find("photo");
    if (found == object.end() || !found->is_object()) return fields::wrongField("photo", "an object with a \"path\"");
    DIMHEM_READ(path, fields::readPath(*found, "path"));
    DIMHEM_READ(packed, fields::readBool(*found, "packed", false));
    DIMHEM_READ(sha256, fields::readText(*found, "sha256", ""));
    if (path.empty() && !packed) return fields::wrongField("path", "the place of the photo");
    PhotoLink photo{path, packed, sha256, {}};
    if (const auto size = found->find("size"); size != found->end()) {
        const bool pair =
            size->is_array() && size->size() == 2 && (*size)[0].is_number_integer() && (*size)[1].is_number_integer();
        if (!pair) return fields::wrongField("size", "[width, height]");
        photo.size = {(*size)[0].get<int>(), (*size)[1].get<int>()};
    }
    return photo;
}

// The largest id given in a list of corrections; 0: none.
Result<Id> largestId(const json& corrections) {
    std::set<Id> given;
    for (const json& item : corrections) {
        const auto id = item.find("id");
        if (id == item.end()) continue;
        const bool valid = id->is_number_integer() && id->get<Id>() > 0 && id->get<Id>() < mostId;
        if (!valid || !given.insert(id->get<Id>()).second)
            return fields::wrongField("id", "a whole number above 0, another for each correction");
    }
    return given.empty() ? 0 : *given.rbegin();
}

Result<Id> largestBracket(const json& object) {
    DIMHEM_READ(brackets, readBrackets(object));
    Id largest = 0;
    for (const Bracket& bracket : brackets) largest = std::max(largest, bracket.id);
    return largest;
}

// Ids given in the document come first, so that those the program gives out are others. A kept state has those of the
// corrections it was kept of.
Result<Id> firstFreeId(const json& root, const json& corrections, const json& states) {
    DIMHEM_READ(largest, largestId(corrections));
    DIMHEM_READ(brackets, largestBracket(root));
    largest = std::max(largest, brackets);
    for (const json& state : states) {
        DIMHEM_READ(list, readList(state, "corrections"));
        DIMHEM_READ(within, largestId(*list));
        DIMHEM_READ(bracketsWithin, largestBracket(state));
        largest = std::max({largest, within, bracketsWithin});
    }
    return largest + 1;
}

Result<void> checkBorrowing(const std::vector<CorrectionPtr>& corrections) {
    Document document;
    document.corrections = corrections;
    std::set<Id> ids;
    for (const CorrectionPtr& correction : corrections) ids.insert(correction->id);
    for (const CorrectionPtr& correction : document.corrections) {
        for (const mask::PartPtr& part : correction->mask.parts) {
            const auto* borrowed = dynamic_cast<const mask::BorrowedMask*>(part->shape.get());
            if (!borrowed || borrowed->from() == 0) continue;
            if (!ids.contains(borrowed->from())) {
                return base::fail(ErrorCode::invalidValue, "from",
                                  "In the document, \"" + correction->name + "\" borrows the mask of a correction (" +
                                      std::to_string(borrowed->from()) + ") that does not exist.");
            }
        }
    }
    if (const Correction* loop = borrowsItself(document)) {
        return base::fail(ErrorCode::invalidValue, "from",
                          "In the document, \"" + loop->name + "\" borrows, by way of others, its own mask.");
    }
    if (deepestBorrowing(document) > mostBorrowing) {
        return base::fail(
            ErrorCode::invalidValue, "from",
            "In the document, more than " + std::to_string(mostBorrowing) + " masks borrow each from the next.");
    }
    return {};
}

json backdropToJson(const Backdrop& backdrop) {
    json out = json::object();
    if (const auto* colour = std::get_if<colour::EncodedRgb>(&backdrop))
        out["colour"] = {colour->r, colour->g, colour->b};
    if (const auto* picture = std::get_if<BackdropPicture>(&backdrop)) fields::writePath(out, "picture", picture->path);
    return out;
}

Result<Backdrop> readBackdrop(const json& root) {
    const auto found = root.find("backdrop");
    if (found == root.end()) return Backdrop{};
    if (!found->is_object()) return fields::wrongField("backdrop", "an object");
    DIMHEM_READ(path, fields::readPath(*found, "picture"));
    const auto colour = found->find("colour");
    const bool picture = found->contains("picture") || found->contains("picture-encoded");
    if (picture == (colour != found->end()) || (picture && path.empty()))
        return fields::wrongField("backdrop", "an object with either a \"colour\" or a \"picture\"");
    if (!path.empty()) return Backdrop{BackdropPicture{path, nullptr, {}}};
    const auto inRange = [](const json& v) { return v.is_number() && v.get<double>() >= 0 && v.get<double>() <= 1; };
    if (!colour->is_array() || colour->size() != 3 || !std::all_of(colour->begin(), colour->end(), inRange))
        return fields::wrongField("colour", "three numbers from 0 to 1");
    return Backdrop{colour::EncodedRgb{(*colour)[0], (*colour)[1], (*colour)[2]}};
}

Result<std::vector<CorrectionPtr>> readCorrections(const json& list, IdSource& ids) {
    std::vector<CorrectionPtr> corrections;
    std::size_t weight = 0;
    for (const json& item : list) {
        DIMHEM_READ(correction, readCorrection(item, corrections.size(), ids));
        weight += mask::weightOf(correction->mask);
        if (weight > mask::mostWeight) return fields::wrongField("corrections", "smaller: they are too much together");
        corrections.push_back(std::move(correction));
    }
    if (auto sound = checkBorrowing(corrections); !sound) return tl::unexpected(sound.error());
    return corrections;
}

Result<void> readStates(const json& states, Document& out) {
    if (states.size() > mostStates) return fields::wrongField("states", "a list of at most 4");
    for (const json& item : states) {
        DIMHEM_READ(name, fields::readText(item, "name", ""));
        DIMHEM_READ(list, readList(item, "corrections"));
        DIMHEM_READ(corrections, readCorrections(*list, *out.ids));
        DIMHEM_READ(brackets, readBrackets(item));
        out.states.push_back({name, std::move(corrections), std::move(brackets)});
    }
    return {};
}

Result<DocumentPtr> readMembers(const json& root) {
    if (!root.is_object() || root.value("format", json()) != formatName) {
        return base::fail(ErrorCode::unknownFormat, "format", "This is not a Dim Hem document.");
    }
    const auto version = root.find("version");
    if (version == root.end() || !version->is_number_integer()) return fields::wrongField("version", "a whole number");
    if (version->get<std::int64_t>() > formatVersion) {
        return base::fail(ErrorCode::newerVersion, "version",
                          "This document was written by a newer version of Dim Hem (format " +
                              std::to_string(version->get<std::int64_t>()) + "; this one reads up to " +
                              std::to_string(formatVersion) + ").");
    }
    if (version->get<std::int64_t>() < 1) return fields::wrongField("version", "1 or above");
    Document out;
    DIMHEM_READ(photo, readPhoto(root));
    out.photo = photo;
    DIMHEM_READ(backdrop, readBackdrop(root));
    out.backdrop = backdrop;
    if (!root.contains("corrections")) return fields::wrongField("corrections", "a list");
    DIMHEM_READ(corrections, readList(root, "corrections"));
    DIMHEM_READ(states, readList(root, "states"));
    DIMHEM_READ(free, firstFreeId(root, *corrections, *states));
    out.ids = std::make_shared<IdSource>(free);
    DIMHEM_READ(read, readCorrections(*corrections, *out.ids));
    out.corrections = std::move(read);
    DIMHEM_READ(brackets, readBrackets(root));
    out.brackets = std::move(brackets);
    if (auto sound = readStates(*states, out); !sound) return tl::unexpected(sound.error());
    if (auto sound = readJudging(root, out); !sound) return tl::unexpected(sound.error());
    return std::make_shared<const Document>(std::move(out));
}

Result<DocumentPtr> readDocument(const json& root) {
    auto document = readMembers(root);
    const bool lacksPlace = !document && document.error().code == ErrorCode::invalidValue &&
                            !document.error().message.starts_with("In the document");
    if (lacksPlace) return tl::unexpected(fields::inPlace("In the document", document.error()));
    return document;
}

// All that a document can say, so that what else stands in one can be told.
json everyMember(const Document& document) {
    json root = toJson(document);
    root["$schema"] = nullptr;  // for editors that check as one writes
    root["photo"].update({{"path", nullptr}, {"path-encoded", nullptr}, {"sha256", nullptr}, {"size", nullptr}});
    root["backdrop"].update({{"colour", nullptr}, {"picture", nullptr}, {"picture-encoded", nullptr}});
    for (const char* list : {"probes", "states", "dismissed"}) {
        if (!root.contains(list)) root[list] = json::array();
    }
    const auto fillCorrections = [](json& list) {
        for (json& correction : list)
            correction.update({{"name-given", nullptr}, {"counterpart-of", nullptr}, {"bracket", nullptr}});
    };
    fillCorrections(root["corrections"]);
    for (json& state : root["states"]) fillCorrections(state["corrections"]);
    for (json& probe : root["probes"])
        probe.update({{"at", nullptr}, {"size", nullptr}, {"area", nullptr}, {"neutral", nullptr}});
    for (json& note : root["dismissed"]) note["other"] = nullptr;
    return root;
}

}  // namespace

json stateToJson(const KeptState& state, json corrections) {
    json out{{"name", state.name}, {"corrections", std::move(corrections)}};
    if (!state.brackets.empty()) out["brackets"] = bracketsToJson(state.brackets);
    return out;
}

json toJson(const Document& document) {
    json corrections = json::array();
    for (const CorrectionPtr& correction : document.corrections) corrections.push_back(correctionToJson(*correction));
    json root{{"format", formatName},
              {"version", formatVersion},
              {"photo", photoToJson(document.photo)},
              {"corrections", std::move(corrections)}};
    if (document.backdrop.index() != 0) root["backdrop"] = backdropToJson(document.backdrop);
    if (!document.brackets.empty()) root["brackets"] = bracketsToJson(document.brackets);
    writeJudging(document, root);
    for (const KeptState& state : document.states) {
        json kept = json::array();
        for (const CorrectionPtr& correction : state.corrections) kept.push_back(correctionToJson(*correction));
        root["states"].push_back(stateToJson(state, std::move(kept)));
    }
    return root;
}

std::string toJsonText(const Document& document) {
    return toJson(document).dump(1) + "\n";
}

Result<DocumentPtr> fromJson(const json& root) {
    return readDocument(root);
}

Result<DocumentPtr> fromJsonText(std::string_view text, std::vector<std::string>* warnings) {
    DIMHEM_READ(root, parseJson(text, "document"));
    auto document = readDocument(root);
    if (document && warnings) *warnings = unknownMembers(root, everyMember(**document));
    return document;
}

}  // namespace dimhem::document
