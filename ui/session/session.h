// What the window works on: the open photo, the versions of its document, what is selected and how it is looked at.
//
// Panels and canvas read it and change it through the functions below; none of them keeps a copy of its own. It
// renders nothing and touches no file: see FrameThread and DocumentJobs.
#pragma once

#include <QList>
#include <QObject>
#include <QSet>
#include <QString>
#include <functional>
#include <optional>

#include "core/document/history.h"
#include "core/document/starter.h"
#include "core/mask/brush.h"
#include "core/render/renderer.h"
#include "core/task/found_place.h"
#include "core/task/save.h"
#include "ui/session/background.h"
#include "ui/session/bringing.h"
#include "ui/session/gesture.h"
#include "ui/session/look.h"
#include "ui/session/message.h"
#include "ui/session/photo_gesture.h"
#include "ui/session/pointer_colours.h"

namespace dimhem::ui {

// The mask views in the order in which they are offered and stepped through.
inline constexpr render::MaskView maskViewOrder[] = {render::MaskView::none,   render::MaskView::tint,
                                                     render::MaskView::stitch, render::MaskView::plate,
                                                     render::MaskView::cutOut, render::MaskView::change};

class Session final : public QObject {
    Q_OBJECT

public:
    explicit Session(QObject* parent = nullptr);

    // Where all work away from the window's thread is done.
    Background& background() { return background_; }
    // What all work on photos keeps to.
    const std::shared_ptr<base::MemoryCeiling>& ceiling() const { return ceiling_; }
    // Where masks that took long to find are kept; null: there is no such place.
    const std::shared_ptr<io::FoundFolder>& found() const { return found_; }

    // The open document. All of these need isOpen().
    bool isOpen() const { return history_.has_value(); }
    // Another number for each document that is opened: what was asked of one must not be done to the next.
    quint64 opening() const { return opening_; }
    void start(task::Opened what);
    void close();
    const document::DocumentPtr& document() const { return history_->current(); }
    const render::Renderer& renderer() const { return *renderer_; }
    std::shared_ptr<const render::Renderer> sharedRenderer() const { return renderer_; }
    const task::Opened& origin() const { return *origin_; }
    // A picture that was chosen since: kept open, so that nothing is ever written over it.
    void hold(const std::filesystem::path& file);
    QString name() const;
    bool isSaved() const;
    const document::DocumentPtr& beginSaving();  // what is to be written; a gesture in hand is part of it
    void markSaved(const document::DocumentPtr& asWritten, const std::filesystem::path& path, const task::Saved& saved);

    // Edits. A change is given as a function of the version it is made to, so that a gesture in hand ends first and is
    // part of that version. A change that leaves the document as it is makes no step.
    using Change = std::function<document::DocumentPtr(const document::Document&)>;
    void edit(const QString& stepName, const Change& change);
    // Begins a gesture on the selected part, or on what `target` says; ends the one in hand. `interrupted` is called
    // when something else wants to begin: it must commit or give up. `hidesGrips`: while a control is being moved.
    struct GestureSettings {
        QString stepName;
        std::function<void()> interrupted = {};
        std::optional<EditTarget> target = {};
        bool hidesGrips = false;
        // Of several presses: takes the last one back. False where there is none to take back.
        std::function<bool()> takeBack = {};
    };
    Gesture begin(GestureSettings settings);
    // So that what the next gesture adds is taken away from the mask: by the selected part, where nothing was drawn in
    // it yet, else by a new part of its kind. It is shown at once and is part of that gesture's step; where that is
    // given up, or none has begun when it is dropped, it is gone. False, with a sentence, where the document is full.
    bool prepareTakingAway();
    void dropPrepared();
    void endGesture();  // the one in hand, if any
    bool hasGesture() const { return running_.has_value(); }
    bool takeLastPressBack();  // of a gesture of several; false where there is none
    // The thread colour of a correction, chosen for a version by what lies under its mask: becomes part of that step.
    void takeThreadColour(const document::DocumentPtr& version, document::Id correction, int threadColour);
    // What an adjustment has measured in the photo (its tables): becomes part of each version in which it has not.
    void takeMeasured(document::Id correction, document::Id adjustment, const adjust::Settings& settings,
                      const std::optional<document::MeasuredUnder>& under = {});
    // Measured again for a version, since what lies under the mask is another: becomes part of that version alone.
    void takeMeasuredAgain(const document::DocumentPtr& version, document::Id correction, document::Id adjustment,
                           const adjust::Settings& settings, const std::optional<document::MeasuredUnder>& under);
    bool canUndo() const { return isOpen() && (history_->canUndo() || hasGesture()); }
    bool canRedo() const { return isOpen() && history_->canRedo(); }
    QString undoName() const;
    QString redoName() const;
    void undo();
    void redo();
    // The steps there are, by name, the document as it was opened first; and going to one of them.
    QStringList stepNames() const;
    int step() const { return static_cast<int>(history_->position()); }
    void goToStep(int step);

    // Selection. The part selected is one of the selected correction's.
    document::Id selectedCorrection() const { return correction_; }
    mask::PartId selectedPart() const { return part_; }
    const document::Correction* correction() const;  // null: none selected
    const mask::Part* part() const;                  // null: none selected
    // What the hand works on in the selected part: its shape, or its limit, until another is selected. Null: none.
    mask::ShapePtr workedOnShape() const;
    bool worksOnLimit() const;
    void setWorksOnLimit(bool on);
    void selectCorrection(document::Id id);
    void selectPart(mask::PartId id);
    // Several may be selected together with the one that is worked on; in the order in which they act. What can be done
    // to several is done to all of them (several.h).
    QList<document::Id> selectedCorrections() const;
    QList<mask::PartId> selectedParts() const;
    void selectCorrections(const QList<document::Id>& ids, document::Id workedOn);
    void selectParts(const QList<mask::PartId>& ids, mask::PartId workedOn);

    // Adding, with the selection moved to what was added.
    void addCorrection(mask::Mask mask, const QString& stepName);
    void addFromStarter(const document::Starter& starter);  // takes its brush as well
    void duplicateCorrections();                            // all that are selected
    void turnBracket();                                     // over those selected, or away from them
    void goToCounterpart();                                 // of the one worked on; made where it has none yet
    void addPart(const mask::ShapeKind& kind);
    void addPartTakingAway(const mask::ShapeKind& kind);  // from the first press on

    // Looking.
    render::MaskView maskView() const { return maskView_; }
    void setMaskView(render::MaskView view);
    double tintOpacity() const { return tintOpacity_; }
    void setTintOpacity(double opacity);  // 0..1
    double changeGain() const { return changeGain_; }
    void setChangeGain(double gain);  // 1..16
    bool penStandIn() const { return penStandIn_; }
    void setPenStandIn(bool on);  // pressure from the speed of a mouse
    Look look() const { return look_; }
    void setLook(Look look);
    Against against() const { return against_; }
    void setAgainst(const Against& against);
    // A kept state in the result's place, to hold one against another; none: the result. Any edit ends it.
    std::optional<std::size_t> shownState() const { return shownState_; }
    void setShownState(std::optional<std::size_t> state);
    enum class Held { nothing, allOff, selectedOff, push, lost };
    // `adjustment`: of the selected correction, to be pushed alone; 0: all of it.
    void setHeld(Held held, document::Id adjustment = 0);
    Held held() const { return held_; }
    void setHoveredPart(mask::PartId id);       // shown alone; 0: none
    void setShine(const render::Shine& shine);  // over the picture, until it is nothing again
    const render::Shine& shine() const { return shine_; }
    // What is lost is looked for by the selected correction alone, or by all together.
    bool losesByAll() const { return losesByAll_; }
    void setLosesByAll(bool byAll);

    // A version and how it is looked at: what the photo's place shows, and what it is held against.
    struct Shown {
        document::DocumentPtr document;
        render::View view;
    };
    Shown shown() const;
    Shown other() const;
    bool showsBoth() const { return held_ == Held::nothing && look_ >= Look::split; }
    // Looking at the photo, not at what is worked with.
    bool isComparing() const {
        return look_ == Look::before || look_ == Look::blink || held_ != Held::nothing || shownState_;
    }

    // Grips stay away while a control moves.
    bool isSliding() const { return running_ && running_->hidesGrips; }

    const mask::BrushSettings& brush() const { return brush_; }
    void setBrush(const mask::BrushSettings& brush);
    // As it is when it removes, or when it paints: size, softness and strength are each one's own.
    mask::BrushSettings brushThat(bool removes) const;
    const Bringing& bringing() const { return bringing_; }
    void setBringing(const Bringing& bringing);

    // Asks the person for something on the photo: a place or an area (see PhotoGesture).
    void ask(PhotoGesture gesture);
    void stopAsking();
    const PhotoGesture* asked() const { return asked_ ? &*asked_ : nullptr; }  // null: nothing

    // One row of an adjustment's table shown glaringly, while it is being set; none: nothing.
    void setGlare(const std::optional<render::Glare>& glare);
    // A row of a table, or a part shown alone, left in sight while one looks round: until it is taken back or another
    // correction or part is worked on.
    struct LeftInSight {
        render::Glare row;
        mask::PartId part = 0;
        friend bool operator==(const LeftInSight&, const LeftInSight&) = default;
    };
    const LeftInSight& leftInSight() const { return leftInSight_; }
    void leaveInSight(const LeftInSight& what);

    // The colours under the pointer, as read with the newest frame; none: the pointer is elsewhere.
    const std::optional<PointerColours>& pointer() const { return pointer_; }
    void setPointer(const std::optional<PointerColours>& colours);

    // Grips and points over the photo, unless they are put out of sight; nor are they there while the correction is
    // off.
    bool showsGrips() const;
    void setShowsGrips(bool shows);
    bool wantsGrips() const { return showsGrips_; }

    // Measuring in the background that someone waits for (photo_reading.h).
    void countReading(int by) { readings_ += by; }
    bool isReading() const { return readings_ > 0; }

    // A sentence for the person, in the bar over the photo, with something to do about it where there is: a remark,
    // which passes, or an error or a question, which stays until it is answered.
    void say(const QString& sentence, const QString& actionName = {}, std::function<void()> action = {});
    void warn(const QString& sentence, const QString& actionName = {}, std::function<void()> action = {});
    void warn(const base::Error& error);
    void sayFull();  // that a document can hold no more of what was to be added
    // A remark of the step just made, with the offer to take it back while nothing has been done after it.
    void sayOfStep(const QString& sentence);

Q_SIGNALS:
    void opened();           // another document, or none
    void documentChanged();  // a step was made or taken back
    void threadColourChanged();
    void measured();             // what an adjustment has measured became part of the versions; documentChanged follows
    void pictureChanged();       // any version, also in the middle of a gesture
    void selectionChanged();     // what is worked on
    void alsoSelectedChanged();  // what is selected with it
    void viewChanged();
    void brushChanged();
    void askedChanged();
    void pointerChanged();
    void savedChanged();
    void said(const dimhem::ui::Message& message);

private:
    friend class Gesture;
    struct Running {
        quint64 number = 0;
        document::DocumentPtr before, base;  // as it was, and as the gesture goes on from: what was prepared is in it
        mask::PartId partBefore = 0;
        bool isPrepared = false;  // and nothing more yet
        EditTarget target;
        QString stepName;
        std::function<void()> interrupted;
        bool hidesGrips = false;
        std::function<bool()> takeBack;
    };
    void addCorrectionWith(const mask::ShapeKind& kind, mask::Combine combine);
    void takeUpPart(const document::Added& added, const QString& stepName);
    void showPreview(document::DocumentPtr next);
    void giveUpGesture();
    void finishGesture(document::DocumentPtr next, const QString& stepName);  // an empty name: the gesture's own
    void commit(document::DocumentPtr next, const QString& stepName);
    void forgetWhatIsShown();
    void keepSelectionValid();
    void selectWhatCame(const document::Document& before);
    void workOn(document::Id correction);
    render::View workingView() const;
    void takeUpBrings();
    void changed();

    std::shared_ptr<base::MemoryCeiling> ceiling_;
    std::shared_ptr<io::FoundFolder> found_;
    std::optional<task::Opened> origin_;
    std::optional<document::History> history_;
    std::shared_ptr<const render::Renderer> renderer_;
    std::optional<Running> running_;
    quint64 gestureCount_ = 0, opening_ = 0;
    int readings_ = 0;
    document::Id correction_ = 0;
    mask::PartId part_ = 0;
    QSet<document::Id> alsoCorrections_;
    QSet<mask::PartId> alsoParts_;
    mask::PartId hoveredPart_ = 0;
    bool worksOnLimit_ = false;
    bool showsGrips_ = true;
    render::MaskView maskView_ = render::MaskView::none;
    double tintOpacity_ = 0.6, changeGain_ = 4;
    bool penStandIn_ = false;
    Look look_ = Look::result;
    Against against_;
    std::optional<std::size_t> shownState_;
    Held held_ = Held::nothing;
    document::Id pushedAdjustment_ = 0;
    render::Shine shine_;
    bool losesByAll_ = false;
    document::DocumentPtr saved_;  // as last written, or as opened
    mask::BrushSettings brush_;
    std::optional<mask::BrushSettings> otherBrush_;  // that removes where this paints, or the other way round
    Bringing bringing_;
    std::optional<PhotoGesture> asked_;
    std::optional<render::Glare> glare_;
    LeftInSight leftInSight_;
    std::optional<PointerColours> pointer_;
    Background background_;  // the last: nothing runs any more when the rest goes
};

}  // namespace dimhem::ui
