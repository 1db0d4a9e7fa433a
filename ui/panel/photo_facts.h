// What is shown with the photo itself selected: its facts, and for a photo with transparency its backdrop.
#pragma once

#include <QWidget>

#include "ui/session/session.h"

class QVBoxLayout;

namespace dimhem::ui {

class Segmented;

class PhotoFacts final : public QWidget {
    Q_OBJECT

public:
    PhotoFacts(Session& session, QWidget* parent);  // needs an open photo
    void refresh();

private:
    void addFact(QVBoxLayout* layout, const QString& name, const QString& value);
    void addBackdrop(QVBoxLayout* layout);
    void chooseBackdrop(int kind);
    void chooseColour();
    void choosePicture();

    Session& session_;
    Segmented* backdrop_ = nullptr;  // null: the photo has no transparency
};

}  // namespace dimhem::ui
