#include "ui/session/hem_watch.h"

#include "core/task/mend.h"
namespace dimhem::ui {

namespace {

constexpr int hemPauseMs = 60;

}  // namespace

HemWatch::HemWatch(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, hemPauseMs, this) {
    connect(&watch_, &Watch::due, this, &HemWatch::start);
    connect(&session_, &Session::opened, this, &HemWatch::restart);
    connect(&session_, &Session::selectionChanged, this, [this] {
        if (session_.selectedCorrection() != reported_) restart();
    });
    connect(&session_, &Session::documentChanged, this, [this] {
        leave();
        watch_.repeat();
        watch_.later();
    });
    // While the hand is at work the picture comes first.
    connect(&session_, &Session::pictureChanged, &watch_, &Watch::repeat);
}

void HemWatch::restart() {
    report_.reset();
    index_ = -1;
    watch_.repeat();
    watch_.later();
    Q_EMIT changed();
}

void HemWatch::start() {
    if (!session_.isOpen() || !session_.correction()) return Q_EMIT changed();
    const document::Id correction = session_.selectedCorrection();
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document(), correction](
            const base::CancelToken& token) { return task::hemCheck(*renderer, document, correction, {}, token); },
        [this, correction](base::Result<std::optional<task::HemReport>> report) {
            const bool wanted = session_.isOpen() && session_.selectedCorrection() == correction;
            if (report && *report && wanted) {
                report_ = std::move(*report);
                reported_ = correction;
                index_ = -1;
            }
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

const check::Finding* HemWatch::finding() const {
    const bool looksAtOne = report_ && index_ >= 0 && index_ < static_cast<int>(report_->findings.size());
    return looksAtOne ? &report_->findings[static_cast<std::size_t>(index_)] : nullptr;
}

bool HemWatch::step(int by, std::optional<check::FindingKind> kind) {
    const int count = report_ ? static_cast<int>(report_->findings.size()) : 0;
    const int from = index_ < 0 && by < 0 ? count : index_;
    for (int i = 1; i <= count; ++i) {
        const int at = ((from + by * i) % count + count) % count;
        if (kind && report_->findings[static_cast<std::size_t>(at)].kind != *kind) continue;
        index_ = at;
        Q_EMIT stepped();
        return true;
    }
    return false;
}

void HemWatch::leave() {
    if (index_ < 0) return;
    index_ = -1;
    Q_EMIT changed();
}

void HemWatch::mend() {
    const check::Finding* found = finding();
    if (!found) return;
    const check::Finding finding = *found;  // leaving it ends its list
    const auto step = [&] {
        if (finding.isFigure) return tr("leave figure out");
        switch (finding.kind) {
            case check::FindingKind::gap: return tr("fill gap");
            case check::FindingKind::speck: return tr("remove speck");
            case check::FindingKind::spill:
            case check::FindingKind::shortfall: break;
        }
        return tr("pull to the edge");
    };
    session_.edit(step(),
                  [&](const document::Document& d) { return task::withMended(d, reported_, finding).document; });
}

void HemWatch::setShowsMap(bool shows) {
    showsMap_ = shows;
    Q_EMIT changed();
}

}  // namespace dimhem::ui
