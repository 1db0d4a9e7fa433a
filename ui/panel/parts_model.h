// The parts of the selected correction's mask as a list, in the order in which they combine. What is done to a part
// that is one of several selected is done to all of them.
#pragma once

#include <QAbstractListModel>

#include "ui/session/small_pictures.h"

namespace dimhem::ui {

class PartsModel final : public QAbstractListModel {
    Q_OBJECT

public:
    // combineRole: mask::Combine as a number; flippedRole: whether it is inverted; both can be set, but of a zone.
    enum Role { combineRole = Qt::UserRole, flippedRole, isZoneRole, isWorkedOnRole, kindRole };

    PartsModel(Session& session, const SmallPictures& pictures, QObject* parent);

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;

    mask::PartId idOf(int row) const;  // 0: none there
    int rowOf(mask::PartId id) const;  // -1: none of that id
    QList<mask::PartId> idsOf(const QList<int>& rows) const;
    void refresh();

private:
    const mask::Part* partAt(int row) const;
    void change(const QString& stepName, const QList<mask::PartId>& ids,
                const std::function<void(mask::Part&)>& change);

    Session& session_;
    const SmallPictures& pictures_;
    document::Id correction_ = 0;
    QList<mask::PartId> ids_;
};

struct CombineChoice {
    mask::Combine combine;
    const char* icon;
    QString label, tip;
};
QList<CombineChoice> combineChoices();

}  // namespace dimhem::ui
