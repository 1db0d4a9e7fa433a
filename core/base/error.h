// What an operation that can fail gives back: the value, or one error with a sentence for the person.
//
// Whoever detects an error words it; callers pass it on unchanged. Tests assert the code, people read the sentence.
#pragma once

#include <string>
#include <tl/expected.hpp>

namespace dimhem::base {

enum class ErrorCode {
    notFound,       // no such file or folder
    unreadable,     // it exists, but may not be read
    unwritable,     // the place to write to refuses: read-only, no permission, no such folder
    readOnly,       // the file to be replaced is write-protected: may be asked about
    changedOnDisk,  // another program has written the file meanwhile: may be asked about
    losesCopy,      // the document holds a copy of its photo that would be lost: may be asked about
    diskFull,       // the place to write to has no room left
    unknownFormat,  // the first bytes belong to no format we read
    damaged,        // the right format, but truncated or contradicting itself
    unsupported,    // a valid file that uses something we do not handle
    tooLarge,       // larger than the program accepts (see image/limits.h)
    newerVersion,   // a document written by a later version of the program
    invalidValue,   // a value outside its range or of the wrong type
    outOfMemory,    // there is not enough memory for it
    failed,         // something the program did not foresee
    cancelled,      // the person stopped it
};

struct Error {
    ErrorCode code;
    std::string where;      // the file or the field it is about; may be empty
    std::string message{};  // one whole sentence, ready to be shown
};

template <class T>
using Result = tl::expected<T, Error>;

inline tl::unexpected<Error> fail(ErrorCode code, std::string where, std::string message) {
    return tl::unexpected<Error>(Error{code, std::move(where), std::move(message)});
}

}  // namespace dimhem::base
