#include "ui/part/brings.h"
#include "ui/control/combo_box.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "ui/bound/bound_slider.h"
#include "ui/control/labelled_row.h"
#include "ui/control/segmented.h"
#include "ui/control/theme.h"
#include "ui/control/value_slider.h"
#include "ui/session/brush_colour.h"

namespace dimhem::ui {

namespace {

using mask::BringKind;

void change(Session& session, const std::function<void(mask::Brings&)>& change) {
    mask::BrushSettings brush = session.brush();
    change(brush.brings);
    session.setBrush(brush);
}

void changeBringing(Session& session, const std::function<void(Bringing&)>& change) {
    Bringing bringing = session.bringing();
    change(bringing);
    session.setBringing(bringing);
}

QLabel* addWords(QVBoxLayout* layout, QWidget* body, const QString& words) {
    auto* label = new QLabel(words, body);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    layout->addWidget(label);
    return label;
}

// A box with the controls of one kind, there while the brush brings that.
QVBoxLayout* addBox(const SettingsBuilder& b, BringKind kind) {
    auto* box = new QWidget(b.body);
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(b.layout->spacing());
    b.layout->addWidget(box);
    Session& session = b.session;
    const auto show = [&session, box, kind] { box->setVisible(session.brush().brings.kind == kind); };
    QObject::connect(&session, &Session::brushChanged, box, show);
    show();
    return layout;
}

QIcon chip(const colour::EncodedRgb& colour) {
    constexpr int side = 14;
    QPixmap picture(side, side);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto channel = [](double v) { return std::clamp(static_cast<int>(std::lround(v * 255)), 0, 255); };
    painter.setBrush(QColor(channel(colour.r), channel(colour.g), channel(colour.b)));
    painter.setPen(QPen(QColor(0, 0, 0, 120), 1));
    painter.drawEllipse(1, 1, side - 2, side - 2);
    return picture;
}

// Those picked lately: pressed, one becomes the brush's.
void addChips(const SettingsBuilder& b, QVBoxLayout* layout, QWidget* box) {
    Session& session = b.session;
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    row->addWidget(new QLabel(QObject::tr("Picked"), box), 1);
    layout->addLayout(row);
    QList<QToolButton*> chips;
    for (qsizetype i = 0; i < Bringing::mostColours; ++i) {
        auto* button = new QToolButton(box);
        button->setObjectName(QString("picked-colour-%1").arg(i));
        button->setAutoRaise(true);
        button->setFixedSize(17, 20);
        button->setAccessibleName(QObject::tr("Colour %1").arg(i + 1));
        button->setToolTip(QObject::tr("Paint with this colour"));
        QObject::connect(button, &QToolButton::clicked, &session, [&session, i] {
            if (i < session.bringing().colours.size()) setBrushColour(session, session.bringing().colours[i]);
        });
        row->addWidget(button);
        chips.append(button);
    }
    const auto show = [&session, chips] {
        const auto& colours = session.bringing().colours;
        for (qsizetype i = 0; i < chips.size(); ++i) {
            chips[i]->setEnabled(i < colours.size());
            chips[i]->setIcon(i < colours.size() ? chip(colours[i]) : QIcon());
        }
    };
    QObject::connect(&session, &Session::brushChanged, box, show);
    show();
}

void addColour(const SettingsBuilder& b) {
    QVBoxLayout* layout = addBox(b, BringKind::colour);
    QWidget* box = layout->parentWidget();
    Session& session = b.session;
    addChips(b, layout, box);
    static constexpr int sides[] = {1, 5, 15};
    auto* picker = new Segmented(QObject::tr("Picker"),
                                 {{QObject::tr("1 px"), QObject::tr("The colour of one pixel")},
                                  {QObject::tr("5 px"), QObject::tr("The mean of five by five pixels")},
                                  {QObject::tr("15 px"), QObject::tr("The mean of fifteen by fifteen pixels")}},
                                 box);
    picker->setCurrent(1);
    QObject::connect(picker, &Segmented::chosen, &session, [&session](int index) {
        changeBringing(session, [index](Bringing& bringing) { bringing.pickerPx = sides[index]; });
    });
    layout->addWidget(new LabelledRow(QObject::tr("Picker"), picker, box));
    const auto show = [&session, picker] {
        const auto* side = std::ranges::find(sides, session.bringing().pickerPx);
        picker->setCurrent(static_cast<int>(side - std::begin(sides)));
    };
    QObject::connect(&session, &Session::brushChanged, picker, show);
    show();
    addWords(layout, box,
             QObject::tr("Alt and a click on the photo picks a colour. A low strength builds it up by strokes."));
}

void addCloneSlider(const SettingsBuilder& b, QVBoxLayout* layout, const base::ParamSpec& spec,
                    double mask::Brings::*value) {
    Session& session = b.session;
    auto* slider = new ValueSlider(spec, layout->parentWidget());
    slider->setObjectName("clone-" + idText(spec.id));
    QObject::connect(slider, &ValueSlider::changed, &session, [&session, value](double now) {
        change(session, [=](mask::Brings& brings) { brings.*value = now; });
    });
    const auto show = [&session, slider, value] { slider->setValue(session.brush().brings.*value); };
    QObject::connect(&session, &Session::brushChanged, slider, show);
    show();
    layout->addWidget(slider);
}

void addTakenFrom(const SettingsBuilder& b, QVBoxLayout* layout) {
    Session& session = b.session;
    QWidget* box = layout->parentWidget();
    auto* taken = new Segmented(
        QObject::tr("Takes from"),
        {{QObject::tr("beside"), QObject::tr("The place keeps its distance from the brush, stroke after stroke")},
         {QObject::tr("one place"), QObject::tr("Each stroke begins again with the place picked")}},
        box);
    taken->setObjectName("takes-from");
    QObject::connect(taken, &Segmented::chosen, &session, [&session](int index) {
        changeBringing(session, [index](Bringing& bringing) { bringing.fixed = index == 1; });
    });
    layout->addWidget(new LabelledRow(QObject::tr("Takes from"), taken, box));
    const auto show = [&session, taken] { taken->setCurrent(session.bringing().fixed ? 1 : 0); };
    QObject::connect(&session, &Session::brushChanged, taken, show);
    show();
}

void addClone(const SettingsBuilder& b) {
    QVBoxLayout* layout = addBox(b, BringKind::clone);
    addTakenFrom(b, layout);
    addCloneSlider(b, layout, mask::turnSpec, &mask::Brings::turnDeg);
    addCloneSlider(b, layout, mask::scaleSpec, &mask::Brings::scalePct);
    addWords(layout, layout->parentWidget(), QObject::tr("Alt and a click on the photo picks the place to take from."));
}

void addHeal(const SettingsBuilder& b) {
    QVBoxLayout* layout = addBox(b, BringKind::heal);
    QWidget* box = layout->parentWidget();
    Session& session = b.session;
    auto* place =
        new Segmented(QObject::tr("Its place"),
                      {{QObject::tr("found"), QObject::tr("Each stroke finds the place nearby that suits it best")},
                       {QObject::tr("picked"), QObject::tr("Strokes take from the place picked with Alt and a click")}},
                      box);
    place->setObjectName("heals-from");
    QObject::connect(place, &Segmented::chosen, &session, [&session](int index) {
        changeBringing(session, [index](Bringing& bringing) { bringing.finds = index == 0; });
    });
    layout->addWidget(new LabelledRow(QObject::tr("Its place"), place, box));
    const auto show = [&session, place] { place->setCurrent(session.bringing().finds ? 0 : 1); };
    QObject::connect(&session, &Session::brushChanged, place, show);
    show();
    addWords(layout, box,
             QObject::tr("Press on a spot; press on it again for the next best place. Alt and a click picks one."));
}

void addLine(const SettingsBuilder& b) {
    QVBoxLayout* layout = addBox(b, BringKind::line);
    addWords(
        layout, layout->parentWidget(),
        QObject::tr("Draw along a fold, scratch or wire, a little wider than it is; Shift+click goes on straight."));
}

}  // namespace

void addBringing(const SettingsBuilder& b) {
    Session& session = b.session;
    auto* kinds = new ComboBox(b.body, ComboBox::Width::given);
    kinds->setObjectName("brings");
    kinds->setAccessibleName(QObject::tr("What the brush brings"));
    kinds->setToolTip(QObject::tr("What strokes lay down beside saying where the correction acts"));
    for (const mask::BringInfo& info : mask::bringKinds()) {
        kinds->addItem(words(info.label));
        kinds->setItemData(kinds->count() - 1, words(info.tip), Qt::ToolTipRole);
    }
    QObject::connect(kinds, &QComboBox::activated, &session, [&session](int index) {
        change(session, [index](mask::Brings& brings) {
            brings.kind = mask::bringKinds()[static_cast<std::size_t>(index)].kind;
        });
    });
    b.layout->addWidget(new LabelledRow(QObject::tr("Brings"), kinds, b.body));
    const auto show = [&session, kinds] { kinds->setCurrentIndex(static_cast<int>(session.brush().brings.kind)); };
    QObject::connect(&session, &Session::brushChanged, kinds, show);
    show();
    addColour(b);
    addClone(b);
    addHeal(b);
    addLine(b);
}

}  // namespace dimhem::ui
