#include "ui/panel/sequence_model.h"

#include <cstdlib>

#include "core/document/pair.h"
#include "ui/control/theme.h"
#include "ui/session/key_table.h"
#include "ui/session/several.h"

namespace dimhem::ui {

SequenceModel::SequenceModel(Session& session, const SmallPictures& pictures, QObject* parent)
    : QAbstractListModel(parent), session_(session), pictures_(pictures) {}

int SequenceModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() || !isOpen_ ? 0 : static_cast<int>(ids_.size()) + 2;
}

document::Id SequenceModel::idOf(int row) const {
    return row > 0 && row <= ids_.size() ? ids_[row - 1] : 0;
}

int SequenceModel::rowOf(document::Id id) const {
    return static_cast<int>(ids_.indexOf(id)) + 1;
}

QList<document::Id> SequenceModel::idsOf(const QList<int>& rows) const {
    QList<document::Id> ids;
    for (const int row : rows) {
        if (idOf(row)) ids.append(idOf(row));
    }
    return ids;
}

const document::Correction* SequenceModel::correctionAt(int row) const {
    const document::Id id = idOf(row);
    return id && session_.isOpen() ? document::findCorrection(*session_.document(), id) : nullptr;
}

QVariant SequenceModel::data(const QModelIndex& index, int role) const {
    if (!session_.isOpen() || index.row() >= rowCount()) return {};
    const document::Correction* correction = correctionAt(index.row());
    const bool isPhoto = index.row() == 0;
    const QString name = correction ? QString::fromStdString(correction->name) : isPhoto ? tr("Photo") : tr("Result");
    switch (role) {
        case Qt::DisplayRole:
        case Qt::EditRole: return name;
        case Qt::AccessibleTextRole:
            if (!correction) return name;
            return correction->enabled ? tr("%1, on").arg(name) : tr("%1, off").arg(name);
        case Qt::CheckStateRole:
            if (!correction) return {};
            return correction->enabled ? Qt::Checked : Qt::Unchecked;
        case Qt::DecorationRole: {
            const PictureSet& set = pictures_.pictures();
            return correction ? set.corrections.value(correction->id) : isPhoto ? set.photo : set.result;
        }
        case Qt::ToolTipRole: return tipOf(correction, name);
        case detailRole: {
            if (correction && !pictures_.pictures().corrections.contains(correction->id)) return tr("finding…");
            if (correction) return tr("%1 %").arg(correction->strengthPct, 0, 'f', 0);
            const base::Size size = session_.renderer().photo().size();
            return isPhoto ? tr("%1 × %2").arg(size.width).arg(size.height) : QString();
        }
        case threadRole: return correction ? threadColour(correction->threadColour) : QColor();
        case isWorkedOnRole:
            return correction ? correction->id == session_.selectedCorrection()
                              : isPhoto && session_.selectedCorrection() == 0;
        case bracketRole: return bracketAt(index.row());
        case isUnderOffRole: {
            const document::Bracket* bracket =
                correction ? document::bracketOf(*session_.document(), *correction) : nullptr;
            return bracket && !bracket->enabled;
        }
        case pairRole: {
            const document::Correction* other = otherOf(correction);
            const int way = other ? rowOf(other->id) - index.row() : 0;
            return std::abs(way) == 1 ? way : 0;
        }
        default: return {};
    }
}

int SequenceModel::bracketAt(int row) const {
    const auto bracketOf = [this](int at) {
        const document::Correction* correction = correctionAt(at);
        return correction ? document::bracketOf(*session_.document(), *correction) : nullptr;
    };
    const document::Bracket* own = bracketOf(row);
    if (!own) return 0;
    return underOne | (bracketOf(row - 1) == own ? fromLeft : 0) | (bracketOf(row + 1) == own ? toRight : 0);
}

const document::Correction* SequenceModel::otherOf(const document::Correction* correction) const {
    const document::Id other = correction ? document::otherOfPair(*session_.document(), correction->id) : 0;
    return other ? document::findCorrection(*session_.document(), other) : nullptr;
}

QString SequenceModel::tipOf(const document::Correction* correction, const QString& name) const {
    if (!correction) return name;
    const QString tip = tr("%1\nDouble click to rename, drag to reorder or onto another card to put its effect or its "
                           "mask there, Delete to remove; the switch is also on %2. Ctrl or Shift and "
                           "a click select several.")
                            .arg(name, keyText("on-off"));
    const document::Correction* other = otherOf(correction);
    return other ? tr("%1\nA pair with %2: Alt and the brush paints into that one, and what one gains the other loses.")
                       .arg(tip, QString::fromStdString(other->name))
                 : tip;
}

bool SequenceModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const document::Id id = idOf(index.row());
    if (!id) return false;
    if (role == Qt::EditRole) {
        const std::string name = value.toString().trimmed().toStdString();
        if (name.empty()) return false;
        session_.edit(tr("rename correction"), [&](const document::Document& d) {
            return document::withCorrection(d, id, [&](document::Correction& c) {
                c.name = name;
                c.nameGiven = true;
            });
        });
        return true;
    }
    if (role != Qt::CheckStateRole) return false;
    const bool on = value.toInt() == Qt::Checked;
    session_.edit(on ? tr("switch correction on") : tr("switch correction off"), [&](const document::Document& d) {
        return withEach(d, togetherWith(session_, id), [on](document::Correction& c) { c.enabled = on; });
    });
    return true;
}

Qt::ItemFlags SequenceModel::flags(const QModelIndex& index) const {
    const auto item = Qt::ItemIsEnabled | Qt::ItemNeverHasChildren;
    if (idOf(index.row()))
        return item | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsUserCheckable | Qt::ItemIsDragEnabled;
    return index.row() == 0 ? item | Qt::ItemIsSelectable : item;
}

void SequenceModel::refresh() {
    QList<document::Id> now;
    if (session_.isOpen()) {
        for (const auto& correction : session_.document()->corrections) now.append(correction->id);
    }
    // Rows that stay are not built anew: one may be in the middle of a double click, or of being named.
    if (now == ids_ && session_.isOpen() == isOpen_) {
        if (isOpen_) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, 0));
        return;
    }
    beginResetModel();
    ids_ = now;
    isOpen_ = session_.isOpen();
    endResetModel();
}

}  // namespace dimhem::ui
