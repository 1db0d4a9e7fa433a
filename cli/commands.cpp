#include "cli/commands.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

#include "cli/check_report.h"
#include "cli/probe_report.h"
#include "cli/report.h"
#include "core/adjust/white_balance.h"
#include "core/base/nearest_word.h"
#include "core/document/edits.h"
#include "core/document/json_schema.h"
#include "core/image/limits.h"
#include "core/io/file_lock.h"
#include "core/task/export.h"
#include "core/task/found_place.h"
#include "core/task/measure_place.h"
#include "core/task/open.h"
#include "core/task/save.h"
#include "core/task/state_folder.h"

namespace dimhem::cli {

namespace {

struct WrongUsage {
    std::string message;
};

std::string didYouMean(std::string_view typed, std::span<const std::string_view> known) {
    const std::string_view nearest = base::nearestWord(typed, known);
    return nearest.empty() ? std::string() : " Did you mean " + std::string(nearest) + "?";
}

// The words of a command: one input file, and options, most of which take a value.
class Arguments {
public:
    // `switches` take no value, `valued` take one.
    Arguments(std::span<const std::string_view> words, std::span<const std::string_view> switches,
              std::span<const std::string_view> valued) {
        for (std::size_t i = 0; i < words.size(); ++i) {
            const std::string_view word = words[i];
            if (!word.starts_with("-")) {
                if (!input_.empty()) throw WrongUsage{"Only one input file is taken."};
                input_ = word;
            } else if (std::ranges::find(switches, word) != switches.end()) {
                options_.push_back({word, {}});
            } else if (std::ranges::find(valued, word) == valued.end()) {
                std::vector<std::string_view> known(switches.begin(), switches.end());
                known.insert(known.end(), valued.begin(), valued.end());
                throw WrongUsage{std::string(word) + " is not an option of this command." + didYouMean(word, known)};
            } else if (i + 1 < words.size()) {
                options_.push_back({word, words[++i]});
            } else {
                throw WrongUsage{std::string(word) + " needs a value."};
            }
        }
        if (input_.empty()) throw WrongUsage{"The input file is missing."};
    }

    const std::string& input() const { return input_; }
    std::optional<std::string> find(std::string_view name) const {
        for (const auto& option : options_) {
            if (option.name == name) return std::string(option.value);
        }
        return std::nullopt;
    }
    bool has(std::string_view name) const { return find(name).has_value(); }
    std::string need(std::string_view name) const {
        if (auto value = find(name)) return *value;
        throw WrongUsage{std::string(name) + " is missing."};
    }
    std::optional<int> number(std::string_view name, int min, int max) const {
        const auto text = find(name);
        if (!text) return std::nullopt;
        int value = 0;
        const auto [end, error] = std::from_chars(text->data(), text->data() + text->size(), value);
        if (error != std::errc() || end != text->data() + text->size() || value < min || value > max) {
            throw WrongUsage{std::string(name) + " takes a whole number from " + std::to_string(min) + " to " +
                             std::to_string(max) + "."};
        }
        return value;
    }

private:
    struct Option {
        std::string_view name, value;
    };
    std::string input_;
    std::vector<Option> options_;
};

int failed(const base::Error& error, std::ostream& err) {
    err << "hem: " << error.message << "\n";
    const bool canBeForced = error.code == base::ErrorCode::readOnly || error.code == base::ErrorCode::losesCopy;
    if (canBeForced) err << "hem: --replace does it all the same.\n";
    return 1;
}

base::Result<task::Opened> openInput(const Arguments& arguments, std::ostream& err,
                                     const base::CancelToken& stopped = {},
                                     task::Unstated unstated = task::Unstated::measured) {
    const auto instead = arguments.find("--photo");
    auto opened = task::open(arguments.input(), instead ? std::optional<std::filesystem::path>(*instead) : std::nullopt,
                             {}, {stopped, {}, nullptr, task::foundFolder()}, unstated);
    if (opened && !opened->warning.empty()) err << "hem: " << opened->warning << "\n";
    return opened;
}

std::optional<image::SampleType> depthOf(const Arguments& arguments) {
    const auto bits = arguments.number("--depth", 8, 32);
    if (!bits) return std::nullopt;
    switch (*bits) {
        case 8: return image::SampleType::u8;
        case 16: return image::SampleType::u16;
        case 32: return image::SampleType::f32;
        default: throw WrongUsage{"--depth takes 8, 16 or 32."};
    }
}

int render(const Arguments& arguments, const base::CancelToken& stopped, std::ostream&, std::ostream& err) {
    const std::string output = arguments.need("-o");
    task::ExportSettings settings;
    settings.type = depthOf(arguments);
    settings.overBackdrop = arguments.has("--over-backdrop");
    settings.quality = arguments.number("--quality", 1, 100).value_or(settings.quality);
    settings.longSidePx = arguments.number("--long-side", 1, image::maxSidePx);
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    settings.replaceReadOnly = arguments.has("--replace");
    const auto done = task::exportPicture(*opened, opened->document, output, settings, stopped);
    if (!done) return failed(done.error(), err);
    if (!done->warning.empty()) err << "hem: " << done->warning << "\n";
    return 0;
}

int mask(const Arguments& arguments, const base::CancelToken& stopped, std::ostream&, std::ostream& err) {
    const std::string output = arguments.need("-o"), name = arguments.need("--correction");
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    const document::Correction* correction = document::findCorrection(*opened->document, std::string_view(name));
    if (!correction) {
        err << "hem: The document has no correction named \"" << name << "\".\n";
        return 1;
    }
    task::ExportSettings settings;
    settings.replaceReadOnly = arguments.has("--replace");
    const auto done = task::exportMask(*opened, opened->document, correction->id, output, settings, stopped);
    return done ? 0 : failed(done.error(), err);
}

int save(const Arguments& arguments, const base::CancelToken& stopped, std::ostream&, std::ostream& err) {
    const std::filesystem::path output = arguments.need("-o");
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    task::SaveSettings settings;
    settings.pack = arguments.has("--pack");
    settings.replaceReadOnly = settings.replaceCopy = arguments.has("--replace");
    if (const auto owner = io::ownerOf(task::lockFileFor(task::stateFolder(), output)))
        err << "hem: " << output.filename() << " is open in a window (process " << owner->process
            << "), which will ask before it saves over this.\n";
    const auto done = task::save(*opened, opened->document, output, settings, stopped);
    return done ? 0 : failed(done.error(), err);
}

// "120,40,300,200"
template <std::size_t count>
std::array<int, count> wholeNumbers(const std::string& text, const char* wrong) {
    std::array<int, count> numbers{};
    const char* at = text.data();
    const char* end = at + text.size();
    for (std::size_t i = 0; i < count; ++i) {
        const auto [next, error] = std::from_chars(at, end, numbers[i]);
        const bool isLast = i + 1 == count;
        if (error != std::errc() || (isLast ? next != end : next == end || *next != ',')) throw WrongUsage{wrong};
        at = isLast ? next : next + 1;
    }
    return numbers;
}

std::optional<base::Rect> placeOf(const Arguments& arguments) {
    const auto text = arguments.find("--place");
    if (!text) return std::nullopt;
    const auto numbers = wholeNumbers<4>(*text, "--place takes four whole numbers, as in 120,40,300,200.");
    const base::Rect place{numbers[0], numbers[1], numbers[2], numbers[3]};
    if (place.x0 >= place.x1 || place.y0 >= place.y1) throw WrongUsage{"--place covers nothing."};
    return place;
}

int measure(const Arguments& arguments, const base::CancelToken& stopped, std::ostream& out, std::ostream& err) {
    const std::string name = arguments.need("--correction"), kind = arguments.need("--adjustment");
    const std::filesystem::path output = arguments.need("-o");
    const task::MeasuredPlace from{placeOf(arguments), arguments.number("--leave", 0, 100).value_or(0) / 100.0};
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    const document::Correction* correction = document::findCorrection(*opened->document, std::string_view(name));
    if (!correction) {
        err << "hem: The document has no correction named \"" << name << "\".\n";
        return 1;
    }
    const auto use = std::ranges::find_if(correction->adjustments,
                                          [&](const document::AdjustmentUse& u) { return u.kind->id == kind; });
    if (use == correction->adjustments.end()) {
        err << "hem: The correction \"" << name << "\" has no adjustment of the kind \"" << kind << "\".\n";
        return 1;
    }
    const render::Renderer renderer = task::rendererOf(*opened);
    const auto version = task::withMeasured(renderer, opened->document, correction->id, use->id, from, stopped);
    if (!version) return failed(version.error(), err);
    const document::AdjustmentUse* now =
        document::findAdjustment(*document::findCorrection(**version, correction->id), use->id);
    task::SaveSettings settings;
    settings.replaceReadOnly = settings.replaceCopy = arguments.has("--replace");
    const auto done = task::save(*opened, *version, output, settings, stopped);
    if (!done) return failed(done.error(), err);
    if (now->settings == use->settings) err << "hem: Nothing else was found there: the settings are as they were.\n";
    for (std::size_t i = 0; i < now->settings.values.size(); ++i)
        out << now->kind->params[i].id << " " << now->settings.values[i] << "\n";
    return 0;
}

int check(const Arguments& arguments, const base::CancelToken& stopped, std::ostream& out, std::ostream& err) {
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    std::optional<document::Id> only;
    if (const auto name = arguments.find("--correction")) {
        const document::Correction* correction = document::findCorrection(*opened->document, std::string_view(*name));
        if (!correction) {
            err << "hem: The document has no correction named \"" << *name << "\".\n";
            return 1;
        }
        only = correction->id;
    }
    const auto report = checkReport(*opened, only, arguments.has("--json"), stopped);
    if (!report) return failed(report.error(), err);
    out << *report;
    return 0;
}

std::optional<document::Probe> probeOf(const Arguments& arguments) {
    document::Probe probe;
    if ((probe.area = placeOf(arguments))) return probe;
    const auto at = arguments.find("--at");
    if (!at) return std::nullopt;
    const auto numbers = wholeNumbers<2>(*at, "--at takes two whole numbers, as in 120,40.");
    probe.place = {static_cast<double>(numbers[0]), static_cast<double>(numbers[1])};
    probe.sizePx = arguments.number("--size", 1, 51).value_or(probe.sizePx);
    if (std::ranges::find(document::probeSizes, probe.sizePx) == document::probeSizes.end())
        throw WrongUsage{"--size takes 1, 3, 5, 15 or 51."};
    return probe;
}

int probe(const Arguments& arguments, const base::CancelToken& stopped, std::ostream& out, std::ostream& err) {
    const auto place = probeOf(arguments);
    const auto name = arguments.find("--correction");
    if (place.has_value() == name.has_value())
        throw WrongUsage{"A place (--at or --place) or a mask (--correction) is needed, one of them."};
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    base::Result<std::string> report = std::string();
    if (place) {
        report = probeReport(*opened, *place, arguments.has("--json"));
    } else {
        const document::Correction* correction = document::findCorrection(*opened->document, std::string_view(*name));
        if (!correction) {
            err << "hem: The document has no correction named \"" << *name << "\".\n";
            return 1;
        }
        report = maskReport(*opened, correction->id, arguments.has("--json"));
    }
    if (!report) return failed(report.error(), err);
    out << *report;
    return 0;
}

int neutral(const Arguments& arguments, const base::CancelToken& stopped, std::ostream& out, std::ostream& err) {
    const task::MeasuredPlace from{placeOf(arguments), arguments.number("--leave", 0, 100).value_or(0) / 100.0};
    if (!from.place) throw WrongUsage{"--place is missing."};
    const auto opened = openInput(arguments, err, stopped);
    if (!opened) return failed(opened.error(), err);
    // As a last correction would do it.
    const auto last = document::withNewCorrection(*opened->document, opened->document->corrections.size());
    const auto balance = document::withNewAdjustment(*last.document, last.id, adjust::whiteBalance);
    const render::Renderer renderer = task::rendererOf(*opened);
    const auto version = task::withMeasured(renderer, balance.document, last.id, balance.id, from, stopped);
    if (!version) return failed(version.error(), err);
    const auto* use = document::findAdjustment(*document::findCorrection(**version, last.id), balance.id);
    nlohmann::ordered_json values;
    for (std::size_t i = 0; i < use->settings.values.size(); ++i)
        values[std::string(use->kind->params[i].id)] = use->settings.values[i];
    if (arguments.has("--json")) {
        out << values.dump(1) << "\n";
    } else {
        for (const auto& [id, value] : values.items()) out << id << " " << value << "\n";
    }
    return 0;
}

int info(const Arguments& arguments, const base::CancelToken& stopped, std::ostream& out, std::ostream& err) {
    const auto opened = openInput(arguments, err, stopped, task::Unstated::left);
    if (!opened) return failed(opened.error(), err);
    out << (arguments.find("--json") ? jsonReport(*opened) : textReport(*opened));
    return 0;
}

struct Verb {
    std::string_view name, words, says, example;
    std::vector<std::string_view> switches, valued;  // options without a value, and with one
    int (*run)(const Arguments&, const base::CancelToken&, std::ostream& out, std::ostream& err);
};

std::span<const Verb> verbs() {
    static const Verb all[] = {
        {"render",
         "DOCUMENT -o FILE [--depth 8|16|32] [--quality 1..100] [--long-side PX] [--photo FILE]\n"
         "             [--over-backdrop] [--replace]",
         "      Writes the finished picture; the format follows from the name (.jpg .png .tif).\n",
         "hem render terrace.dimhem -o terrace.jpg --quality 92",
         {"--over-backdrop", "--replace"},
         {"-o", "--depth", "--quality", "--photo", "--long-side"},
         render},
        {"mask",
         "DOCUMENT --correction NAME -o FILE [--photo FILE] [--replace]",
         "      Writes a correction's mask as a 16-bit grey picture (.png .tif).\n",
         "hem mask terrace.dimhem --correction Sky -o sky.png",
         {"--replace"},
         {"-o", "--correction", "--photo"},
         mask},
        {"save",
         "DOCUMENT -o FILE.dimhem [--pack] [--photo FILE] [--replace]",
         "      Writes a document (or a bare photo) as a document file with its small picture; --pack puts a copy of "
         "the\n"
         "      photo inside.\n",
         "hem save by-hand.json -o terrace.dimhem --pack",
         {"--pack", "--replace"},
         {"-o", "--photo"},
         save},
        {"measure",
         "DOCUMENT --correction NAME --adjustment KIND -o FILE.dimhem [--place X0,Y0,X1,Y1] [--leave 0..100]\n"
         "              [--photo FILE] [--replace]",
         "      Writes the document with what an adjustment measures in the photo, in a place of it or under the mask: "
         "the\n"
         "      balance that makes a place neutral (but for --leave % of its cast), the area that is matched to, the "
         "noise,\n"
         "      the steps, the grain, the haze, the gains of a shadow, the colour of a veil.\n",
         "hem measure terrace.dimhem --correction Wall --adjustment white-balance --place 40,60,90,110 -o "
         "terrace.dimhem",
         {"--replace"},
         {"-o", "--correction", "--adjustment", "--place", "--leave", "--photo"},
         measure},
        {"check",
         "DOCUMENT [--correction NAME] [--json] [--photo FILE]",
         "      How well masks keep to the edges of the photo: spill and short in percent of what they cover, gaps and "
         "specks,\n"
         "      and how much of the edge could not be measured. As JSON also the colours under each mask before and "
         "after, what\n"
         "      is newly clipped, blocked or outside the profile, and the notes, each with the strength that would "
         "ease it; those\n"
         "      of two corrections against each other only where all are checked.\n",
         "hem check terrace.dimhem --json",
         {"--json"},
         {"--correction", "--photo"},
         check},
        {"probe",
         "DOCUMENT (--at X,Y [--size 1|3|5|15|51] | --place X0,Y0,X1,Y1 | --correction NAME) [--json]\n"
         "            [--photo FILE]",
         "      The mean colour of a place, or of what lies under a mask, before the corrections and after: RGB of "
         "255, L*a*b*,\n"
         "      chroma and hue, the spread about the mean, and the CIEDE2000 difference.\n",
         "hem probe terrace.dimhem --at 640,400 --size 15",
         {"--json"},
         {"--at", "--size", "--place", "--correction", "--photo"},
         probe},
        {"neutral",
         "FILE --place X0,Y0,X1,Y1 [--leave 0..100] [--json] [--photo FILE]",
         "      The white balance that makes a place neutral, but for --leave % of its cast.\n",
         "hem neutral terrace.jpg --place 40,60,90,110 --leave 20",
         {"--json"},
         {"--place", "--leave", "--photo"},
         neutral},
        {"info",
         "FILE [--json] [--photo FILE]",
         "      What a photo or document holds.\n",
         "hem info terrace.dimhem --json",
         {"--json"},
         {"--photo"},
         info},
    };
    return all;
}

constexpr std::string_view schemaSays =
    "  hem schema\n      The JSON Schema of documents. For example: hem schema > schema.json\n";

void tell(const Verb& verb, std::ostream& out) {
    out << "  hem " << verb.name << " " << verb.words << "\n"
        << verb.says << "      For example: " << verb.example << "\n";
}

void tellAll(std::ostream& out) {
    out << "hem: local corrections without a window\n\n";
    for (const Verb& verb : verbs()) tell(verb, out);
    out << schemaSays << "\n"
        << "  --photo FILE   the document's photo, where it is no longer in its place\n"
           "  --replace      also a write-protected file, or a document with a copy of another photo inside\n"
           "  hem VERB --help tells of one of them. The photo itself, its backdrop and its mattes are never written "
           "over.\n";
}

const Verb& verbOf(std::string_view name) {
    const auto found = std::ranges::find(verbs(), name, &Verb::name);
    if (found != verbs().end()) return *found;
    std::vector<std::string_view> known{"schema"};
    for (const Verb& verb : verbs()) known.push_back(verb.name);
    throw WrongUsage{"There is no command \"" + std::string(name) + "\"." + didYouMean(name, known)};
}

bool asksForHelp(std::string_view word) {
    return word == "--help" || word == "-h";
}

int runVerb(std::span<const std::string_view> arguments, std::ostream& out, std::ostream& err,
            const base::CancelToken& stopped) {
    const auto rest = arguments.subspan(1);
    const bool help = std::ranges::any_of(rest, asksForHelp);
    if (arguments[0] == "schema") {
        if (help) {
            out << schemaSays;
        } else {
            out << document::documentSchema().dump(1) << "\n";
        }
        return 0;
    }
    const Verb& verb = verbOf(arguments[0]);
    if (help) {
        tell(verb, out);
        return 0;
    }
    return verb.run(Arguments(rest, verb.switches, verb.valued), stopped, out, err);
}

}  // namespace

int run(std::span<const std::string_view> arguments, std::ostream& out, std::ostream& err,
        const base::CancelToken& stopped) {
    if (arguments.empty() || asksForHelp(arguments[0])) {
        tellAll(arguments.empty() ? err : out);
        return arguments.empty() ? 2 : 0;
    }
    try {
        return runVerb(arguments, out, err, stopped);
    } catch (const WrongUsage& wrong) {
        err << "hem: " << wrong.message << " See hem --help.\n";
        return 2;
    } catch (const base::Cancelled&) {
        err << "hem: It was stopped; no file was written.\n";
        return 1;
    } catch (const std::bad_alloc&) {
        err << "hem: There is not enough memory for this.\n";
        return 1;
    } catch (const std::exception& unforeseen) {
        err << "hem: Something went wrong that the program did not foresee (" << unforeseen.what() << ").\n";
        return 1;
    }
}

}  // namespace dimhem::cli
