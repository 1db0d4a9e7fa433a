#include "ui/session/frame_thread.h"

#include "core/check/contours.h"
#include "core/colour/srgb.h"
#include "core/image/tiles.h"
#include "core/kernel/coverage_rows.h"
#include "core/mask/held_stroke.h"
#include "core/task/probe.h"
#include "ui/session/background.h"

namespace dimhem::ui {

namespace {

// A frame that has only just begun is let finish, so that something is always shown while the hand moves on.
constexpr auto patience = std::chrono::milliseconds(120);

QList<QPolygonF> linesAt(const image::Plane<std::uint16_t>& coverage, double part, const mask::Area& area) {
    QList<QPolygonF> lines;
    for (const auto& contour : check::contours(coverage, part * kernel::fullCoverage)) {
        QPolygonF line;
        for (const base::Point& p : contour)
            line << QPointF((p.x + area.rect.x0) * area.scale(), (p.y + area.rect.y0) * area.scale());
        lines << line;
    }
    return lines;
}

Stitches stitchesOf(const render::Renderer& renderer, const render::FrameRequest& request) {
    const render::Sequence sequence(request.document, request.view.comparison);
    const base::Size size = image::levelSize(renderer.photo().size(), request.level);
    const image::TileGrid grid(size, image::defaultTilePx);
    const base::Rect seen = base::intersected(
        {request.rect.x0 - 1, request.rect.y0 - 1, request.rect.x1 + 1, request.rect.y1 + 1}, base::rectOf(size));
    if (seen.empty()) return {};
    image::Plane<std::uint16_t> coverage(seen.size());
    const base::Rect tiles = grid.touched(seen);
    for (int row = tiles.y0; row < tiles.y1; ++row) {
        for (int column = tiles.x0; column < tiles.x1; ++column) {
            const base::Rect tile = grid.tile(column, row), both = base::intersected(tile, seen);
            const mask::CoveragePtr part = renderer.coverage(sequence, request.view.selected, {tile, request.level});
            for (int y = both.y0; y < both.y1; ++y) {
                for (int x = both.x0; x < both.x1; ++x) {
                    coverage.row(y - seen.y0)[static_cast<std::size_t>(x - seen.x0)] =
                        part->isConstant() ? part->value() : part->row(y - tile.y0)[x - tile.x0];
                }
            }
        }
    }
    const mask::Area area{seen, request.level};
    return {linesAt(coverage, 0.5, area), linesAt(coverage, 0.1, area), linesAt(coverage, 0.9, area)};
}

bool isSamePicture(const render::FrameRequest& a, const render::FrameRequest& b) {
    return a.document == b.document && a.view == b.view && a.level == b.level && a.rect == b.rect;
}

// The tiles of a frame, each shown by `show` as it is there; throws base::Cancelled where it was stopped before the
// last.
template <class Show>
void renderWhole(const render::Renderer& renderer, const render::FrameRequest& frame, const base::CancelToken& cancel,
                 const Show& show) {
    if (!render::renderFrame(renderer, frame, {}, cancel, show)) throw base::Cancelled();
}

}  // namespace

QImage imageOf(const render::DisplayTile& tile) {
    const base::Size size = tile.size();
    QImage image(size.width, size.height, QImage::Format_RGB32);
    for (int y = 0; y < size.height; ++y) {
        std::copy_n(tile.row(y).data(), size.width, reinterpret_cast<std::uint32_t*>(image.scanLine(y)));
    }
    return image;
}

FrameThread::FrameThread(QObject* parent) : QObject(parent) {
    qRegisterMetaType<PointerColours>();
    qRegisterMetaType<Stitches>();
    thread_ = std::thread([this] { run(); });
}

FrameThread::~FrameThread() {
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
        next_.reset();
        current_.cancel();
    }
    wake_.notify_one();
    thread_.join();
}

void FrameThread::request(ViewRequest request) {
    {
        const std::lock_guard lock(mutex_);
        // Where only the pointer has moved, what is being rendered is what is wanted.
        const bool isSame = running_ && isSamePicture(*running_, request.frame);
        next_ = std::move(request);
        if (busy_ && (ahead_ || (!isSame && std::chrono::steady_clock::now() - begun_ > patience))) current_.cancel();
    }
    wake_.notify_one();
}

void FrameThread::clear() {
    const std::lock_guard lock(mutex_);
    next_.reset();
    current_.cancel();
}

bool FrameThread::isIdle() const {
    const std::lock_guard lock(mutex_);
    return (!busy_ || ahead_) && !next_;
}

bool FrameThread::isAtRest() const {
    const std::lock_guard lock(mutex_);
    return !busy_ && !next_;
}

void FrameThread::run() {
    std::unique_lock lock(mutex_);
    while (true) {
        wake_.wait(lock, [this] { return quit_ || next_; });
        if (quit_) return;
        const ViewRequest request = std::move(*next_);
        next_.reset();
        running_ = request.frame;
        current_ = base::CancelSource();
        busy_ = true;
        begun_ = std::chrono::steady_clock::now();
        const base::CancelToken cancel = current_.token();
        lock.unlock();
        const auto served = outcomeOf([&] { serve(request, cancel); });
        const bool cancelled = !served && served.error().code == base::ErrorCode::cancelled;
        if (!served && !cancelled) Q_EMIT failed(QString::fromStdString(served.error().message));
        lock.lock();
        busy_ = false;
        running_.reset();
        if (next_ || cancelled) continue;
        Q_EMIT finished();
        busy_ = ahead_ = true;
        current_ = base::CancelSource();
        const base::CancelToken aheadCancel = current_.token();
        lock.unlock();
        (void)outcomeOf([&] { makeReady(request, aheadCancel); });  // what fails is said when it is asked for
        lock.lock();
        busy_ = ahead_ = false;
    }
}

// Into the cache: the tiles are found there when they are asked for.
void FrameThread::makeReady(const ViewRequest& request, const base::CancelToken& cancel) {
    for (const render::FrameRequest& frame : request.ready) {
        renderWhole(*request.renderer, frame, cancel, [](const auto&, const auto&) {});
        const render::Sequence sequence(frame.document, frame.view.comparison, cancel);
        const base::Size size = image::levelSize(request.renderer->photo().size(), request.overviewLevel);
        (void)request.renderer->display(sequence, frame.view, {base::rectOf(size), request.overviewLevel});
    }
}

bool FrameThread::isWanted() {
    const std::lock_guard lock(mutex_);
    return next_ || quit_;
}

void FrameThread::serve(const ViewRequest& request, const base::CancelToken& cancel) {
    const render::Renderer& renderer = *request.renderer;
    if (request.isFirst) serveFirst(request, cancel);
    showFrame(request, request.frame, cancel);
    serveOther(request, cancel);
    if (request.frame.view.maskView == render::MaskView::stitch)
        Q_EMIT stitchesReady(stitchesOf(renderer, request.frame));
    if (isWanted()) throw base::Cancelled();  // the frame is what the hand waits for; the rest can come with the next
    const render::Sequence after(request.frame.document, request.frame.view.comparison);
    const mask::Area all{base::rectOf(image::levelSize(renderer.photo().size(), request.overviewLevel)),
                         request.overviewLevel};
    render::View plain = request.frame.view;
    plain.maskView = render::MaskView::none;
    Q_EMIT overviewReady(imageOf(*renderer.display(after, plain, all)));
    if (!request.pointer) return;
    // What glares is shown, not made.
    render::Comparison made = request.frame.view.comparison;
    made.glare = {};
    readPointer(request, after.compared(made));
}

void FrameThread::showFrame(const ViewRequest& request, const render::FrameRequest& frame,
                            const base::CancelToken& cancel) {
    renderWhole(*request.renderer, frame, cancel,
                [&](const base::Rect& rect, const std::shared_ptr<const render::DisplayTile>& tile) {
                    Q_EMIT tileReady(frame.level, QRect(rect.x0, rect.y0, rect.width(), rect.height()), imageOf(*tile));
                });
}

// The photo itself is there in a moment; what its corrections make of it may take a while, and less on a coarser level.
void FrameThread::serveFirst(const ViewRequest& request, const base::CancelToken& cancel) {
    constexpr int coarserBy = 2;
    if (request.frame.document->corrections.empty()) return;
    render::FrameRequest photo = request.frame;
    photo.view = {};
    photo.view.comparison.allOff = true;
    showFrame(request, photo, cancel);
    Q_EMIT photoShown();
    render::FrameRequest coarse = request.frame;
    coarse.level = std::min(coarse.level + coarserBy, request.renderer->photo().levels() - 1);
    const int by = coarse.level - request.frame.level;
    coarse.rect = {coarse.rect.x0 >> by, coarse.rect.y0 >> by, ((coarse.rect.x1 - 1) >> by) + 1,
                   ((coarse.rect.y1 - 1) >> by) + 1};
    coarse.focus = coarse.focus * (1.0 / (1 << by));
    showFrame(request, coarse, cancel);
    Q_EMIT correctionsShown();
}

void FrameThread::serveOther(const ViewRequest& request, const base::CancelToken& cancel) {
    const render::Renderer& renderer = *request.renderer;
    if (request.other) {
        const int level = request.other->level;
        renderWhole(renderer, *request.other, cancel,
                    [&](const base::Rect& rect, const std::shared_ptr<const render::DisplayTile>& tile) {
                        Q_EMIT otherTileReady(level, QRect(rect.x0, rect.y0, rect.width(), rect.height()),
                                              imageOf(*tile));
                    });
    }
    const base::Rect loupe = base::intersected(request.loupe, base::rectOf(renderer.photo().size()));
    if (loupe.empty()) return;
    render::Comparison allOff;
    allOff.allOff = true;
    render::View plain;
    plain.selected = request.frame.view.selected;
    const render::Sequence before(request.frame.document, allOff, cancel), after(request.frame.document, {}, cancel);
    Q_EMIT loupeReady(QRect(loupe.x0, loupe.y0, loupe.width(), loupe.height()),
                      imageOf(*renderer.display(before, plain, {loupe, 0})),
                      imageOf(*renderer.display(after, plain, {loupe, 0})));
}

void FrameThread::readPointer(const ViewRequest& request, const render::Sequence& after) {
    const render::Renderer& renderer = *request.renderer;
    render::Comparison asItWas;
    asItWas.allOff = true;
    const auto old = task::colourAt(renderer, render::Sequence(request.frame.document, asItWas), *request.pointer, 0);
    const auto now = task::colourAt(renderer, after, *request.pointer, 0);
    render::Comparison before;
    before.stopBefore = request.frame.view.selected;
    const auto arriving =
        task::colourAt(renderer, render::Sequence(request.frame.document, before), *request.pointer, 0);
    if (old && now) {
        PointerColours read{*request.pointer, colour::encodedFromLinear(*old),
                            colour::encodedFromLinear(arriving.value_or(*old)), colour::encodedFromLinear(*now),
                            std::nullopt};
        if (request.holdSizePx > 0) {
            const auto sight = renderer.maskContext(after, request.frame.view.selected);
            read.held = mask::holdColourAt(*request.pointer, request.holdSizePx, sight->photo());
        }
        Q_EMIT pointerRead(read);
    }
    if (request.holdSizePx > 0) {
        const auto sight = renderer.maskContext(after, request.frame.view.selected);
        mask::prepareToHold(
            *request.pointer, request.holdSizePx, [this] { return !isWanted(); }, sight->photo());
    }
}

}  // namespace dimhem::ui
