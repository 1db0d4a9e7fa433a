#include "ui/control/icon.h"

#include <QFile>
#include <QPainter>
#include <QSvgRenderer>
#include <QToolButton>

#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

QPixmap drawn(const QByteArray& svg, const QColor& colour, int sizePx) {
    QByteArray coloured = svg;
    coloured.replace("currentColor", colour.name().toLatin1());
    coloured.replace("stroke-width=\"2\"", "stroke-width=\"1.75\"");  // one line weight for all
    QSvgRenderer renderer(coloured);
    QPixmap pixmap(sizePx, sizePx);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    renderer.render(&painter);
    return pixmap;
}

}  // namespace

QIcon icon(const QString& name) {
    QFile file(":/icons/" + name + ".svg");
    if (!file.open(QIODevice::ReadOnly)) qFatal("icon %s is missing", qPrintable(name));
    const QByteArray svg = file.readAll();
    QIcon icon;
    for (const int sizePx : {16, 32, 48}) {
        icon.addPixmap(drawn(svg, QColor(theme::text), sizePx), QIcon::Normal);
        icon.addPixmap(drawn(svg, QColor(0x70, 0x70, 0x70), sizePx), QIcon::Disabled);
    }
    return icon;
}

QToolButton* iconButton(const QString& iconName, const QString& name, const QString& tip, QWidget* parent) {
    auto* button = new QToolButton(parent);
    button->setIcon(icon(iconName));
    button->setIconSize(QSize(16, 16) * theme::scaled(100) / 100);
    button->setToolTip(tip);
    button->setAccessibleName(name);
    button->setFocusPolicy(Qt::TabFocus);
    return button;
}

}  // namespace dimhem::ui
