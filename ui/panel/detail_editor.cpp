#include <QLabel>
#include <algorithm>

#include "ui/panel/adjustment_editor.h"

namespace dimhem::ui {

namespace {

void addGroup(const EditorFrame& f, const QString& title, std::initializer_list<std::string_view> parameters) {
    if (!title.isEmpty()) {
        auto* heading = new QLabel(title, f.body);
        heading->setProperty("quiet", true);
        f.layout->addWidget(heading);
    }
    for (const std::string_view id : parameters) {
        const auto at = std::ranges::find(f.kind.params, id, &base::ParamSpec::id);
        f.addParameter(static_cast<std::size_t>(at - f.kind.params.begin()));
    }
}

}  // namespace

void buildDetailEditor(const EditorFrame& f) {
    addGroup(f, {}, {"local-contrast", "scale"});
    addGroup(f, QObject::tr("Sharper"), {"sharpen", "sharpen-radius", "sharpen-threshold", "sharpen-halo"});
    addGroup(f, QObject::tr("Softer"), {"soften", "soften-radius"});
    addGroup(f, QObject::tr("Tone and texture apart"), {"soften-texture", "soften-tone", "split"});
}

}  // namespace dimhem::ui
