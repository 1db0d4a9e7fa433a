#include "core/mask/borrowed_mask.h"

#include <nlohmann/json.hpp>

#include "core/json/fields.h"
#include "core/json/schema.h"

namespace dimhem::mask {

namespace {

base::Result<ShapePtr> borrowedMaskFromJson(const nlohmann::json& json) {
    const auto from = json.find("from");
    if (from == json.end() || !from->is_number_integer()) return fields::wrongField("from", "the id of a correction");
    return std::make_shared<BorrowedMask>(from->get<std::int64_t>());
}

}  // namespace

const ShapeKind BorrowedMask::kindInfo = {
    .id = "borrowed",
    .label = "Borrowed mask",
    .tip = "Another correction's mask, live, as it is or flipped.",
    .makeFor = [](base::Size) -> ShapePtr { return std::make_shared<BorrowedMask>(0); },
    .fromJson = borrowedMaskFromJson,
    .schema =
        [] {
            return schema::Members{.properties = {{"from", {{"type", "integer"}}}}, .required = {"from"}};
        },
    .group = "from elsewhere",
};

Staged<Coverage> BorrowedMask::over(const Area& area, Context& context) const {
    return context.borrowed(from_, area);
}

void BorrowedMask::toJson(nlohmann::json& json) const {
    json["from"] = from_;
}

}  // namespace dimhem::mask
