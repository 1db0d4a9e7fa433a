#include "ui/panel/parts_model.h"

#include "ui/session/several.h"
#include "ui/text/words.h"

namespace dimhem::ui {

QList<CombineChoice> combineChoices() {
    return {{mask::Combine::add, "squares-unite", QObject::tr("Add"), QObject::tr("Adds to the parts above it")},
            {mask::Combine::subtract, "squares-subtract", QObject::tr("Subtract"),
             QObject::tr("Takes away from the parts above it")},
            {mask::Combine::overlap, "squares-intersect", QObject::tr("Overlap"),
             QObject::tr("Keeps what the parts above it share with it")}};
}

PartsModel::PartsModel(Session& session, const SmallPictures& pictures, QObject* parent)
    : QAbstractListModel(parent), session_(session), pictures_(pictures) {}

int PartsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(ids_.size());
}

mask::PartId PartsModel::idOf(int row) const {
    return row >= 0 && row < ids_.size() ? ids_[row] : 0;
}

int PartsModel::rowOf(mask::PartId id) const {
    return static_cast<int>(ids_.indexOf(id));
}

QList<mask::PartId> PartsModel::idsOf(const QList<int>& rows) const {
    QList<mask::PartId> ids;
    for (const int row : rows) {
        if (idOf(row)) ids.append(idOf(row));
    }
    return ids;
}

const mask::Part* PartsModel::partAt(int row) const {
    const document::Correction* correction =
        session_.isOpen() ? document::findCorrection(*session_.document(), correction_) : nullptr;
    return correction ? mask::findPart(correction->mask, idOf(row)) : nullptr;
}

QVariant PartsModel::data(const QModelIndex& index, int role) const {
    const mask::Part* part = partAt(index.row());
    if (!part) return {};
    const QString name = QString::fromStdString(part->name);
    const CombineChoice combine = combineChoices()[static_cast<int>(part->combine)];
    switch (role) {
        case Qt::DisplayRole:
        case Qt::EditRole: return name;
        case Qt::AccessibleTextRole:
            return tr("%1, %2, %3")
                .arg(part->limit ? tr("%1 kept to a range").arg(name) : name, combine.label,
                     part->enabled ? tr("on") : tr("off"));
        case Qt::CheckStateRole: return part->enabled ? Qt::Checked : Qt::Unchecked;
        case Qt::DecorationRole: return pictures_.pictures().parts.value(part->id);
        case Qt::ToolTipRole:
            return tr("%1\nPoint at it to see it alone; double click to rename, drag to reorder; Delete removes it. "
                      "Ctrl or "
                      "Shift and a click select several.")
                .arg(name);
        case combineRole: return static_cast<int>(part->combine);
        case flippedRole: return part->flipped;
        case isZoneRole: return part->shape->isZone();
        case kindRole: return words(part->shape->kind().label);
        case isWorkedOnRole: return part->id == session_.selectedPart();
        default: return {};
    }
}

void PartsModel::change(const QString& stepName, const QList<mask::PartId>& ids,
                        const std::function<void(mask::Part&)>& change) {
    session_.edit(stepName, [&](const document::Document& d) { return withEachPart(d, correction_, ids, change); });
}

bool PartsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const mask::Part* part = partAt(index.row());
    if (!part) return false;
    const QList<mask::PartId> all = togetherWithPart(session_, part->id);
    switch (role) {
        case Qt::EditRole: {
            const std::string name = value.toString().trimmed().toStdString();
            if (name.empty()) return false;
            change(tr("rename part"), {part->id}, [&](mask::Part& p) { p.name = name; });
            return true;
        }
        case Qt::CheckStateRole: {
            const bool on = value.toInt() == Qt::Checked;
            change(on ? tr("switch part on") : tr("switch part off"), all, [on](mask::Part& p) { p.enabled = on; });
            return true;
        }
        case combineRole: {
            const auto combine = static_cast<mask::Combine>(value.toInt());
            change(tr("change how part combines"), all, [combine](mask::Part& p) {
                if (!p.shape->isZone()) p.combine = combine;
            });
            return true;
        }
        case flippedRole: {
            const bool flipped = value.toBool();
            change(tr("invert part"), all, [flipped](mask::Part& p) {
                if (!p.shape->isZone()) p.flipped = flipped;
            });
            return true;
        }
        default: return false;
    }
}

Qt::ItemFlags PartsModel::flags(const QModelIndex& index) const {
    if (!index.isValid()) return Qt::NoItemFlags;
    return Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsUserCheckable |
           Qt::ItemIsDragEnabled | Qt::ItemNeverHasChildren;
}

void PartsModel::refresh() {
    QList<mask::PartId> now;
    if (const document::Correction* correction = session_.correction()) {
        for (const mask::PartPtr& part : correction->mask.parts) now.append(part->id);
    }
    const document::Id correction = session_.correction() ? session_.correction()->id : 0;
    // Rows that stay are not built anew: one may be in the middle of a double click, or of being named.
    if (now == ids_ && correction == correction_) {
        if (!ids_.isEmpty()) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, 0));
        return;
    }
    beginResetModel();
    ids_ = now;
    correction_ = correction;
    endResetModel();
}

}  // namespace dimhem::ui
