// Text at the right of what room there is: the longest of its wordings that fits.
#pragma once

#include <QStringList>
#include <QWidget>

namespace dimhem::ui {

class Readout final : public QWidget {
    Q_OBJECT

public:
    explicit Readout(QWidget* parent);
    void setWordings(const QStringList& longestFirst);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QStringList wordings_;
};

}  // namespace dimhem::ui
