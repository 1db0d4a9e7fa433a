// What an operation of a step that paints can look at.
#pragma once

#include "core/adjust/scene.h"
#include "core/render/renderer.h"

namespace dimhem::render {

class Renderer::StepScene final : public adjust::Scene {
public:
    // Of the step's operations, this one looks.
    StepScene(const Renderer& renderer, const Sequence& sequence, std::size_t step, std::size_t operation);

    base::Size photoSize() const override;
    base::ContentKey pictureKey(const adjust::LevelArea& area) const override;
    image::EncodedPlanes picture(const adjust::LevelArea& area) const override;
    base::ContentKey coverageKey(const adjust::LevelArea& area) const override;
    image::Plane<float> coverage(const adjust::LevelArea& area) const override;
    std::shared_ptr<const adjust::Covered> covered(int level) const override;
    base::ContentKey paintedKey(const adjust::LevelArea& area) const override;
    image::RgbaPlanes painted(const adjust::LevelArea& area) const override;
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) const override;
    void throwIfCancelled() const override;

private:
    const mask::Mask& mask() const;

    const Renderer& renderer_;
    const Sequence& sequence_;
    std::size_t step_, operation_;
    std::unique_ptr<mask::Context> context_;
};

}  // namespace dimhem::render
