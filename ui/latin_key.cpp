#include "ui/latin_key.h"

#include <string_view>

namespace dimhem::ui {

namespace {

// Scan codes of X11 and Wayland are those of the Linux kernel plus 8 (linux/input-event-codes.h); each row of a US
// keyboard has one run of them.
struct Row {
    quint32 first;
    std::string_view keys;
};
constexpr Row rows[] = {{10, "1234567890-="}, {24, "QWERTYUIOP[]"}, {38, "ASDFGHJKL;'`"}, {52, "ZXCVBNM,./"}};

int placeOnUsKeyboard(quint32 scanCode) {
    for (const Row& row : rows) {
        if (scanCode >= row.first && scanCode < row.first + row.keys.size())
            return static_cast<unsigned char>(row.keys[scanCode - row.first]);
    }
    return 0;
}

}  // namespace

int latinKey(const QKeyEvent& event) {
    const int key = event.key();
    if (key == Qt::Key_BraceLeft) return Qt::Key_BracketLeft;
    if (key == Qt::Key_BraceRight) return Qt::Key_BracketRight;
    constexpr int firstSpecial = 0x01000000;  // Esc, arrows and the like (Qt::Key)
    constexpr int lastAscii = 0x7e;
    if (key <= lastAscii || key >= firstSpecial) return key;
    const int place = placeOnUsKeyboard(event.nativeScanCode());
    return place ? place : key;
}

}  // namespace dimhem::ui
