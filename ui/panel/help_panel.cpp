#include "ui/panel/help_panel.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QTextBrowser>
#include <QToolButton>
#include <QUrl>
#include <QVBoxLayout>

#include "ui/control/entry_field.h"
#include "ui/control/icon.h"
#include "ui/control/theme.h"
#include "ui/panel/help_pages.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

constexpr int panelWidth = 320;

QString pageHtml(const HelpPage& page) {
    QString html =
        QString("<p style=\"font-size: 15px; font-weight: 600\">%1</p><p><img src=\":/help/%2.svg\" width=\"280\"></p>")
            .arg(page.title, page.id);
    for (const QString& paragraph : page.text.split('\n')) html += "<p>" + paragraph.toHtmlEscaped() + "</p>";
    return html;
}

QString keyRow(const KeyEntry& entry) {
    const QString use = entry.use == KeyUse::held ? QObject::tr("hold %1") : QObject::tr("%1");
    const QString key = keyText(entry.id);
    return QString("<tr><td style=\"font-weight: 600\">%1</td><td>%2</td><td><a href=\"key:%3\">%4</a></td></tr>")
        .arg(key.isEmpty() ? QObject::tr("none") : use.arg(key.toHtmlEscaped()), entry.words.toHtmlEscaped(), entry.id,
             QObject::tr("Change"));
}

QString keysHtml(const QString& sought) {
    QString html, group;
    for (const KeyEntry& entry : keyTable()) {
        if (!(entry.words + " " + keyText(entry.id)).contains(sought, Qt::CaseInsensitive)) continue;
        if (entry.group != group) {
            html += (group.isEmpty() ? QString() : "</table>") +
                    QString("<p style=\"font-weight: 600\">%1</p><table width=\"100%\" cellpadding=\"2\">")
                        .arg(entry.group);
            group = entry.group;
        }
        html += keyRow(entry);
    }
    if (html.isEmpty()) return {};
    return "<p style=\"font-size: 15px; font-weight: 600\">" + QObject::tr("Keys") + "</p>" + html +
           "</table><p><a href=\"standard:\">" + QObject::tr("Go back to the standard keys") + "</a></p>";
}

}  // namespace

HelpPanel::HelpPanel(QWidget* parent)
    : QWidget(parent), search_(new EntryField({}, this)), text_(new QTextBrowser(this)), chooser_(new QWidget(this)) {
    setFixedWidth(theme::scaled(panelWidth));
    setAccessibleName(tr("Help"));
    search_->setObjectName("help-search");
    search_->setPlaceholderText(tr("Search help and keys"));
    search_->setAccessibleName(search_->placeholderText());
    search_->setToolTip(tr("Shows the pages and keys in which this stands"));
    connect(search_, &EntryField::givenUp, this, &QWidget::hide);
    text_->setObjectName("help-text");
    text_->setAccessibleName(tr("Help pages and keys"));
    text_->setOpenLinks(false);
    text_->setFrameShape(QFrame::NoFrame);
    QToolButton* close = iconButton("x", tr("Close the help"), withKey(tr("Close the help"), "help"), this);
    connect(close, &QAbstractButton::clicked, this, &QWidget::hide);
    auto* top = new QHBoxLayout;
    top->addWidget(search_, 1);
    top->addWidget(close);

    chooserWords_ = new QLabel(chooser_);
    chooserWords_->setWordWrap(true);
    key_ = new QKeySequenceEdit(chooser_);
    key_->setAccessibleName(tr("New key"));
    key_->setToolTip(tr("Press the new key here"));
    clashes_ = new QLabel(chooser_);
    clashes_->setObjectName("key-clashes");
    clashes_->setWordWrap(true);
    auto* set = new QPushButton(tr("Use this key"), chooser_);
    set->setObjectName("use-key");
    set->setToolTip(tr("From now on this key does it"));
    auto* keep = new QPushButton(tr("Cancel"), chooser_);
    keep->setToolTip(tr("Leaves the key as it was"));
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(set);
    buttons->addWidget(keep);
    buttons->addStretch(1);
    auto* rows = new QVBoxLayout(chooser_);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->addWidget(chooserWords_);
    rows->addWidget(key_);
    rows->addWidget(clashes_);
    rows->addLayout(buttons);
    chooser_->hide();

    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->addLayout(top);
    layout->addWidget(text_, 1);
    layout->addWidget(chooser_);
    connect(search_, &QLineEdit::textChanged, this, &HelpPanel::showFound);
    connect(text_, &QTextBrowser::anchorClicked, this, &HelpPanel::follow);
    connect(key_, &QKeySequenceEdit::keySequenceChanged, this, &HelpPanel::showClashes);
    connect(set, &QAbstractButton::clicked, this, &HelpPanel::choose);
    connect(keep, &QAbstractButton::clicked, chooser_, &QWidget::hide);
    hide();
}

void HelpPanel::toggleFor(const QWidget* widget) {
    QString page;
    for (; widget && page.isEmpty(); widget = widget->parentWidget()) page = widget->property("help").toString();
    if (isVisible() && (page.isEmpty() || page == page_)) {
        hide();
        return;
    }
    page_ = page;
    search_->clear();
    showFound();
    show();
    search_->setFocus();
}

// The page asked for comes first; while something is sought, what it stands in.
void HelpPanel::showFound() {
    const QString sought = search_->text().trimmed();
    QString first, others;
    for (const HelpPage& page : helpPages()) {
        if (!(page.title + page.text).contains(sought, Qt::CaseInsensitive)) continue;
        (page.id == page_ ? first : others) += pageHtml(page);
    }
    const QString keys = keysHtml(sought);
    text_->setHtml(first + others + keys);
    if (first.isEmpty() && others.isEmpty() && keys.isEmpty())
        text_->setPlainText(tr("Nothing in the help has \"%1\" in it.").arg(sought));
}

void HelpPanel::follow(const QUrl& link) {
    if (link.scheme() == "standard") {
        forgetChosenKeys();
        showFound();
        Q_EMIT keysChanged();
    } else {
        beginChoosing(link.path());
    }
}

void HelpPanel::beginChoosing(const QString& id) {
    for (const KeyEntry& entry : keyTable()) {
        if (entry.id == id) chooserWords_->setText(tr("New key for: %1").arg(entry.words));
    }
    choosing_ = id;
    key_->clear();
    showClashes();
    chooser_->show();
    key_->setFocus();
}

void HelpPanel::showClashes() {
    QStringList others;
    if (!key_->keySequence().isEmpty()) {
        for (const KeyEntry& entry : clashesOf(choosing_, QKeySequence(key_->keySequence()[0]))) others << entry.words;
    }
    clashes_->setText(others.isEmpty()
                          ? QString()
                          : tr("It is the key of: %1. That would have no key then.").arg(others.join(tr(", "))));
}

void HelpPanel::choose() {
    if (key_->keySequence().isEmpty()) return;
    const QKeySequence key(key_->keySequence()[0]);  // one key, not a series of them
    for (const KeyEntry& entry : clashesOf(choosing_, key)) chooseKey(entry.id, {});
    chooseKey(choosing_, key);
    chooser_->hide();
    const int place = text_->verticalScrollBar()->value();
    showFound();
    text_->verticalScrollBar()->setValue(place);
    Q_EMIT keysChanged();
}

void HelpPanel::keyPressEvent(QKeyEvent* event) {
    event->key() == Qt::Key_Escape ? hide() : QWidget::keyPressEvent(event);
}

void HelpPanel::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), QColor(theme::panel));
}

}  // namespace dimhem::ui
