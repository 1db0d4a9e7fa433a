#include "ui/panel/where_panel.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/registry.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/choice_sheet.h"
#include "ui/control/fold.h"
#include "ui/control/icon.h"
#include "ui/control/labelled_row.h"
#include "ui/control/segmented.h"
#include "ui/control/stitch.h"
#include "ui/control/theme.h"
#include "ui/panel/named_button.h"
#include "ui/panel/parts_list.h"
#include "ui/part/part_settings.h"
#include "ui/session/key_table.h"
#include "ui/session/several.h"

namespace dimhem::ui {

namespace {

// What is set, as in "Feather 4 px, Expand -1.0 px".
QString refineSummary(const mask::Mask& mask) {
    QStringList set;
    for (const mask::RefineParam& param : mask::refineParams()) {
        const double value = mask.refine.*param.value;
        if (value != param.spec.neutral)
            set << QObject::tr("%1 %2").arg(words(param.spec.label), shownValue(param.spec, value));
    }
    if (mask.inverted) set << QObject::tr("inverted");
    return set.isEmpty() ? QObject::tr("nothing set") : set.join(QObject::tr(", "));
}

}  // namespace

WherePanel::WherePanel(Session& session, const SmallPictures& pictures, QWidget* parent)
    : PanelFrame(tr("Where"), PanelBorder::Edge::right, "panel/where", parent),
      session_(session),
      parts_(new PartsList(session, pictures, this)) {
    parts_->hide();
    setProperty("help", "where");
    // Later, not at once: the change may come from a control that is part of what is built anew.
    const auto refreshSoon = [this] { QMetaObject::invokeMethod(this, &WherePanel::refresh, Qt::QueuedConnection); };
    connect(&session_, &Session::opened, this, [this, refreshSoon] {
        rebuildNext();
        refreshSoon();
    });
    connect(&session_, &Session::documentChanged, this, refreshSoon);
    connect(&session_, &Session::threadColourChanged, this, refreshSoon);
    connect(&session_, &Session::selectionChanged, this, refreshSoon);
    refresh();
}

void WherePanel::refresh() {
    const document::Correction* correction = session_.correction();
    setAside(correction ? QString::fromStdString(correction->name) : QString());
    setThread(correction ? threadColour(correction->threadColour) : QColor());
    showBody(structure());
    parts_->refresh();
}

void WherePanel::saveFromBody() {
    parts_->setParent(this);
    parts_->hide();
}

QString WherePanel::structure() const {
    if (!session_.isOpen()) return "closed";
    const document::Correction* correction = session_.correction();
    if (!correction) return "none";
    const mask::Mask& mask = correction->mask;
    QString structure =
        QString("%1 %2 %3 %4").arg(correction->id).arg(session_.selectedPart()).arg(mask.startsEverywhere);
    if (session_.part()) structure += settingsVariant(*session_.document(), *session_.part());
    if (session_.part()) structure += " " + QString::fromStdString(session_.part()->name);
    return structure;
}

void WherePanel::build(QVBoxLayout* layout, QWidget* body) {
    if (!session_.isOpen()) return;
    if (!session_.correction()) {
        layout->addWidget(
            quietLabel(tr("Select a correction below to see where it acts, or make one with New."), body));
        layout->addStretch(1);
        return;
    }
    addStart(layout, body);
    layout->addSpacing(4);
    layout->addWidget(parts_);
    parts_->show();
    addPartButtons(layout, body);
    addPartSettings(layout, body);
    addRefine(layout, body);
    layout->addStretch(1);
}

void WherePanel::addStart(QVBoxLayout* layout, QWidget* body) {
    auto* starts = new Segmented(tr("Mask starts"),
                                 {{tr("nowhere"), tr("Nothing is covered to begin with: parts add to it")},
                                  {tr("everywhere"), tr("All is covered to begin with: parts take away from it")}},
                                 body);
    starts->setCurrent(session_.correction()->mask.startsEverywhere ? 1 : 0);
    connect(starts, &Segmented::chosen, this, [this](int index) {
        session_.edit(tr("change start of mask"), [&](const document::Document& d) {
            return document::withCorrection(d, session_.selectedCorrection(),
                                            [=](document::Correction& c) { c.mask.startsEverywhere = index == 1; });
        });
    });
    layout->addWidget(new LabelledRow(tr("Starts"), starts, body));
}

void WherePanel::addPartButtons(QVBoxLayout* layout, QWidget* body) {
    constexpr int inRow = 7, buttonWidth = 25;
    auto* rows = new QGridLayout;
    rows->setContentsMargins(0, 0, 0, 6);
    rows->setSpacing(0);
    layout->addSpacing(4);
    auto* sheet = new QPushButton(icon("plus"), tr("Add part"), body);
    sheet->setProperty("stitched", true);
    sheet->setObjectName("add-part");
    sheet->setAccessibleName(sheet->text());
    setKeyTip(sheet, tr("All kinds of part, by name (%1); the signs below add the same"), {"add-part"});
    connect(sheet, &QAbstractButton::clicked, this, &WherePanel::openPartSheet);
    QLabel* line = quietLabel({}, body);
    line->setObjectName("add-part-line");
    line->setWordWrap(false);
    auto* head = new QHBoxLayout;
    head->addWidget(sheet);
    head->addWidget(line, 1);
    layout->addLayout(head);
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        const QString name = words(kind->label), id = idText(kind->id);
        auto* button = new NamedButton(line, {}, withKey(name, "part/" + id), body);
        button->setIcon(icon(id));
        button->setAccessibleName(tr("Add %1").arg(name));
        button->setAccessibleDescription(words(kind->tip));
        setKeyTip(button, tr("%1 (%2)\n%3").arg(name, "%1", words(kind->tip)), {"part/" + id});
        button->setObjectName("add-" + id);
        button->setIconSize(QSize(16, 16) * theme::scaled(100) / 100);
        button->setFixedSize(theme::scaled(buttonWidth), theme::scaled(24));
        connect(button, &QAbstractButton::clicked, this, [this, kind] { session_.addPart(*kind); });
        const int place = rows->count();
        rows->addWidget(button, place / inRow, place % inRow);
    }
    rows->setColumnStretch(inRow, 1);
    layout->addLayout(rows);
    layout->addWidget(separator(body));
}

void WherePanel::openPartSheet() {
    auto* opener = findChild<QPushButton*>("add-part");
    if (!opener || !session_.correction()) return;
    QList<ChoiceSheet::Choice> choices;
    for (const std::string_view group : {"drawn", "found", "by tone and colour", "from elsewhere"}) {
        for (const mask::ShapeKind* kind : mask::shapeKinds()) {
            if (kind->group != group) continue;
            QString heading = words(group);
            heading[0] = heading[0].toUpper();
            const QString id = idText(kind->id);
            choices.append({id, heading, words(kind->label), words(kind->tip), icon(id), keyText("part/" + id)});
        }
    }
    auto* sheet = new ChoiceSheet(tr("Add part"), choices, false, opener);
    sheet->setObjectName("part-sheet");
    connect(sheet, &ChoiceSheet::chosen, this, [this](const QString& id) {
        if (const mask::ShapeKind* kind = mask::findShapeKind(id.toStdString())) session_.addPart(*kind);
    });
    sheet->openBeside(opener);
}

void WherePanel::addPartSettings(QVBoxLayout* layout, QWidget* body) {
    const mask::Part* part = session_.part();
    if (!part) {
        layout->addWidget(quietLabel(tr("Add a part to say where the correction acts."), body));
        return;
    }
    auto* heading = new QLabel(QString::fromStdString(part->name), body);
    heading->setProperty("quiet", true);
    layout->addSpacing(6);
    layout->addWidget(heading);
    const EditTarget target{session_.selectedCorrection(), part->id};
    auto* opacity =
        boundSlider(mask::opacitySpec, tr("change opacity of part"), session_, target, body,
                    [this, target](const document::Document& document, double value) {
                        return withEachPart(document, target.correction, togetherWithPart(session_, target.part),
                                            [=](mask::Part& p) { p.opacityPct = value; });
                    });
    opacity->setObjectName("opacity");
    onRefresh([this, opacity] {
        if (session_.part()) opacity->setValue(session_.part()->opacityPct);
    });
    layout->addWidget(opacity);
    buildPartSettings(
        {session_, target, layout, body, [this](std::function<void()> refresh) { onRefresh(std::move(refresh)); }},
        *part);
}

void WherePanel::addRefine(QVBoxLayout* layout, QWidget* body) {
    layout->addSpacing(6);
    layout->addWidget(separator(body));
    auto* fold = new Fold(tr("Refine"), "refine", tr("Changes the mask as a whole, all its parts together"), body);
    const document::Id correction = session_.selectedCorrection();
    for (const mask::RefineParam& param : mask::refineParams()) {
        auto* slider =
            boundSlider(param.spec, tr("refine mask: %1").arg(words(param.spec.label)), session_, {correction, 0},
                        fold->body(), [correction, &param](const document::Document& document, double value) {
                            return document::withCorrection(document, correction, [&](document::Correction& c) {
                                mask::setRefine(c.mask.refine, param.value, value);
                            });
                        });
        slider->setObjectName("refine-" + idText(param.spec.id));
        onRefresh([this, slider, &param] {
            if (session_.correction()) slider->setValue(session_.correction()->mask.refine.*param.value);
        });
        fold->rows()->addWidget(slider);
    }
    static constexpr base::ParamSpec inverted = {
        .id = "inverted", .label = "Invert", .tip = "Inside becomes outside, for the whole mask.", .toggle = true};
    auto* toggle = new ValueSwitch(inverted, fold->body());
    toggle->setObjectName("refine-inverted");
    connect(toggle, &ValueSwitch::changed, this, [this](bool on) {
        session_.edit(tr("invert mask"), [&](const document::Document& d) {
            return document::withCorrection(d, session_.selectedCorrection(),
                                            [on](document::Correction& c) { c.mask.inverted = on; });
        });
    });
    onRefresh([this, toggle] {
        if (session_.correction()) toggle->setValue(session_.correction()->mask.inverted);
    });
    fold->rows()->addWidget(toggle);
    onRefresh([this, fold] {
        if (session_.correction()) fold->setSummary(refineSummary(session_.correction()->mask));
    });
    layout->addWidget(fold);
}

}  // namespace dimhem::ui
