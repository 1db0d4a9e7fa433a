#include "ui/panel/help_pages.h"

#include <QObject>

#include "ui/session/key_table.h"

namespace dimhem::ui {

QList<HelpPage> helpPages() {
    return {
        {"where", QObject::tr("Where a correction acts"),
         QObject::tr(
             "A mask says where a correction acts. It is built from parts, from top to bottom: each adds to what "
             "is above it, takes away from it, or keeps what both share.\n"
             "Start with the part that fits the thing: a brush that holds edges or a region for a subject, a "
             "gradient for a sky, a colour or tone range for all that looks alike. Then take away what was too "
             "much.\n"
             "With Ctrl any tool takes away what it would add. %2, then a press on a thing leaves it out of the mask, "
             "whatever that is made of. %3 makes a part take away, or add again; a brush it makes remove. A part "
             "added by its key with Alt takes away from the start.\n"
             "Ctrl+Alt and the key of a range keeps the selected part, it alone, to that range. A double click on a "
             "grip asks for its numbers.\n"
             "Point at a part to see it alone. %1 inverts the selected one. Refine changes the mask as a whole: "
             "its softness, its size, how closely it snaps to the photo's edges.")
             .arg(keyText("invert"), keyText("leave-out"), keyText("removes"))},
        {"what", QObject::tr("What a correction does"),
         QObject::tr(
             "A correction holds one or more adjustments, which act from top to bottom, and a strength for all of "
             "them. Dial the strength back until the correction no longer shows as one.\n"
             "Drag anywhere in a setting's row, left or right. With Shift held, or further above or below the "
             "row, it moves finely. Type a number, or double click for the neutral value. The menu of an "
             "adjustment's name copies it, and keeps its settings by name.\n"
             "Rest on a tone of the histogram, a curve or a range and it shines in the photo.\n"
             "Clean edge corrects only the thing's own colour where it shares a pixel with what is behind it, so "
             "that no rim is left.")},
        {"sequence", QObject::tr("The sequence of corrections"),
         QObject::tr(
             "Corrections act from left to right, each on what the one before it made. Click a card to work on "
             "it, double click to rename it, drag it to another place.\n"
             "Ctrl or Shift and a click select several: strength, blending, the switch, copies, moves and "
             "removals then "
             "act on all of them. The card Photo "
             "says what is known about the file.\n"
             "%1 and %2 go from card to card, %3 switches a correction on or off. %9 begins one from a starter; "
             "dropped on a card, a card or a starter puts its effect or its mask there.\n"
             "%4 puts those selected under a bracket: one strength and one switch for all of them. %5 makes a "
             "counterpart that does the opposite; Alt and the brush paints into it, and what the one gains the "
             "other loses. %6 and %7 copy an effect and put it on another correction, %8 copies the mask.")
             .arg(keyText("previous"), keyText("next"), keyText("on-off"), keyText("bracket"), keyText("counterpart"),
                  keyText("copy"), keyText("paste"), keyText("copy-mask"), keyText("starters"))},
        {"hem", QObject::tr("The hem check"),
         QObject::tr(
             "The hem is where the mask ends. Spill is what the mask covers past the edge of the thing, short is "
             "what it leaves uncovered up to it; both as a share of the mask. Gaps are missed spots within it, "
             "specks are stray spots outside.\n"
             "%1 goes to the next place that was found; it can be put right there with one press. The error map "
             "(%2) shows all of them.\n"
             "A gradient has no edge to check, but what stands in its way is found and left out. What is much softer "
             "than the photo's own edges is not measured.")
             .arg(keyText("next-finding"), keyText("error-map"))},
        {"look", QObject::tr("Looking and comparing"),
         QObject::tr(
             "Hold %1 for the photo as it was, %2 for all but the selected correction, %3 for the correction at "
             "three times its strength: what does not show then, does not show.\n"
             "%4 steps through the mask views. The surround of the photo (%5) changes how light and how colourful "
             "it looks: judge on mid grey.\n"
             "Ctrl and the wheel zoom; hold %6 and drag to move the photo, hold %7 for a look at actual size.")
                 .arg(keyText("before"), keyText("selected-off"), keyText("push"), keyText("next-mask-view"),
                      keyText("surround"), keyText("hand"), keyText("closer")) +
             "\n" +
             QObject::tr(
                 "%1 splits the photo, %2 sets both sides beside each other, %3 shows them by turns. The arrow beside "
                 "them chooses what the result is held against, and keeps states to come back to (%4).\n"
                 "Hold %5 for what is newly clipped or blocked, %6 for both sides at actual size. %7 drops a probe. "
                 "The notes under the photo (%8) say what has gone too far, and the strength that would ease it.")
                 .arg(keyText("split"), keyText("beside"), keyText("blink"), keyText("keep-state"), keyText("lost"),
                      keyText("loupe"), keyText("drop-probe"), keyText("notes"))},
        {"keys", QObject::tr("Working by keys alone"),
         QObject::tr(
             "Tab goes from control to control, also to the photo. There, the cursor keys move a pointer, with "
             "Shift further and with Alt by one pixel; Space presses where it stands, and is held to drag: to "
             "paint, to lay a gradient, to move a grip.\n"
             "In the lists of cards and of parts the cursor keys select, F2 renames, Space switches on or off, Delete "
             "removes, Alt and the cursor keys move; Shift+F10 opens the menu, Enter gives the keys back to the "
             "photo.\n"
             "Every key can be changed: press Change beside it below.")},
    };
}

}  // namespace dimhem::ui
