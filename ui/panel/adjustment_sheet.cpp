#include "ui/panel/adjustment_sheet.h"

#include "core/adjust/registry.h"
#include "core/document/edits.h"
#include "core/image/tiles.h"
#include "core/task/adjustment_samples.h"
#include "ui/control/choice_sheet.h"
#include "ui/session/frame_thread.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

constexpr int sidePx = 90;  // of a picture, at least, where the photo is as large

QString capitalised(QString words) {
    if (!words.isEmpty()) words[0] = words[0].toUpper();
    return words;
}

QImage samplePicture(const render::Renderer& renderer, const document::DocumentPtr& sample, document::Id correction,
                     const base::CancelToken& token) {
    const base::Size photo = renderer.photo().size();
    const int level = image::levelOfLeastSide(photo, sidePx);
    render::Comparison comparison;
    comparison.stopAfter = correction;
    const mask::Area whole{base::rectOf(image::levelSize(photo, level)), level};
    render::Sequence sequence(sample, comparison, token);
    const bool isEmpty = renderer.coverage(sequence, correction, whole)->isEmpty();
    if (!isEmpty) return imageOf(*renderer.display(sequence, {}, whole));
    // Where nothing is covered yet it shows on the whole photo what it would do.
    const document::DocumentPtr everywhere = document::withCorrection(*sample, correction, [](document::Correction& c) {
        c.mask = {};
        c.mask.startsEverywhere = true;
    });
    return imageOf(*renderer.display(render::Sequence(everywhere, comparison, token), {}, whole));
}

// One after the other, for as long as the sheet is there.
struct Samples {
    Session& session;
    ChoiceSheet* sheet;
    std::shared_ptr<const render::Renderer> renderer;
    document::DocumentPtr document;
    document::Id correction;
    base::CancelSource cancel{};
};

void makeFrom(const std::shared_ptr<Samples>& samples, std::size_t index) {
    const auto kinds = adjust::adjustmentKinds();
    document::DocumentPtr sample;
    for (; index < kinds.size(); ++index) {
        sample = task::withSample(*samples->document, samples->correction, *kinds[index]);
        if (sample) break;
    }
    if (!sample) return;
    samples->session.background().run(
        samples->sheet,
        [renderer = samples->renderer, sample, correction = samples->correction, token = samples->cancel.token()] {
            return samplePicture(*renderer, sample, correction, token);
        },
        [samples, index, id = idText(kinds[index]->id)](const base::Result<QImage>& picture) {
            if (picture) samples->sheet->setPicture(id, *picture);
            makeFrom(samples, index + 1);
        });
}

}  // namespace

void openAdjustmentSheet(Session& session, QWidget* opener,
                         const std::function<void(const adjust::AdjustmentKind&)>& chosen) {
    QList<ChoiceSheet::Choice> choices;
    for (const adjust::AdjustmentKind* kind : adjust::adjustmentKinds())
        choices.append({idText(kind->id), capitalised(words(kind->category)), words(kind->label), words(kind->tip)});
    auto* sheet = new ChoiceSheet(QObject::tr("Add adjustment"), choices, true, opener);
    sheet->setObjectName("adjustment-sheet");
    QObject::connect(sheet, &ChoiceSheet::chosen, &session, [chosen](const QString& id) {
        if (const auto* kind = adjust::findAdjustmentKind(id.toStdString())) chosen(*kind);
    });
    sheet->openBeside(opener);
    const auto samples = std::make_shared<Samples>(
        Samples{session, sheet, session.sharedRenderer(), session.document(), session.selectedCorrection()});
    QObject::connect(sheet, &QObject::destroyed, &session, [samples] { samples->cancel.cancel(); });
    makeFrom(samples, 0);
}

}  // namespace dimhem::ui
