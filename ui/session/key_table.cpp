#include "ui/session/key_table.h"

#include <QObject>
#include <QSettings>
#include <algorithm>

#include "core/mask/registry.h"
#include "ui/session/part_key.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

QString settingsKey(const QString& id) {
    return "keys/" + id;
}

QList<KeyEntry> fileKeys() {
    const QString group = QObject::tr("Files");
    return {
        {"open", group, QObject::tr("Open a photo or document"), QKeySequence("Ctrl+O")},
        {"save", group, QObject::tr("Save the corrections as a document"), QKeySequence("Ctrl+S")},
        {"save-as", group, QObject::tr("Save the document under another name"), QKeySequence("Ctrl+Shift+S")},
        {"export", group, QObject::tr("Export the finished picture"), QKeySequence("Ctrl+E")},
        {"close", group, QObject::tr("Close the photo"), QKeySequence("Ctrl+W")},
        {"quit", group, QObject::tr("Quit"), QKeySequence("Ctrl+Q")},
    };
}

QList<KeyEntry> viewKeys() {
    const QString group = QObject::tr("Looking");
    return {
        {"fit", group, QObject::tr("Show the whole photo"), QKeySequence("Ctrl+0")},
        {"actual-size", group, QObject::tr("Actual size: one photo pixel per screen pixel"), QKeySequence("Ctrl+1")},
        {"zoom-to", group,
         QObject::tr("Closer to what is worked on: the place the hem check found, the part; again, the whole mask"),
         QKeySequence("J")},
        {"zoom-in", group, QObject::tr("Zoom in"), QKeySequence("+")},
        {"zoom-out", group, QObject::tr("Zoom out"), QKeySequence("-")},
        {"before", group, QObject::tr("The photo as it was"), QKeySequence("A"), KeyUse::held},
        {"selected-off", group, QObject::tr("Without the selected correction"), QKeySequence("Shift+A"), KeyUse::held},
        {"split", group, QObject::tr("Result and before either side of a line"), QKeySequence("S")},
        {"beside", group, QObject::tr("Result and before next to each other"), QKeySequence("B")},
        {"blink", group, QObject::tr("Result and before by turns"), QKeySequence("Shift+S")},
        {"swap-sides", group, QObject::tr("Swap the sides"), QKeySequence("X")},
        {"turn-split", group, QObject::tr("Turn the line between the sides"), QKeySequence("T")},
        {"keep-state", group, QObject::tr("Keep this state to compare with"), QKeySequence("Ctrl+K")},
        {"lost", group, QObject::tr("What is newly clipped, blocked or too strong"), QKeySequence("C"), KeyUse::held},
        {"loupe", group, QObject::tr("Before and result at actual size about the pointer"), QKeySequence("L"),
         KeyUse::held},
        {"drop-probe", group, QObject::tr("A probe where the pointer is"), QKeySequence("M")},
        {"notes", group, QObject::tr("The notes, opened or closed"), QKeySequence("Ctrl+J")},
        {"push", group,
         QObject::tr(
             "The selected correction, its mask or the adjustment under the pointer at three times its strength"),
         QKeySequence("P"), KeyUse::held},
        {"closer", group, QObject::tr("Actual size around the pointer"), QKeySequence("Z"), KeyUse::held},
        {"hand", group, QObject::tr("Drag the photo"), QKeySequence("Space"), KeyUse::held},
        {"next-mask-view", group, QObject::tr("Next mask view"), QKeySequence("G")},
        {"previous-mask-view", group, QObject::tr("Previous mask view"), QKeySequence("Shift+G")},
        {"grips", group, QObject::tr("Grips and points over the photo away, or back"), QKeySequence("O")},
        {"surround", group, QObject::tr("Next surround of the photo: mid grey, light, black"), QKeySequence("U")},
        {"inset", group, QObject::tr("The small whole photo on or off"), QKeySequence("I")},
        {"panels", group, QObject::tr("Hide or show all panels"), QKeySequence("'")},
        {"second-view", group, QObject::tr("A second window with the whole photo or at actual size"),
         QKeySequence("Ctrl+2")},
        {"full-screen", group, QObject::tr("Full screen"), QKeySequence("F11")},
    };
}

QList<KeyEntry> maskKeys() {
    const QString group = QObject::tr("Masks");
    QList<KeyEntry> keys;
    for (const mask::ShapeKind* kind : mask::shapeKinds())
        keys.append({"part/" + idText(kind->id), group, QObject::tr("Add part: %1").arg(words(kind->label)),
                     QKeySequence(partKey(*kind))});
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        if (!takesAwayByKey(*kind)) continue;
        keys.append({"take-away/" + idText(kind->id), group,
                     QObject::tr("Add part that takes away: %1").arg(words(kind->label)),
                     QKeySequence("Alt+" + partKey(*kind))});
    }
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        if (!kind->isRange) continue;
        keys.append({"keep-to/" + idText(kind->id), group,
                     QObject::tr("Keep the selected part to a range: %1").arg(words(kind->label)),
                     QKeySequence("Ctrl+Alt+" + partKey(*kind))});
    }
    keys.append({
        {"add-part", group, QObject::tr("Add part: all kinds, by name"), QKeySequence("Ctrl+Shift+N")},
        {"leave-out", group, QObject::tr("Leave out what is pressed on next"), QKeySequence("E")},
        {"invert", group, QObject::tr("Invert the selected part"), QKeySequence("F")},
        {"next-finding", group, QObject::tr("Next place the hem check has found"), QKeySequence("N")},
        {"previous-finding", group, QObject::tr("Previous place the hem check has found"), QKeySequence("Shift+N")},
        {"error-map", group, QObject::tr("Error map: spill and short over the photo"), QKeySequence("Shift+H")},
        {"say-hem", group, QObject::tr("Say the figures of the hem check"), QKeySequence("Ctrl+H")},
        {"take-back", group, QObject::tr("Take back the last click of an outline or a wire"),
         QKeySequence("Backspace")},
        {"leave", group, QObject::tr("Give up what is in hand"), QKeySequence("Esc")},
    });
    return keys;
}

QList<KeyEntry> brushKeys() {
    const QString group = QObject::tr("Brush");
    return {
        {"removes", group, QObject::tr("The brush removes; another part takes away, or adds again"), QKeySequence("R"),
         KeyUse::tapped},
        {"pick", group, QObject::tr("A press picks what the brush brings, or where there is no veil"),
         QKeySequence("K"), KeyUse::held},
        {"holds", group, QObject::tr("The brush holds edges"), QKeySequence("H"), KeyUse::tapped},
        {"brush-by-drag", group,
         QObject::tr("A drag sets the brush: sideways its size, up and down its softness, with Shift its strength"),
         QKeySequence("Q"), KeyUse::held},
        {"smaller", group, QObject::tr("Smaller brush"), QKeySequence("[")},
        {"larger", group, QObject::tr("Larger brush"), QKeySequence("]")},
        {"harder", group, QObject::tr("Harder brush"), QKeySequence("Shift+[")},
        {"softer", group, QObject::tr("Softer brush"), QKeySequence("Shift+]")},
        {"weaker", group, QObject::tr("Weaker brush"), QKeySequence("Ctrl+[")},
        {"stronger", group, QObject::tr("Stronger brush"), QKeySequence("Ctrl+]")},
    };
}

QList<KeyEntry> correctionKeys() {
    const QString group = QObject::tr("Corrections");
    return {
        {"undo", group, QObject::tr("Undo"), QKeySequence("Ctrl+Z")},
        {"redo", group, QObject::tr("Redo"), QKeySequence("Ctrl+Shift+Z")},
        {"new-correction", group, QObject::tr("New correction"), QKeySequence("Ctrl+N")},
        {"starters", group, QObject::tr("A correction from a starter"), QKeySequence("Y")},
        {"add-adjustment", group, QObject::tr("Add adjustment"), QKeySequence("Ctrl+M")},
        {"previous", group, QObject::tr("Previous correction"), QKeySequence(",")},
        {"next", group, QObject::tr("Next correction"), QKeySequence(".")},
        {"on-off", group, QObject::tr("Correction on or off"), QKeySequence("/")},
        {"duplicate", group, QObject::tr("Duplicate the correction"), QKeySequence("Ctrl+D")},
        {"counterpart", group, QObject::tr("The correction's counterpart, which does the opposite: made, or gone to"),
         QKeySequence("Ctrl+Shift+D")},
        {"bracket", group, QObject::tr("The selected corrections under one strength and switch; again, each by itself"),
         QKeySequence("Ctrl+G")},
        {"copy", group, QObject::tr("Copy the effect; in the list of parts, the parts"), QKeySequence("Ctrl+C")},
        {"copy-mask", group, QObject::tr("Copy the mask"), QKeySequence("Ctrl+Shift+C")},
        {"paste", group, QObject::tr("Put what was copied on the selected corrections"), QKeySequence("Ctrl+V")},
        {"remove", group, QObject::tr("Remove the correction"), QKeySequence("Delete")},
    };
}

QList<KeyEntry> windowKeys() {
    const QString group = QObject::tr("Window");
    return {
        {"help", group, QObject::tr("Help and keys"), QKeySequence("F1")},
        {"menu", group, QObject::tr("Menu"), QKeySequence("F10")},
        {"preferences", group, QObject::tr("Preferences"), QKeySequence("Ctrl+,")},
    };
}

}  // namespace

QList<KeyEntry> keyTable() {
    return fileKeys() + correctionKeys() + viewKeys() + maskKeys() + brushKeys() + windowKeys();
}

QKeySequence keyOf(const QString& id) {
    const QVariant chosen = QSettings().value(settingsKey(id));
    if (chosen.isValid()) return QKeySequence(chosen.toString(), QKeySequence::PortableText);
    for (const KeyEntry& entry : keyTable()) {
        if (entry.id == id) return entry.standard;
    }
    return {};
}

QString keyText(const QString& id) {
    return keyOf(id).toString(QKeySequence::NativeText);
}

QString withKey(const QString& tip, const QString& id) {
    const QString key = keyText(id);
    return key.isEmpty() ? tip : QObject::tr("%1 (%2)").arg(tip, key);
}

static void showKeyTip(QWidget* control) {
    QString tip = control->property("keyTip").toString();
    for (const QString& id : control->property("keyTipIds").toStringList()) tip = tip.arg(keyText(id));
    control->setToolTip(tip);
}

void setKeyTip(QWidget* control, const QString& tip, const QStringList& ids) {
    control->setProperty("keyTip", tip);
    control->setProperty("keyTipIds", ids);
    showKeyTip(control);
}

void refreshKeyTips(QWidget* window) {
    for (QWidget* control : window->findChildren<QWidget*>()) {
        if (control->property("keyTip").isValid()) showKeyTip(control);
    }
}

void chooseKey(const QString& id, const QKeySequence& key) {
    for (const KeyEntry& entry : keyTable()) {
        if (entry.id != id) continue;
        key == entry.standard ? QSettings().remove(settingsKey(id))
                              : QSettings().setValue(settingsKey(id), key.toString(QKeySequence::PortableText));
    }
}

void forgetChosenKeys() {
    QSettings().remove("keys");
}

QList<KeyEntry> clashesOf(const QString& id, const QKeySequence& key) {
    QList<KeyEntry> clashes;
    for (const KeyEntry& entry : keyTable()) {
        if (entry.id != id && !key.isEmpty() && keyOf(entry.id) == key) clashes.append(entry);
    }
    return clashes;
}

}  // namespace dimhem::ui
