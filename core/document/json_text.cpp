#include "core/document/json_text.h"

#include <algorithm>

namespace dimhem::document {

using nlohmann::json;

namespace {

tl::unexpected<base::Error> wrongAt(std::string_view text, std::size_t at, std::string_view what,
                                    std::string_view how) {
    const std::string_view before = text.substr(0, std::min(at, text.size()));
    const auto line = 1 + std::count(before.begin(), before.end(), '\n');
    return base::fail(base::ErrorCode::damaged, std::string(what),
                      "The text of the " + std::string(what) + " is damaged: line " + std::to_string(line) + " " +
                          std::string(how) + ".");
}

}  // namespace

base::Result<json> parseJson(std::string_view text, std::string_view what) {
    try {
        return json::parse(text.begin(), text.end());
    } catch (const json::parse_error& error) {
        return wrongAt(text, error.byte > 0 ? error.byte - 1 : 0, what, "is not valid JSON");
    } catch (const json::exception& error) {
        // A number beyond all measure; the library quotes it at the end of its words.
        const std::string words = error.what();
        const std::size_t end = words.rfind('\''), begin = end ? words.rfind('\'', end - 1) : std::string::npos;
        const std::string number = end == std::string::npos || begin == std::string::npos
                                       ? std::string()
                                       : words.substr(begin + 1, end - begin - 1);
        const std::size_t at = number.empty() ? std::string_view::npos : text.find(number);
        return wrongAt(text, at == std::string_view::npos ? 0 : at, what, "holds a number that is too large");
    }
}

}  // namespace dimhem::document
