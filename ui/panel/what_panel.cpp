#include "ui/panel/what_panel.h"
#include "ui/control/combo_box.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <algorithm>

#include "core/kernel/mix_rows.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/drag_label.h"
#include "ui/control/fold.h"
#include "ui/control/icon.h"
#include "ui/control/labelled_row.h"
#include "ui/control/stitch.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/panel/adjustment_menu.h"
#include "ui/panel/adjustment_sheet.h"
#include "ui/panel/colour_meter.h"
#include "ui/panel/photo_facts.h"
#include "ui/panel/probe_list.h"
#include "ui/session/key_table.h"
#include "ui/session/several.h"

namespace dimhem::ui {

WhatPanel::WhatPanel(Session& session, ColourWatch& colours, const NoiseWatch& noise, ProbeWatch& probes,
                     const MeasuringWatch& measuring, QWidget* parent)
    : PanelFrame(tr("What"), PanelBorder::Edge::left, "panel/what", parent),
      session_(session),
      colours_(colours),
      measuring_(measuring) {
    setProperty("help", "what");
    connect(&session_, &Session::opened, this, [this] {
        folded_.clear();  // what is remembered by id belongs to the document before
        editing_ = {};
        rebuildNext();
        refreshSoon();
    });
    connect(&session_, &Session::threadColourChanged, this, &WhatPanel::refreshSoon);
    connect(&session_, &Session::documentChanged, this, &WhatPanel::refreshSoon);
    connect(&measuring_, &MeasuringWatch::staleChanged, this, &WhatPanel::refreshSoon);
    connect(&session_, &Session::selectionChanged, this, &WhatPanel::refreshSoon);
    connect(&session_, &Session::selectionChanged, &session_, &Session::stopAsking);
    connect(&colours_, &ColourWatch::changed, this, [this] {
        for (const auto& refresh : colourRefreshers_) refresh();
    });
    addBelow(new ColourMeter(session_, colours, noise, probes, this));
    addBelow(new ProbeList(session_, probes, this));
    refresh();
}

// Later, not at once: the change may come from a control that is part of what is built anew.
void WhatPanel::refreshSoon() {
    QMetaObject::invokeMethod(this, &WhatPanel::refresh, Qt::QueuedConnection);
}

void WhatPanel::refresh() {
    const document::Correction* correction = session_.correction();
    setThread(correction ? threadColour(correction->threadColour) : QColor());
    showBody(structure());
    // Once what is new has its place.
    if (added_) QMetaObject::invokeMethod(this, &WhatPanel::showAdded, Qt::QueuedConnection);
}

QString WhatPanel::structure() const {
    if (!session_.isOpen()) return "closed";
    const document::Correction* correction = session_.correction();
    if (!correction) return "photo";
    QString structure = QString("%1 under %2").arg(correction->id).arg(correction->bracket);
    for (const document::AdjustmentUse& use : correction->adjustments) {
        structure += QString(" %1 %2%3%4")
                         .arg(idText(use.kind->id))
                         .arg(use.id)
                         .arg(use.enabled ? '+' : '-')
                         .arg(folded_.contains(use.id) ? 'f' : 'o');
        if (!editorOf(*use.kind)) continue;
        structure += QString("/%1").arg(editing_.chosen.value(use.id));
        for (const adjust::Table& table : use.settings.tables) structure += QString(",%1").arg(table.size());
    }
    return structure;
}

void WhatPanel::build(QVBoxLayout* layout, QWidget* body) {
    setAside({});
    colourRefreshers_.clear();
    headings_.clear();
    session_.setGlare(std::nullopt);  // whatever was being dragged or pointed at is gone
    session_.setShine({});
    if (!session_.isOpen()) return;
    const document::Correction* correction = session_.correction();
    if (!correction) {
        setAside(tr("the photo"));
        auto* facts = new PhotoFacts(session_, body);
        onRefresh([facts] { facts->refresh(); });
        layout->addWidget(facts);
        layout->addStretch(1);
        return;
    }
    const auto count = correction->adjustments.size();
    setAside(count == 1 ? tr("1 adjustment") : tr("%1 adjustments").arg(count));
    const document::Id id = correction->id;
    auto* strength = boundSlider(document::strengthSpec, tr("change strength"), session_, {id, 0}, body,
                                 [this, id](const document::Document& d, double value) {
                                     return withEach(d, togetherWith(session_, id),
                                                     [=](document::Correction& c) { c.strengthPct = value; });
                                 });
    strength->setObjectName("correction-strength");
    onRefresh([this, strength] {
        if (session_.correction()) strength->setValue(session_.correction()->strengthPct);
    });
    layout->addWidget(strength);
    if (document::bracketOf(*session_.document(), *correction)) addBracket(layout, body, correction->bracket);
    addBlending(layout, body);
    for (const document::AdjustmentUse& use : correction->adjustments) addAdjustment(layout, body, use);
    layout->addSpacing(6);
    layout->addWidget(separator(body));
    layout->addSpacing(8);
    addAdjustmentButton(layout, body);
    layout->addStretch(1);
}

// The strength and the switch that it shares with others.
void WhatPanel::addBracket(QBoxLayout* layout, QWidget* body, document::Id bracket) {
    const auto current = [this, bracket]() -> const document::Bracket* {
        if (!session_.isOpen()) return nullptr;
        const auto found = std::ranges::find(session_.document()->brackets, bracket, &document::Bracket::id);
        return found == session_.document()->brackets.end() ? nullptr : &*found;
    };
    auto* strength =
        boundSlider(document::bracketStrengthSpec, tr("change strength of bracket"), session_, {0, 0}, body,
                    [bracket](const document::Document& d, double value) {
                        return document::withBracket(d, bracket, [=](document::Bracket& b) { b.strengthPct = value; });
                    });
    strength->setObjectName("bracket-strength");
    layout->addWidget(strength);
    static constexpr base::ParamSpec on = {.id = "bracket-on",
                                           .label = "Bracket on",
                                           .tip = "All corrections under the bracket on or off.",
                                           .toggle = true};
    auto* enabled = new ValueSwitch(on, body);
    enabled->setObjectName("bracket-on");
    connect(enabled, &ValueSwitch::changed, this, [this, bracket](bool isOn) {
        session_.edit(isOn ? tr("switch bracket on") : tr("switch bracket off"), [&](const document::Document& d) {
            return document::withBracket(d, bracket, [=](document::Bracket& b) { b.enabled = isOn; });
        });
    });
    layout->addWidget(enabled);
    onRefresh([current, strength, enabled] {
        if (!current()) return;
        strength->setValue(current()->strengthPct);
        enabled->setValue(current()->enabled);
    });
}

// How the correction is laid over what was there: rarely changed.
void WhatPanel::addBlending(QBoxLayout* layout, QWidget* body) {
    auto* fold = new Fold(tr("Blending"), "blending", tr("How what the correction makes is laid over the photo"), body);
    addBlend(fold->rows(), fold->body());
    addMixing(fold->rows(), fold->body());
    addCleanEdge(fold->rows(), fold->body());
    onRefresh([this, fold] {
        const document::Correction* c = session_.correction();
        if (!c) return;
        QStringList set;
        for (const kernel::BlendModeInfo& info : kernel::blendModes()) {
            if (info.mode == c->blend) set << words(info.label);
        }
        set << words(kernel::mixingLaws()[static_cast<std::size_t>(c->mixing)].label);
        if (c->cleanEdge) set << tr("Clean edge");
        fold->setSummary(set.join(tr(", ")));
    });
    layout->addWidget(fold);
}

void WhatPanel::addCleanEdge(QBoxLayout* layout, QWidget* body) {
    static constexpr base::ParamSpec clean = {
        .id = "clean-edge",
        .label = "Clean edge",
        .tip =
            "Where the thing and what is behind it share a pixel, only the thing's "
            "own colour is corrected: no rim is left.",
        .toggle = true};
    auto* cleanEdge = new ValueSwitch(clean, body);
    cleanEdge->setObjectName("clean-edge");
    connect(cleanEdge, &ValueSwitch::changed, this, [this](bool on) {
        session_.edit(on ? tr("switch clean edge on") : tr("switch clean edge off"), [&](const document::Document& d) {
            return withEach(d, session_.selectedCorrections(), [on](document::Correction& c) { c.cleanEdge = on; });
        });
    });
    onRefresh([this, cleanEdge] {
        if (session_.correction()) cleanEdge->setValue(session_.correction()->cleanEdge);
    });
    layout->addWidget(cleanEdge);
}

void WhatPanel::addBlend(QBoxLayout* layout, QWidget* body) {
    auto* modes = new ComboBox(body, ComboBox::Width::given);
    modes->setObjectName("blend");
    modes->setAccessibleName(tr("Blend mode"));
    modes->setToolTip(tr("How what the correction makes is laid over what was there"));
    for (const kernel::BlendModeInfo& info : kernel::blendModes()) {
        modes->addItem(words(info.label), static_cast<int>(info.mode));
        modes->setItemData(modes->count() - 1, words(info.tip), Qt::ToolTipRole);
    }
    connect(modes, &QComboBox::activated, this, [this, modes](int index) {
        const auto mode = static_cast<kernel::BlendMode>(modes->itemData(index).toInt());
        session_.edit(tr("change blend mode"), [&](const document::Document& d) {
            return withEach(d, session_.selectedCorrections(), [=](document::Correction& c) { c.blend = mode; });
        });
    });
    onRefresh([this, modes] {
        if (session_.correction())
            modes->setCurrentIndex(modes->findData(static_cast<int>(session_.correction()->blend)));
    });
    layout->addWidget(new LabelledRow(tr("Blend"), modes, body));
}

void WhatPanel::addMixing(QBoxLayout* layout, QWidget* body) {
    auto* laws = new ComboBox(body, ComboBox::Width::given);
    laws->setObjectName("mixing");
    laws->setAccessibleName(tr("Mixing law"));
    laws->setToolTip(tr("How none and full are mixed where the mask covers in part"));
    for (const kernel::MixingLawInfo& info : kernel::mixingLaws()) {
        laws->addItem(words(info.label));
        laws->setItemData(laws->count() - 1, words(info.tip), Qt::ToolTipRole);
    }
    connect(laws, &QComboBox::activated, this, [this](int index) {
        session_.edit(tr("change mixing"), [&](const document::Document& d) {
            return withEach(d, session_.selectedCorrections(),
                            [=](document::Correction& c) { c.mixing = static_cast<kernel::MixingLaw>(index); });
        });
    });
    onRefresh([this, laws] {
        if (session_.correction()) laws->setCurrentIndex(static_cast<int>(session_.correction()->mixing));
    });
    layout->addWidget(new LabelledRow(tr("Mixing"), laws, body));
}

void WhatPanel::addAdjustment(QBoxLayout* layout, QWidget* body, const document::AdjustmentUse& use) {
    layout->addSpacing(4);
    layout->addWidget(separator(body));
    const QString name = words(use.kind->label);
    const document::Id id = use.id;
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 5, 0, 1);
    const bool folded = folded_.contains(id);
    QToolButton* fold =
        iconButton(folded ? "chevron-right" : "chevron-down", tr("Fold %1").arg(name), tr("Fold or open"), body);
    fold->setIconSize(QSize(12, 12) * theme::scaled(100) / 100);
    fold->setFixedSize(theme::scaled(24), theme::scaled(24));
    fold->setObjectName(QString("fold-%1").arg(id));
    connect(fold, &QAbstractButton::clicked, this, [this, id] {
        folded_.contains(id) ? void(folded_.remove(id)) : void(folded_.insert(id));
        QMetaObject::invokeMethod(this, &WhatPanel::refresh, Qt::QueuedConnection);
    });
    auto* label = new DragLabel(name, body);
    label->setProperty("heading", true);
    label->setWordWrap(true);
    label->setToolTip(tr("%1\nDrag it to have it act earlier or later.").arg(words(use.kind->tip)));
    headings_.append({id, label});
    for (QWidget* place : {static_cast<QWidget*>(label), static_cast<QWidget*>(fold)}) {
        place->setContextMenuPolicy(Qt::CustomContextMenu);
        connect(place, &QWidget::customContextMenuRequested, this,
                [this, id, place](QPoint at) { adjustmentMenu(session_, id, this)->popup(place->mapToGlobal(at)); });
    }
    connect(label, &DragLabel::dragged, this, &WhatPanel::markDrop);
    connect(label, &DragLabel::dropped, this, [this, id](QPoint global) { drop(id, global); });
    QToolButton* remove = iconButton("x", tr("Remove %1").arg(name), tr("Remove this adjustment"), body);
    remove->setIconSize(QSize(12, 12) * theme::scaled(100) / 100);
    remove->setFixedSize(theme::scaled(24), theme::scaled(24));
    remove->setObjectName(QString("remove-%1").arg(id));
    connect(remove, &QAbstractButton::clicked, this, [this, id, name] {
        session_.edit(tr("remove adjustment: %1").arg(name), [&](const document::Document& d) {
            return document::withoutAdjustment(d, session_.selectedCorrection(), id);
        });
        session_.sayOfStep(tr("Removed the adjustment %1.").arg(name));
    });
    const auto& all = session_.correction()->adjustments;
    const auto at = std::find_if(all.begin(), all.end(), [=](const auto& u) { return u.id == id; }) - all.begin();
    QToolButton* earlier =
        iconButton("chevron-up", tr("%1 acts earlier").arg(name), tr("Act before the one above it"), body);
    earlier->setIconSize(QSize(12, 12) * theme::scaled(100) / 100);
    earlier->setFixedSize(theme::scaled(24), theme::scaled(24));
    earlier->setObjectName(QString("earlier-%1").arg(id));
    earlier->setVisible(at > 0);
    connect(earlier, &QAbstractButton::clicked, this, [this, id, at, name] {
        session_.edit(tr("move earlier: %1").arg(name), [&](const document::Document& d) {
            return document::withAdjustmentMoved(d, session_.selectedCorrection(), id,
                                                 static_cast<std::size_t>(at - 1));
        });
    });
    auto* enabled = new Switch(tr("%1 on").arg(name), tr("This adjustment on or off"), body);
    enabled->setChecked(use.enabled);
    enabled->setObjectName(QString("enabled-%1").arg(id));
    connect(enabled, &QAbstractButton::clicked, this, [this, id, name](bool on) {
        session_.edit(on ? tr("switch on: %1").arg(name) : tr("switch off: %1").arg(name),
                      [&](const document::Document& d) {
                          return document::withAdjustment(d, session_.selectedCorrection(), id,
                                                          [=](document::AdjustmentUse& u) { u.enabled = on; });
                      });
    });
    row->addWidget(fold);
    row->addWidget(label, 1);
    row->addWidget(earlier);
    row->addWidget(remove);
    row->addWidget(enabled);
    layout->addLayout(row);
    if (use.kind->measure) addMeasuredNote(layout, body, id);
    if (!folded) addParameters(layout, body, use);
}

// What was measured and is no longer so, or found nothing, says so for as long as that is so.
void WhatPanel::addMeasuredNote(QBoxLayout* layout, QWidget* body, document::Id id) {
    QLabel* note = quietLabel({}, body);
    note->setObjectName(QString("measured-note-%1").arg(id));
    onRefresh([this, note, id] {
        const document::AdjustmentUse* use =
            session_.correction() ? document::findAdjustment(*session_.correction(), id) : nullptr;
        QString says;
        if (use && measuring_.isStale(id)) {
            says = tr("The mask, or the picture under it, has changed since this was measured.");
        } else if (use && use->measuredUnder && !use->measuredUnder->found) {
            says = tr("Nothing was found under this mask.");
        }
        note->setText(says);
        note->setVisible(!says.isEmpty());
    });
    layout->addWidget(note);
}

std::size_t WhatPanel::placeAt(QPoint global) const {
    return static_cast<std::size_t>(std::count_if(headings_.begin(), headings_.end(), [&](const Heading& heading) {
        return heading.row->mapToGlobal(heading.row->rect().center()).y() < global.y();
    }));
}

void WhatPanel::markDrop(QPoint global) {
    if (headings_.size() < 2) return;
    QWidget* body = headings_.front().row->parentWidget();
    if (!mark_) {
        auto* line = new StitchLine(body);
        line->setColour(QColor(theme::bright));
        mark_ = line;
    }
    const auto place = static_cast<qsizetype>(placeAt(global));
    const int y = place < headings_.size() ? headings_[place].row->y() - 8 : body->mapFromGlobal(global).y();
    mark_->setGeometry(6, y, body->width() - 12, 5);
    mark_->show();
    mark_->raise();
}

void WhatPanel::drop(document::Id id, QPoint global) {
    if (mark_) mark_->hide();
    const auto at = std::find_if(headings_.begin(), headings_.end(), [=](const Heading& h) { return h.id == id; });
    if (at == headings_.end()) return;
    std::size_t to = placeAt(global);
    if (to > static_cast<std::size_t>(at - headings_.begin())) --to;  // its own place closes behind it
    session_.edit(tr("move adjustment"), [&](const document::Document& d) {
        return document::withAdjustmentMoved(d, session_.selectedCorrection(), id, to);
    });
}

void WhatPanel::addParameters(QBoxLayout* layout, QWidget* body, const document::AdjustmentUse& use) {
    const auto add = [this, layout, body, use](std::size_t param) { addParameter(layout, body, use, param); };
    const EditorBuilder build = editorOf(*use.kind);
    if (!build) {
        for (std::size_t i = 0; i < use.kind->params.size(); ++i) add(i);
        return;
    }
    const auto onColours = [this](std::function<void()> refresh) {
        refresh();
        colourRefreshers_.append(std::move(refresh));
    };
    build({session_, colours_, editing_, layout, body, session_.selectedCorrection(), use.id, *use.kind,
           [this](std::function<void()> refresh) { onRefresh(std::move(refresh)); }, onColours,
           [this] { refreshSoon(); }, add});
}

void WhatPanel::addParameter(QBoxLayout* layout, QWidget* body, const document::AdjustmentUse& use, std::size_t i) {
    const document::Id id = use.id;
    const base::ParamSpec& spec = use.kind->params[i];
    const QString step = tr("%1: %2").arg(words(use.kind->label), words(spec.label));
    const document::Id correction = session_.selectedCorrection();
    const auto changed = [correction, id, i](const document::Document& document, double value) {
        return document::withAdjustment(document, correction, id,
                                        [=](document::AdjustmentUse& u) { u.settings.values[i] = value; });
    };
    if (spec.toggle) {
        auto* toggle = new ValueSwitch(spec, body);
        toggle->setObjectName(idText(spec.id));
        onRefresh([this, toggle, id, i] { toggle->setValue(valueOf(id, i) != 0); });
        connect(toggle, &ValueSwitch::changed, this, [this, changed, step](bool on) {
            session_.edit(step, [&](const document::Document& d) { return changed(d, on); });
        });
        layout->addWidget(toggle);
        return;
    }
    auto* slider = boundSlider(spec, step, session_, {correction, 0}, body, changed);
    slider->setObjectName(idText(spec.id));
    onRefresh([this, slider, id, i] { slider->setValue(valueOf(id, i)); });
    slider->setEnabled(use.enabled);
    layout->addWidget(slider);
}

double WhatPanel::valueOf(document::Id use, std::size_t param) const {
    const document::AdjustmentUse* found =
        session_.correction() ? document::findAdjustment(*session_.correction(), use) : nullptr;
    return found && param < found->settings.values.size() ? found->settings.values[param] : 0;
}

document::Id WhatPanel::adjustmentPointedAt() const {
    for (const Heading& heading : headings_) {
        if (heading.row->underMouse()) return heading.id;
    }
    const QString focused = focusWidget() ? focusWidget()->objectName() : QString();
    for (const Heading& heading : headings_) {
        for (const char* name : {"fold-%1", "enabled-%1", "remove-%1", "earlier-%1"}) {
            if (focusWidget() && focusWidget()->hasFocus() && focused == QString(name).arg(heading.id))
                return heading.id;
        }
    }
    return 0;
}

void WhatPanel::addKind(const adjust::AdjustmentKind& kind) {
    document::Id added = 0;
    session_.edit(tr("add adjustment: %1").arg(words(kind.label)), [&](const document::Document& d) {
        const document::Added now = document::withNewAdjustment(d, session_.selectedCorrection(), kind);
        added = now.id;
        return now.document;
    });
    if (added == 0) return session_.sayFull();
    added_ = added;
}

// What has just been added may lie below what is in sight.
void WhatPanel::showAdded() {
    const auto at = std::ranges::find_if(headings_, [&](const Heading& heading) { return heading.id == added_; });
    added_ = 0;
    if (at != headings_.end()) showInBody(at->row);
}

void WhatPanel::openAdjustmentSheet() {
    auto* button = findChild<QPushButton*>("add-adjustment");
    if (!button || !session_.correction()) return;
    ui::openAdjustmentSheet(session_, button, [this](const adjust::AdjustmentKind& kind) { addKind(kind); });
}

void WhatPanel::addAdjustmentButton(QBoxLayout* layout, QWidget* body) {
    auto* button = new QPushButton(icon("plus"), tr("Add adjustment"), body);
    button->setProperty("stitched", true);
    button->setObjectName("add-adjustment");
    button->setToolTip(withKey(tr("What this correction is to do, listed by the fault it cures"), "add-adjustment"));
    button->setAccessibleName(button->text());
    connect(button, &QAbstractButton::clicked, this, &WhatPanel::openAdjustmentSheet);
    auto* row = new QHBoxLayout;
    row->addWidget(button);
    row->addStretch(1);
    layout->addLayout(row);
}

}  // namespace dimhem::ui
