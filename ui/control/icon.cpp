#include "ui/control/icon.h"

#include <QFile>
#include <QPainter>
#include <QPixmapCache>
#include <QSvgRenderer>
#include <QToolButton>

#include "ui/control/theme.h"

namespace dimhem::ui {

namespace {

QPixmap drawn(const QString& name, const QColor& colour, int sizePx) {
    QFile file(":/icons/" + name + ".svg");
    if (!file.open(QIODevice::ReadOnly)) qFatal("icon %s is missing", qPrintable(name));
    QByteArray coloured = file.readAll();
    coloured.replace("currentColor", colour.name().toLatin1());
    coloured.replace("stroke-width=\"2\"", "stroke-width=\"1.75\"");  // one line weight for all
    QSvgRenderer renderer(coloured);
    QPixmap pixmap(sizePx, sizePx);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    renderer.render(&painter);
    return pixmap;
}

// The same pixmap each time, as long as Qt's own cache holds it: styles keep what they make of each, so that ever new
// ones would fill that cache.
QPixmap kept(const QString& name, const QColor& colour, int sizePx) {
    const QString key = QStringLiteral("icon/%1/%2/%3").arg(name, colour.name()).arg(sizePx);
    QPixmap pixmap;
    if (QPixmapCache::find(key, &pixmap)) return pixmap;
    pixmap = drawn(name, colour, sizePx);
    QPixmapCache::insert(key, pixmap);
    return pixmap;
}

}  // namespace

QIcon icon(const QString& name) {
    QIcon icon;
    for (const int sizePx : {16, 32, 48}) {
        icon.addPixmap(kept(name, QColor(theme::text), sizePx), QIcon::Normal);
        icon.addPixmap(kept(name, QColor(0x70, 0x70, 0x70), sizePx), QIcon::Disabled);
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
