#include "core/task/starters.h"

#include <algorithm>
#include <cctype>

#include "core/io/file_bytes.h"
#include "core/io/pending_file.h"

namespace dimhem::task {

namespace {

namespace fs = std::filesystem;

constexpr std::uintmax_t maxBytes = std::uintmax_t{4} << 20;

// A file name made of the letters and digits of a name.
std::string slugOf(const std::string& name) {
    std::string slug;
    for (const char c : name) {
        const auto byte = static_cast<unsigned char>(c);
        if (std::isalnum(byte) && byte < 128) {
            slug += static_cast<char>(std::tolower(byte));
        } else if (!slug.empty() && slug.back() != '-') {
            slug += '-';
        }
    }
    while (!slug.empty() && slug.back() == '-') slug.pop_back();
    return slug.empty() ? "starter" : slug.substr(0, 60);
}

}  // namespace

base::Result<document::Starter> readStarter(const fs::path& path) {
    std::error_code ignored;
    if (const auto size = fs::file_size(path, ignored); !ignored && size > maxBytes)
        return base::fail(base::ErrorCode::unknownFormat, "format", "This is not a Dim Hem starter.");
    const auto bytes = io::readFile(path);
    if (!bytes) return tl::unexpected(bytes.error());
    return document::starterFromJsonText({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
}

std::vector<StarterFile> startersIn(const fs::path& folder) {
    std::vector<StarterFile> out;
    std::error_code failed;
    for (fs::directory_iterator entry(folder, failed), end; !failed && entry != end; entry.increment(failed)) {
        if (entry->path().extension() != ".json") continue;
        if (auto starter = readStarter(entry->path())) out.push_back({entry->path(), std::move(*starter)});
    }
    std::sort(out.begin(), out.end(), [](const StarterFile& a, const StarterFile& b) {
        return std::tie(a.starter.name, a.path) < std::tie(b.starter.name, b.path);
    });
    return out;
}

base::Result<fs::path> addStarter(const fs::path& folder, const document::Starter& starter) {
    std::error_code ignored;
    fs::create_directories(folder, ignored);
    const std::string slug = slugOf(starter.name);
    fs::path path = folder / (slug + ".json");
    for (int n = 2; fs::exists(path, ignored); ++n) path = folder / (slug + "-" + std::to_string(n) + ".json");
    if (auto written = writeStarter(path, starter, {}); !written) return tl::unexpected(written.error());
    return path;
}

base::Result<void> writeStarter(const fs::path& path, const document::Starter& starter, const io::WriteRules& rules) {
    const std::string text = document::toJsonText(starter);
    auto file = io::PendingFile::create(path, rules);
    if (!file) return tl::unexpected(file.error());
    if (auto done = file->write({reinterpret_cast<const std::uint8_t*>(text.data()), text.size()}); !done) return done;
    return file->commit();
}

base::Result<void> removeStarter(const fs::path& path) {
    std::error_code failed;
    if (fs::remove(path, failed)) return {};
    return base::fail(base::ErrorCode::notFound, path.string(),
                      "The starter " + path.filename().string() + " could not be removed.");
}

}  // namespace dimhem::task
