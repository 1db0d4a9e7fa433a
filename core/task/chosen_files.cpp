#include "core/task/chosen_files.h"

#include <algorithm>
#include <fstream>
#include <string>
#include <vector>

#include "core/base/utf8.h"
#include "core/io/pending_file.h"

namespace dimhem::task {

namespace fs = std::filesystem;

namespace {

constexpr std::size_t mostKept = 1000;

fs::path listIn(const fs::path& state) {
    return state / "chosen-files";
}

// Links followed, so that a link beside a document does not lead out of its folder.
std::string placeOf(const fs::path& file) {
    std::error_code ignored;
    return fs::weakly_canonical(fs::absolute(file, ignored), ignored).string();
}

// The newest last.
std::vector<std::string> chosenIn(const fs::path& state) {
    std::vector<std::string> places;
    std::ifstream file(listIn(state));
    for (std::string line; std::getline(file, line);) places.push_back(base::percentDecoded(line));
    return places;
}

}  // namespace

void rememberChosen(const fs::path& file, const fs::path& state) {
    std::vector<std::string> places = chosenIn(state);
    std::erase(places, placeOf(file));
    places.push_back(placeOf(file));
    if (places.size() > mostKept) places.erase(places.begin(), places.end() - mostKept);
    std::string text;
    for (const std::string& place : places) text += base::percentEncoded(place) + "\n";
    std::error_code ignored;
    fs::create_directories(state, ignored);
    // Where it cannot be kept, the person is asked for the file again another time.
    if (auto list = io::PendingFile::create(listIn(state), {})) {
        const auto* bytes = reinterpret_cast<const std::uint8_t*>(text.data());
        if (list->write({bytes, text.size()})) (void)list->commit();
    }
}

bool mayRead(const fs::path& file, const fs::path& folder, const fs::path& state) {
    const std::string place = placeOf(file);
    const fs::path fromFolder = fs::path(place).lexically_relative(placeOf(folder.empty() ? "." : folder));
    if (!fromFolder.empty() && *fromFolder.begin() != "..") return true;
    const std::vector<std::string> chosen = chosenIn(state);
    return std::find(chosen.begin(), chosen.end(), place) != chosen.end();
}

}  // namespace dimhem::task
