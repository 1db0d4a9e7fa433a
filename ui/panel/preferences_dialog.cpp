#include "ui/panel/preferences_dialog.h"

#include <QDesktopServices>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QUrl>

#include "ui/control/segmented.h"
#include "ui/control/spin_box.h"
#include "ui/session/preferences.h"

namespace dimhem::ui {

namespace {

qint64 bytesIn(const std::filesystem::path& folder) {
    std::error_code ignored;
    qint64 sum = 0;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder, ignored)) {
        const auto bytes = entry.is_regular_file(ignored) ? entry.file_size(ignored) : 0;
        if (!ignored) sum += static_cast<qint64>(bytes);
    }
    return sum;
}

}  // namespace

PreferencesDialog::PreferencesDialog(const std::filesystem::path& recoveryFolder,
                                     const std::shared_ptr<io::FoundFolder>& found, QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Preferences"));
    auto* form = new QFormLayout(this);
    form->setFieldGrowthPolicy(QFormLayout::FieldsStayAtSizeHint);
    addSurround(form);
    addSize(form);
    addPen(form);
    addMemory(form);
    if (found) addFound(form, found);
    addRecovery(form, recoveryFolder);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
    buttons->button(QDialogButtonBox::Close)->setText(tr("Close"));
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    form->addRow(buttons);
}

void PreferencesDialog::addSurround(QFormLayout* form) {
    auto* choice = new Segmented(tr("Surround of the photo"),
                                 {{tr("mid"), tr("Mid grey: for judging tone and colour")},
                                  {tr("light"), tr("Light grey: for pictures that will stand on white paper")},
                                  {tr("black"), tr("Black: for pictures that will be seen on a dark screen")}},
                                 this);
    choice->setObjectName("surround");
    choice->setCurrent(static_cast<int>(surround()));
    connect(choice, &Segmented::chosen, this, [this](int index) {
        setSurround(static_cast<Surround>(index));
        Q_EMIT surroundChanged();
    });
    form->addRow(tr("Surround of the photo"), choice);
}

void PreferencesDialog::addSize(QFormLayout* form) {
    auto* size = new SpinBox(this);
    size->setObjectName("interface-size");
    size->setRange(leastInterfaceSizePct, mostInterfaceSizePct);
    size->setSingleStep(10);
    size->setSuffix(tr(" %"));
    size->setValue(interfaceSizePct());
    size->setAccessibleName(tr("Size of the interface, in percent"));
    size->setToolTip(tr("Of the system's text size; counts from the next start on"));
    connect(size, &QSpinBox::valueChanged, this, &setInterfaceSizePct);
    form->addRow(tr("Size of the interface"), size);
}

void PreferencesDialog::addPen(QFormLayout* form) {
    auto* feel = new Segmented(tr("Pen pressure"),
                               {{tr("soft"), tr("Full strength takes little force")},
                                {tr("even"), tr("Strength follows the force")},
                                {tr("hard"), tr("Full strength takes much force")}},
                               this);
    feel->setObjectName("pen-feel");
    feel->setCurrent(static_cast<int>(penFeel()));
    connect(feel, &Segmented::chosen, this, [](int index) { setPenFeel(static_cast<PenFeel>(index)); });
    form->addRow(tr("Pen pressure"), feel);
}

void PreferencesDialog::addCeiling(QFormLayout* form) {
    auto* ceiling = new SpinBox(this);
    ceiling->setObjectName("memory-ceiling");
    ceiling->setRange(leastCeilingMiB, mostCeilingMiB);
    ceiling->setSingleStep(512);
    ceiling->setSuffix(tr(" MiB"));
    ceiling->setValue(ceilingMiB());
    ceiling->setAccessibleName(tr("Most memory the program may take, in mebibytes"));
    ceiling->setToolTip(
        tr("Near it, finished work that can be done again is dropped; what needs more than that says so and changes "
           "nothing. To begin with, 60 % of this computer's memory."));
    connect(ceiling, &QSpinBox::valueChanged, this, [this](int mebibytes) {
        setCeilingMiB(mebibytes);
        Q_EMIT ceilingChanged();
    });
    form->addRow(tr("Most memory"), ceiling);
}

void PreferencesDialog::addMemory(QFormLayout* form) {
    addCeiling(form);
    auto* cache = new SpinBox(this);
    cache->setObjectName("cache-size");
    cache->setRange(leastCacheMiB, mostCacheMiB);
    cache->setSingleStep(leastCacheMiB);
    cache->setSuffix(tr(" MiB"));
    cache->setValue(cacheMiB());
    cache->setAccessibleName(tr("Memory for finished work, in mebibytes"));
    cache->setToolTip(
        tr("What is kept here need not be computed again: more makes undoing and comparing large photos faster. "
           "Counts from the next photo on."));
    connect(cache, &QSpinBox::valueChanged, this, &setCacheMiB);
    form->addRow(tr("Memory for finished work"), cache);
    auto* undo = new QLabel(tr("Every step since the photo was opened; a step takes little memory"), this);
    undo->setProperty("quiet", true);
    form->addRow(tr("Undo keeps"), undo);
}

void PreferencesDialog::addFound(QFormLayout* form, const std::shared_ptr<io::FoundFolder>& found) {
    constexpr int mostMiB = 1 << 20;
    auto* kept = new SpinBox(this);
    kept->setObjectName("found-masks");
    kept->setRange(0, mostMiB);
    kept->setSingleStep(128);
    kept->setSuffix(tr(" MiB"));
    kept->setSpecialValueText(tr("keep none"));
    kept->setKeyboardTracking(false);  // 0 removes them, which "0" on the way to a number must not
    kept->setValue(static_cast<int>(std::min<std::uint64_t>(found->mostBytes() >> 20, mostMiB)));
    kept->setAccessibleName(tr("Found masks kept on the disk, in mebibytes"));
    kept->setToolTip(
        tr("Masks that took long to find lie in the cache folder, so that a document opens faster the next time; those "
           "not used for longest are removed first. At 0 none are kept, and those there are removed."));
    connect(kept, &QSpinBox::valueChanged, this,
            [this](int mebibytes) { Q_EMIT foundLimitChosen(quint64(mebibytes) << 20); });
    form->addRow(tr("Found masks on the disk"), kept);
}

void PreferencesDialog::addRecovery(QFormLayout* form, const std::filesystem::path& folder) {
    auto* place = new QLabel(QString::fromStdString(folder.string()), this);
    place->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    place->setAccessibleName(tr("Folder of unsaved work"));
    place->setToolTip(tr("Steps that are not saved yet are written here, so that they outlast a power cut"));
    form->addRow(tr("Unsaved work is kept in"), place);
    auto* row = new QHBoxLayout;
    auto* size = new QLabel(
        tr("%1 now; what is saved or discarded is removed").arg(QLocale::c().formattedDataSize(bytesIn(folder), 1)),
        this);
    size->setProperty("quiet", true);
    auto* open = new QPushButton(tr("Show in folder"), this);
    open->setToolTip(
        tr("Opens the folder in the file manager. To have it elsewhere, set XDG_STATE_HOME before the "
           "start"));
    connect(open, &QPushButton::clicked, this,
            [folder] { QDesktopServices::openUrl(QUrl::fromLocalFile(QString::fromStdString(folder.string()))); });
    row->addWidget(size);
    row->addWidget(open);
    form->addRow({}, row);
}

}  // namespace dimhem::ui
