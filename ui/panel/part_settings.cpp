#include "ui/panel/part_settings.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/haze_depth.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/matte.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/mask/veil_density.h"
#include "core/mask/wire.h"
#include "core/task/chosen_files.h"
#include "core/task/matte_file.h"
#include "core/task/probe.h"
#include "core/task/state_folder.h"
#include "ui/control/range_strip.h"
#include "ui/control/segmented.h"
#include "ui/panel/bound_slider.h"
#include "ui/panel/bringing_settings.h"
#include "ui/session/latest_job.h"
#include "ui/session/photo_reading.h"

namespace dimhem::ui {

namespace {

using Builder = SettingsBuilder;

// The part's shape in a version, as the kind the settings are built for; null where it is gone.
template <class T>
std::shared_ptr<const T> shapeIn(const Builder& b, const document::Document& document) {
    const document::Correction* correction = document::findCorrection(document, b.target.correction);
    const mask::Part* part = correction ? mask::findPart(correction->mask, b.target.part) : nullptr;
    return part ? std::dynamic_pointer_cast<const T>(part->shape) : nullptr;
}

// As it is now.
template <class T>
std::shared_ptr<const T> shapeOf(const Builder& b) {
    return b.session.isOpen() ? shapeIn<T>(b, *b.session.document()) : nullptr;
}

// A version with the shape made anew by `change(shape)`; as it is where the part is gone.
template <class T, class Change>
document::DocumentPtr withShape(const Builder& b, const document::Document& document, const Change& change) {
    return document::withPart(document, b.target.correction, b.target.part, [&](mask::Part& part) {
        if (const auto shape = std::dynamic_pointer_cast<const T>(part.shape)) part.shape = change(*shape);
    });
}

template <class T, class Change>
void editShape(const Builder& b, const QString& step, const Change& change) {
    b.session.edit(step, [&](const document::Document& d) { return withShape<T>(b, d, change); });
}

void addLabelled(const Builder& b, const QString& text, QWidget* control) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 2, 0, 2);
    auto* label = new QLabel(text, b.body);
    label->setFixedWidth(88);
    row->addWidget(label);
    row->addWidget(control);
    row->addStretch(1);
    b.layout->addLayout(row);
}

QLabel* addHint(const Builder& b, const QString& text) {
    auto* label = new QLabel(text, b.body);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    b.layout->addSpacing(6);
    b.layout->addWidget(label);
    return label;
}

// A slider of one number of the shape's values: `values(shape)` gives a copy to change, `made` a shape of it.
template <class T, class Values>
void addSlider(const Builder& b, const base::ParamSpec& spec, double Values::*member,
               const std::function<Values(const T&)>& values,
               const std::function<mask::ShapePtr(const Values&)>& made) {
    auto* slider = boundSlider(spec, words(spec.label).toLower() + QObject::tr(" of part"), b.session, b.target, b.body,
                               [b, member, values, made](const document::Document& document, double value) {
                                   return withShape<T>(b, document, [&](const T& shape) {
                                       Values changed = values(shape);
                                       changed.*member = value;
                                       return made(changed);
                                   });
                               });
    slider->setObjectName("part-" + words(spec.id));
    b.onRefresh([b, slider, member, values] {
        if (const auto shape = shapeOf<T>(b)) slider->setValue(values(*shape).*member);
    });
    b.layout->addWidget(slider);
}

// A strip of one range of the shape's values.
template <class T, class Values>
RangeStrip* addStrip(const Builder& b, RangeStrip::Scale scale, const QString& name, const QString& objectName,
                     const QString& step, mask::Range Values::*member) {
    auto* strip = new RangeStrip(scale, name, b.body);
    strip->setObjectName(objectName);
    const auto gesture = controlGesture(b.session, step, b.target);
    QObject::connect(strip, &RangeStrip::changed, &b.session, [b, gesture, member](const mask::Range& range) {
        gesture->preview([&](const document::Document& base) {
            return withShape<T>(b, base, [&](const T& shape) {
                Values changed = shape.values();
                changed.*member = range;
                return std::make_shared<T>(changed);
            });
        });
    });
    QObject::connect(strip, &RangeStrip::finished, &b.session, [gesture] { gesture->commit(); });
    b.onRefresh([b, strip, member] {
        if (const auto shape = shapeOf<T>(b)) strip->setRange(shape->values().*member);
    });
    b.layout->addWidget(strip);
    return strip;
}

ValueSlider* addBrushSlider(const Builder& b, const mask::BrushParam& param) {
    Session& session = b.session;
    auto* slider = new ValueSlider(param.spec, b.body);
    slider->setObjectName("brush-" + words(param.spec.id));
    slider->setValue(session.brush().*param.value);
    QObject::connect(slider, &ValueSlider::changed, &session, [&session, &param](double value) {
        mask::BrushSettings brush = session.brush();
        brush.*param.value = value;
        session.setBrush(brush);
    });
    QObject::connect(&session, &Session::brushChanged, slider,
                     [&session, slider, &param] { slider->setValue(session.brush().*param.value); });
    b.layout->addWidget(slider);
    return slider;
}

// The switch of holding edges, and how far it goes, there while it is on.
void addHolding(const Builder& b) {
    Session& session = b.session;
    static constexpr base::ParamSpec holds = {.id = "hold-edges",
                                              .label = "Hold edges",
                                              .tip = "Does not go past the edge of what the ring's middle is on (H).",
                                              .toggle = true};
    auto* hold = new ValueSwitch(holds, b.body);
    hold->setObjectName("hold-edges");
    QObject::connect(hold, &ValueSwitch::changed, &session, [&session](bool on) {
        mask::BrushSettings brush = session.brush();
        brush.holds = on;
        session.setBrush(brush);
    });
    b.layout->addWidget(hold);
    const auto params = mask::brushParams();
    const auto tolerance = std::find_if(params.begin(), params.end(), [](const mask::BrushParam& param) {
        return param.value == &mask::BrushSettings::tolerancePct;
    });
    ValueSlider* slider = addBrushSlider(b, *tolerance);
    const auto show = [&session, hold, slider] {
        hold->setValue(session.brush().holds);
        slider->setVisible(session.brush().holds);
    };
    QObject::connect(&session, &Session::brushChanged, hold, show);
    show();
}

// Whether the brush paints or removes.
void addBrushMode(const Builder& b) {
    Session& session = b.session;
    auto* mode = new Segmented(
        QObject::tr("Brush"),
        {{QObject::tr("paints"), QObject::tr("The brush adds to this part (R)")},
         {QObject::tr("removes"), QObject::tr("The brush takes away from this part (R; held: while held)")}},
        b.body);
    QObject::connect(mode, &Segmented::chosen, &session, [&session](int index) {
        mask::BrushSettings brush = session.brush();
        brush.removes = index == 1;
        session.setBrush(brush);
    });
    addLabelled(b, QObject::tr("Brush"), mode);
    const auto show = [&session, mode] { mode->setCurrent(session.brush().removes ? 1 : 0); };
    QObject::connect(&session, &Session::brushChanged, mode, show);
    show();
}

void addFineDetail(const Builder& b) {
    static constexpr base::ParamSpec alongEdge = {
        .id = "along-edge",
        .label = "Along edge",
        .tip =
            "Looks for fine detail and soft passages along the edge of the mask above; what is solid stays as it is.",
        .toggle = true};
    auto* looks = new ValueSwitch(alongEdge, b.body);
    looks->setObjectName("detail-along-edge");
    QObject::connect(looks, &ValueSwitch::changed, &b.session, [b](bool on) {
        editShape<mask::Brush>(b, on ? QObject::tr("look along edge") : QObject::tr("look where painted only"),
                               [on](const mask::Brush& shape) { return shape.withLookingAlongEdge(on); });
    });
    b.onRefresh([b, looks] {
        if (const auto shape = shapeOf<mask::Brush>(b)) looks->setValue(shape->looksAlongEdge());
    });
    b.layout->addWidget(looks);
    addBrushMode(b);
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value == &mask::BrushSettings::sizePx) addBrushSlider(b, param);
    }
    addHint(b, QObject::tr("Paint over the whole passage where hair, leaves or fringe meet what is behind: a little of "
                           "what is surely one and surely the other may stay beside it. The parts above say which "
                           "side is which. Removing leaves a passage as the parts above have it."));
}

void addBrush(const Builder& b) {
    Session& session = b.session;
    addBrushMode(b);
    addBringing(b);
    addHolding(b);
    for (const mask::BrushParam& param : mask::brushParams()) {
        if (param.value == &mask::BrushSettings::tolerancePct) continue;  // belongs to holding edges
        addBrushSlider(b, param);
    }
    static constexpr base::ParamSpec standIn = {.id = "pen-stand-in",
                                                .label = "Pen stand-in",
                                                .tip = "For a mouse: a slow hand presses hard, a fast one lightly.",
                                                .toggle = true};
    auto* toggle = new ValueSwitch(standIn, b.body);
    toggle->setObjectName("pen-stand-in");
    QObject::connect(toggle, &ValueSwitch::changed, &session, &Session::setPenStandIn);
    b.layout->addWidget(toggle);
    const auto show = [&session, toggle] { toggle->setValue(session.penStandIn()); };
    QObject::connect(&session, &Session::brushChanged, toggle, show);
    show();
}

void addLinearGradient(const Builder& b) {
    auto* profile = new Segmented(QObject::tr("Profile"),
                                  {{QObject::tr("smooth"), QObject::tr("Begins and ends gently: its ends do not show")},
                                   {QObject::tr("linear"), QObject::tr("Fades evenly from full to none")}},
                                  b.body);
    b.onRefresh([b, profile] {
        if (const auto g = shapeOf<mask::LinearGradient>(b))
            profile->setCurrent(g->profile() == mask::GradientProfile::linear ? 1 : 0);
    });
    QObject::connect(profile, &Segmented::chosen, &b.session, [b](int index) {
        const auto chosen = index == 1 ? mask::GradientProfile::linear : mask::GradientProfile::smooth;
        editShape<mask::LinearGradient>(b, QObject::tr("profile of gradient"), [&](const mask::LinearGradient& g) {
            return std::make_shared<mask::LinearGradient>(g.full(), g.none(), chosen);
        });
    });
    addLabelled(b, QObject::tr("Profile"), profile);
    addHint(
        b,
        QObject::tr(
            "Drag on the photo to lay the gradient; drag its lines to widen, the spine to move, a line's end to turn. "
            "Shift keeps to 15 degrees."));
}

void addRadialGradient(const Builder& b) {
    addSlider<mask::RadialGradient, mask::Oval>(
        b, mask::ovalFeatherSpec, &mask::Oval::featherPct, [](const mask::RadialGradient& g) { return g.oval(); },
        [](const mask::Oval& oval) { return std::make_shared<mask::RadialGradient>(oval); });
    addHint(b,
            QObject::tr(
                "Drag on the photo to lay the oval from its centre, with Alt from its corner; Shift keeps it round. "
                "Drag the "
                "knobs to stretch, the filled one to feather, the centre to move, the one outside to turn. It may lie "
                "beside the photo. F turns it inside out."));
}

void addMeasured(const Builder& b, const std::function<mask::Seen()>& current,
                 const std::function<void(mask::Seen)>& choose) {
    auto* measured = new Segmented(
        QObject::tr("Measured on"),
        {{QObject::tr("photo"), QObject::tr("The untouched photo: other corrections do not move the mask")},
         {QObject::tr("arriving"), QObject::tr("The picture as it arrives at this correction")}},
        b.body);
    b.onRefresh([measured, current] { measured->setCurrent(current() == mask::Seen::arriving ? 1 : 0); });
    QObject::connect(measured, &Segmented::chosen, &b.session,
                     [choose](int index) { choose(index == 1 ? mask::Seen::arriving : mask::Seen::photo); });
    addLabelled(b, QObject::tr("Measured on"), measured);
}

// The tones of the whole picture a range is measured on, counted in the background.
void countTones(RangeStrip* strip, const Builder& b, mask::Seen seen) {
    const Session& session = b.session;
    render::Comparison comparison;
    comparison.allOff = seen == mask::Seen::photo;
    comparison.stopBefore = seen == mask::Seen::arriving ? b.target.correction : 0;
    runInBackground(
        strip,
        [renderer = session.sharedRenderer(), document = session.document(), comparison] {
            return task::toneHistogram(*renderer, render::Sequence(document, comparison));
        },
        [strip](const std::vector<double>& parts) { strip->setHistogram(QList<double>(parts.begin(), parts.end())); });
}

void addLuminosityRange(const Builder& b) {
    using Values = mask::LuminosityRangeValues;
    const auto values = [](const mask::LuminosityRange& r) { return r.values(); };
    const auto made = [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::LuminosityRange>(v); };
    RangeStrip* strip = addStrip<mask::LuminosityRange, Values>(b, RangeStrip::Scale::tone, QObject::tr("Tones, L*"),
                                                                "tones", QObject::tr("tones of range"), &Values::tones);
    addSlider<mask::LuminosityRange, Values>(b, mask::rangeSmoothSpec, &Values::smoothPx, values, made);
    const auto seen = [b] {
        const auto shape = shapeOf<mask::LuminosityRange>(b);
        return shape ? shape->values().seen : mask::Seen::photo;
    };
    addMeasured(b, seen, [b, strip](mask::Seen chosen) {
        editShape<mask::LuminosityRange>(b, QObject::tr("what the range is measured on"),
                                         [&](const mask::LuminosityRange& shape) {
                                             Values v = shape.values();
                                             v.seen = chosen;
                                             return std::make_shared<mask::LuminosityRange>(v);
                                         });
        countTones(strip, b, chosen);
    });
    countTones(strip, b, seen());
    addHint(b, QObject::tr("Press on a tone in the photo and drag away from it to widen the range."));
}

void addHazeDepth(const Builder& b) {
    using Values = mask::HazeDepthValues;
    const auto values = [](const mask::HazeDepth& r) { return r.values(); };
    const auto made = [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::HazeDepth>(v); };
    addStrip<mask::HazeDepth, Values>(b, RangeStrip::Scale::tone, QObject::tr("Haze, near to far, %"), "haze",
                                      QObject::tr("haze of range"), &Values::haze);
    addSlider<mask::HazeDepth, Values>(b, mask::rangeSmoothSpec, &Values::smoothPx, values, made);
    addMeasured(
        b,
        [b] {
            const auto shape = shapeOf<mask::HazeDepth>(b);
            return shape ? shape->values().seen : mask::Seen::photo;
        },
        [b](mask::Seen chosen) {
            editShape<mask::HazeDepth>(b, QObject::tr("what the range is measured on"),
                                       [&](const mask::HazeDepth& shape) {
                                           Values v = shape.values();
                                           v.seen = chosen;
                                           return std::make_shared<mask::HazeDepth>(v);
                                       });
        });
    addHint(b, QObject::tr("Press on what lies in haze and drag away from it to widen the range."));
}

void addVeilDensity(const Builder& b) {
    using Values = mask::VeilDensityValues;
    addSlider<mask::VeilDensity, Values>(
        b, mask::densitySmoothSpec, &Values::smoothPx, [](const mask::VeilDensity& v) { return v.values(); },
        [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::VeilDensity>(v); });
    addSlider<mask::VeilDensity, Values>(
        b, mask::clearBelowSpec, &Values::clearBelowPct, [](const mask::VeilDensity& v) { return v.values(); },
        [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::VeilDensity>(v); });
    addMeasured(
        b,
        [b] {
            const auto shape = shapeOf<mask::VeilDensity>(b);
            return shape ? shape->values().seen : mask::Seen::photo;
        },
        [b](mask::Seen chosen) {
            editShape<mask::VeilDensity>(b, QObject::tr("what the veil is measured on"),
                                         [&](const mask::VeilDensity& shape) {
                                             Values v = shape.values();
                                             v.seen = chosen;
                                             return std::make_shared<mask::VeilDensity>(v);
                                         });
        });
    QLabel* state = addHint(b, {});
    state->setObjectName("veil-state");
    b.onRefresh([b, state] {
        const auto shape = shapeOf<mask::VeilDensity>(b);
        if (!shape) return;
        const Values& v = shape->values();
        state->setText(!v.dense   ? QObject::tr("Press on the photo where the veil is densest.")
                       : !v.clear ? QObject::tr("Ctrl+press where there is none, on things like those under it.")
                       : shape->direction()
                           ? QObject::tr("Press where the veil is densest, Ctrl+press where there is none.")
                           : QObject::tr("The two places are too much alike in colour: no veil can be told by it."));
    });
}

void addColourRange(const Builder& b) {
    using Values = mask::ColourRangeValues;
    const auto values = [](const mask::ColourRange& r) { return r.values(); };
    const auto made = [](const Values& v) -> mask::ShapePtr { return std::make_shared<mask::ColourRange>(v); };
    const auto change = [b](const QString& step, const std::function<void(Values&)>& change) {
        editShape<mask::ColourRange>(b, step, [&](const mask::ColourRange& shape) {
            Values v = shape.values();
            change(v);
            return std::make_shared<mask::ColourRange>(v);
        });
    };
    const auto present = shapeOf<mask::ColourRange>(b);
    const bool byHue = present && present->values().byHue;
    auto* by = new Segmented(QObject::tr("Chosen by"),
                             {{QObject::tr("picks"), QObject::tr("Colours like those picked on the photo")},
                              {QObject::tr("hue"), QObject::tr("A band of hues")}},
                             b.body);
    by->setCurrent(byHue ? 1 : 0);
    QObject::connect(by, &Segmented::chosen, &b.session, [change](int index) {
        change(QObject::tr("how colours are chosen"), [index](Values& v) { v.byHue = index == 1; });
    });
    addLabelled(b, QObject::tr("Chosen by"), by);
    if (byHue) {
        addStrip<mask::ColourRange, Values>(b, RangeStrip::Scale::hue, QObject::tr("Hues"), "hues",
                                            QObject::tr("hues of range"), &Values::hues);
    }
    for (const mask::ColourRangeParam& param : mask::colourRangeParams()) {
        const bool ofHue = param.value == &Values::minChromaPct;
        const bool ofPicks = param.value == &Values::tolerance || param.value == &Values::softness;
        if ((byHue && ofPicks) || (!byHue && ofHue)) continue;
        addSlider<mask::ColourRange, Values>(b, param.spec, param.value, values, made);
    }
    static constexpr base::ParamSpec together = {.id = "connected",
                                                 .label = "Connected",
                                                 .tip = "Only what is connected with the places picked.",
                                                 .toggle = true};
    auto* connected = new ValueSwitch(together, b.body);
    connected->setObjectName("connected");
    QObject::connect(connected, &ValueSwitch::changed, &b.session,
                     [change](bool on) { change(QObject::tr("connected"), [on](Values& v) { v.connected = on; }); });
    b.onRefresh([b, connected] {
        if (const auto shape = shapeOf<mask::ColourRange>(b)) connected->setValue(shape->values().connected);
    });
    b.layout->addWidget(connected);
    addMeasured(
        b,
        [b] {
            const auto shape = shapeOf<mask::ColourRange>(b);
            return shape ? shape->values().seen : mask::Seen::photo;
        },
        [change](mask::Seen seen) {
            change(QObject::tr("what the range is measured on"), [seen](Values& v) { v.seen = seen; });
        });
    addHint(b, byHue ? QObject::tr("Click on the photo to set the band about the hue there.")
                     : QObject::tr("Click on the photo to add a colour, drag to average an area; Ctrl+click takes the "
                                   "nearest pick away."));
}

// Says, once it is known, where a snap found no edge this near.
void addSnapNote(const Builder& b) {
    QLabel* note =
        addHint(b, QObject::tr("Snapping would lose most of the outline, so it stays as drawn: there is no edge "
                               "this near."));
    note->setObjectName("snap-refused");
    note->hide();
    b.onRefresh([b, note, job = std::make_shared<LatestJob>(note), asked = mask::ShapePtr()]() mutable {
        const auto outline = shapeOf<mask::Outline>(b);
        if (!outline || outline == asked) return;
        asked = outline;
        job->request(
            [outline, renderer = b.session.sharedRenderer(), document = b.session.document(),
             correction = b.target.correction] {
                const render::Sequence sequence(document, {});
                return outline->snapPx() > 0 && outline->points().size() >= 3 &&
                       outline->staysAsDrawn(*renderer->maskContext(sequence, correction));
            },
            [note](bool refused) { note->setVisible(refused); });
    });
}

void addOutline(const Builder& b) {
    struct Values {
        std::vector<base::Point> points;
        double featherPx, snapPx;
    };
    const std::function<Values(const mask::Outline&)> values = [](const mask::Outline& o) {
        return Values{o.points(), o.featherPx(), o.snapPx()};
    };
    const std::function<mask::ShapePtr(const Values&)> made = [](const Values& v) {
        return std::make_shared<mask::Outline>(v.points, v.featherPx, v.snapPx);
    };
    addSlider<mask::Outline, Values>(b, mask::outlineFeatherSpec, &Values::featherPx, values, made);
    addSlider<mask::Outline, Values>(b, mask::outlineSnapSpec, &Values::snapPx, values, made);
    auto* snap = new QPushButton(QObject::tr("Snap to the edge"), b.body);
    snap->setObjectName("snap-outline");
    snap->setAccessibleName(snap->text());
    snap->setToolTip(QObject::tr("Finds the edge of what the outline goes round; the outline stays as drawn"));
    QObject::connect(snap, &QAbstractButton::clicked, &b.session, [b] {
        // Far enough off for a hand that drew it with the whole photo in view.
        const base::Size size = b.session.renderer().photo().size();
        const double reach = std::clamp(std::round(std::max(size.width, size.height) / 200.0), 8.0, 40.0);
        editShape<mask::Outline>(b, QObject::tr("snap outline"), [&](const mask::Outline& shape) {
            return std::make_shared<mask::Outline>(shape.points(), 0, reach);
        });
    });
    b.onRefresh([b, snap] {
        const auto shape = shapeOf<mask::Outline>(b);
        snap->setEnabled(shape && shape->snapPx() == 0 && shape->points().size() >= 3);
    });
    b.layout->addWidget(snap, 0, Qt::AlignLeft);
    addSnapNote(b);
    addHint(b, QObject::tr("Drag round the thing, or click from corner to corner and close with Enter, a double click "
                           "or a click on the "
                           "first point. Points can be dragged afterwards."));
}

void addRegion(const Builder& b) {
    struct Values {
        std::vector<mask::RegionDrag> drags;
        double reachPct;
        bool apart;
    };
    addSlider<mask::Region, Values>(
        b, mask::regionReachSpec, &Values::reachPct,
        [](const mask::Region& r) {
            return Values{r.drags(), r.reachPct(), r.takesApart()};
        },
        [](const Values& v) { return std::make_shared<mask::Region>(v.drags, v.reachPct, v.apart); });
    static constexpr base::ParamSpec parts = {
        .id = "region-apart",
        .label = "Parts apart",
        .tip =
            "Takes in parts that no drag reaches where their colours are surely those of the thing, such as sky "
            "between roofs.",
        .toggle = true};
    auto* apart = new ValueSwitch(parts, b.body);
    apart->setObjectName("region-apart");
    QObject::connect(apart, &ValueSwitch::changed, &b.session, [b](bool on) {
        editShape<mask::Region>(b, on ? QObject::tr("take in parts apart") : QObject::tr("leave out parts apart"),
                                [&](const mask::Region& shape) {
                                    return std::make_shared<mask::Region>(shape.drags(), shape.reachPct(), on);
                                });
    });
    b.onRefresh([b, apart] {
        if (const auto shape = shapeOf<mask::Region>(b)) apart->setValue(shape->takesApart());
    });
    b.layout->addWidget(apart);
    addHint(b, QObject::tr("Drag roughly inside the thing: it fills out to its edge. Further drags add what was left "
                           "out, Ctrl and drag takes away what was too much. A dotted ring shows where it is least "
                           "sure: a drag there tells most."));
}

void addWire(const Builder& b) {
    struct Values {
        std::vector<mask::WireLine> lines;
        double widthPct;
    };
    addSlider<mask::Wire, Values>(
        b, mask::wireWidthSpec, &Values::widthPct,
        [](const mask::Wire& w) {
            return Values{w.lines(), w.widthPct()};
        },
        [](const Values& v) { return std::make_shared<mask::Wire>(v.lines, v.widthPct); });
    addHint(b,
            QObject::tr("Click along a wire, rope, mast or rail: from click to click it is followed. Enter or a double "
                        "click ends the line. Places can be dragged; Ctrl and a click takes one away."));
}

// The picture becomes the part's matte once it has been read.
void takeMatte(const Builder& b, const QString& path) {
    readInBackground(
        b.session, [path = path.toStdString()] { return task::readMatte(path); },
        [b](const base::Result<std::shared_ptr<const mask::Matte>>& matte) {
            if (!matte) {
                b.session.say(QString::fromStdString(matte.error().message));
                return;
            }
            task::rememberChosen((*matte)->file(), task::stateFolder());
            editShape<mask::Matte>(b, QObject::tr("choose matte"), [&](const mask::Matte&) { return *matte; });
        });
}

void addMatte(const Builder& b) {
    const auto shape = shapeOf<mask::Matte>(b);
    if (!shape) return;
    const bool hasAlpha = b.session.renderer().photo().photo().samples.hasAlpha();
    addHint(b, shape->isAlpha() ? (hasAlpha ? QObject::tr("The photo's own alpha.")
                                            : QObject::tr("This photo has no alpha of its own: choose a picture."))
                                : QObject::tr("From %1, scaled to the photo.")
                                      .arg(QFileInfo(QString::fromStdString(shape->file())).fileName()));
    auto* choose = new QPushButton(QObject::tr("Choose a picture…"), b.body);
    choose->setAccessibleName(choose->text());
    choose->setToolTip(QObject::tr("A grey picture of 8 or 16 bits: white is full, black is none"));
    choose->setObjectName("choose-matte");
    QObject::connect(choose, &QAbstractButton::clicked, b.body, [b] {
        auto* chooser = new QFileDialog(b.body->window(), QObject::tr("Choose a matte"), {},
                                        QObject::tr("Pictures (*.png *.tif *.tiff *.jpg *.webp);;All files (*)"));
        chooser->setFileMode(QFileDialog::ExistingFile);
        chooser->setAttribute(Qt::WA_DeleteOnClose);
        QObject::connect(chooser, &QFileDialog::fileSelected, &b.session,
                         [b](const QString& path) { takeMatte(b, path); });
        chooser->open();
    });
    b.layout->addSpacing(6);
    b.layout->addWidget(choose, 0, Qt::AlignLeft);
}

void addBorrowed(const Builder& b) {
    auto* from = new QComboBox(b.body);
    from->setObjectName("borrow-from");
    from->setAccessibleName(QObject::tr("Borrow from"));
    from->setToolTip(QObject::tr("The correction whose mask is borrowed, live"));
    from->addItem(QObject::tr("choose…"), 0);
    for (const auto& correction : b.session.document()->corrections) {
        if (correction->id != b.target.correction)
            from->addItem(QString::fromStdString(correction->name), QVariant::fromValue(correction->id));
    }
    const auto show = [b, from] {
        if (const auto shape = shapeOf<mask::BorrowedMask>(b))
            from->setCurrentIndex(std::max(0, from->findData(QVariant::fromValue(shape->from()))));
    };
    b.onRefresh(show);
    QObject::connect(from, &QComboBox::activated, &b.session, [b, from, show](int index) {
        const auto lender = from->itemData(index).toLongLong();
        if (lender && !document::canBorrow(*b.session.document(), b.target.correction, lender)) {
            b.session.say(QObject::tr("%1 already borrows this correction's mask: that would be a loop.")
                              .arg(from->itemText(index)));
            show();
            return;
        }
        editShape<mask::BorrowedMask>(b, QObject::tr("borrow mask"), [&](const mask::BorrowedMask&) {
            return std::make_shared<mask::BorrowedMask>(lender);
        });
    });
    addLabelled(b, QObject::tr("From"), from);
    addHint(b, QObject::tr("What changes in that mask changes here. F takes it inside out."));
}

}  // namespace

QString settingsVariant(const document::Document& document, const mask::Part& part) {
    if (const auto* colours = dynamic_cast<const mask::ColourRange*>(part.shape.get()))
        return colours->values().byHue ? "hue" : "picks";
    if (const auto* matte = dynamic_cast<const mask::Matte*>(part.shape.get()))
        return QString::fromStdString(matte->file());
    if (!dynamic_cast<const mask::BorrowedMask*>(part.shape.get())) return {};
    QString lenders;
    for (const auto& correction : document.corrections) lenders += QString::fromStdString(correction->name) + "\n";
    return lenders;
}

void buildPartSettings(const SettingsBuilder& builder, const mask::Part& part) {
    struct Entry {
        const mask::ShapeKind* kind;
        void (*add)(const SettingsBuilder&);
    };
    static constexpr Entry entries[] = {
        {&mask::Brush::kindInfo, addBrush},
        {&mask::Brush::fineDetail, addFineDetail},
        {&mask::LinearGradient::kindInfo, addLinearGradient},
        {&mask::RadialGradient::kindInfo, addRadialGradient},
        {&mask::ColourRange::kindInfo, addColourRange},
        {&mask::LuminosityRange::kindInfo, addLuminosityRange},
        {&mask::HazeDepth::kindInfo, addHazeDepth},
        {&mask::VeilDensity::kindInfo, addVeilDensity},
        {&mask::Outline::kindInfo, addOutline},
        {&mask::Region::kindInfo, addRegion},
        {&mask::Wire::kindInfo, addWire},
        {&mask::Matte::kindInfo, addMatte},
        {&mask::BorrowedMask::kindInfo, addBorrowed},
    };
    for (const Entry& entry : entries) {
        if (entry.kind == &part.shape->kind()) entry.add(builder);
    }
}

}  // namespace dimhem::ui
