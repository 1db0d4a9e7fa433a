#include "ui/session/session.h"

#include <QTimer>
#include <algorithm>
#include <cmath>

#include "core/adjust/light.h"
#include "core/adjust/paint.h"
#include "core/base/heap.h"
#include "core/document/edits.h"
#include "core/document/naming.h"
#include "core/document/pair.h"
#include "core/mask/registry.h"
#include "ui/session/preferences.h"
#include "ui/text/words.h"

namespace dimhem::ui {

using namespace document;

namespace {

// What the last document took, once whoever still worked on it has let go of it.
void giveBackLater(Session& session) {
    constexpr int afterMs = 1500;
    QTimer::singleShot(afterMs, &session, [&session] {
        session.background().run(
            &session, [] { base::giveBackFreed(); }, [](const auto&) {});
    });
}

}  // namespace

Session::Session(QObject* parent)
    : QObject(parent),
      ceiling_(std::make_shared<base::MemoryCeiling>(std::size_t(ceilingMiB()) << 20)),
      found_(task::foundFolder()) {
    connect(this, &Session::selectionChanged, this, [this] {
        worksOnLimit_ = false;
        takeUpBrings();
    });
}

void Session::start(task::Opened what) {
    if (isOpen()) {
        endGesture();
        giveBackLater(*this);
    }
    history_.emplace(what.document);
    // A document whose photo had to be found differs from its file.
    if (!what.differsFromFile) history_->markSaved();
    saved_ = what.document;
    renderer_ = std::make_shared<const render::Renderer>(
        what.photo, std::make_shared<render::TileCache>(std::size_t(cacheMiB()) << 20, ceiling_, found_));
    origin_ = std::move(what);
    // A brush that suits the photo to begin with: about a fourteenth of its length.
    const base::Size size = renderer_->photo().size();
    brush_.sizePx = std::clamp(std::round(std::max(size.width, size.height) / 14.0), 8.0, 1000.0);
    bringing_.from.reset();
    bringing_.offset.reset();
    forgetWhatIsShown();
    correction_ = document()->corrections.empty() ? 0 : document()->corrections.front()->id;
    part_ = correction() && !correction()->mask.parts.empty() ? correction()->mask.parts.back()->id : 0;
    takeUpBrings();
    Q_EMIT opened();
    Q_EMIT brushChanged();
}

void Session::close() {
    if (isOpen()) endGesture();
    history_.reset();
    origin_.reset();
    renderer_.reset();
    forgetWhatIsShown();
    giveBackLater(*this);
    Q_EMIT opened();
}

// What is left of one document must not reach into the next.
void Session::forgetWhatIsShown() {
    ++opening_;
    running_.reset();
    correction_ = part_ = hoveredPart_ = 0;
    alsoCorrections_.clear();
    alsoParts_.clear();
    look_ = Look::result;
    against_ = {};
    shownState_.reset();
    held_ = Held::nothing;
    shine_ = {};
    asked_.reset();
    glare_.reset();
    leftInSight_ = {};
    pointer_.reset();
}

void Session::hold(const std::filesystem::path& file) {
    if (!isOpen()) return;
    if (auto held = io::HeldFile::open(file)) origin_->otherFiles.push_back(*held);
}

QString Session::name() const {
    const auto& path = origin_->documentPath.empty() ? origin_->photoPath : origin_->documentPath;
    return QString::fromStdString(path.stem().string());
}

bool Session::isSaved() const {
    const bool gestureChanged = running_ && document() != running_->before;
    return history_->isSaved() && !gestureChanged;
}

const DocumentPtr& Session::beginSaving() {
    endGesture();
    history_->beginSaving();
    return document();
}

void Session::markSaved(const DocumentPtr& asWritten, const std::filesystem::path& path, const task::Saved& saved) {
    origin_->documentPath = path;
    origin_->documentStamp = saved.stamp;
    origin_->packedPhoto = saved.packedPhoto;
    origin_->hasOtherCopy = false;
    // What was written may meanwhile have been worked on; only the very version that went to the disk is saved.
    history_->markSaved(asWritten);
    saved_ = asWritten;
    Q_EMIT savedChanged();
}

void Session::changed() {
    shownState_.reset();
    keepSelectionValid();
    Q_EMIT documentChanged();
    Q_EMIT pictureChanged();
    Q_EMIT savedChanged();
}

void Session::edit(const QString& stepName, const Change& change) {
    if (!isOpen()) return;
    endGesture();
    commit(change(*document()), stepName);
}

void Session::commit(DocumentPtr next, const QString& stepName) {
    if (document::weightOf(*next) > mask::mostWeight) {
        history_->dropPreview();
        warn(tr("The document holds as much painting as it can, so this was not done; delete some to go on."));
        return changed();
    }
    history_->commit(withNamesFollowing(next, *history_->committed()), stepName.toStdString());
    changed();
}

Gesture Session::begin(GestureSettings settings) {
    if (!isOpen()) return {};
    Running running;
    if (running_ && running_->isPrepared) {
        running = *std::exchange(running_, std::nullopt);
        running.isPrepared = false;
    } else {
        endGesture();
        running.before = running.base = document();
        running.partBefore = part_;
    }
    running.number = ++gestureCount_;
    running.target = settings.target.value_or(
        EditTarget{correction_, part_, worksOnLimit() ? &mask::Part::limit : &mask::Part::shape});
    running.stepName = std::move(settings.stepName);
    running.interrupted = std::move(settings.interrupted);
    running.hidesGrips = settings.hidesGrips;
    running.takeBack = std::move(settings.takeBack);
    running_ = std::move(running);
    if (running_->hidesGrips) Q_EMIT viewChanged();
    return Gesture(*this, running_->number);
}

bool Session::prepareTakingAway() {
    if (!isOpen()) return false;
    endGesture();
    const mask::Part* selected = part();
    if (!selected) return false;
    Running running;
    running.number = ++gestureCount_;
    running.before = document();
    running.partBefore = part_;
    running.isPrepared = true;
    if (mask::isAsMade(*selected->shape, renderer_->photo().size())) {
        running.base = withPartTakingAway(*document(), correction_, part_);
    } else {
        const Added added =
            withNewPartTakingAway(*document(), correction_, selected->shape->kind().makeFor(renderer_->photo().size()));
        if (added.id == 0) {
            sayFull();
            return false;
        }
        running.base = added.document;
        part_ = added.id;
    }
    running_ = std::move(running);
    showPreview(running_->base);
    if (part_ != running_->partBefore) {
        alsoParts_.clear();
        Q_EMIT selectionChanged();
    }
    return true;
}

void Session::dropPrepared() {
    if (running_ && running_->isPrepared) giveUpGesture();
}

// What was prepared goes with it.
void Session::giveUpGesture() {
    const bool addedPart = running_->base != running_->before && part_ != running_->partBefore;
    if (addedPart) part_ = running_->partBefore;
    finishGesture(running_->before, {});
    if (addedPart) Q_EMIT selectionChanged();
}

void Session::endGesture() {
    dropPrepared();
    if (!running_) return;
    const quint64 number = running_->number;
    if (const auto interrupted = std::exchange(running_->interrupted, nullptr)) interrupted();
    if (running_ && running_->number == number) finishGesture(document(), {});
}

void Session::showPreview(DocumentPtr next) {
    const bool wasSaved = isSaved();
    shownState_.reset();
    history_->preview(std::move(next));
    Q_EMIT pictureChanged();
    if (wasSaved != isSaved()) Q_EMIT savedChanged();
}

void Session::finishGesture(DocumentPtr next, const QString& stepName) {
    const Running ended = std::move(*running_);
    running_.reset();
    commit(std::move(next), stepName.isEmpty() ? ended.stepName : stepName);
    if (ended.hidesGrips) Q_EMIT viewChanged();
}

void Session::takeThreadColour(const DocumentPtr& version, Id correction, int threadColour) {
    const Correction* found = isOpen() ? findCorrection(*version, correction) : nullptr;
    if (!found || found->threadColour == threadColour || found->threadColourChosen || running_) return;
    if (document() != version) return;  // worked on since: it is chosen anew for what there is now
    history_->amend(withCorrection(*version, correction, [=](Correction& c) { c.threadColour = threadColour; }));
    Q_EMIT threadColourChanged();
    Q_EMIT pictureChanged();
}

void Session::takeMeasuredAgain(const DocumentPtr& version, Id correction, Id adjustment,
                                const adjust::Settings& settings, const std::optional<MeasuredUnder>& under) {
    if (!isOpen() || running_ || document() != version) return;
    const DocumentPtr next = withAdjustment(*version, correction, adjustment, [&](AdjustmentUse& use) {
        use.settings.tables = settings.tables;
        use.measuredUnder = under;
    });
    history_->amend(next);
    if (saved_ == version) saved_ = next;
    Q_EMIT measured();
    changed();
}

void Session::takeMeasured(Id correction, Id adjustment, const adjust::Settings& settings,
                           const std::optional<MeasuredUnder>& under) {
    if (!isOpen() || running_) return;
    const auto withIt = [&](const DocumentPtr& version) {
        const Correction* found = findCorrection(*version, correction);
        const AdjustmentUse* use = found ? findAdjustment(*found, adjustment) : nullptr;
        if (!use || !adjust::lacksMeasuring(*use->kind, use->settings)) return version;
        return withAdjustment(*version, correction, adjustment, [&](AdjustmentUse& u) {
            u.settings.tables = settings.tables;
            u.measuredUnder = under;
        });
    };
    history_->amendAll(withIt);
    saved_ = withIt(saved_);
    Q_EMIT measured();
    changed();
}

QString Session::undoName() const {
    return running_ ? running_->stepName : QString::fromStdString(history_->undoName());
}

QString Session::redoName() const {
    return QString::fromStdString(history_->redoName());
}

void Session::undo() {
    if (!isOpen() || takeLastPressBack()) return;
    if (running_) {
        // What was in hand is what is taken back: by the step it becomes, or by having been given up.
        const bool wasShown = document() != running_->before;
        const std::size_t steps = history_->position();
        endGesture();
        if (wasShown && history_->position() == steps) return;
    }
    if (!canUndo()) return;
    const DocumentPtr before = document();
    history_->undo();
    selectWhatCame(*before);
    changed();
}

bool Session::takeLastPressBack() {
    const auto takeBack = running_ ? running_->takeBack : nullptr;
    return takeBack && takeBack();
}

void Session::redo() {
    if (!isOpen()) return;
    endGesture();
    if (!canRedo()) return;
    const DocumentPtr before = document();
    history_->redo();
    selectWhatCame(*before);
    changed();
}

QStringList Session::stepNames() const {
    QStringList names;
    for (std::size_t i = 0; isOpen() && i < history_->count(); ++i)
        names << (i == 0 ? tr("as opened") : QString::fromStdString(history_->nameOf(i)));
    return names;
}

void Session::goToStep(int step) {
    if (!isOpen() || step < 0) return;
    endGesture();
    const DocumentPtr before = document();
    history_->goTo(static_cast<std::size_t>(step));
    selectWhatCame(*before);
    changed();
}

// Corrections that are back are selected; else parts of the one worked on that are.
void Session::selectWhatCame(const Document& before) {
    QList<Id> corrections;
    for (const CorrectionPtr& now : document()->corrections) {
        if (!findCorrection(before, now->id)) corrections.append(now->id);
    }
    if (!corrections.isEmpty()) return selectCorrections(corrections, corrections.front());
    for (const CorrectionPtr& now : document()->corrections) {
        const Correction* was = findCorrection(before, now->id);
        QList<mask::PartId> parts;
        for (const mask::PartPtr& part : now->mask.parts) {
            if (!mask::findPart(was->mask, part->id)) parts.append(part->id);
        }
        if (parts.isEmpty()) continue;
        selectCorrection(now->id);
        selectParts(parts, parts.front());
        return;
    }
}

const Correction* Session::correction() const {
    return isOpen() ? findCorrection(*document(), correction_) : nullptr;
}

const mask::Part* Session::part() const {
    const Correction* selected = correction();
    return selected ? mask::findPart(selected->mask, part_) : nullptr;
}

bool Session::worksOnLimit() const {
    return worksOnLimit_ && part() && part()->limit;
}

mask::ShapePtr Session::workedOnShape() const {
    const mask::Part* selected = part();
    return !selected ? nullptr : worksOnLimit() ? selected->limit : selected->shape;
}

void Session::setWorksOnLimit(bool on) {
    if (on == worksOnLimit_) return;
    if (isOpen()) endGesture();
    worksOnLimit_ = on;
    Q_EMIT viewChanged();
}

void Session::keepSelectionValid() {
    const Id correctionBefore = correction_;
    const mask::PartId partBefore = part_;
    if (correction_ && !correction()) {
        correction_ = document()->corrections.empty() ? 0 : document()->corrections.back()->id;
    }
    if (!part()) part_ = correction() && !correction()->mask.parts.empty() ? correction()->mask.parts.back()->id : 0;
    hoveredPart_ = 0;
    if (correction_ != correctionBefore || part_ != partBefore) Q_EMIT selectionChanged();
}

// The brush goes on with what the part's strokes bring; in a part without strokes with nothing, unless the correction
// was made for laying something down.
void Session::takeUpBrings() {
    const mask::Part* selected = part();
    const auto* painted = selected ? dynamic_cast<const mask::Brush*>(selected->shape.get()) : nullptr;
    if (!painted) return;
    mask::BrushSettings brush = brush_;
    if (painted->strokes().empty()) brush.removes = brush.holds = false;  // what was set for another is not meant here
    const auto strokes = painted->strokes();
    const auto last = std::find_if(strokes.rbegin(), strokes.rend(),
                                   [](const mask::StrokePtr& stroke) { return !stroke->brush().removes; });
    const bool lays = std::ranges::any_of(correction()->adjustments,
                                          [](const AdjustmentUse& use) { return use.kind == &adjust::paint; });
    if (last != strokes.rend()) {
        brush.brings.kind = (*last)->brush().brings.kind;
        if (brush.brings.kind == mask::BringKind::colour) brush.brings.colour = (*last)->brush().brings.colour;
    } else if (!lays) {
        brush.brings.kind = mask::BringKind::nothing;
    }
    setBrush(brush);
}

static bool hasTraitsOf(const mask::BrushSettings& a, const mask::BrushSettings& b) {
    return a.sizePx == b.sizePx && a.softnessPct == b.softnessPct && a.strengthPct == b.strengthPct;
}

static void takeTraits(mask::BrushSettings& to, const mask::BrushSettings& from) {
    to.sizePx = from.sizePx;
    to.softnessPct = from.softnessPct;
    to.strengthPct = from.strengthPct;
}

void Session::selectCorrection(Id id) {
    selectCorrections({id}, id);
}

void Session::selectPart(mask::PartId id) {
    selectParts({id}, id);
}

void Session::workOn(Id correction) {
    if (correction == correction_) return;
    if (isOpen()) endGesture();
    correction_ = correction;
    part_ =
        this->correction() && !this->correction()->mask.parts.empty() ? this->correction()->mask.parts.back()->id : 0;
    alsoParts_.clear();
    hoveredPart_ = 0;
    leftInSight_ = {};
    Q_EMIT selectionChanged();
    Q_EMIT viewChanged();
}

QList<Id> Session::selectedCorrections() const {
    QList<Id> ids;
    if (!isOpen()) return ids;
    for (const CorrectionPtr& one : document()->corrections) {
        if (one->id == correction_ || alsoCorrections_.contains(one->id)) ids.append(one->id);
    }
    return ids;
}

QList<mask::PartId> Session::selectedParts() const {
    QList<mask::PartId> ids;
    if (!correction()) return ids;
    for (const mask::PartPtr& one : correction()->mask.parts) {
        if (one->id == part_ || alsoParts_.contains(one->id)) ids.append(one->id);
    }
    return ids;
}

void Session::selectCorrections(const QList<Id>& ids, Id workedOn) {
    const QSet<Id> also(ids.begin(), ids.end());
    const bool same = also == alsoCorrections_;
    alsoCorrections_ = also;
    workOn(workedOn);
    if (!same) Q_EMIT alsoSelectedChanged();
}

void Session::selectParts(const QList<mask::PartId>& ids, mask::PartId workedOn) {
    const QSet<mask::PartId> also(ids.begin(), ids.end());
    const bool same = also == alsoParts_;
    alsoParts_ = also;
    if (workedOn != part_) {
        if (isOpen()) endGesture();
        part_ = workedOn;
        leaveInSight({});
        Q_EMIT selectionChanged();
    }
    if (!same) Q_EMIT alsoSelectedChanged();
}

void Session::addCorrection(mask::Mask mask, const QString& stepName) {
    endGesture();
    const int after = indexOf(*document(), correction_);
    const std::size_t index = after < 0 ? document()->corrections.size() : static_cast<std::size_t>(after) + 1;
    const Added added = withNewCorrection(*document(), index);
    if (added.id == 0) return sayFull();
    Document numbered = *added.document;
    for (mask::PartPtr& part : mask.parts) {
        mask::Part own = *part;
        own.id = numbered.ids->next();
        part = std::make_shared<const mask::Part>(std::move(own));
    }
    const DocumentPtr masked = withCorrection(numbered, added.id, [&](Correction& c) { c.mask = std::move(mask); });
    alsoCorrections_.clear();
    alsoParts_.clear();
    correction_ = added.id;
    part_ = 0;
    commit(withNewAdjustment(*masked, added.id, adjust::light).document, stepName);
    keepSelectionValid();
    Q_EMIT selectionChanged();
    Q_EMIT viewChanged();
}

void Session::addFromStarter(const document::Starter& starter) {
    endGesture();
    const int after = indexOf(*document(), correction_);
    const std::size_t index = after < 0 ? document()->corrections.size() : static_cast<std::size_t>(after) + 1;
    const base::Size photo = renderer().photo().size();
    const Added added = document::withStarter(*document(), starter, index, photo);
    if (added.id == 0) return sayFull();
    alsoCorrections_.clear();
    alsoParts_.clear();
    correction_ = added.id;
    part_ = document::firstPart(*findCorrection(*added.document, added.id));
    commit(added.document, tr("starter %1").arg(QString::fromStdString(starter.name)));
    if (const auto brush = document::brushFor(starter, photo)) setBrush(*brush);
    keepSelectionValid();
    Q_EMIT selectionChanged();
    Q_EMIT viewChanged();
    if (!starter.first.empty()) say(QString::fromStdString(starter.first));
}

void Session::duplicateCorrections() {
    const QList<Id> ids = selectedCorrections();
    if (ids.isEmpty()) return;
    endGesture();
    DocumentPtr next = document();
    QList<Id> copies;
    for (const Id id : ids) {
        const Added added = withCopyOfCorrection(*next, id);
        if (added.id == 0) return sayFull();
        next = added.document;
        copies.append(added.id);
    }
    commit(next, ids.size() == 1 ? tr("duplicate correction") : tr("duplicate corrections"));
    selectCorrections(copies, copies.front());
}

void Session::turnBracket() {
    const QList<Id> ids = selectedCorrections();
    if (ids.isEmpty()) return;
    const Bracket* bracket = bracketOf(*document(), *correction());
    const bool isWhole = bracket && std::ranges::all_of(ids, [&](Id id) {
                             return findCorrection(*document(), id)->bracket == bracket->id;
                         });
    if (isWhole) {
        edit(tr("take bracket away"), [id = bracket->id](const Document& d) { return withoutBracket(d, id); });
        return sayOfStep(tr("Each correction has its own strength alone again."));
    }
    bool isFull = false;
    edit(tr("bracket corrections"), [&](const Document& d) {
        const Added added = withNewBracket(d, std::vector<Id>(ids.begin(), ids.end()));
        isFull = added.id == 0;
        return added.document;
    });
    if (isFull) return sayFull();
    sayOfStep(tr("One strength and one switch hold these corrections together: see What."));
}

void Session::goToCounterpart() {
    if (!isOpen() || !correction()) return;
    if (const Id other = otherOfPair(*document(), correction_)) return selectCorrection(other);
    endGesture();
    const AddedCounterpart added = withCounterpart(*document(), correction_);
    if (added.id == 0) return sayFull();
    const QString name = QString::fromStdString(findCorrection(*added.document, added.id)->name);
    commit(added.document, tr("make counterpart"));
    QStringList leftOut;
    for (const adjust::AdjustmentKind* kind : added.leftOut) leftOut << words(kind->label);
    const QString made =
        tr("Made “%1”: Alt and the brush paints into it, and what one of the two gains the other loses.").arg(name);
    sayOfStep(leftOut.isEmpty() ? made : tr("%1 Without what has no opposite: %2.").arg(made, leftOut.join(tr(", "))));
}

void Session::takeUpPart(const Added& added, const QString& stepName) {
    if (added.id == 0) return sayFull();
    alsoParts_.clear();
    part_ = added.id;
    commit(added.document, stepName);
    Q_EMIT selectionChanged();
}

void Session::addCorrectionWith(const mask::ShapeKind& kind, mask::Combine combine) {
    mask::Mask mask;
    mask.startsEverywhere = combine == mask::Combine::subtract;
    mask.parts.push_back(std::make_shared<const mask::Part>(
        mask::Part{0, std::string(kind.label), combine, false, true, 100, kind.makeFor(renderer_->photo().size())}));
    addCorrection(std::move(mask), tr("new correction"));
}

void Session::addPartTakingAway(const mask::ShapeKind& kind) {
    if (!isOpen()) return;
    if (!correction()) return addCorrectionWith(kind, mask::Combine::subtract);
    endGesture();
    takeUpPart(withNewPartTakingAway(*document(), correction_, kind.makeFor(renderer_->photo().size())),
               tr("add part that takes away: %1").arg(words(kind.label)));
}

void Session::addPart(const mask::ShapeKind& kind) {
    if (!isOpen()) return;
    if (!correction()) return addCorrectionWith(kind, mask::Combine::add);
    endGesture();
    const QString step = tr("add part: %1").arg(words(kind.label));
    const mask::ShapePtr shape = kind.makeFor(renderer_->photo().size());
    const bool isFirst = correction()->mask.parts.empty();
    const bool everywhere = correction()->mask.startsEverywhere && isFirst;
    // A range narrows what is there already; the other parts add to it.
    const bool narrows = !isFirst && kind.isRange;
    const mask::Combine usual = everywhere ? mask::Combine::subtract
                                : narrows  ? mask::Combine::overlap
                                           : mask::Combine::add;
    takeUpPart(withNewPart(*document(), correction_, shape, usual), step);
}

void Session::setMaskView(render::MaskView view) {
    maskView_ = view;
    Q_EMIT viewChanged();
}

void Session::setTintOpacity(double opacity) {
    tintOpacity_ = opacity;
    Q_EMIT viewChanged();
}

void Session::setChangeGain(double gain) {
    changeGain_ = gain;
    Q_EMIT viewChanged();
}

void Session::setPenStandIn(bool on) {
    penStandIn_ = on;
    Q_EMIT brushChanged();
}

void Session::setLook(Look look) {
    if (look == look_) return;
    look_ = look;
    Q_EMIT viewChanged();
}

void Session::setAgainst(const Against& against) {
    if (against == against_) return;
    against_ = against;
    Q_EMIT viewChanged();
}

void Session::setShownState(std::optional<std::size_t> state) {
    if (state == shownState_) return;
    shownState_ = state;
    Q_EMIT viewChanged();
}

void Session::setHeld(Held held, document::Id adjustment) {
    if (held == held_ && adjustment == pushedAdjustment_) return;
    held_ = held;
    pushedAdjustment_ = adjustment;
    Q_EMIT viewChanged();
}

void Session::setShine(const render::Shine& shine) {
    if (shine == shine_) return;
    shine_ = shine;
    Q_EMIT viewChanged();
}

void Session::setLosesByAll(bool byAll) {
    losesByAll_ = byAll;
    Q_EMIT viewChanged();
}

void Session::setHoveredPart(mask::PartId id) {
    if (id == hoveredPart_) return;
    hoveredPart_ = id;
    Q_EMIT viewChanged();
}

render::View Session::workingView() const {
    render::View view;
    view.selected = correction_;
    view.maskView = maskView_;
    view.tintOpacity = tintOpacity_;
    view.changeGain = changeGain_;
    if (const mask::PartId alone = hoveredPart_ ? hoveredPart_ : leftInSight_.part) {
        view.part = alone;
        view.maskView = render::MaskView::plate;
    }
    view.shine = shine_;
    view.comparison.glare = glare_ ? *glare_ : leftInSight_.row;
    return view;
}

Session::Shown Session::shown() const {
    if (look_ == Look::before && held_ == Held::nothing) return other();
    Shown shown{document(), workingView()};
    if (shownState_ && held_ == Held::nothing) shown.document = withStateTaken(*document(), *shownState_);
    render::View& view = shown.view;
    const bool showsMask = view.maskView != render::MaskView::none && view.maskView != render::MaskView::stitch &&
                           view.maskView != render::MaskView::change;
    switch (held_) {
        case Held::nothing: break;
        case Held::allOff: view.comparison.allOff = true; break;
        case Held::selectedOff: view.comparison.without = correction_; break;
        case Held::push:
            if (pushedAdjustment_) {
                view.pushedAdjustment = pushedAdjustment_;
            } else if (showsMask) {
                view.maskGain = render::pushFactor;  // the mask is what is looked at
                return shown;
            } else {
                view.comparison.pushed = correction_;
            }
            break;
        case Held::lost: view.shine = {.of = render::Shine::Of::lost, .byAll = losesByAll_ || !correction()}; break;
    }
    // Comparing is for looking at the photo: no mask over it.
    if (isComparing()) view.maskView = render::MaskView::none;
    return shown;
}

Session::Shown Session::other() const {
    Shown other{document(), {}};
    other.view.selected = correction_;
    switch (against_.what) {
        case Against::What::photo: other.view.comparison.allOff = true; break;
        case Against::What::withoutThis: other.view.comparison.without = correction_; break;
        case Against::What::saved: other.document = saved_; break;
        case Against::What::state:
            if (against_.state < document()->states.size()) {
                other.document = withStateTaken(*document(), against_.state);
            } else {
                other.view.comparison.allOff = true;  // it is gone
            }
            break;
    }
    return other;
}

// One of its traits that is changed in the same go is meant.
void Session::setBrush(const mask::BrushSettings& brush) {
    if (brush == brush_) return;
    mask::BrushSettings next = brush;
    if (next.removes != brush_.removes) {
        if (otherBrush_ && hasTraitsOf(next, brush_)) takeTraits(next, *otherBrush_);
        otherBrush_ = brush_;
    }
    brush_ = next;
    Q_EMIT brushChanged();
}

mask::BrushSettings Session::brushThat(bool removes) const {
    mask::BrushSettings brush = brush_;
    if (brush.removes == removes) return brush;
    brush.removes = removes;
    if (otherBrush_) takeTraits(brush, *otherBrush_);
    return brush;
}

void Session::setBringing(const Bringing& bringing) {
    bringing_ = bringing;
    Q_EMIT brushChanged();
}

void Session::ask(PhotoGesture gesture) {
    asked_ = std::move(gesture);
    Q_EMIT askedChanged();
}

void Session::stopAsking() {
    if (!asked_) return;
    asked_.reset();
    Q_EMIT askedChanged();
}

void Session::setGlare(const std::optional<render::Glare>& glare) {
    if (glare == glare_) return;
    glare_ = glare;
    Q_EMIT viewChanged();
}

void Session::leaveInSight(const LeftInSight& what) {
    if (what == leftInSight_) return;
    leftInSight_ = what;
    Q_EMIT viewChanged();
}

bool Session::showsGrips() const {
    const Correction* selected = correction();
    const Bracket* bracket = selected ? bracketOf(*document(), *selected) : nullptr;
    return showsGrips_ && (!selected || selected->enabled) && (!bracket || bracket->enabled);
}

void Session::setShowsGrips(bool shows) {
    showsGrips_ = shows;
    Q_EMIT viewChanged();
}

void Session::setPointer(const std::optional<PointerColours>& colours) {
    pointer_ = colours;
    Q_EMIT pointerChanged();
}

void Session::sayFull() {
    warn(tr("There are as many of these as a document can hold, so this was not done; remove some to go on."));
}

void Session::sayOfStep(const QString& sentence) {
    const auto takeBack = [this, made = step(), document = opening_] {
        if (isOpen() && opening_ == document && step() == made) undo();
    };
    say(sentence, tr("Undo"), takeBack);
}

void Session::say(const QString& sentence, const QString& actionName, std::function<void()> action) {
    Q_EMIT said({Message::Rank::remark, sentence, actionName, std::move(action)});
}

void Session::warn(const base::Error& error) {
    const QString sentence = QString::fromStdString(error.message);
    // Who has stopped it knows.
    error.code == base::ErrorCode::cancelled ? say(sentence) : warn(sentence);
}

void Session::warn(const QString& sentence, const QString& actionName, std::function<void()> action) {
    Q_EMIT said({Message::Rank::warning, sentence, actionName, std::move(action)});
}

}  // namespace dimhem::ui
