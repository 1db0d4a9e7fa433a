#include "ui/panel/note_words.h"

#include <QObject>

#include "ui/text/words.h"

namespace dimhem::ui {

using document::NoteKind;

namespace {

QString nameOf(const document::Document& document, document::Id id) {
    const document::Correction* correction = document::findCorrection(document, id);
    return correction ? QString::fromStdString(correction->name) : QString();
}

QString adjustmentName(const document::Document& document, const task::Note& note) {
    const document::Correction* correction = document::findCorrection(document, note.correction);
    const document::AdjustmentUse* use = correction ? document::findAdjustment(*correction, note.other) : nullptr;
    return use ? words(use->kind->label) : QString();
}

QString number(double value) {
    return QString::number(value, 'f', value < 9.95 ? 1 : 0);
}

}  // namespace

QString noteText(const task::Note& note, const document::Document& document) {
    const QString name = nameOf(document, note.correction), amount = number(note.amount), before = number(note.before);
    switch (note.kind) {
        case NoteKind::clipped: return QObject::tr("%1: %2 % newly clipped").arg(name, amount);
        case NoteKind::blocked: return QObject::tr("%1: %2 % newly blocked").arg(name, amount);
        case NoteKind::outside: return QObject::tr("%1: %2 % too strong for the profile").arg(name, amount);
        case NoteKind::greyed: return QObject::tr("%1: turned grey, chroma %2 to %3").arg(name, before, amount);
        case NoteKind::overshot: return QObject::tr("%1: past neutral by %2, from %3").arg(name, amount, before);
        case NoteKind::beyondPrint: return QObject::tr("%1: %2 % too strong to print").arg(name, amount);
        case NoteKind::opposed:
            return QObject::tr("%1 against %2: %3 % of the weaker is lost")
                .arg(name, nameOf(document, note.other), amount);
        case NoteKind::emptyMask: return QObject::tr("%1: the mask covers nothing").arg(name);
        case NoteKind::fullMask: return QObject::tr("%1: the mask covers everything").arg(name);
        case NoteKind::movedMask: return QObject::tr("%1: %2 % of the mask has moved").arg(name, amount);
        case NoteKind::noEffect: return QObject::tr("%1: %2 changes nothing").arg(name, adjustmentName(document, note));
        case NoteKind::noise: return QObject::tr("%1: noise %2 to %3 levels").arg(name, before, amount);
        case NoteKind::seam: return QObject::tr("%1: a seam along %2 % of its edge").arg(name, amount);
    }
    return {};
}

QString noteTip(NoteKind kind) {
    switch (kind) {
        case NoteKind::clipped:
            return QObject::tr("Of the masked area: bright detail that was there before is white now.");
        case NoteKind::blocked:
            return QObject::tr("Of the masked area: dark detail that was there before is black now.");
        case NoteKind::outside:
            return QObject::tr("Of the masked area: colours that the profile of the exported file cannot hold.");
        case NoteKind::greyed:
            return QObject::tr("No colour is left. Teeth, keys and eye whites look false without a touch of it.");
        case NoteKind::overshot: return QObject::tr("The cast has become its opposite.");
        case NoteKind::beyondPrint:
            return QObject::tr("Of the masked area: colours beyond about what four inks on coated paper can show.");
        case NoteKind::opposed:
            return QObject::tr("Where both act, one takes away what the other does. Perhaps less of both will do.");
        case NoteKind::emptyMask: return QObject::tr("The correction is on and does nothing.");
        case NoteKind::fullMask: return QObject::tr("All of the photo is corrected, though the mask has parts.");
        case NoteKind::movedMask:
            return QObject::tr(
                "Its ranges look at the picture as it arrives, and corrections before it have changed "
                "that. Have them look at the photo, or look at the mask again.");
        case NoteKind::noEffect: return QObject::tr("It is set, but nothing under the mask is what it acts on.");
        case NoteKind::noise: return QObject::tr("Lifting the tones has lifted the noise with them.");
        case NoteKind::seam:
            return QObject::tr(
                "Its effect ends in a step where the photo is smooth: feather the mask, or find an edge.");
    }
    return {};
}

}  // namespace dimhem::ui
