// The look of the interface: neutral greys only, so that it never tints the judgement of colour; one shipped font.
//
// Text on its ground has a contrast of at least 4.5:1 (WCAG 2.1).
#pragma once

#include <QColor>

class QApplication;

namespace dimhem::ui {

namespace theme {

constexpr QRgb bar = 0xff1f1f1f;     // top bar, sequence
constexpr QRgb panel = 0xff282828;   // side panels
constexpr QRgb raised = 0xff383838;  // selected rows, cards
constexpr QRgb field = 0xff1a1a1a;   // number fields, tracks
constexpr QRgb line = 0xff424242;    // separators
constexpr QRgb edge = 0xff5a5a5a;    // outlines of controls
constexpr QRgb text = 0xffe6e6e6;
constexpr QRgb quiet = 0xffa8a8a8;   // labels of less weight; 6.3:1 on the panel
constexpr QRgb off = 0xff8a8a8a;     // what cannot be used now
constexpr QRgb bright = 0xfff4f4f4;  // what is on

// A length for text of the usual size, as it is beside the text there is: what stands around text grows with it.
int scaled(int px);
// Of a setting: for text of the usual size, and higher with it.
int rowHeight();

}  // namespace theme

// The text has the system's size, or a percentage of it.
void applyTheme(QApplication& application, int sizePct = 100);

// The thread colour of a correction, by its index.
QColor threadColour(int index);

}  // namespace dimhem::ui
