// A store that keeps everything, and one that keeps nothing: what is found there must not change an outcome.
#pragma once

#include <unordered_map>

#include "core/mask/coverage.h"

namespace dimhem::tests {

class PlainStore final : public mask::CoverageStore {
public:
    explicit PlainStore(bool keeps = true) : keeps_(keeps) {}
    mask::CoveragePtr find(const base::ContentKey& key) override {
        const auto found = coverage_.find(key);
        return found == coverage_.end() ? nullptr : found->second;
    }
    void keep(const base::ContentKey& key, mask::CoveragePtr coverage) override {
        if (keeps_) coverage_[key] = std::move(coverage);
    }
    std::shared_ptr<const mask::StrokeProgress> findProgress(const base::ContentKey& key) override {
        const auto found = progress_.find(key);
        return found == progress_.end() ? nullptr : found->second;
    }
    void keepProgress(const base::ContentKey& key, std::shared_ptr<const mask::StrokeProgress> progress) override {
        if (keeps_) progress_[key] = std::move(progress);
    }

private:
    bool keeps_;
    std::unordered_map<base::ContentKey, mask::CoveragePtr> coverage_;
    std::unordered_map<base::ContentKey, std::shared_ptr<const mask::StrokeProgress>> progress_;
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
