#include "ui/part/shape_numbers.h"

#include "core/mask/linear_gradient.h"
#include "core/mask/radial_gradient.h"
#include "ui/control/number_fields.h"

namespace dimhem::ui {

namespace {

constexpr double farthest = 200'000;  // of the photo, as documents have it

struct Numbers {
    QString title;
    QList<Number> numbers;
    std::function<mask::ShapePtr(const QList<double>&)> shape;
};

Number place(const QString& label, double value) {
    return {label, QObject::tr("px"), value, -farthest, farthest, 1};
}

Numbers numbersOf(const mask::LinearGradient& gradient) {
    return {
        QObject::tr("Gradient, in pixels of the photo"),
        {place(QObject::tr("Full, from the left"), gradient.full().x),
         place(QObject::tr("Full, from the top"), gradient.full().y),
         place(QObject::tr("None, from the left"), gradient.none().x),
         place(QObject::tr("None, from the top"), gradient.none().y)},
        [profile = gradient.profile()](const QList<double>& v) -> mask::ShapePtr {
            return std::make_shared<mask::LinearGradient>(base::Point{v[0], v[1]}, base::Point{v[2], v[3]}, profile);
        }};
}

Numbers numbersOf(const mask::RadialGradient& gradient) {
    const mask::Oval& oval = gradient.oval();
    const base::ParamSpec& softness = mask::ovalFeatherSpec;
    return {QObject::tr("Oval, in pixels of the photo"),
            {place(QObject::tr("Middle, from the left"), oval.centre.x),
             place(QObject::tr("Middle, from the top"), oval.centre.y),
             {QObject::tr("Half its width"), QObject::tr("px"), oval.halfWidthPx, 1, farthest, 1},
             {QObject::tr("Half its height"), QObject::tr("px"), oval.halfHeightPx, 1, farthest, 1},
             {QObject::tr("Turned by"), QObject::tr("°"), oval.angleDeg, -180, 180, 1},
             {QObject::tr("Softness"), QObject::tr("%"), oval.featherPct, softness.min, softness.max, 0}},
            [](const QList<double>& v) -> mask::ShapePtr {
                return std::make_shared<mask::RadialGradient>(mask::Oval{{v[0], v[1]}, v[2], v[3], v[4], v[5]});
            }};
}

std::optional<Numbers> numbersOf(const mask::ShapePtr& shape) {
    if (const auto linear = std::dynamic_pointer_cast<const mask::LinearGradient>(shape)) return numbersOf(*linear);
    if (const auto radial = std::dynamic_pointer_cast<const mask::RadialGradient>(shape)) return numbersOf(*radial);
    return std::nullopt;
}

}  // namespace

bool hasNumbers(const Session& session) {
    return numbersOf(session.workedOnShape()).has_value();
}

void askForNumbers(Session& session, QPoint global, QWidget* parent) {
    const auto asked = numbersOf(session.workedOnShape());
    if (!asked) return;
    const EditTarget target{session.selectedCorrection(), session.selectedPart()};
    NumberFields::open(asked->title, asked->numbers, global, parent,
                       [&session, target, shape = asked->shape, opening = session.opening()](const auto& values) {
                           if (!session.isOpen() || session.opening() != opening) return;
                           session.edit(QObject::tr("place by numbers"), [&](const document::Document& d) {
                               return document::withPart(d, target.correction, target.part,
                                                         [&](mask::Part& part) { part.shape = shape(values); });
                           });
                       });
}

void askForNumbersOfProbe(Session& session, std::size_t probe, QPoint global, QWidget* parent) {
    const base::Point asked = document::middleOf(session.document()->probes[probe]);
    const base::Size photo = session.renderer().photo().size();
    const QList<Number> numbers{{QObject::tr("From the left"), QObject::tr("px"), asked.x, 0, double(photo.width), 1},
                                {QObject::tr("From the top"), QObject::tr("px"), asked.y, 0, double(photo.height), 1}};
    NumberFields::open(QObject::tr("Probe %1").arg(probe + 1), numbers, global, parent,
                       [&session, probe, opening = session.opening()](const QList<double>& values) {
                           if (!session.isOpen() || session.opening() != opening) return;
                           session.edit(QObject::tr("place by numbers"), [&](const document::Document& d) {
                               if (probe >= d.probes.size()) return std::make_shared<const document::Document>(d);
                               const document::Probe& now = d.probes[probe];
                               const base::Point by = base::Point{values[0], values[1]} - document::middleOf(now);
                               return document::withProbe(d, probe, document::moved(now, by));
                           });
                       });
}

}  // namespace dimhem::ui
