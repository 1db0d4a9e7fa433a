// What the parts of a correction's mask can look at, and where they keep what they made.
#include <limits>

#include "core/base/long_work.h"
#include "core/render/beyond_edge.h"
#include "core/render/reader.h"

namespace dimhem::render {

// Borrowing goes from context to context; a correction met again on the way lends nothing. A mask lent by a later
// correction is measured on what arrives at the borrower, so that what arrives never depends on itself.
class Reader::MaskContext final : public mask::Context {
public:
    MaskContext(const Reader& reader, document::Id correction, const MaskContext* borrower = nullptr)
        : reader_(reader),
          correction_(correction),
          borrower_(borrower),
          steps_(std::min(reader.sequence().stepsBefore(correction),
                          borrower ? borrower->steps_ : std::numeric_limits<std::size_t>::max())) {}

    mask::CoveragePtr find(const base::ContentKey& key) override { return cache().find(key); }
    void keep(const base::ContentKey& key, mask::CoveragePtr coverage) override {
        cache().keep(key, std::move(coverage));
    }
    std::optional<base::ContentKey> findKey(const base::ContentKey& key) override { return cache().findKey(key); }
    void keepKey(const base::ContentKey& key, const base::ContentKey& value) override { cache().keepKey(key, value); }
    std::shared_ptr<const mask::StrokeProgress> findProgress(const base::ContentKey& key) override {
        return cache().findProgress(key);
    }
    void keepProgress(const base::ContentKey& key, std::shared_ptr<const mask::StrokeProgress> progress) override {
        cache().keepProgress(key, std::move(progress));
    }
    std::shared_ptr<const void> findLatest(const base::ContentKey& key) override { return cache().findLatest(key); }
    void keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t bytes) override {
        cache().keepLatest(key, std::move(value), bytes);
    }
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) override {
        return cache().once(key, make, reader_.sequence().cancel());
    }
    std::optional<std::vector<std::byte>> findFound(const base::ContentKey& key) override {
        return cache().findFound(key);
    }
    void keepFound(const base::ContentKey& key, std::chrono::nanoseconds took,
                   const std::function<std::vector<std::byte>()>& packed) override {
        cache().keepFound(key, took, packed);
    }

    // What is asked of this mask, where it is measured on what arrives here.
    std::optional<base::ContentKey> remembered(const base::ContentKey& question) const override {
        return reader_.sequence().remembered(ofThis(question));
    }
    void remember(const base::ContentKey& question, const base::ContentKey& key) const override {
        reader_.sequence().remember(ofThis(question), key);
    }

    base::Size photoSize() const override { return reader_.photo().size(); }

    mask::PictureRead picture(mask::Seen seen, const Area& area) override {
        const Area inside = onPhoto(photoSize(), area);
        const std::size_t steps = seen == mask::Seen::arriving ? steps_ : 0;
        return goneOn(reader_.arriving(steps, inside), inside, area);
    }

    Reading<std::optional<image::Plane<float>>> alpha(const Area& area) override {
        return stage::reading<std::optional<image::Plane<float>>>(
            "alpha", alphaOver, stage::keyed(reader_.photo().key(), reader_.photo()), area);
    }

    Staged<mask::Coverage> borrowed(std::int64_t from, const Area& area) override {
        const document::Correction* lender = lenderOf(from);
        if (!lender) return mask::uniformCoverage(0);
        const auto context = std::make_shared<MaskContext>(reader_, from, this);
        const auto question = mask::keyOf(area).add("lent").add(from).add(context->steps_).key();
        return stage::asked(reader_.sequence(), question,
                            [lender, area, context] { return mask::over(lender->mask, area, *context); });
    }

private:
    static constexpr auto alphaOver = [](const PhotoSource& photo, const Area& area) {
        if (!photo.photo().samples.hasAlpha()) return std::optional<image::Plane<float>>();
        const Area inside = onPhoto(photo.size(), area);
        image::EncodedPlanes picture(inside.rect.size());
        image::Plane<float> alpha(inside.rect.size()), out(area.rect.size());
        photo.read(inside.rect, area.level, picture, &alpha);
        extend(alpha, inside, out, area);
        return std::optional(std::move(out));
    };

    TileCache& cache() const { return reader_.cache(); }

    base::ContentKey ofThis(const base::ContentKey& question) const {
        return base::KeyBuilder().add("mask").add(correction_).add(steps_).add(question).key();
    }

    const document::Correction* lenderOf(document::Id from) const {
        for (const MaskContext* context = this; context; context = context->borrower_) {
            if (context->correction_ == from) return nullptr;
        }
        return document::findCorrection(reader_.sequence().document(), from);
    }

    Reader reader_;
    document::Id correction_;
    const MaskContext* borrower_;
    std::size_t steps_;  // that come before what it is measured on
};

std::shared_ptr<mask::Context> Reader::contextOf(document::Id correction) const {
    base::countLongWork();
    return std::make_shared<MaskContext>(*this, correction);
}

}  // namespace dimhem::render
