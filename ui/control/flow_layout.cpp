#include "ui/control/flow_layout.h"

#include <QWidget>
#include <algorithm>

namespace dimhem::ui {

namespace {

bool isThere(const QLayoutItem* item) {
    return !item->widget() || !item->widget()->isHidden();
}

}  // namespace

FlowLayout::FlowLayout(QWidget* parent) : QLayout(parent) {
    setContentsMargins(0, 1, 0, 1);
    setSpacing(4);
}

FlowLayout::~FlowLayout() {
    qDeleteAll(items_);
}

QLayoutItem* FlowLayout::takeAt(int index) {
    return index >= 0 && index < items_.size() ? items_.takeAt(index) : nullptr;
}

int FlowLayout::heightForWidth(int width) const {
    return laidOut({0, 0, width, 0}, false);
}

QSize FlowLayout::sizeHint() const {
    int width = 0;
    for (const QLayoutItem* item : items_) width += isThere(item) ? item->sizeHint().width() + spacing() : 0;
    return {std::max(0, width - spacing()), minimumSize().height()};
}

QSize FlowLayout::minimumSize() const {
    QSize size;
    for (const QLayoutItem* item : items_) {
        if (isThere(item)) size = size.expandedTo(item->minimumSize());
    }
    const QMargins margins = contentsMargins();
    return {size.width() + margins.left() + margins.right(), size.height() + margins.top() + margins.bottom()};
}

void FlowLayout::setGeometry(const QRect& rect) {
    QLayout::setGeometry(rect);
    laidOut(rect, true);
}

int FlowLayout::laidOut(const QRect& rect, bool move) const {
    const QMargins margins = contentsMargins();
    const QRect inner = rect.marginsRemoved(margins);
    int x = inner.x(), y = inner.y(), line = 0;
    for (QLayoutItem* item : items_) {
        if (!isThere(item)) continue;
        const QSize size(std::min(item->sizeHint().width(), inner.width()), item->sizeHint().height());
        if (x > inner.x() && x + size.width() > inner.x() + inner.width()) {
            x = inner.x();
            y += line + spacing();
            line = 0;
        }
        if (move) item->setGeometry({QPoint(x, y), size});
        x += size.width() + spacing();
        line = std::max(line, size.height());
    }
    return y + line + margins.bottom() - rect.y();
}

}  // namespace dimhem::ui
