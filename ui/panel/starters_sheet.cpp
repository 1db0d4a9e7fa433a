#include "ui/panel/starters_sheet.h"

#include "ui/control/choice_sheet.h"
#include "ui/control/icon.h"
#include "ui/session/starter_set.h"

namespace dimhem::ui {

namespace {

const char* iconOf(const document::Starter& starter) {
    const document::Correction& begun = *starter.correction;
    for (const mask::PartPtr& part : begun.mask.parts) {
        if (part->id == document::firstPart(begun)) return part->shape->kind().id.data();
    }
    return "plus";
}

void list(const std::filesystem::path& folder, const QString& group, QList<ChoiceSheet::Choice>& choices) {
    for (const task::StarterFile& file : task::startersIn(folder)) {
        choices.append({QString::fromStdString(file.path.string()), group, QString::fromStdString(file.starter.name),
                        QString::fromStdString(file.starter.about), icon(iconOf(file.starter))});
    }
}

}  // namespace

void openStartersSheet(Session& session, QWidget* opener) {
    if (!session.isOpen()) return;
    QList<ChoiceSheet::Choice> choices;
    list(ownStartersFolder(), QObject::tr("Your own"), choices);
    list(shippedStartersFolder(), QObject::tr("With the program"), choices);
    auto* sheet = new ChoiceSheet(QObject::tr("Starters"), choices, false, opener->window());
    QObject::connect(sheet, &ChoiceSheet::chosen, &session, [&session](const QString& path) {
        const auto starter = task::readStarter(path.toStdString());
        if (!starter) return session.warn(starter.error());
        if (session.isOpen()) session.addFromStarter(*starter);
    });
    sheet->openBeside(opener);
}

}  // namespace dimhem::ui
