#include "ui/control/choice_sheet.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QScreen>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

enum Role { idRole = Qt::UserRole, lineRole, keyRole, pictureRole, wordsRole };

bool isHead(const QModelIndex& index) {
    return index.data(idRole).toString().isEmpty();
}

class ChoiceDelegate final : public QStyledItemDelegate {
public:
    ChoiceDelegate(bool pictures, QObject* parent) : QStyledItemDelegate(parent), pictures_(pictures) {}

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const int line = QFontMetrics(option.font).height();
        const int wide = theme::scaled(pictures_ ? 78 : 46) +
                         QFontMetrics(option.font).horizontalAdvance(index.data(lineRole).toString());
        return {wide, isHead(index) ? line + theme::scaled(10) : 2 * line + theme::scaled(11)};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        painter->save();
        isHead(index) ? paintHead(*painter, option, index) : paintChoice(*painter, option, index);
        painter->restore();
    }

private:
    static void paintHead(QPainter& painter, const QStyleOptionViewItem& option, const QModelIndex& index) {
        painter.setPen(QColor(theme::quiet));
        painter.drawText(option.rect.adjusted(theme::scaled(8), 0, 0, -theme::scaled(3)), Qt::AlignBottom,
                         index.data(Qt::DisplayRole).toString());
    }

    void paintChoice(QPainter& painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
        if (option.state & QStyle::State_Selected) painter.fillRect(option.rect, QColor(0x44, 0x44, 0x44));
        const int edge = theme::scaled(8), line = QFontMetrics(option.font).height();
        const QRect left(option.rect.x() + edge, option.rect.y() + theme::scaled(5), theme::scaled(pictures_ ? 54 : 22),
                         option.rect.height() - theme::scaled(10));
        paintPicture(painter, left, index);
        const QRect text(left.right() + edge, option.rect.y() + theme::scaled(5),
                         option.rect.right() - left.right() - 2 * edge, line);
        const QString key = index.data(keyRole).toString();
        painter.setPen(QColor(theme::quiet));
        painter.drawText(text, Qt::AlignRight | Qt::AlignVCenter, key);
        const QRect below = text.translated(0, line + 1);
        painter.drawText(
            below, Qt::AlignVCenter,
            QFontMetrics(option.font).elidedText(index.data(lineRole).toString(), Qt::ElideRight, below.width()));
        painter.setPen(QColor(theme::text));
        painter.drawText(text, Qt::AlignVCenter, index.data(Qt::DisplayRole).toString());
    }

    static void paintPicture(QPainter& painter, const QRect& at, const QModelIndex& index) {
        const QImage picture = index.data(pictureRole).value<QImage>();
        if (!picture.isNull()) {
            const QSize shown = picture.size().scaled(at.size(), Qt::KeepAspectRatio);
            QRect place(QPoint(), shown);
            place.moveCenter(at.center());
            painter.setRenderHint(QPainter::SmoothPixmapTransform);
            painter.drawImage(place, picture);
            return;
        }
        const int side = theme::scaled(18);
        QRect place(0, 0, side, side);
        place.moveCenter(at.center());
        index.data(Qt::DecorationRole).value<QIcon>().paint(&painter, place);
    }

    bool pictures_;
};

}  // namespace

ChoiceSheet::ChoiceSheet(const QString& title, const QList<Choice>& choices, bool pictures, QWidget* parent)
    : QFrame(parent, Qt::Popup), search_(new QLineEdit(this)), list_(new QListWidget(this)) {
    setFrameShape(QFrame::Box);
    setAttribute(Qt::WA_DeleteOnClose);
    setAccessibleName(title);
    search_->setPlaceholderText(tr("%1: type to find").arg(title));
    search_->setAccessibleName(tr("Find among: %1").arg(title));
    search_->setObjectName("find-choice");
    search_->installEventFilter(this);
    list_->setObjectName("choices");
    list_->setAccessibleName(title);
    list_->setItemDelegate(new ChoiceDelegate(pictures, list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setMouseTracking(true);
    list_->setFocusPolicy(Qt::NoFocus);
    QString group;
    for (const Choice& choice : choices) {
        if (choice.group != group) {
            group = choice.group;
            auto* head = new QListWidgetItem(group, list_);
            head->setFlags(Qt::NoItemFlags);
        }
        auto* item = new QListWidgetItem(choice.icon, choice.name, list_);
        item->setData(idRole, choice.id);
        item->setData(lineRole, choice.line);
        item->setData(keyRole, choice.key);
        item->setData(wordsRole, choice.group + " " + choice.name + " " + choice.line);
        item->setToolTip(choice.line);
        item->setData(Qt::AccessibleTextRole, choice.name + ", " + choice.line);
    }
    connect(list_, &QListWidget::itemClicked, this, &ChoiceSheet::choose);
    connect(list_, &QListWidget::itemEntered, list_, [this](QListWidgetItem* item) { list_->setCurrentItem(item); });
    connect(search_, &QLineEdit::textChanged, this, &ChoiceSheet::narrow);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(4, 4, 4, 4);
    layout->setSpacing(4);
    layout->addWidget(search_);
    layout->addWidget(list_);
    narrow({});
}

void ChoiceSheet::setPicture(const QString& id, const QImage& picture) {
    for (int row = 0; row < list_->count(); ++row) {
        if (list_->item(row)->data(idRole).toString() == id) list_->item(row)->setData(pictureRole, picture);
    }
}

// As tall as all of it where there is room; on the side of the opener where there is more.
void ChoiceSheet::openBeside(QWidget* opener) {
    int length = 0;
    for (int row = 0; row < list_->count(); ++row) length += list_->sizeHintForRow(row);
    const QRect free = opener->screen()->availableGeometry();
    const QRect at(opener->mapToGlobal(QPoint(0, 0)), opener->size());
    const int below = free.bottom() - at.bottom(), above = at.top() - free.top();
    const int wanted = length + search_->sizeHint().height() + 20,
              height = std::min(wanted, std::max(below, above) - 8);
    const int width =
        std::clamp(list_->sizeHintForColumn(0) + theme::scaled(30), theme::scaled(330), theme::scaled(520));
    const int left = std::clamp(at.left(), free.left() + 4, std::max(free.left() + 4, free.right() - width - 4));
    const int top = height <= below - 4 || below >= above ? at.bottom() + 2 : at.top() - height - 2;
    setGeometry(left, top, width, height);
    show();
    search_->setFocus();
}

// Every word that is typed must be found in its name, its line or its group.
void ChoiceSheet::narrow(const QString& typed) {
    const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
    QListWidgetItem *head = nullptr, *first = nullptr;
    for (int row = 0; row < list_->count(); ++row) {
        QListWidgetItem* item = list_->item(row);
        if (item->data(idRole).toString().isEmpty()) {
            head = item;
            head->setHidden(true);
            continue;
        }
        const QString all = item->data(wordsRole).toString();
        const bool fits =
            std::ranges::all_of(words, [&](const QString& word) { return all.contains(word, Qt::CaseInsensitive); });
        item->setHidden(!fits);
        if (!fits) continue;
        if (head) head->setHidden(false);
        if (!first) first = item;
    }
    list_->setCurrentItem(first);
}

void ChoiceSheet::step(int by) {
    for (int row = list_->currentRow() + by; row >= 0 && row < list_->count(); row += by) {
        QListWidgetItem* item = list_->item(row);
        if (item->isHidden() || !(item->flags() & Qt::ItemIsEnabled)) continue;
        list_->setCurrentItem(item);
        list_->scrollToItem(item);
        return;
    }
}

void ChoiceSheet::choose(QListWidgetItem* item) {
    if (!item || item->isHidden() || item->data(idRole).toString().isEmpty()) return;
    const QString id = item->data(idRole).toString();
    close();
    Q_EMIT chosen(id);
}

bool ChoiceSheet::eventFilter(QObject* object, QEvent* event) {
    if (event->type() != QEvent::KeyPress) return QFrame::eventFilter(object, event);
    switch (static_cast<QKeyEvent*>(event)->key()) {
        case Qt::Key_Down: step(1); return true;
        case Qt::Key_Up: step(-1); return true;
        case Qt::Key_Return:
        case Qt::Key_Enter: choose(list_->currentItem()); return true;
        case Qt::Key_Escape: close(); return true;
        default: return QFrame::eventFilter(object, event);
    }
}

}  // namespace dimhem::ui
