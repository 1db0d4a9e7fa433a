#include <QGridLayout>
#include <QLabel>

#include "core/adjust/ink_table.h"
#include "ui/bound/bound_slider.h"
#include "ui/control/drag_field.h"
#include "ui/panel/adjustment_editor.h"

namespace dimhem::ui {

void buildInkTableEditor(const EditorFrame& f) {
    // As printers write them: K is black.
    const QString letters[] = {QObject::tr("C"), QObject::tr("M"), QObject::tr("Y"), QObject::tr("K")};
    auto* grid = new QGridLayout;
    grid->setContentsMargins(0, 2, 0, 2);
    grid->setHorizontalSpacing(3);
    grid->setVerticalSpacing(2);
    for (std::size_t ink = 0; ink < adjust::inkCount; ++ink) {
        auto* label = new QLabel(letters[ink], f.body);
        label->setProperty("quiet", true);
        label->setAlignment(Qt::AlignCenter);
        label->setAccessibleName(words(adjust::inkLabel(ink)));
        label->setToolTip(words(adjust::inkLabel(ink)) + ", %");
        grid->addWidget(label, 0, static_cast<int>(ink) + 1);
    }
    for (std::size_t family = 0; family < adjust::inkFamilies; ++family) {
        grid->addWidget(new QLabel(words(adjust::inkFamilyLabel(family)), f.body), static_cast<int>(family) + 1, 0);
        for (std::size_t ink = 0; ink < adjust::inkCount; ++ink) {
            const std::size_t param = adjust::inkParam(family, ink);
            const base::ParamSpec& spec = f.kind.params[param];
            auto* field = new DragField(spec, f.body);
            field->setObjectName(idText(spec.id));
            const auto gesture = f.gesture(f.step(words(spec.label)));
            QObject::connect(field, &DragField::changed, f.body, [f, gesture, param](double value) {
                f.preview(*gesture, [=](adjust::Settings& next) { next.values[param] = value; });
            });
            QObject::connect(field, &DragField::finished, f.body, [gesture] { gesture->commit(); });
            f.onRefresh([f, field, param] {
                if (f.settings()) field->setValue(f.settings()->values[param]);
            });
            grid->addWidget(field, static_cast<int>(family) + 1, static_cast<int>(ink) + 1);
        }
    }
    f.layout->addLayout(grid);
    f.addParameter(f.kind.params.size() - 1);
}

}  // namespace dimhem::ui
