// A sentence for the person, and how much it matters that it is read.
#pragma once

#include <QString>
#include <functional>

namespace dimhem::ui {

struct Message {
    enum class Rank {
        remark,   // passes by itself
        warning,  // an error or a question: stays until it is answered or closed, and nothing takes its place
    };
    Rank rank = Rank::remark;
    QString sentence;
    QString actionName;  // something to do about it; empty: nothing
    std::function<void()> action;
};

}  // namespace dimhem::ui
