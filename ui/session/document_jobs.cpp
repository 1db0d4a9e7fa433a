#include "ui/session/document_jobs.h"

#include <QFileInfo>
#include <QImage>
#include <QSettings>

#include "core/io/registry.h"
#include "core/task/save.h"
#include "ui/session/background.h"

namespace dimhem::ui {

namespace {

constexpr int firstLookPx = 700;
constexpr int recentCount = 8;

std::filesystem::path pathOf(const QString& text) {
    return std::filesystem::path(text.toStdString());
}

void remember(const QString& path) {
    QSettings settings;
    QStringList recent = settings.value("recentFiles").toStringList();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    recent.removeAll(absolute);
    recent.prepend(absolute);
    settings.setValue("recentFiles", QStringList(recent.mid(0, recentCount)));
}

QImage imageOf(const image::Photo& photo) {
    const image::Samples& samples = photo.samples;
    QImage image(photo.size().width, photo.size().height, QImage::Format_RGB32);
    for (int y = 0; y < image.height(); ++y) {
        const auto* from = reinterpret_cast<const std::uint8_t*>(samples.row(y));
        auto* to = reinterpret_cast<QRgb*>(image.scanLine(y));
        const int channels = samples.channels();
        for (int x = 0; x < image.width(); ++x, from += channels) {
            to[x] = channels >= 3 ? qRgb(from[0], from[1], from[2]) : qRgb(from[0], from[0], from[0]);
        }
    }
    return image;
}

}  // namespace

DocumentJobs::~DocumentJobs() {
    cancel_.cancel();
    QThreadPool::globalInstance()->waitForDone();
}

void DocumentJobs::begin(const QString& words) {
    job_ = words;
    cancel_ = base::CancelSource();
    Q_EMIT busyChanged();
}

void DocumentJobs::end() {
    job_.clear();
    Q_EMIT busyChanged();
}

void DocumentJobs::open(const QString& path, const QString& photoInstead) {
    if (isBusy()) return;
    begin(tr("opening %1").arg(QFileInfo(path).fileName()));
    startFirstLook(path);
    const auto token = cancel_.token();
    runInBackground(
        this,
        [path = pathOf(path), photoInstead, token] {
            const auto instead = photoInstead.isEmpty() ? std::nullopt : std::optional(pathOf(photoInstead));
            return task::open(path, instead, {}, token);
        },
        [this, path, photoInstead](base::Result<task::Opened> opened) {
            end();
            if (opened) {
                const QString warning = QString::fromStdString(opened->warning);
                session_.start(std::move(*opened));
                remember(path);
                if (!warning.isEmpty()) session_.say(warning);
                return;
            }
            const QString sentence = QString::fromStdString(opened.error().message);
            const bool documentIsThere = QFileInfo::exists(path);
            if (opened.error().code == base::ErrorCode::notFound && documentIsThere) {
                Q_EMIT photoMissing(path, sentence);
            } else {
                session_.say(sentence);
            }
        });
}

// A JPEG can be seen small long before it is decoded whole.
void DocumentJobs::startFirstLook(const QString& path) {
    runInBackground(
        this,
        [path = pathOf(path)]() -> QImage {
            const auto bytes = io::readFile(path);
            if (!bytes) return {};
            const auto small = io::readSmallPhoto(*bytes, "", firstLookPx);
            return small ? imageOf(*small) : QImage();
        },
        [this](const QImage& small) {
            if (isBusy() && !small.isNull()) Q_EMIT firstLook(small);
        });
}

void DocumentJobs::save(const QString& path, std::function<void()> then) {
    if (isBusy() || !session_.isOpen()) return;
    begin(tr("saving"));
    const document::DocumentPtr version = session_.document();
    runInBackground(
        this, [version, opened = session_.origin(), path = pathOf(path)] { return task::save(opened, version, path); },
        [this, version, path, then = std::move(then)](base::Result<void> written) {
            end();
            if (!written) {
                session_.say(QString::fromStdString(written.error().message));
                return;
            }
            session_.markSaved(version, pathOf(path));
            remember(path);
            if (then) then();
        });
}

void DocumentJobs::exportTo(const QString& path, const task::ExportSettings& settings) {
    if (isBusy() || !session_.isOpen()) return;
    begin(tr("exporting %1").arg(QFileInfo(path).fileName()));
    const auto progress = [this](double part) {
        QMetaObject::invokeMethod(
            this, [this, part] { Q_EMIT progressed(part); }, Qt::QueuedConnection);
    };
    runInBackground(
        this,
        [version = session_.document(), photo = session_.origin().photo, path = pathOf(path), settings,
         token = cancel_.token(),
         progress] { return task::exportPicture(version, photo, path, settings, token, progress); },
        [this, path](base::Result<void> written) {
            end();
            session_.say(written ? tr("Exported to %1.").arg(path) : QString::fromStdString(written.error().message));
        });
}

QStringList DocumentJobs::recentFiles() {
    QStringList existing;
    for (const QString& path : QSettings().value("recentFiles").toStringList()) {
        if (QFileInfo::exists(path)) existing.append(path);
    }
    return existing;
}

}  // namespace dimhem::ui
