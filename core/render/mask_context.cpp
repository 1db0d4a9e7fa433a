// What the parts of a correction's mask can look at, and where they keep what they made.
#include <limits>

#include "core/base/long_work.h"
#include "core/render/beyond_edge.h"
#include "core/render/renderer.h"

namespace dimhem::render {

// Borrowing goes from context to context; a correction met again on the way lends nothing. A mask lent by a later
// correction is measured on what arrives at the borrower, so that what arrives never depends on itself.
class Renderer::MaskContext final : public mask::Context {
public:
    MaskContext(const Renderer& renderer, const Sequence& sequence, document::Id correction,
                const MaskContext* borrower = nullptr)
        : renderer_(renderer),
          sequence_(sequence),
          correction_(correction),
          borrower_(borrower),
          steps_(std::min(sequence.stepsBefore(correction),
                          borrower ? borrower->steps_ : std::numeric_limits<std::size_t>::max())) {}

    mask::CoveragePtr find(const base::ContentKey& key) override { return renderer_.cache_->find(key); }
    void keep(const base::ContentKey& key, mask::CoveragePtr coverage) override {
        renderer_.cache_->keep(key, std::move(coverage));
    }
    std::optional<base::ContentKey> findKey(const base::ContentKey& key) override {
        return renderer_.cache_->findKey(key);
    }
    void keepKey(const base::ContentKey& key, const base::ContentKey& value) override {
        renderer_.cache_->keepKey(key, value);
    }
    std::shared_ptr<const mask::StrokeProgress> findProgress(const base::ContentKey& key) override {
        return renderer_.cache_->findProgress(key);
    }
    void keepProgress(const base::ContentKey& key, std::shared_ptr<const mask::StrokeProgress> progress) override {
        renderer_.cache_->keepProgress(key, std::move(progress));
    }
    std::shared_ptr<const void> findLatest(const base::ContentKey& key) override {
        return renderer_.cache_->findLatest(key);
    }
    void keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) override {
        renderer_.cache_->keepLatest(key, std::move(value), bytes);
    }
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) override {
        return renderer_.cache_->once(key, make, sequence_.cancel());
    }

    std::optional<std::vector<std::byte>> findFound(const base::ContentKey& key) override {
        return renderer_.cache_->findFound(key);
    }
    void keepFound(const base::ContentKey& key, std::chrono::nanoseconds took,
                   const std::function<std::vector<std::byte>()>& packed) override {
        renderer_.cache_->keepFound(key, took, packed);
    }

    std::optional<base::ContentKey> rememberedKey(const base::ContentKey& question) override {
        return sequence_.knownKey(ofThis(question));
    }
    void rememberKey(const base::ContentKey& question, const base::ContentKey& key) override {
        sequence_.keepKey(ofThis(question), key);
    }

    base::Size photoSize() const override { return renderer_.photo().size(); }

    base::ContentKey pictureKey(mask::Seen seen, const mask::Area& area) override {
        if (seen == mask::Seen::photo) return renderer_.photoKey(area);
        return base::KeyBuilder()
            .add(renderer_.photoKey(area))
            .add(renderer_.arrivingKey(sequence_, steps_, onPhoto(photoSize(), area)))
            .key();
    }

    void readPicture(mask::Seen seen, const mask::Area& area, image::EncodedPlanes& out) override {
        const mask::Area inside = onPhoto(photoSize(), area);
        image::EncodedPlanes picture(inside.rect.size());
        if (seen == mask::Seen::arriving) {
            renderer_.readArriving(sequence_, steps_, inside, picture);
        } else {
            renderer_.photo_->read(inside.rect, area.level, picture);
        }
        extend(picture, inside, out, area);
    }

    bool readAlpha(const mask::Area& area, image::Plane<float>& out) override {
        if (!renderer_.photo().photo().samples.hasAlpha()) return false;
        const mask::Area inside = onPhoto(photoSize(), area);
        image::EncodedPlanes picture(inside.rect.size());
        image::Plane<float> alpha(inside.rect.size());
        renderer_.photo_->read(inside.rect, area.level, picture, &alpha);
        extend(alpha, inside, out, area);
        return true;
    }

    base::ContentKey borrowedKey(std::int64_t from, const mask::Area& area) override {
        const document::Correction* lender = lenderOf(from);
        if (!lender) return mask::keyOf(area).add("nothing lent").key();
        MaskContext context(renderer_, sequence_, from, this);
        const base::ContentKey asked = mask::keyOf(area).add("lent").add(from).add(context.steps_).key();
        if (const auto known = sequence_.knownKey(asked)) return *known;
        const base::ContentKey key = mask::keyOn(lender->mask, area, context);
        sequence_.keepKey(asked, key);
        return key;
    }

    mask::CoveragePtr borrowed(std::int64_t from, const mask::Area& area) override {
        const document::Correction* lender = lenderOf(from);
        if (!lender) return std::make_shared<mask::Coverage>(std::uint16_t{0});
        MaskContext context(renderer_, sequence_, from, this);
        return mask::render(lender->mask, area, context);
    }

private:
    // What is asked of this mask, where it is measured on what arrives here.
    base::ContentKey ofThis(const base::ContentKey& question) const {
        return base::KeyBuilder().add("mask").add(correction_).add(steps_).add(question).key();
    }

    const document::Correction* lenderOf(document::Id from) const {
        for (const MaskContext* context = this; context; context = context->borrower_) {
            if (context->correction_ == from) return nullptr;
        }
        return document::findCorrection(sequence_.document(), from);
    }

    const Renderer& renderer_;
    const Sequence& sequence_;
    document::Id correction_;
    const MaskContext* borrower_;
    std::size_t steps_;  // that come before what it is measured on
};

std::unique_ptr<mask::Context> Renderer::maskContext(const Sequence& sequence, document::Id correction) const {
    base::countLongWork();
    return std::make_unique<MaskContext>(*this, sequence, correction);
}

}  // namespace dimhem::render
