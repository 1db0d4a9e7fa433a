#include "ui/file_work.h"

#include <QAbstractButton>
#include <QApplication>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>

#include "core/document/edits.h"
#include "core/io/document_file.h"
#include "ui/key_actions.h"
#include "ui/panel/export_dialog.h"
#include "ui/session/background.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

QString openFilter() {
    return QObject::tr("Photos and documents (*.jpg *.jpeg *.jpe *.png *.tif *.tiff *.webp *.exr *.%1);;All files (*)")
        .arg(idText(io::documentExtension));
}

}  // namespace

FileWork::FileWork(Session& session, DocumentJobs& jobs, JournalKeeper& journal, QWidget* window)
    : QObject(window), session_(session), jobs_(jobs), journal_(journal), window_(window) {
    connect(&session_, &Session::opened, this, [this] { dropped_.reset(); });
    connect(&jobs_, &DocumentJobs::photoMissing, this, &FileWork::askForPhoto);
    connect(&jobs_, &DocumentJobs::loaded, this,
            [this](const std::shared_ptr<task::Opened>& opened, const QString& path) {
                // What was changed while it was being read is asked about as well.
                guarded([this, opened, path] {
                    const QString warning = QString::fromStdString(opened->warning);
                    session_.start(std::move(*opened));
                    DocumentJobs::remember(path);
                    if (!warning.isEmpty()) session_.warn(warning);
                    refreshLeftBehind();
                });
            });
    connect(&jobs_, &DocumentJobs::asked, this,
            [this](const QString& sentence, const QString& answer, const std::function<void()>& goOn) {
                ask(tr("Before it is written"), sentence, {{answer, goOn}});
            });
    connect(&journal_, &JournalKeeper::openElsewhere, this, [this](const io::LockOwner& owner) {
        session_.warn(
            tr("%1 is open in another window as well (process %2, since %3). Before one of them saves over the "
               "other's work, it asks.")
                .arg(session_.name())
                .arg(owner.process)
                .arg(QString::fromStdString(owner.since)));
    });
}

void FileWork::openFile(const QString& path) {
    guarded([this, path] { jobs_.open(path); });
}

void FileWork::chooseAndOpen() {
    auto* chooser =
        new QFileDialog(window_, tr("Open photo or document"), QSettings().value("folder").toString(), openFilter());
    chooser->setFileMode(QFileDialog::ExistingFile);
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &QFileDialog::fileSelected, this, [this](const QString& path) {
        QSettings().setValue("folder", QFileInfo(path).absolutePath());
        openFile(path);
    });
    chooser->open();
}

void FileWork::save(std::function<void()> then) {
    if (!session_.isOpen()) return;
    settleInput();
    const auto& path = session_.origin().documentPath;
    const bool isBareJson = path.extension() == ".json";
    if (path.empty() || isBareJson) {
        saveAs(std::move(then));
    } else {
        jobs_.save(QString::fromStdString(path.string()), std::move(then));
    }
}

void FileWork::saveAs(std::function<void()> then) {
    if (!session_.isOpen()) return;
    settleInput();
    const QString ending = idText(io::documentExtension);
    auto* chooser = new QFileDialog(window_, tr("Save document"), {}, tr("Dim Hem documents (*.%1)").arg(ending));
    chooser->setAcceptMode(QFileDialog::AcceptSave);
    chooser->setDefaultSuffix(ending);
    const auto& origin = session_.origin();
    const auto& beside = origin.documentPath.empty() ? origin.photoPath : origin.documentPath;
    chooser->setDirectory(QString::fromStdString(beside.parent_path().string()));
    chooser->selectFile(QString::fromStdString(beside.stem().string()) + "." + ending);
    chooser->setAttribute(Qt::WA_DeleteOnClose);
    connect(chooser, &QFileDialog::fileSelected, this,
            [this, then = std::move(then)](const QString& path) { jobs_.save(path, then); });
    chooser->open();
}

void FileWork::exportPicture() {
    if (!session_.isOpen()) return;
    settleInput();
    const image::Photo& photo = session_.renderer().photo().photo();
    const bool hasBackdrop = photo.samples.hasAlpha() && session_.document()->backdrop.index() != 0;
    auto* dialog = new ExportDialog(photo, hasBackdrop, smallPicture_ ? smallPicture_() : QImage(), window_);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        dialog->remember();
        const task::ExportSettings settings = dialog->settings();
        const QString ending = idText(settings.format->extensions.front());
        auto* chooser = new QFileDialog(window_, tr("Export picture"), {},
                                        tr("%1 (*.%2)").arg(idText(settings.format->name), ending));
        chooser->setAcceptMode(QFileDialog::AcceptSave);
        chooser->setDefaultSuffix(ending);
        const auto& origin = session_.origin();
        const auto& beside = origin.photoPath.empty() ? origin.documentPath : origin.photoPath;
        const QString folder = QSettings().value("export/folder").toString();
        chooser->setDirectory(QFileInfo(folder).isDir() ? folder
                                                        : QString::fromStdString(beside.parent_path().string()));
        chooser->selectFile(session_.name() + "-corrected." + ending);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        connect(chooser, &QFileDialog::fileSelected, this, [this, settings](const QString& path) {
            QSettings().setValue("export/folder", QFileInfo(path).absolutePath());
            jobs_.exportTo(path, settings);
        });
        chooser->open();
    });
    dialog->open();
}

void FileWork::askForPhoto(const QString& documentPath, const QString& sentence) {
    session_.warn(sentence, tr("Find the photo…"), [this, documentPath] {
        auto* chooser = new QFileDialog(window_, tr("Find the photo of this document"),
                                        QFileInfo(documentPath).absolutePath(), openFilter());
        chooser->setFileMode(QFileDialog::ExistingFile);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        connect(chooser, &QFileDialog::fileSelected, this, [this, documentPath](const QString& photo) {
            guarded([this, documentPath, photo] { jobs_.open(documentPath, photo); });
        });
        chooser->open();
    });
}

// A number in a field, a key's pause, a stroke in hand: all of it belongs to what is saved, exported or asked about.
void FileWork::settleInput() {
    QWidget* focus = QApplication::focusWidget();
    if (KeyActions::isTyping() && focus->window() == window_) {
        const QPointer<QWidget> field = focus;
        field->clearFocus();
        if (field && field->isVisible()) field->setFocus();
    }
    if (session_.isOpen()) session_.endGesture();
}

void FileWork::ask(const QString& title, const QString& sentence,
                   const QList<std::pair<QString, std::function<void()>>>& answers) {
    if (question_) question_->close();  // the newest question counts
    question_ = new QMessageBox(QMessageBox::NoIcon, title, sentence, QMessageBox::NoButton, window_);
    question_->setAttribute(Qt::WA_DeleteOnClose);
    QHash<QAbstractButton*, std::function<void()>> acts;
    for (const auto& [words, act] : answers)
        acts[question_->addButton(words, acts.isEmpty() ? QMessageBox::AcceptRole : QMessageBox::DestructiveRole)] =
            act;
    question_->addButton(tr("Cancel"), QMessageBox::RejectRole);
    connect(question_, &QMessageBox::buttonClicked, this, [acts](QAbstractButton* button) {
        if (const auto act = acts.value(button)) act();
    });
    question_->open();
}

bool FileWork::hasUnsaved() const {
    return session_.isOpen() && !session_.isSaved() && session_.document() != dropped_;
}

void FileWork::guarded(std::function<void()> act) {
    settleInput();
    if (!hasUnsaved()) {
        act();
        return;
    }
    // What is changed while it is being saved is asked about again.
    ask(tr("Unsaved changes"), tr("The corrections of %1 are not saved.").arg(session_.name()),
        {{tr("Save"), [this, act] { save([this, act] { guarded(act); }); }}, {tr("Discard changes"), [this, act] {
                                                                                  dropped_ = session_.document();
                                                                                  act();
                                                                              }}});
}

bool FileWork::waitsForJobs() {
    if (!jobs_.isBusy()) return false;
    const auto closeWhenDone = [this] {
        connect(
            &jobs_, &DocumentJobs::busyChanged, this, [this] { window_->close(); }, Qt::SingleShotConnection);
    };
    if (jobs_.running() == DocumentJobs::Kind::exporting) {
        ask(tr("Export in progress"), tr("The program is still %1.").arg(jobs_.job()),
            {{tr("Finish it, then close"), closeWhenDone}, {tr("Stop it and close"), [this, closeWhenDone] {
                                                                closeWhenDone();
                                                                jobs_.cancel();
                                                            }}});
    } else {
        closeWhenDone();
        if (jobs_.running() == DocumentJobs::Kind::opening) jobs_.cancel();
    }
    return true;
}

// What a program left that ended without a word, on the start page.
void FileWork::refreshLeftBehind() {
    session_.background().run(
        this, [folder = journal_.folder()] { return task::unsavedIn(folder); },
        [this](const base::Result<std::vector<task::Unsaved>>& leftBehind) {
            if (leftBehind) {
                offerLeftBehind(*leftBehind);
            } else {
                session_.warn(leftBehind.error());
            }
        });
}

void FileWork::offerLeftBehind(const std::vector<task::Unsaved>& leftBehind) {
    Q_EMIT leftBehindFound(leftBehind);
    if (!session_.isOpen()) return;
    const task::JournalOrigin open{session_.origin().documentPath, session_.origin().photoPath};
    for (const task::Unsaved& unsaved : leftBehind) {
        if (!(unsaved.origin == open) || document::isSame(*unsaved.document, *session_.document())) continue;
        session_.warn(tr("There is newer work on %1, which was not saved when the program ended.").arg(session_.name()),
                      tr("Go on with it"), [this, unsaved] { goOnWith(unsaved); });
    }
}

void FileWork::goOnWith(const task::Unsaved& unsaved) {
    guarded([this, unsaved] { jobs_.recover(unsaved); });
}

void FileWork::closePhoto() {
    if (!session_.isOpen()) return;
    guarded([this] {
        session_.close();
        refreshLeftBehind();
    });
}

void FileWork::forget(const task::Unsaved& unsaved) {
    journal_.forget(unsaved);
    refreshLeftBehind();
}

bool FileWork::mayClose() {
    settleInput();
    if (waitsForJobs()) return false;
    if (hasUnsaved()) {
        guarded([this] { window_->close(); });  // again, once it is saved or dropped
        return false;
    }
    journal_.dropWork();
    return true;
}

}  // namespace dimhem::ui
