// The small pictures of cards and parts, made in the background after each step and kept until the next are ready.
#pragma once

#include <QHash>
#include <QImage>
#include <QObject>

#include "ui/session/watch.h"

namespace dimhem::ui {

struct PictureSet {
    QImage photo, result;
    QHash<document::Id, QImage> corrections;  // the masked area alone, on grey
    QHash<mask::PartId, QImage> parts;        // of the selected correction: coverage, black to white
};

class SmallPictures final : public QObject {
    Q_OBJECT

public:
    explicit SmallPictures(Session& session, QObject* parent = nullptr);
    const PictureSet& pictures() const { return pictures_; }
    bool isUpToDate() const { return watch_.isUpToDate(); }

Q_SIGNALS:
    void changed();

private:
    void start();
    void takeSome(const PictureSet& set, quint64 opening);

    Session& session_;
    quint64 opening_ = 0;  // the document they are of
    PictureSet pictures_;
    Watch watch_;
};

}  // namespace dimhem::ui
