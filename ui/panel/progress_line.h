// A thin line under the top bar: there while something is still being worked out; as long as the work is done where
// that is known, else running to and fro.
#pragma once

#include <QTimer>
#include <QWidget>
#include <optional>

namespace dimhem::ui {

class ProgressLine final : public QWidget {
    Q_OBJECT

public:
    explicit ProgressLine(QWidget* parent);
    void setRunning(bool running);
    void setPart(std::optional<double> part);  // 0..1

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QTimer late_;  // short work shows nothing
    QTimer tick_;
    std::optional<double> part_;
    bool shown_ = false;
    int phase_ = 0;
};

}  // namespace dimhem::ui
