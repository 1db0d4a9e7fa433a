// A demo document on its photo made smaller, for tests of the window that need a document such as a person makes and
// nothing of its picture. Regions and wires, which take long to find, are strokes where they were drawn.
#pragma once

#include <QFile>
#include <QImage>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>

#include "tests/support/temp_folder.h"

namespace dimhem::tests {

class SmallDemo {
public:
    explicit SmallDemo(const QString& name, int shrink = 8) : shrink_(shrink) {
        const QString demo = QStringLiteral(DIMHEM_SOURCE_DIR "/demo/");
        const QImage photo(demo + name + ".jpg");
        photo.scaled(photo.size() / shrink_, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
            .save(pathOf(name + ".jpg"));
        QFile from(demo + "documents/" + name + ".json"), to(document());
        if (!from.open(QIODevice::ReadOnly) || !to.open(QIODevice::WriteOnly)) return;
        QJsonObject document = QJsonDocument::fromJson(from.readAll()).object();
        document["photo"] = QJsonObject{{"path", name + ".jpg"}};
        document["corrections"] = shrunk(document["corrections"], false);
        to.write(QJsonDocument(document).toJson());
    }

    QString document() const { return pathOf("small.json"); }

private:
    // Places and lengths in pixels, of the kinds that the demo documents have.
    QJsonValue shrunk(const QJsonValue& value, bool isLength) const {
        if (value.isDouble()) return isLength ? value.toDouble() / shrink_ : value;
        if (value.isArray()) {
            QJsonArray out;
            for (const QJsonValue& one : value.toArray()) out.append(shrunk(one, isLength));
            return out;
        }
        if (!value.isObject()) return value;
        static const QStringList lengths{"points", "full", "none", "size"};
        QJsonObject out = value.toObject();
        if (out.value("kind") == "region") out = asStrokes(out, "drags", 80);
        if (out.value("kind") == "wire") out = asStrokes(out, "lines", 8);
        for (auto it = out.begin(); it != out.end(); ++it) it.value() = shrunk(it.value(), lengths.contains(it.key()));
        return out;
    }
    static QJsonObject asStrokes(QJsonObject part, const QString& from, int sizePx) {
        QJsonArray strokes;
        for (const QJsonValue& drawn : part.take(from).toArray()) {
            QJsonObject stroke = drawn.toObject();
            stroke["size"] = sizePx;
            strokes.append(stroke);
        }
        part["kind"] = "brush";
        part["strokes"] = strokes;
        return part;
    }
    QString pathOf(const QString& name) const {
        return QString::fromStdString((folder_ / name.toStdString()).string());
    }

    const int shrink_;
    TempFolder folder_;
};

}  // namespace dimhem::tests
