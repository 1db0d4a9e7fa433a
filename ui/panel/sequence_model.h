// The sequence as a list: the photo, the corrections in the order in which they act, and the result.
#pragma once

#include <QAbstractListModel>

#include "ui/session/small_pictures.h"

namespace dimhem::ui {

class SequenceModel final : public QAbstractListModel {
    Q_OBJECT

public:
    // bracketRole: bits of whether a bracket stands over the card, and goes on to the left and to the right.
    // isUnderOffRole: whether that bracket is off. pairRole: -1 or 1 where the card beside it, on the left or the
    // right, is its counterpart; else 0.
    enum Role { detailRole = Qt::UserRole, threadRole, isWorkedOnRole, pairRole, bracketRole, isUnderOffRole };

    SequenceModel(Session& session, const SmallPictures& pictures, QObject* parent);

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;  // name, and on or off
    Qt::ItemFlags flags(const QModelIndex& index) const override;

    document::Id idOf(int row) const;  // 0: the photo or the result
    int rowOf(document::Id id) const;  // 0: the photo's, also where there is none of that id
    QList<document::Id> idsOf(const QList<int>& rows) const;

    void refresh();  // what there is, and how it is

private:
public:
    enum BracketBit { underOne = 1, fromLeft = 2, toRight = 4 };

private:
    const document::Correction* correctionAt(int row) const;
    const document::Correction* otherOf(const document::Correction* correction) const;  // of a pair
    int bracketAt(int row) const;
    QString tipOf(const document::Correction* correction, const QString& name) const;

    Session& session_;
    const SmallPictures& pictures_;
    bool isOpen_ = false;
    QList<document::Id> ids_;  // of the corrections
};

}  // namespace dimhem::ui
