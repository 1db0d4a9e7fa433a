// Steps of a sequence over the rows of an area, fused while a row is in the processor's cache. What looks round each
// pixel comes with its model (models.cpp).
//
// A correction's operations are one group that is mixed in through its mask; an operation by coverage, which does that
// itself, parts them into groups: what stands before it is mixed first, what stands after it begins from its outcome.
//
// Between steps pixels are encoded, since that is where they are mixed through the mask. Where there is nothing to mix,
// because a step covers all of the area at full strength, they stay in the domain its last operation left them in, so
// that neighbours which work in linear light share one decoding. Which of the two it was shows in the last bits: so
// pictures are worked out on the tiles of a fixed grid only (Renderer::picture), and come out the same however the
// photo is cut.
#pragma once

#include <memory>
#include <span>

#include "core/render/clean_edge.h"
#include "core/render/sequence.h"

namespace dimhem::render {

// The picture of an area after some steps, encoded unless the last of them left it linear.
struct StagePicture {
    explicit StagePicture(base::Size size) : planes(size) {}
    explicit StagePicture(image::EncodedPlanes memory) : planes(std::move(memory)) {}
    image::EncodedPlanes planes;
    bool isLinear = false;

    std::size_t bytes() const { return sizeof *this + 3 * planes.red.bytes(); }
    void copyFrom(const StagePicture& other);  // of the same size
    void encode();
};

// Planes that an operation reads beside the picture.
struct Model {
    std::vector<image::Plane<float>> planes;
    std::size_t bytes() const {
        std::size_t bytes = 0;
        for (const image::Plane<float>& plane : planes) bytes += plane.bytes();
        return bytes;
    }
};

// A step where it touches an area.
struct Acting {
    const Sequence::Step* step;
    std::span<const adjust::Operation> operations;     // of the step, all or some that follow one another
    mask::CoveragePtr coverage;                        // null where none of these is mixed
    std::shared_ptr<const OwnColours> own;             // null: no clean edge here
    std::vector<std::shared_ptr<const Model>> models;  // of those operations that have one, over the area
    bool replaces = false;                             // all of the area with what it makes: nothing is mixed
};

// Whether a clean edge changes anything under this coverage.
bool cleansEdge(const Sequence::Step& step, const mask::Coverage& coverage);
// Whether there is nothing to mix under this coverage.
bool replaces(const Sequence::Step& step, const mask::Coverage& coverage);

void run(std::span<const Acting> steps, StagePicture& picture);

// On within a step, by operations of one group: they are mixed where the last of them is by coverage. Encoded.
void runInside(const Acting& acting, image::EncodedPlanes& picture);

}  // namespace dimhem::render
