#include "ui/session/clipboard.h"

#include <QApplication>
#include <QClipboard>
#include <QMimeData>
#include <algorithm>

#include "core/document/clip.h"

namespace dimhem::ui {

namespace {

using What = document::Clip::What;

constexpr const char* originFormat = "application/x-dim-hem-origin";

// The photo, and the document as long as it is open: only this program, now, gives the same again.
QByteArray photoOf(const Session& session) {
    return QByteArray::fromStdString(session.document()->photo.sha256);
}

QByteArray originOf(const Session& session) {
    return photoOf(session) + '\n' + QByteArray::number(QApplication::applicationPid()) + ' ' +
           QByteArray::number(session.opening());
}

void copy(Session& session, const document::Clip& clip, const QString& told) {
    auto* data = new QMimeData;
    data->setText(QString::fromStdString(document::toJsonText(clip)));
    data->setData(originFormat, originOf(session));
    QApplication::clipboard()->setMimeData(data);
    session.say(told);
}

document::Clip clipOf(const Session& session, What what) {
    return {what, *session.correction()};
}

QString nameOf(const document::Correction& correction) {
    return QString::fromStdString(correction.name);
}

// What it is called in a step and in a sentence.
QString stepName(What what) {
    switch (what) {
        case What::adjustments: return QObject::tr("paste adjustment");
        case What::parts: return QObject::tr("paste part");
        case What::effect: return QObject::tr("paste effect");
        case What::mask: return QObject::tr("paste mask");
        case What::correction: break;
    }
    return QObject::tr("paste correction");
}

QString toldOf(What what, const QString& on) {
    switch (what) {
        case What::adjustments: return QObject::tr("Added the copied adjustment to %1.").arg(on);
        case What::parts: return QObject::tr("Added the copied part to the mask of %1.").arg(on);
        case What::effect: return QObject::tr("%1 has the copied effect now.").arg(on);
        case What::mask: return QObject::tr("%1 has the copied mask now.").arg(on);
        case What::correction: break;
    }
    return QObject::tr("Added the copied correction.");
}

std::string textIn(const QMimeData* data) {
    return data ? data->text().toStdString() : std::string();
}

// Onto each, or as a new correction.
void put(Session& session, const document::Clip& clip, QList<document::Id> to) {
    bool isFull = false;
    document::Id last = 0;
    session.edit(stepName(clip.what), [&](const document::Document& d) {
        auto next = std::make_shared<const document::Document>(d);
        for (document::Id id : to) {
            if (id == 0 && clip.what != What::correction) {
                const document::Added fresh = document::withNewCorrection(*next, next->corrections.size());
                next = fresh.document;
                id = fresh.id;
            }
            const document::Added added = document::withClip(*next, id, clip);
            isFull = isFull || added.id == 0;
            next = added.document;
            last = added.id;
        }
        return isFull ? std::make_shared<const document::Document>(d) : next;
    });
    if (isFull) return session.sayFull();
    if (to.size() > 1) return session.sayOfStep(toldOf(clip.what, QObject::tr("Each of the selected corrections")));
    session.selectCorrection(last);
    const document::Correction* on = session.correction();
    if (on && clip.what == What::parts) {
        const auto newest = std::ranges::max_element(on->mask.parts, {}, [](const mask::PartPtr& p) { return p->id; });
        session.selectPart((*newest)->id);
    }
    if (on) session.sayOfStep(toldOf(clip.what, nameOf(*on)));
}

}  // namespace

base::Result<document::Clip> clipIn(const Session& session, const QMimeData* data) {
    const std::string text = textIn(data);
    const auto starter = document::starterFromJsonText(text);
    if (starter)
        return document::Clip{What::correction, document::begunFor(*starter, session.renderer().photo().size())};
    const base::ErrorCode why = starter.error().code;
    if (why != base::ErrorCode::unknownFormat && why != base::ErrorCode::damaged)
        return tl::unexpected(starter.error());
    auto clip = document::clipFromJsonText(text);
    if (!clip) return clip;
    const QByteArray origin = data->data(originFormat), photo = photoOf(session);
    if (photo.isEmpty() || !origin.startsWith(photo + '\n')) *clip = document::forAnotherPhoto(std::move(*clip));
    if (origin != originOf(session)) *clip = document::forAnotherDocument(std::move(*clip));
    return clip;
}

void copyEffect(Session& session) {
    if (!session.isOpen() || !session.correction()) return;
    copy(session, clipOf(session, What::effect),
         QObject::tr("Copied the effect of %1.").arg(nameOf(*session.correction())));
}

void copyMask(Session& session) {
    if (!session.isOpen() || !session.correction()) return;
    copy(session, clipOf(session, What::mask),
         QObject::tr("Copied the mask of %1.").arg(nameOf(*session.correction())));
}

void copyParts(Session& session) {
    if (!session.isOpen() || !session.part()) return;
    document::Clip clip = clipOf(session, What::parts);
    const QList<mask::PartId> parts = session.selectedParts();
    std::erase_if(clip.of.mask.parts, [&](const mask::PartPtr& part) { return !parts.contains(part->id); });
    copy(session, clip,
         parts.size() == 1 ? QObject::tr("Copied the part.") : QObject::tr("Copied %1 parts.").arg(parts.size()));
}

void copyAdjustment(Session& session, document::Id adjustment) {
    if (!session.isOpen() || !session.correction()) return;
    document::Clip clip = clipOf(session, What::adjustments);
    std::erase_if(clip.of.adjustments, [&](const document::AdjustmentUse& use) { return use.id != adjustment; });
    if (!clip.of.adjustments.empty()) copy(session, clip, QObject::tr("Copied the adjustment."));
}

void paste(Session& session) {
    if (!session.isOpen()) return;
    const auto clip = clipIn(session, QApplication::clipboard()->mimeData());
    if (!clip) return session.say(QString::fromStdString(clip.error().message));
    const QList<document::Id> selected = session.selectedCorrections();
    const bool isAlone = clip->what == What::correction || selected.isEmpty();
    put(session, *clip, isAlone ? QList{session.selectedCorrection()} : selected);
}

void putOn(Session& session, document::Id correction, document::Clip clip, What what) {
    // What it was chosen for may have gone since.
    if (!session.isOpen()) return;
    if (what != What::correction && !document::findCorrection(*session.document(), correction)) return;
    clip.what = what;
    put(session, clip, {correction});
}

}  // namespace dimhem::ui
