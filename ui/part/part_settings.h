// The settings of the selected part, by its kind.
#pragma once

#include <functional>

#include "ui/session/session.h"

class QVBoxLayout;
class QWidget;

namespace dimhem::ui {

// Where the controls go, and how they are kept up to date: each refresher is called after every change of the document.
struct SettingsBuilder {
    Session& session;
    EditTarget target;  // the correction and the part the settings are of
    QVBoxLayout* layout;
    QWidget* body;
    std::function<void(std::function<void()>)> onRefresh;
};

// What, beside its kind, decides which controls a part has.
QString settingsVariant(const document::Document& document, const mask::Part& part);

void buildPartSettings(const SettingsBuilder& builder, const mask::Part& part);
// Of a shape alone: the part's own, or its limit, as the target says.
void buildShapeSettings(const SettingsBuilder& builder, const mask::Shape& shape);

}  // namespace dimhem::ui
