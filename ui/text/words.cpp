#include "ui/text/words.h"

#include <QCoreApplication>
#include <cmath>

namespace dimhem::ui {

QString words(std::string_view source) {
    return QCoreApplication::translate("core", std::string(source).c_str());
}

QString idText(std::string_view id) {
    return QString::fromUtf8(id.data(), static_cast<qsizetype>(id.size()));
}

QString shownValue(const base::ParamSpec& spec, double value) {
    QString number = QString::number(value, 'f', spec.decimals);
    if (spec.neutral == 0 && spec.min < 0 && number.toDouble() > 0) number.prepend('+');
    if (number.startsWith('-') && number.toDouble() == 0) number.remove(0, 1);
    return spec.unit.empty() ? number : number + " " + idText(spec.unit);
}

std::optional<double> typedValue(const base::ParamSpec& spec, QString text) {
    text = text.trimmed();
    if (!spec.unit.empty() && text.endsWith(idText(spec.unit), Qt::CaseInsensitive))
        text.chop(idText(spec.unit).size());
    bool ok = false;
    const double value = text.trimmed().replace(',', '.').toDouble(&ok);
    return ok && std::isfinite(value) ? std::optional(value) : std::nullopt;
}

}  // namespace dimhem::ui
