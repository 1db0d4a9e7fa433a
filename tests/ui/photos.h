// A photo on disk for a test of the window: mid grey, so that any change can be seen.
#pragma once

#include <QImage>
#include <QString>

#include "tests/support/temp_folder.h"

namespace dimhem::tests {

inline QString greyPhoto(const TempFolder& folder, QColor colour = QColor(120, 120, 120), QSize size = {640, 480}) {
    QImage image(size, QImage::Format_RGB32);
    image.fill(colour);
    const QString path = QString::fromStdString((folder / "grey.png").string());
    image.save(path);
    return path;
}

}  // namespace dimhem::tests
