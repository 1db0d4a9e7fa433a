// What a mask looks at, for tests: a store that keeps everything, or nothing (what is found there must not change an
// outcome), and a picture made of a function of the place.
#pragma once

#include <functional>
#include <unordered_map>

#include "core/colour/types.h"
#include "core/mask/context.h"

namespace dimhem::tests {

class PlainStore final : public mask::Context {
public:
    explicit PlainStore(bool keeps = true) : keeps_(keeps) {}
    mask::CoveragePtr find(const base::ContentKey& key) override {
        const auto found = coverage_.find(key);
        return found == coverage_.end() ? nullptr : found->second;
    }
    void keep(const base::ContentKey& key, mask::CoveragePtr coverage) override {
        if (keeps_) coverage_[key] = std::move(coverage);
    }
    std::optional<base::ContentKey> findKey(const base::ContentKey& key) override {
        const auto found = keys_.find(key);
        return found == keys_.end() ? std::nullopt : std::optional(found->second);
    }
    void keepKey(const base::ContentKey& key, const base::ContentKey& value) override {
        if (keeps_) keys_[key] = value;
    }
    std::shared_ptr<const mask::StrokeProgress> findProgress(const base::ContentKey& key) override {
        const auto found = progress_.find(key);
        return found == progress_.end() ? nullptr : found->second;
    }
    void keepProgress(const base::ContentKey& key, std::shared_ptr<const mask::StrokeProgress> progress) override {
        if (keeps_) progress_[key] = std::move(progress);
    }

    std::shared_ptr<const void> findLatest(const base::ContentKey& key) override {
        const auto found = latest_.find(key);
        return found == latest_.end() ? nullptr : found->second;
    }
    void keepLatest(const base::ContentKey& key, std::shared_ptr<const void> value, std::size_t) override {
        if (keeps_) latest_[key] = std::move(value);
    }
    std::shared_ptr<const void> once(const base::ContentKey& key, const std::function<Made()>& make) override {
        const auto found = once_.find(key);
        if (found != once_.end()) return found->second;
        std::shared_ptr<const void> value = make().value;
        if (keeps_) once_[key] = value;
        return value;
    }

    // Encoded colour, and alpha, at a place of the photo.
    std::function<colour::EncodedRgb(double x, double y)> colourAt = [](double, double) {
        return colour::EncodedRgb{0.5, 0.5, 0.5};
    };
    std::function<double(double x, double y)> alphaAt;
    base::Size size{200, 150};

    base::Size photoSize() const override { return size; }
    mask::PictureRead picture(mask::Seen, const mask::Area& area) override {
        return stage::reading<image::EncodedPlanes>(
            "plain picture",
            [](const PlainStore& store, const mask::Area& area) {
                image::EncodedPlanes out(area.rect.size());
                forEach(area, [&](int x, int y, double px, double py) {
                    const colour::EncodedRgb c = store.colourAt(px, py);
                    out.red.row(y)[static_cast<std::size_t>(x)] = static_cast<float>(c.r);
                    out.green.row(y)[static_cast<std::size_t>(x)] = static_cast<float>(c.g);
                    out.blue.row(y)[static_cast<std::size_t>(x)] = static_cast<float>(c.b);
                });
                return out;
            },
            stage::keyed({}, *this), area);
    }
    stage::Reading<std::optional<image::Plane<float>>> alpha(const mask::Area& area) override {
        return stage::reading<std::optional<image::Plane<float>>>(
            "plain alpha",
            [](const PlainStore& store, const mask::Area& area) {
                std::optional<image::Plane<float>> out;
                if (!store.alphaAt) return out;
                out.emplace(area.rect.size());
                forEach(area, [&](int x, int y, double px, double py) {
                    out->row(y)[static_cast<std::size_t>(x)] = static_cast<float>(store.alphaAt(px, py));
                });
                return out;
            },
            stage::keyed({}, *this), area);
    }
    stage::Staged<mask::Coverage> borrowed(std::int64_t, const mask::Area&) override {
        return mask::uniformCoverage(0);
    }

private:
    static void forEach(const mask::Area& area, const std::function<void(int, int, double, double)>& visit) {
        for (int y = 0; y < area.rect.height(); ++y) {
            for (int x = 0; x < area.rect.width(); ++x) {
                visit(x, y, (area.rect.x0 + x + 0.5) * area.scale(), (area.rect.y0 + y + 0.5) * area.scale());
            }
        }
    }

    bool keeps_;
    std::unordered_map<base::ContentKey, mask::CoveragePtr> coverage_;
    std::unordered_map<base::ContentKey, base::ContentKey> keys_;
    std::unordered_map<base::ContentKey, std::shared_ptr<const mask::StrokeProgress>> progress_;
    std::unordered_map<base::ContentKey, std::shared_ptr<const void>> latest_, once_;
};

// The coverage at a pixel of an area.
inline std::uint16_t at(const mask::Coverage& coverage, int x, int y) {
    return coverage.isConstant() ? coverage.value() : coverage.row(y)[x];
}

inline bool same(const mask::Coverage& a, const mask::Coverage& b, base::Size size) {
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            if (at(a, x, y) != at(b, x, y)) return false;
        }
    }
    return true;
}

}  // namespace dimhem::tests
