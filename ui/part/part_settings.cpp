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
#include "ui/part/limit.h"
#include "ui/part/rows.h"
#include "ui/text/words.h"

namespace dimhem::ui {

static QString variantOf(const document::Document& document, const mask::Shape& shape) {
    if (const auto* colours = dynamic_cast<const mask::ColourRange*>(&shape))
        return colours->values().byHue ? "hue" : "picks";
    if (const auto* matte = dynamic_cast<const mask::Matte*>(&shape)) return QString::fromStdString(matte->file());
    if (!dynamic_cast<const mask::BorrowedMask*>(&shape)) return {};
    QString lenders;
    for (const auto& correction : document.corrections) lenders += QString::fromStdString(correction->name) + "\n";
    return lenders;
}

QString settingsVariant(const document::Document& document, const mask::Part& part) {
    QString variant = variantOf(document, *part.shape);
    if (part.limit) variant += " " + idText(part.limit->kind().id) + " " + variantOf(document, *part.limit);
    return variant;
}

void buildPartSettings(const SettingsBuilder& builder, const mask::Part& part) {
    buildShapeSettings(builder, *part.shape);
    if (!part.shape->isZone()) addLimit(builder, part);
}

void buildShapeSettings(const SettingsBuilder& builder, const mask::Shape& shape) {
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
        if (entry.kind == &shape.kind()) entry.add(builder);
    }
    if (shape.kind().isRange) addStaysInSight(builder);
}

}  // namespace dimhem::ui
