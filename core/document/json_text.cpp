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

// Counts what is in a text, without keeping any of it; ends where it is too much.
class Counting : public nlohmann::json_sax<json> {
public:
    bool tooMany() const { return values_ > mostJsonValues; }
    bool tooDeep() const { return depth_ > mostJsonNesting; }

    bool null() override { return one(); }
    bool boolean(bool) override { return one(); }
    bool number_integer(number_integer_t) override { return one(); }
    bool number_unsigned(number_unsigned_t) override { return one(); }
    bool number_float(number_float_t, const string_t&) override { return one(); }
    bool string(string_t&) override { return one(); }
    bool binary(binary_t&) override { return one(); }
    bool key(string_t&) override { return one(); }
    bool start_object(std::size_t) override { return deeper(); }
    bool start_array(std::size_t) override { return deeper(); }
    bool end_object() override { return --depth_, true; }
    bool end_array() override { return --depth_, true; }
    bool parse_error(std::size_t, const std::string&, const json::exception&) override { return false; }

private:
    bool one() { return ++values_ <= mostJsonValues; }
    bool deeper() { return ++depth_ <= mostJsonNesting && one(); }

    std::size_t values_ = 0;
    int depth_ = 0;
};

}  // namespace

base::Result<json> parseJson(std::string_view text, std::string_view what) {
    Counting counting;
    if (!json::sax_parse(text.begin(), text.end(), &counting) && (counting.tooMany() || counting.tooDeep())) {
        return base::fail(
            base::ErrorCode::tooLarge, std::string(what),
            "The text of the " + std::string(what) + " is too large: it holds " +
                (counting.tooDeep() ? "lists in lists, more than " + std::to_string(mostJsonNesting) + " of them"
                                    : "more than " + std::to_string(mostJsonValues) + " values") +
                ".");
    }
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
