#include "ui/session/document_jobs.h"

#include <QDesktopServices>
#include <QFileInfo>
#include <QImage>
#include <QSettings>
#include <QUrl>

#include "core/io/document_file.h"
#include "core/io/registry.h"
#include "ui/session/background.h"

namespace dimhem::ui {

namespace {

constexpr int firstLookPx = 700;
constexpr int recentCount = 8;

std::filesystem::path pathOf(const QString& text) {
    return std::filesystem::path(text.toStdString());
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
    waiting_.clear();
    if (kind_ != Kind::saving) cancel_.cancel();  // what the person has asked to be kept is written
    session_.background().wait();
}

void DocumentJobs::add(Job job) {
    waiting_.push_back(std::move(job));
    if (!isBusy()) startNext();
}

void DocumentJobs::startNext() {
    if (waiting_.empty()) return;
    const Job job = std::move(waiting_.front());
    waiting_.pop_front();
    kind_ = job.kind;
    job_ = job.words;
    cancel_ = base::CancelSource();
    Q_EMIT busyChanged();
    job.start();
}

// The next begins before anyone hears that this one is done: in between nothing else can slip in.
void DocumentJobs::end() {
    kind_ = Kind::none;
    job_.clear();
    startNext();
    if (!isBusy()) Q_EMIT busyChanged();
}

void DocumentJobs::cancel() {
    std::erase_if(waiting_, [](const Job& job) { return job.kind != Kind::saving; });
    cancel_.cancel();
}

void DocumentJobs::open(const QString& path, const QString& photoInstead) {
    if ((path + photoInstead).contains(QChar::ReplacementCharacter)) {
        session_.warn(tr("The name of %1 is not written in UTF-8; give it another name to open it here.")
                          .arg(QFileInfo(path).fileName()));
        return;
    }
    read(
        path,
        [path = pathOf(path), photoInstead](const io::Reading& reading) {
            const auto instead = photoInstead.isEmpty() ? std::nullopt : std::optional(pathOf(photoInstead));
            return task::open(path, instead, {}, reading);
        },
        QFileInfo::exists(path));
}

void DocumentJobs::recover(const task::Unsaved& unsaved) {
    const auto& place = unsaved.origin.document.empty() ? unsaved.origin.photo : unsaved.origin.document;
    read(
        QString::fromStdString(place.string()),
        [unsaved](const io::Reading& reading) { return task::recover(unsaved, {}, reading); }, false);
}

void DocumentJobs::read(const QString& path, const std::function<base::Result<task::Opened>(const io::Reading&)>& how,
                        bool documentIsThere) {
    std::erase_if(waiting_, [](const Job& job) { return job.kind == Kind::opening; });
    if (kind_ == Kind::opening) cancel_.cancel();
    const QString name = QFileInfo(path).fileName();
    if (kind_ == Kind::exporting || kind_ == Kind::saving)
        session_.say(tr("%1 opens when the work before it is done (%2).").arg(name, job_));
    add({Kind::opening, tr("opening %1").arg(name), [this, path, how, documentIsThere] {
             startFirstLook(path);
             session_.background().run(
                 this,
                 [how, reading = io::Reading{cancel_.token(), progress(), session_.ceiling(), session_.found()}] {
                     return how(reading);
                 },
                 [this, path, documentIsThere](base::Result<task::Opened> opened) {
                     end();
                     if (opened) {
                         Q_EMIT loaded(std::make_shared<task::Opened>(std::move(*opened)), path);
                         return;
                     }
                     if (opened.error().code == base::ErrorCode::cancelled) return;
                     const QString sentence = QString::fromStdString(opened.error().message);
                     if (opened.error().code == base::ErrorCode::notFound && documentIsThere) {
                         Q_EMIT photoMissing(path, sentence);
                     } else {
                         session_.warn(sentence);
                     }
                 });
         }});
}

// Says how far the work on another thread is, a hundred times at most.
std::function<void(double)> DocumentJobs::progress() {
    return [this, said = -1](double part) mutable {
        const int percent = static_cast<int>(part * 100);
        if (percent == said) return;
        said = percent;
        QMetaObject::invokeMethod(
            this, [this, part] { Q_EMIT progressed(part); }, Qt::QueuedConnection);
    };
}

// A JPEG can be seen small long before it is decoded whole.
void DocumentJobs::startFirstLook(const QString& path) {
    session_.background().run(
        this,
        [path = pathOf(path)]() -> QImage {
            // A document carries a small picture of itself.
            if (const auto png = io::readThumbnail(path))
                return QImage::fromData(png->data(), static_cast<int>(png->size()), "PNG");
            const auto bytes = io::photoFileBytes(path);
            if (!bytes) return {};
            const auto small = io::readSmallPhoto(*bytes, "", firstLookPx);
            return small ? imageOf(*small) : QImage();
        },
        [this](const base::Result<QImage>& small) {
            if (kind_ == Kind::opening && small && !small->isNull()) Q_EMIT firstLook(*small);
        });
}

void DocumentJobs::save(const QString& path, std::function<void()> then, const task::SaveSettings& settings) {
    if (!session_.isOpen()) return;
    add({Kind::saving, tr("saving"),
         [this, path, then = std::move(then), settings] { saveNow(path, then, settings); }});
}

void DocumentJobs::saveNow(const QString& path, const std::function<void()>& then, const task::SaveSettings& settings) {
    if (!session_.isOpen()) return end();
    const document::DocumentPtr version = session_.beginSaving();
    task::SaveSettings how = settings;
    how.renderer = session_.sharedRenderer();
    session_.background().run(
        this,
        [version, opened = session_.origin(), path = pathOf(path), how, token = cancel_.token()] {
            return task::save(opened, version, path, how, token);
        },
        [this, version, path, then, settings](const base::Result<task::Saved>& written) {
            if (written) {
                session_.markSaved(version, pathOf(path), *written);
                remember(path);
            }
            end();
            if (!written) {
                askAbout(written.error(), path, then, settings);
            } else if (then) {
                then();
            }
        });
}

// Some of what keeps a document from being saved is for the person to decide; the rest is said.
void DocumentJobs::askAbout(const base::Error& error, const QString& path, const std::function<void()>& then,
                            task::SaveSettings settings) {
    const QString sentence = QString::fromStdString(error.message);
    QString answer;
    switch (error.code) {
        case base::ErrorCode::readOnly:
            settings.replaceReadOnly = true;
            answer = tr("Replace the file");
            break;
        case base::ErrorCode::changedOnDisk:
            settings.replaceChanged = true;
            answer = tr("Replace the other version");
            break;
        case base::ErrorCode::losesCopy:
            settings.replaceCopy = settings.pack = true;
            answer = tr("Pack the photo in use instead");
            break;
        default: session_.warn(error); return;
    }
    Q_EMIT asked(sentence, answer, [this, path, then, settings] { save(path, then, settings); });
}

void DocumentJobs::exportTo(const QString& path, const task::ExportSettings& settings) {
    if (!session_.isOpen()) return;
    session_.endGesture();
    add({Kind::exporting, tr("exporting %1").arg(QFileInfo(path).fileName()),
         [this, path, settings, version = session_.document(), opened = session_.origin()] {
             session_.background().run(
                 this,
                 [version, opened, path = pathOf(path), settings, token = cancel_.token(), progress = progress()] {
                     return task::exportPicture(opened, version, path, settings, token, progress);
                 },
                 [this, path, settings](const base::Result<task::Exported>& written) {
                     end();
                     if (written) {
                         session_.say(tr("Exported to %1.").arg(path), tr("Show in folder"), [path] {
                             QDesktopServices::openUrl(QUrl::fromLocalFile(QFileInfo(path).absolutePath()));
                         });
                         if (!written->warning.empty()) session_.warn(QString::fromStdString(written->warning));
                     } else if (written.error().code == base::ErrorCode::readOnly) {
                         task::ExportSettings agreed = settings;
                         agreed.replaceReadOnly = true;
                         Q_EMIT asked(QString::fromStdString(written.error().message), tr("Replace the file"),
                                      [this, path, agreed] { exportTo(path, agreed); });
                     } else {
                         session_.warn(written.error());
                     }
                 });
         }});
}

void DocumentJobs::remember(const QString& path) {
    QSettings settings;
    QStringList recent = settings.value("recentFiles").toStringList();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    recent.removeAll(absolute);
    recent.prepend(absolute);
    settings.setValue("recentFiles", QStringList(recent.mid(0, recentCount)));
}

QStringList DocumentJobs::recentFiles() {
    QStringList existing;
    for (const QString& path : QSettings().value("recentFiles").toStringList()) {
        if (QFileInfo::exists(path)) existing.append(path);
    }
    return existing;
}

}  // namespace dimhem::ui
