#include "ui/panel/start_page.h"

#include <QAbstractButton>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "core/io/document_file.h"
#include "ui/control/flow_layout.h"
#include "ui/control/icon.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"
#include "ui/session/demo_set.h"
#include "ui/session/document_jobs.h"
#include "ui/session/key_table.h"

namespace dimhem::ui {

namespace {

constexpr int marginPx = 40;

QImage thumbnailOf(const QString& path) {
    const auto png = io::readThumbnail(path.toStdString());
    return png ? QImage::fromData(png->data(), static_cast<int>(png->size()), "PNG") : QImage();
}

// "Tower dusk" of "tower-dusk".
QString titleOf(QString name) {
    name.replace('-', ' ');
    return name.left(1).toUpper() + name.mid(1);
}

// A card with a picture, a name and one sentence.
class DemoCard final : public QAbstractButton {
public:
    DemoCard(const Demo& demo, Background& background, QWidget* parent) : QAbstractButton(parent), demo_(demo) {
        background.run(
            this, [path = demo.path] { return thumbnailOf(path); },
            [this](const base::Result<QImage>& picture) {
                picture_ = QPixmap::fromImage(picture.value_or(QImage()));
                update();
            });
        setFixedSize(theme::scaled(368), theme::scaled(132));
        setCursor(Qt::PointingHandCursor);
        setAccessibleName(tr("Open the demo photo %1").arg(demo.name));
        setToolTip(demo.path);
        setObjectName("demo-" + demo.name);
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(underMouse() ? theme::raised : theme::panel));
        painter.drawRoundedRect(rect(), 6, 6);
        if (hasFocus()) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(stitchPen(QColor(theme::bright), 1.5));
            painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
        }
        const QRect frame(theme::scaled(12), theme::scaled(12), theme::scaled(162), theme::scaled(108));
        if (!picture_.isNull()) {
            QRect target(QPoint(), picture_.size().scaled(frame.size(), Qt::KeepAspectRatio));
            target.moveCenter(frame.center());
            painter.drawPixmap(target, picture_);
        }
        QFont bold = font();
        bold.setWeight(QFont::DemiBold);
        painter.setFont(bold);
        painter.setPen(QColor(theme::text));
        painter.drawText(QRect(theme::scaled(188), theme::scaled(12), width() - theme::scaled(200), theme::scaled(22)),
                         Qt::AlignVCenter, titleOf(demo_.name));
        painter.setFont(font());
        painter.setPen(QColor(theme::quiet));
        painter.drawText(QRect(theme::scaled(188), theme::scaled(38), width() - theme::scaled(200), theme::scaled(86)),
                         Qt::TextWordWrap, demo_.sentence);
    }

private:
    Demo demo_;
    QPixmap picture_;
};

QLabel* heading(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("quiet", true);
    return label;
}

}  // namespace

StartPage::StartPage(Background& background, QWidget* parent)
    : QWidget(parent), background_(background), scroll_(new QScrollArea(this)) {
    setAcceptDrops(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    // So that many recent files never make the window taller than the screen.
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setWidgetResizable(true);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->viewport()->setAutoFillBackground(false);
    layout->addWidget(scroll_);
    refresh();
}

void StartPage::refresh() {
    auto* page = new QWidget;
    page->setAutoFillBackground(false);
    auto* body = new QWidget(page);
    auto* layout = new QVBoxLayout(body);
    layout->setSpacing(10);
    auto* title = new QLabel("Dim Hem", body);
    QFont large = font();
    large.setPixelSize(26);
    large.setWeight(QFont::DemiBold);
    title->setFont(large);
    layout->addWidget(title);
    layout->addWidget(heading(tr("Correct part of a photo without the correction spilling past its edge."), body));
    layout->addSpacing(10);
    auto* open = new QPushButton(icon("folder-open"), tr("Open photo…"), body);
    open->setObjectName("open-photo");
    open->setToolTip(withKey(tr("JPEG, PNG, TIFF, WebP or OpenEXR, or a saved document. Or drop one here."), "open"));
    open->setAccessibleName(open->text());
    open->setMinimumWidth(150);
    connect(open, &QAbstractButton::clicked, this, &StartPage::openWanted);
    layout->addWidget(open);
    addUnsaved(layout, body);
    addRecent(layout, body);
    addDemos(layout, body);
    auto* middle = new QVBoxLayout(page);
    middle->setContentsMargins(marginPx, marginPx / 2, marginPx, marginPx / 2);
    middle->addWidget(body);
    middle->addStretch(1);
    scroll_->setWidget(page);  // the old one is deleted
}

void StartPage::showUnsaved(const std::vector<task::Unsaved>& unsaved) {
    const auto same = [](const task::Unsaved& a, const task::Unsaved& b) {
        return a.journal == b.journal && a.steps == b.steps;
    };
    if (std::equal(unsaved.begin(), unsaved.end(), unsaved_.begin(), unsaved_.end(), same)) return;
    unsaved_ = unsaved;
    refresh();
}

void StartPage::addUnsaved(QVBoxLayout* layout, QWidget* body) {
    if (unsaved_.empty()) return;
    layout->addSpacing(12);
    layout->addWidget(heading(tr("Not saved when the program ended"), body));
    for (const task::Unsaved& unsaved : unsaved_) {
        const auto& place = unsaved.origin.document.empty() ? unsaved.origin.photo : unsaved.origin.document;
        const QString name = QString::fromStdString(place.filename().string());
        auto* row = new QHBoxLayout;
        auto* words = new QLabel(
            unsaved.steps == 1 ? tr("%1: one step, %2").arg(name, QString::fromStdString(unsaved.step))
                               : tr("%1: %2 steps, the last was %3")
                                     .arg(name, QString::number(unsaved.steps), QString::fromStdString(unsaved.step)),
            body);
        words->setToolTip(QString::fromStdString(place.string()));
        auto* goOn = new QPushButton(tr("Go on"), body);
        goOn->setObjectName("go-on");
        goOn->setToolTip(tr("Opens %1 with this work in it; save it to keep it").arg(name));
        goOn->setAccessibleName(tr("Go on with %1").arg(name));
        auto* forget = new QPushButton(tr("Forget"), body);
        forget->setObjectName("forget");
        forget->setToolTip(tr("Throws this unsaved work away"));
        forget->setAccessibleName(tr("Forget the unsaved work on %1").arg(name));
        connect(goOn, &QAbstractButton::clicked, this, [this, unsaved] { Q_EMIT goOnWanted(unsaved); });
        connect(forget, &QAbstractButton::clicked, this, [this, unsaved] { Q_EMIT forgetWanted(unsaved); });
        row->addWidget(goOn);
        row->addWidget(forget);
        row->addWidget(words, 1);
        layout->addLayout(row);
    }
}

void StartPage::addRecent(QVBoxLayout* layout, QWidget* body) {
    const QStringList recent = DocumentJobs::recentFiles();
    if (recent.isEmpty()) return;
    layout->addSpacing(12);
    layout->addWidget(heading(tr("Recent files"), body));
    for (const QString& path : recent) {
        auto* button = new QPushButton(QFileInfo(path).fileName(), body);
        button->setToolTip(path);
        button->setFlat(true);
        button->setStyleSheet(
            "text-align: left; border: none; background: transparent; padding: 2px 4px; text-decoration: underline;");
        button->setCursor(Qt::PointingHandCursor);
        connect(button, &QAbstractButton::clicked, this, [this, path] { Q_EMIT fileWanted(path); });
        layout->addWidget(button, 0, Qt::AlignLeft);
    }
}

void StartPage::addDemos(QVBoxLayout* layout, QWidget* body) {
    const QList<Demo> demos = demoSet();
    if (demos.isEmpty()) return;
    layout->addSpacing(12);
    layout->addWidget(heading(tr("Sample photos"), body));
    auto* grid = new FlowLayout;
    grid->setSpacing(12);
    for (int i = 0; i < demos.size(); ++i) {
        auto* card = new DemoCard(demos[i], background_, body);
        connect(card, &QAbstractButton::clicked, this, [this, path = demos[i].path] { Q_EMIT fileWanted(path); });
        grid->addWidget(card);
    }
    layout->addLayout(grid);
}

void StartPage::paintEvent(QPaintEvent*) {
    QPainter(this).fillRect(rect(), QColor(theme::bar));
}

void StartPage::dragEnterEvent(QDragEnterEvent* event) {
    const QList<QUrl> urls = event->mimeData()->urls();
    if (urls.size() == 1 && urls.front().isLocalFile()) event->acceptProposedAction();
}

void StartPage::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    Q_EMIT fileWanted(event->mimeData()->urls().front().toLocalFile());
}

}  // namespace dimhem::ui
