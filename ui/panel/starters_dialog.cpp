#include "ui/panel/starters_dialog.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QLabel>
#include <QListWidget>
#include <QMimeData>
#include <QPointer>
#include <QPushButton>
#include <QVBoxLayout>

#include "core/task/kept_files.h"
#include "ui/session/starter_set.h"

namespace dimhem::ui {

namespace {

// What is dragged from it is the starter's own text: onto a card, or into an editor.
class StarterList final : public QListWidget {
public:
    using QListWidget::QListWidget;

protected:
    QStringList mimeTypes() const override { return {"text/plain"}; }
    QMimeData* mimeData(const QList<QListWidgetItem*>& items) const override {
        const auto starter = items.isEmpty()
                                 ? base::Result<document::Starter>(tl::unexpected(base::Error{}))
                                 : task::readStarter(items.front()->data(Qt::UserRole).toString().toStdString());
        if (!starter) return nullptr;
        auto* data = new QMimeData;
        data->setText(QString::fromStdString(document::toJsonText(*starter)));
        return data;
    }
};

}  // namespace

StartersDialog::StartersDialog(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), list_(new StarterList(this)) {
    setWindowTitle(tr("Starters"));
    resize(380, 320);
    list_->setAccessibleName(tr("Starters"));
    list_->setToolTip(
        tr("Drag one onto a card to put its effect or its mask there; F2 or a double click renames your own"));
    list_->setDragDropMode(QAbstractItemView::DragOnly);
    connect(list_, &QListWidget::currentRowChanged, this, &StartersDialog::refreshButtons);
    list_->setObjectName("own-starters");
    connect(list_, &QListWidget::itemChanged, this, &StartersDialog::rename);
    auto* buttons = new QDialogButtonBox(this);
    delete_ = buttons->addButton(tr("Delete"), QDialogButtonBox::ActionRole);
    auto* import = buttons->addButton(tr("Import…"), QDialogButtonBox::ActionRole);
    export_ = buttons->addButton(tr("Export…"), QDialogButtonBox::ActionRole);
    buttons->addButton(QDialogButtonBox::Close);
    delete_->setObjectName("delete-starter");
    delete_->setToolTip(tr("Delete the selected starter; it can be put back at once"));
    import->setToolTip(tr("Add a starter from a file"));
    export_->setToolTip(tr("Write the selected starter to a file, for another machine or person"));
    connect(delete_, &QAbstractButton::clicked, this, &StartersDialog::removeSelected);
    connect(import, &QAbstractButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Import a starter"), {}, tr("Starters (*.json)"));
        if (!path.isEmpty()) importFrom(path);
    });
    connect(export_, &QAbstractButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Export the starter"), list_->currentItem()->text() + ".json", tr("Starters (*.json)"));
        if (!path.isEmpty()) exportTo(path);
    });
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
    auto* layout = new QVBoxLayout(this);
    auto* hint =
        new QLabel(tr("Drag one onto a card. Your own, which come first, are saved from New, Starters."), this);
    hint->setWordWrap(true);
    hint->setProperty("quiet", true);
    layout->addWidget(hint);
    layout->addWidget(list_);
    layout->addWidget(buttons);
    refresh();
}

void StartersDialog::refresh() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    list(ownStartersFolder(), true);
    list(shippedStartersFolder(), false);
    if (list_->count() > 0) list_->setCurrentRow(0);
    refreshButtons();
}

void StartersDialog::list(const std::filesystem::path& folder, bool areOwn) {
    for (const task::StarterFile& file : task::startersIn(folder)) {
        auto* item = new QListWidgetItem(QString::fromStdString(file.starter.name), list_);
        item->setFlags(item->flags().setFlag(Qt::ItemIsEditable, areOwn));
        item->setData(Qt::UserRole, QString::fromStdString(file.path.string()));
        item->setToolTip(QString::fromStdString(file.starter.about));
    }
}

void StartersDialog::refreshButtons() {
    const QListWidgetItem* item = list_->currentItem();
    delete_->setEnabled(item && item->flags() & Qt::ItemIsEditable);
    export_->setEnabled(item);
}

QString StartersDialog::selectedPath() const {
    return list_->currentItem() ? list_->currentItem()->data(Qt::UserRole).toString() : QString();
}

void StartersDialog::say(const base::Error& error) {
    session_.warn(error);
}

void StartersDialog::rename(const QListWidgetItem* item) {
    const std::string path = item->data(Qt::UserRole).toString().toStdString();
    auto starter = task::readStarter(path);
    if (starter && !item->text().trimmed().isEmpty()) {
        starter->name = item->text().trimmed().toStdString();
        if (const auto written = task::writeStarter(path, *starter, {}); !written) say(written.error());
    }
    QMetaObject::invokeMethod(this, &StartersDialog::refresh, Qt::QueuedConnection);
}

void StartersDialog::removeSelected() {
    const std::filesystem::path path = selectedPath().toStdString();
    const auto starter = task::readStarter(path);
    if (const auto removed = task::removeStarter(path); !removed) {
        say(removed.error());
        return;
    }
    if (starter) {
        session_.say(tr("The starter \u201c%1\u201d is deleted.").arg(QString::fromStdString(starter->name)),
                     tr("Put it back"), [path, starter = *starter, &session = session_, dialog = QPointer(this)] {
                         const auto back = task::writeStarter(path, starter, {});
                         if (!back) session.warn(back.error());
                         if (dialog) dialog->refresh();
                     });
    }
    refresh();
}

void StartersDialog::importFrom(const QString& path) {
    const auto starter = task::readStarter(path.toStdString());
    if (!starter) {
        say(starter.error());
        return;
    }
    if (const auto added = task::addStarter(ownStartersFolder(), *starter); !added) say(added.error());
    refresh();
}

void StartersDialog::exportTo(const QString& path) {
    const auto starter = task::readStarter(selectedPath().toStdString());
    if (!starter) {
        say(starter.error());
        return;
    }
    const io::WriteRules rules =
        session_.isOpen() ? task::exportRules(session_.origin(), *session_.document(), false) : io::WriteRules{};
    if (const auto written = task::writeStarter(path.toStdString(), *starter, rules); !written) say(written.error());
}

}  // namespace dimhem::ui
