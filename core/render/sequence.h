// The corrections of a document made ready for rendering: which take part, and what each does to a row.
//
// Made once for a frame or an export, then read from many threads. It remembers, for as long as it lives, the keys
// that were asked for, so that what looks at one another costs no more the more of it there is.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/base/cancel.h"
#include "core/base/content_key.h"
#include "core/document/document.h"
#include "core/stage/store.h"

namespace dimhem::render {

// One row of one adjustment's table, for looking at what it touches (adjust::AdjustmentKind::glaring).
struct Glare {
    document::Id correction = 0, adjustment = 0;
    std::size_t row = 0;
    friend bool operator==(const Glare&, const Glare&) = default;
};

// How the picture is looked at, apart from the document itself.
struct Comparison {
    bool allOff = false;             // as it was: no correction at all
    document::Id without = 0;        // as it was before this correction: it alone is off
    document::Id stopBefore = 0;     // the picture as it arrives at this correction
    document::Id stopAfter = 0;      // the picture as it leaves this correction
    document::Id pushed = 0;         // this correction at pushFactor times its strength
    document::Id adjustmentOff = 0;  // without this adjustment
    Glare glare;                     // none where its adjustment is 0
    friend bool operator==(const Comparison&, const Comparison&) = default;
};

inline constexpr double pushFactor = 3;

class Sequence final : public stage::Memory {
public:
    struct Step {
        document::CorrectionPtr correction;
        adjust::Operations operations;             // of all its adjustments, one after the other
        std::vector<base::ContentKey> beforeKeys;  // of what stands before each of them, mixing included
        std::vector<base::ContentKey> modelKeys;   // of each that has a model: what that depends on
        float strength;                            // 0..1, or up to pushFactor
        base::ContentKey key;                      // of adjustments and strength, without the mask
        bool needsDither = false;                  // adjust::AdjustmentKind::needsDither of any of them
    };

    // Whoever renders it stops where `cancel` says so, by throwing base::Cancelled.
    Sequence(document::DocumentPtr document, const Comparison& comparison, const base::CancelToken& cancel = {});
    Sequence(Sequence&&) noexcept;
    ~Sequence() override;

    const document::Document& document() const { return *document_; }
    const document::DocumentPtr& documentPtr() const { return document_; }
    const std::vector<Step>& steps() const { return steps_; }
    const base::CancelToken& cancel() const { return cancel_; }
    bool needsDither() const;

    // How many steps come before a correction, which need not be one of them itself.
    std::size_t stepsBefore(document::Id correction) const;
    // The same, looked at in another way, without one correction, without one adjustment; kept.
    const Sequence& compared(const Comparison& comparison) const;
    const Sequence& without(document::Id correction) const;
    const Sequence& withoutAdjustment(document::Id adjustment) const;

    // Of the keys that were asked for while this lives, which the document stays the same for.
    std::optional<base::ContentKey> remembered(const base::ContentKey& question) const override;
    void remember(const base::ContentKey& question, const base::ContentKey& key) const override;

    // Where a correction's mask covers a level, as once looked for; null: not yet.
    std::shared_ptr<const adjust::Covered> covered(document::Id correction, int level) const;
    void keepCovered(document::Id correction, int level, std::shared_ptr<const adjust::Covered> covered) const;

private:
    struct Kept;
    std::unique_ptr<Kept> kept_;
    Comparison comparison_;
    base::CancelToken cancel_;
    document::DocumentPtr document_;
    std::vector<Step> steps_;
};

}  // namespace dimhem::render
