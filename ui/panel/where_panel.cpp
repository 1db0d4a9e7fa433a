#include "ui/panel/where_panel.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "core/mask/brush.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/registry.h"
#include "ui/control/icon.h"
#include "ui/control/segmented.h"
#include "ui/control/theme.h"
#include "ui/panel/bound_slider.h"
#include "ui/panel/part_row.h"

namespace dimhem::ui {

namespace {

QHBoxLayout* labelled(const QString& text, QWidget* control, QWidget* body) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 2, 0, 2);
    auto* label = new QLabel(text, body);
    label->setFixedWidth(88);
    row->addWidget(label);
    row->addWidget(control);
    row->addStretch(1);
    return row;
}

QString iconOf(const mask::ShapeKind& kind) {
    return &kind == &mask::Brush::kindInfo ? "paintbrush" : "linear-gradient";
}

}  // namespace

WherePanel::WherePanel(Session& session, const SmallPictures& pictures, QWidget* parent)
    : PanelFrame(tr("WHERE"), parent), session_(session), pictures_(pictures) {
    // Later, not at once: the change may come from a control that is part of what is built anew.
    const auto refreshSoon = [this] { QMetaObject::invokeMethod(this, &WherePanel::refresh, Qt::QueuedConnection); };
    connect(&session_, &Session::opened, this, [this, refreshSoon] {
        rebuildNext();
        refreshSoon();
    });
    connect(&session_, &Session::documentChanged, this, refreshSoon);
    connect(&session_, &Session::selectionChanged, this, refreshSoon);
    connect(&pictures_, &SmallPictures::changed, this, &WherePanel::showPlates);
    refresh();
}

void WherePanel::refresh() {
    const document::Correction* correction = session_.correction();
    setAside(correction ? QString::fromStdString(correction->name) : QString());
    setThread(correction ? threadColour(correction->threadColour) : QColor());
    show(structure());
}

QString WherePanel::structure() const {
    if (!session_.isOpen()) return "closed";
    const document::Correction* correction = session_.correction();
    if (!correction) return "none";
    const mask::Mask& mask = correction->mask;
    QString structure = QString("%1 %2 %3 %4")
                            .arg(correction->id)
                            .arg(session_.selectedPart())
                            .arg(mask.startsEverywhere)
                            .arg(mask.inverted);
    for (const mask::PartPtr& part : mask.parts) {
        structure += QString(" %1 %2 %3 %4 %5")
                         .arg(part->id)
                         .arg(static_cast<int>(part->combine))
                         .arg(part->flipped)
                         .arg(part->enabled)
                         .arg(QString::fromStdString(part->name));
    }
    return structure;
}

void WherePanel::build(QVBoxLayout* layout, QWidget* body) {
    rows_.clear();
    if (!session_.isOpen()) return;
    if (!session_.correction()) {
        layout->addWidget(
            quietLabel(tr("Select a correction below to see where it acts, or make one with New."), body));
        layout->addStretch(1);
        return;
    }
    addStart(layout, body);
    addRows(layout, body);
    addPartButtons(layout, body);
    addPartSettings(layout, body);
    layout->addStretch(1);
    showPlates();
}

void WherePanel::addStart(QBoxLayout* layout, QWidget* body) {
    auto* starts = new Segmented(tr("Mask starts"),
                                 {{tr("nowhere"), tr("The parts add to an empty mask")},
                                  {tr("everywhere"), tr("The parts take away from a full mask")}},
                                 body);
    starts->setCurrent(session_.correction()->mask.startsEverywhere ? 1 : 0);
    connect(starts, &Segmented::chosen, this, [this](int index) {
        session_.commit(
            document::withCorrection(*session_.document(), session_.selectedCorrection(),
                                     [=](document::Correction& c) { c.mask.startsEverywhere = index == 1; }),
            tr("start of mask"));
    });
    layout->addLayout(labelled(tr("Starts"), starts, body));
    if (!session_.correction()->mask.inverted) return;
    auto* inverted = new QToolButton(body);
    inverted->setText(tr("Whole mask is inverted – undo that"));
    inverted->setAccessibleName(inverted->text());
    inverted->setToolTip(tr("The mask as its parts make it, not its inverse"));
    connect(inverted, &QAbstractButton::clicked, this, [this] {
        session_.commit(document::withCorrection(*session_.document(), session_.selectedCorrection(),
                                                 [](document::Correction& c) { c.mask.inverted = false; }),
                        tr("invert mask"));
    });
    layout->addWidget(inverted);
}

void WherePanel::addRows(QBoxLayout* layout, QWidget* body) {
    layout->addSpacing(4);
    for (const mask::PartPtr& part : session_.correction()->mask.parts) {
        auto* row = new PartRow(session_, *part, body);
        rows_.append(row);
        layout->addWidget(row);
    }
}

void WherePanel::addPartButtons(QBoxLayout* layout, QWidget* body) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 4, 0, 6);
    row->setSpacing(6);
    auto* label = new QLabel(tr("Add part"), body);
    label->setProperty("quiet", true);
    row->addWidget(label);
    int key = 1;
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        const QString name = words(kind->label);
        QToolButton* button = iconButton(iconOf(*kind), tr("Add %1").arg(name.toLower()),
                                         tr("%1 (%2)\n%3").arg(name).arg(key++).arg(words(kind->tip)), body);
        button->setObjectName("add-" + words(kind->id));
        button->setIconSize({20, 20});
        connect(button, &QAbstractButton::clicked, this, [this, kind] { session_.addPart(*kind); });
        row->addWidget(button);
    }
    row->addStretch(1);
    layout->addLayout(row);
    layout->addWidget(separator(body));
}

void WherePanel::addPartSettings(QBoxLayout* layout, QWidget* body) {
    const mask::Part* part = session_.part();
    if (!part) {
        layout->addWidget(quietLabel(tr("Add a part to say where the correction acts."), body));
        return;
    }
    auto* heading = new QLabel(QString::fromStdString(part->name), body);
    heading->setProperty("quiet", true);
    layout->addSpacing(6);
    layout->addWidget(heading);
    auto* opacity =
        boundSlider(mask::opacitySpec, tr("opacity of part"), session_, body,
                    [this](const document::Document& document, double value) {
                        return document::withPart(document, session_.selectedCorrection(), session_.selectedPart(),
                                                  [=](mask::Part& p) { p.opacityPct = value; });
                    });
    opacity->setObjectName("opacity");
    onRefresh([this, opacity] {
        if (session_.part()) opacity->setValue(session_.part()->opacityPct);
    });
    layout->addWidget(opacity);
    if (&part->shape->kind() == &mask::Brush::kindInfo) addBrushSettings(layout, body);
    if (&part->shape->kind() == &mask::LinearGradient::kindInfo) addGradientSettings(layout, body);
}

void WherePanel::addBrushSettings(QBoxLayout* layout, QWidget* body) {
    auto* mode = new Segmented(tr("Brush"),
                               {{tr("paints"), tr("The brush adds to this part (R)")},
                                {tr("removes"), tr("The brush takes away from this part (R; held: while held)")}},
                               body);
    mode->setCurrent(session_.brush().removes ? 1 : 0);
    connect(mode, &Segmented::chosen, this, [this](int index) {
        mask::BrushSettings brush = session_.brush();
        brush.removes = index == 1;
        session_.setBrush(brush);
    });
    layout->addLayout(labelled(tr("Brush"), mode, body));
    for (const mask::BrushParam& param : mask::brushParams()) {
        auto* slider = new ValueSlider(param.spec, body);
        slider->setObjectName("brush-" + words(param.spec.id));
        slider->setValue(session_.brush().*param.value);
        connect(slider, &ValueSlider::changed, this, [this, &param](double value) {
            mask::BrushSettings brush = session_.brush();
            brush.*param.value = value;
            session_.setBrush(brush);
        });
        connect(&session_, &Session::brushChanged, slider,
                [this, slider, &param] { slider->setValue(session_.brush().*param.value); });
        layout->addWidget(slider);
    }
    connect(&session_, &Session::brushChanged, mode,
            [this, mode] { mode->setCurrent(session_.brush().removes ? 1 : 0); });
}

void WherePanel::addGradientSettings(QBoxLayout* layout, QWidget* body) {
    auto* profile = new Segmented(tr("Profile"),
                                  {{tr("smooth"), tr("Begins and ends gently: its ends do not show")},
                                   {tr("linear"), tr("Fades evenly from full to none")}},
                                  body);
    onRefresh([this, profile] {
        const auto* gradient =
            session_.part() ? dynamic_cast<const mask::LinearGradient*>(session_.part()->shape.get()) : nullptr;
        if (gradient) profile->setCurrent(gradient->profile() == mask::GradientProfile::linear ? 1 : 0);
    });
    connect(profile, &Segmented::chosen, this, [this](int index) {
        session_.commit(
            document::withPart(*session_.document(), session_.selectedCorrection(), session_.selectedPart(),
                               [=](mask::Part& p) {
                                   const auto& old = static_cast<const mask::LinearGradient&>(*p.shape);
                                   p.shape = std::make_shared<mask::LinearGradient>(
                                       old.full(), old.none(),
                                       index == 1 ? mask::GradientProfile::linear : mask::GradientProfile::smooth);
                               }),
            tr("profile of gradient"));
    });
    layout->addLayout(labelled(tr("Profile"), profile, body));
    layout->addSpacing(6);
    layout->addWidget(quietLabel(
        tr("Drag on the photo to lay the gradient; drag its lines to widen, the spine to move, a line's end to "
           "turn. Shift keeps to 15 degrees."),
        body));
}

void WherePanel::showPlates() {
    for (PartRow* row : rows_) row->setPlate(pictures_.pictures().parts.value(row->part()));
}

}  // namespace dimhem::ui
