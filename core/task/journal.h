// The journal of work that is not saved yet: every step of a document, on the disk within a moment, so that a crash
// loses at most the gesture in hand. Described in docs/journal.md.
//
// A text file, one record a line: the sum of the line (XXH3, 16 hexadecimal digits), a space, a JSON object. The first
// holds the document as it was after the first step, the others how each step changed it (JSON Patch, RFC 6902).
// Records that are cut off or damaged end the journal there: what stands before them counts. Where the changes have
// grown to several times what the document itself takes, the journal is written anew from the document as it is.
//
// A journal is held with a lock (flock) by the program that writes it. One without is what a program left that ended
// without a word.
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <nlohmann/json.hpp>
#include <vector>

#include "core/base/error.h"
#include "core/document/document.h"
#include "core/task/open.h"

namespace dimhem::task {

// What was worked on, by absolute paths.
struct JournalOrigin {
    std::filesystem::path document;  // empty: not saved yet
    std::filesystem::path photo;     // empty: packed into the document
    friend bool operator==(const JournalOrigin&, const JournalOrigin&) = default;
};

class Journal {
public:
    // A new one in the folder, which is made where it is missing. Once it is on the disk, those about the same work
    // that nobody holds any more are removed.
    static base::Result<Journal> create(const std::filesystem::path& folder, const JournalOrigin& origin,
                                        const document::Document& first, const std::string& step);
    Journal(Journal&&) = default;
    Journal& operator=(Journal&&) = default;

    // On the disk when it returns. To be called from one thread at a time.
    base::Result<void> append(const document::Document& next, const std::string& step);
    void remove();  // the work is saved, or the person has dropped it

    const std::filesystem::path& path() const { return path_; }

private:
    struct CloseFile {
        void operator()(std::FILE* file) const { std::fclose(file); }
    };
    Journal() = default;
    nlohmann::json jsonOf(const document::Document& document);
    base::Result<void> begin(const std::string& step);
    base::Result<void> write(const nlohmann::json& record);
    bool isOvergrown() const;
    base::Result<void> compact(const std::string& step);

    std::filesystem::path path_;
    std::unique_ptr<std::FILE, CloseFile> file_;
    JournalOrigin origin_;
    std::size_t steps_ = 0, headBytes_ = 0,
                bytes_ = 0;  // bytes_: of all that is written, headBytes_ of its first record
    nlohmann::json last_;
    std::map<document::CorrectionPtr, nlohmann::json> known_;  // corrections of the last version, kept states too
};

// A record as it stands in a journal: its sum, the JSON text, the end of the line.
std::string journalLine(const std::string& record);

// Work that a program left unsaved.
struct Unsaved {
    std::filesystem::path journal;
    JournalOrigin origin;
    document::DocumentPtr document;  // as it was last
    std::string step;                // the last one's name
    std::size_t steps = 0;
    std::filesystem::file_time_type when;
};

// Those that nobody holds any more and that can be read, the newest first.
std::vector<Unsaved> unsavedIn(const std::filesystem::path& folder);

// Opens what was worked on, as it was last.
base::Result<Opened> recover(const Unsaved& unsaved, const base::Workers& workers = {},
                             const io::Reading& reading = {});

}  // namespace dimhem::task
