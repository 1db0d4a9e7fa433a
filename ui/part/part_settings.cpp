#include "ui/part/part_settings.h"

#include "core/mask/borrowed_mask.h"
#include "core/mask/brush.h"
#include "core/mask/colour_range.h"
#include "core/mask/haze_depth.h"
#include "core/mask/linear_gradient.h"
#include "core/mask/luminosity_range.h"
#include "core/mask/matte.h"
#include "core/mask/outline.h"
#include "core/mask/radial_gradient.h"
#include "core/mask/region.h"
#include "core/mask/veil_density.h"
#include "core/mask/wire.h"
#include "ui/part/kinds.h"

namespace dimhem::ui {

QString settingsVariant(const document::Document& document, const mask::Part& part) {
    if (const auto* colours = dynamic_cast<const mask::ColourRange*>(part.shape.get()))
        return colours->values().byHue ? "hue" : "picks";
    if (const auto* matte = dynamic_cast<const mask::Matte*>(part.shape.get()))
        return QString::fromStdString(matte->file());
    if (!dynamic_cast<const mask::BorrowedMask*>(part.shape.get())) return {};
    QString lenders;
    for (const auto& correction : document.corrections) lenders += QString::fromStdString(correction->name) + "\n";
    return lenders;
}

void buildPartSettings(const SettingsBuilder& builder, const mask::Part& part) {
    struct Entry {
        const mask::ShapeKind* kind;
        void (*add)(const SettingsBuilder&);
    };
    static constexpr Entry entries[] = {
        {&mask::Brush::kindInfo, addBrush},
        {&mask::Brush::fineDetail, addFineDetail},
        {&mask::LinearGradient::kindInfo, addLinearGradient},
        {&mask::RadialGradient::kindInfo, addRadialGradient},
        {&mask::ColourRange::kindInfo, addColourRange},
        {&mask::LuminosityRange::kindInfo, addLuminosityRange},
        {&mask::HazeDepth::kindInfo, addHazeDepth},
        {&mask::VeilDensity::kindInfo, addVeilDensity},
        {&mask::Outline::kindInfo, addOutline},
        {&mask::Region::kindInfo, addRegion},
        {&mask::Wire::kindInfo, addWire},
        {&mask::Matte::kindInfo, addMatte},
        {&mask::BorrowedMask::kindInfo, addBorrowed},
    };
    for (const Entry& entry : entries) {
        if (entry.kind == &part.shape->kind()) entry.add(builder);
    }
}

}  // namespace dimhem::ui
