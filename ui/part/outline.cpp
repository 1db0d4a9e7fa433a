#include "ui/part/kinds.h"

#include <QLabel>
#include <QPushButton>
#include <algorithm>

#include "core/mask/outline.h"
#include "ui/control/flow_layout.h"
#include "ui/control/segmented.h"
#include "ui/part/rows.h"
#include "ui/session/latest.h"

namespace dimhem::ui {

namespace {

// Says, once it is known, where a snap found no edge this near.
void addSnapNote(const SettingsBuilder& b) {
    QLabel* note =
        addHint(b, QObject::tr("Snapping would lose most of the outline, so it stays as drawn: there is no edge "
                               "this near."));
    note->setObjectName("snap-refused");
    note->hide();
    b.onRefresh(
        [b, note, job = std::make_shared<Latest>(b.session.background(), note), asked = mask::ShapePtr()]() mutable {
            const auto outline = shapeOf<mask::Outline>(b);
            if (!outline || outline == asked) return;
            asked = outline;
            job->request(
                [outline, renderer = b.session.sharedRenderer(), document = b.session.document(),
                 correction = b.target.correction](const base::CancelToken& token) {
                    const render::Sequence sequence(document, {}, token);
                    return outline->snapPx() > 0 && outline->points().size() >= 3 &&
                           outline->staysAsDrawn(renderer->maskContext(sequence, correction)->photo());
                },
                [note](const base::Result<bool>& refused) { note->setVisible(refused.value_or(false)); });
        });
}

void addLines(const SettingsBuilder& b) {
    auto* lines = new Segmented(
        QObject::tr("Lines"),
        {{QObject::tr("straight"), QObject::tr("Straight from point to point")},
         {QObject::tr("curved"), QObject::tr("In curves through the points, but for those that are corners")}},
        b.body);
    lines->setObjectName("outline-lines");
    QObject::connect(lines, &Segmented::chosen, &b.session, [b](int index) {
        editShape<mask::Outline>(b, index == 1 ? QObject::tr("curve outline") : QObject::tr("straighten outline"),
                                 [index](const mask::Outline& o) {
                                     return std::make_shared<mask::Outline>(
                                         o.points(), o.featherPx(), o.snapPx(),
                                         mask::Joining{index == 1, o.joining().corners});
                                 });
    });
    b.onRefresh([b, lines] {
        if (const auto shape = shapeOf<mask::Outline>(b)) lines->setCurrent(shape->joining().curved ? 1 : 0);
    });
    addLabelled(b, QObject::tr("Lines"), lines);
}

}  // namespace

void addOutline(const SettingsBuilder& b) {
    struct Values {
        std::vector<base::Point> points;
        double featherPx, snapPx;
        mask::Joining joining;
    };
    const std::function<Values(const mask::Outline&)> values = [](const mask::Outline& o) {
        return Values{o.points(), o.featherPx(), o.snapPx(), o.joining()};
    };
    const std::function<mask::ShapePtr(const Values&)> made = [](const Values& v) {
        return std::make_shared<mask::Outline>(v.points, v.featherPx, v.snapPx, v.joining);
    };
    addLines(b);
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
            return std::make_shared<mask::Outline>(shape.points(), 0, reach, shape.joining());
        });
    });
    auto* anew = new QPushButton(QObject::tr("New outline"), b.body);
    anew->setObjectName("new-outline");
    anew->setAccessibleName(anew->text());
    anew->setToolTip(QObject::tr("Takes this outline away, for another one to be drawn in its place"));
    QObject::connect(anew, &QAbstractButton::clicked, &b.session, [b] {
        editShape<mask::Outline>(b, QObject::tr("new outline"), [](const mask::Outline& shape) {
            return std::make_shared<mask::Outline>(std::vector<base::Point>{}, shape.featherPx(), shape.snapPx(),
                                                   mask::Joining{shape.joining().curved, {}});
        });
    });
    b.onRefresh([b, snap, anew] {
        const auto shape = shapeOf<mask::Outline>(b);
        const bool isDrawn = shape && shape->points().size() >= 3;
        snap->setEnabled(isDrawn && shape->snapPx() == 0);
        anew->setEnabled(isDrawn);
    });
    auto* row = new FlowLayout;
    row->addWidget(snap);
    row->addWidget(anew);
    b.layout->addLayout(row);
    addSnapNote(b);
    addHint(
        b,
        QObject::tr(
            "Drag round the thing, or click from corner to corner; Enter, a double click or the first point closes "
            "it. Then points can be dragged, a press on the line adds one, and Ctrl and a press on one takes it away; "
            "elsewhere Ctrl draws an outline that is left out. "
            "Curved: Shift and a press turns a point into a corner and back."));
}

}  // namespace dimhem::ui
