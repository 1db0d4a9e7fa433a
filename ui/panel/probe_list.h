// The probes: what each place measured before and now, and how far two of them lie apart.
#pragma once

#include <QWidget>

#include "ui/session/probe_watch.h"

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace dimhem::ui {

class Fold;
class Segmented;

class ProbeList final : public QWidget {
    Q_OBJECT

public:
    ProbeList(Session& session, ProbeWatch& probes, QWidget* parent);

private:
    struct Row {
        QLabel *before, *after;
    };
    void rebuild();
    void refresh();
    QWidget* rowOf(std::size_t index);
    QWidget* sizeChoice(std::size_t index, QWidget* parent);
    void addPair(QVBoxLayout* layout);
    void askForArea();
    void change(std::size_t index, const QString& step, const std::function<void(document::Probe&)>& change);
    void refreshPair();

    Session& session_;
    ProbeWatch& probes_;
    Fold* fold_;
    class QScrollArea* scroll_;
    QWidget* list_ = nullptr;
    QList<Row> rows_;
    std::vector<document::Probe> built_;
    QComboBox *one_ = nullptr, *other_ = nullptr;  // of the pair
    QLabel* apart_ = nullptr;
    std::size_t chosen_[2] = {0, 1};
};

// A colour in the terms chosen.
QString probeWords(const task::ProbeColour& colour);

}  // namespace dimhem::ui
