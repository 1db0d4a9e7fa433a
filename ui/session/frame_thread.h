// Renders frames for the canvas on a thread of its own (and, within it, on all cores); the window's thread never
// renders. Only the newest request counts.
#pragma once

#include <QImage>
#include <QObject>
#include <QPolygonF>
#include <condition_variable>
#include <mutex>
#include <optional>
#include <thread>

#include "core/colour/types.h"
#include "core/render/frame.h"
#include "ui/session/pointer_colours.h"

namespace dimhem::ui {

// The contours of the selected mask in sight, in pixels of the photo.
struct Stitches {
    QList<QPolygonF> half, outer, inner;  // at 50 %, 10 %, 90 %
};

struct ViewRequest {
    std::shared_ptr<const render::Renderer> renderer;
    render::FrameRequest frame;
    std::optional<render::FrameRequest> other;  // what it is held against, where both are shown
    std::vector<render::FrameRequest> ready;    // made once all else is done, so that a key shows them at once
    base::Rect loupe;                           // of the photo, at its own pixels, both sides; empty: none
    bool isFirst = false;                       // of a document: something true at once, coarse before fine
    int overviewLevel = 0;                      // the whole photo at this level comes after the frame
    std::optional<base::Point> pointer;         // a place of the photo to read the colour at, before and after
    double holdSizePx = 0;                      // of a brush at the pointer that holds edges: made ready for; 0: none
};

QImage imageOf(const render::DisplayTile& tile);

class FrameThread final : public QObject {
    Q_OBJECT

public:
    explicit FrameThread(QObject* parent = nullptr);
    ~FrameThread() override;

    void request(ViewRequest request);
    void clear();         // nothing to render any more
    bool isIdle() const;  // but for what nobody waits for
    bool isAtRest() const;

Q_SIGNALS:
    // From the rendering threads; connect queued.
    void tileReady(int level, const QRect& rect, const QImage& pixels);
    void otherTileReady(int level, const QRect& rect, const QImage& pixels);
    void loupeReady(const QRect& rect, const QImage& before, const QImage& after);
    void stitchesReady(const dimhem::ui::Stitches& stitches);
    void overviewReady(const QImage& pixels);
    void pointerRead(const dimhem::ui::PointerColours& colours);
    // Of the first request of a document: the photo is there, without its corrections; then these, if coarsely.
    void photoShown();
    void correctionsShown();
    void finished();  // the newest request is done, as far as it can be
    void failed(const QString& sentence);

private:
    void run();
    // Each throws base::Cancelled where it was stopped, or where a newer request waits.
    void serve(const ViewRequest& request, const base::CancelToken& cancel);
    void serveFirst(const ViewRequest& request, const base::CancelToken& cancel);
    void showFrame(const ViewRequest& request, const render::FrameRequest& frame, const base::CancelToken& cancel);
    void serveOther(const ViewRequest& request, const base::CancelToken& cancel);
    void readPointer(const ViewRequest& request, const render::Sequence& after);
    void makeReady(const ViewRequest& request, const base::CancelToken& cancel);
    bool isWanted();  // whether a newer request waits

    mutable std::mutex mutex_;
    std::condition_variable wake_;
    std::optional<ViewRequest> next_;
    std::optional<render::FrameRequest> running_;  // what is being rendered
    base::CancelSource current_;
    bool busy_ = false;
    bool ahead_ = false;  // busy with what nobody waits for
    std::chrono::steady_clock::time_point begun_;
    bool quit_ = false;
    std::thread thread_;
};

}  // namespace dimhem::ui
