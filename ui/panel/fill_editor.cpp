// Line fill: its directions, dragged on the photo.
#include <QPushButton>

#include "core/adjust/line_fill.h"
#include "ui/panel/adjustment_editor.h"

namespace dimhem::ui {

void buildLineFillEditor(const EditorFrame& f) {
    for (std::size_t i = 0; i < f.kind.params.size(); ++i) f.addParameter(i);
    FlowLayout* row = f.addRow();
    QPushButton* along =
        f.addButton("outline", QObject::tr("Along"), "fill-along",
                    QObject::tr("Click, then drag lines on the photo that the filling shall run along."), row);
    QObject::connect(along, &QPushButton::clicked, f.body, [f] {
        PhotoGesture gesture;
        gesture.hint = QObject::tr("Drag lines that the filling shall run along");
        gesture.stays = true;
        gesture.done = [f](const PhotoDrag& drag) {
            if (!drag.far) return;
            f.edit(f.step(QObject::tr("direction")),
                   [&](adjust::Settings& next) { next = adjust::withDirection(next, drag.from, drag.to); });
        };
        f.session.ask(std::move(gesture));
    });
    QPushButton* none = f.addButton("x", QObject::tr("Find them"), "fill-finds",
                                    QObject::tr("Lets the filling follow what it finds around the hole."), row);
    QObject::connect(none, &QPushButton::clicked, f.body, [f] {
        f.edit(f.step(QObject::tr("directions found")),
               [](adjust::Settings& next) { next = adjust::withoutDirections(next); });
    });
    f.onRefresh([f, none] { none->setEnabled(f.settings() && !f.settings()->tables[0].empty()); });
}

}  // namespace dimhem::ui
