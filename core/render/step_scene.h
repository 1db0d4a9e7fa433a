// What an operation of a step that paints can look at.
#pragma once

#include "core/adjust/scene.h"
#include "core/render/reader.h"

namespace dimhem::render {

class Reader::StepScene final : public adjust::Scene {
public:
    // Of the step's operations, this one looks.
    StepScene(const Reader& reader, std::size_t step, std::size_t operation);

    base::Size photoSize() const override;
    Reading<image::EncodedPlanes> picture(const Area& area) const override;
    Reading<image::Plane<float>> coverage(const Area& area) const override;
    Staged<image::RgbaPlanes> painted(const Area& area) const override;
    std::shared_ptr<const adjust::Covered> covered(int level) const override;
    stage::Store& store() const override;
    const base::CancelToken& cancel() const override;

private:
    const document::Correction& correction() const;

    Reader reader_;
    std::size_t step_, operation_;
    std::shared_ptr<mask::Context> context_;
};

}  // namespace dimhem::render
