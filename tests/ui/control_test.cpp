// Controls on their own.
#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>

#include "core/mask/brush.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"
#include "ui/control/curve_field.h"
#include "ui/control/flow_layout.h"
#include "ui/control/icon.h"
#include "ui/control/range_strip.h"
#include "ui/control/segmented.h"
#include "ui/control/switch.h"
#include "ui/control/theme.h"
#include "ui/control/value_slider.h"

namespace dimhem::tests {

namespace {

void dragStrip(ui::RangeStrip& strip, int from, int to) {
    QTest::mousePress(&strip, Qt::LeftButton, {}, QPoint(from, 20));
    for (const int x : {(from + to) / 2, to}) {
        QMouseEvent move(QEvent::MouseMove, QPointF(x, 20), strip.mapToGlobal(QPointF(x, 20)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(&strip, &move);
    }
    QTest::mouseRelease(&strip, Qt::LeftButton, {}, QPoint(to, 20));
}

}  // namespace

// Styles keep what they make of a pixmap under its key: icons made anew must not be new ones.
TEST(Icon, IsTheSamePixmapEachTime) {
    const auto keyOf = [](const QString& name, int sizePx) { return ui::icon(name).pixmap(sizePx, sizePx).cacheKey(); };
    EXPECT_EQ(keyOf("brush", 16), keyOf("brush", 16));
    EXPECT_NE(keyOf("brush", 16), keyOf("brush", 32));
    EXPECT_NE(keyOf("brush", 16), keyOf("borrowed", 16));
}

TEST(RangeStrip, PointsStayInOrderAndOnTheScale) {
    ui::RangeStrip strip(ui::RangeStrip::Scale::tone, "Tones", nullptr);
    strip.resize(216, 58);  // 2 px for each L*
    strip.setRange({{20, 40, 60, 80}});
    QSignalSpy finished(&strip, &ui::RangeStrip::finished);
    dragStrip(strip, 8 + 40 * 2, 8 + 90 * 2);  // the second point past the third
    EXPECT_EQ(strip.range().points[1], 60);
    dragStrip(strip, 8 + 20 * 2, 0);  // the first beyond the end
    EXPECT_EQ(strip.range().points[0], 0);
    EXPECT_EQ(finished.count(), 2);
}

TEST(RangeStrip, DraggingBetweenThePointsMovesAll) {
    ui::RangeStrip strip(ui::RangeStrip::Scale::tone, "Tones", nullptr);
    strip.resize(216, 58);
    strip.setRange({{10, 20, 60, 70}});
    dragStrip(strip, 8 + 40 * 2, 8 + 50 * 2);
    EXPECT_EQ(strip.range().points, (std::array<double, 4>{20, 30, 70, 80}));
    dragStrip(strip, 8 + 50 * 2, 8 + 99 * 2);
    EXPECT_EQ(strip.range().points[3], 100);
    EXPECT_EQ(strip.range().points[0], 40);
}

TEST(RangeStrip, HuesGoRoundTheCircle) {
    ui::RangeStrip strip(ui::RangeStrip::Scale::hue, "Hues", nullptr);
    strip.resize(376, 58);  // 1 px a degree, from -60
    strip.setRange({{200, 220, 240, 260}});
    dragStrip(strip, 8 + 60 + 230, 8 + 60 + 230 + 60);
    const auto& p = strip.range().points;
    EXPECT_NEAR(p[3] - p[0], 60, 1e-9);
    EXPECT_NEAR(mask::weightOnCircle(strip.range(), 290), 1, 1e-9);
    for (int i = 0; i < 8; ++i) dragStrip(strip, 8 + 10, 8 + 350);  // round and round
    EXPECT_LE(std::abs(strip.range().points[0]), 360);
}

TEST(RangeStrip, KeysMoveThePointInFocus) {
    ui::RangeStrip strip(ui::RangeStrip::Scale::tone, "Tones", nullptr);
    strip.resize(216, 58);
    strip.show();
    strip.activateWindow();
    strip.setFocus();
    strip.setRange({{10, 20, 60, 70}});
    QTest::keyClick(&strip, Qt::Key_Right);
    EXPECT_EQ(strip.range().points[0], 11);
    QTest::keyClick(&strip, Qt::Key_Left, Qt::ShiftModifier);
    EXPECT_EQ(strip.range().points[0], 1);
}

namespace {

constexpr base::ParamSpec exposureLike = {.id = "x",
                                          .label = "Exposure",
                                          .unit = "EV",
                                          .min = -5,
                                          .max = 5,
                                          .step = 0.05,
                                          .decimals = 2,
                                          .tip = {},
                                          .scale = base::Scale::aboutNeutral};
constexpr base::ParamSpec uneven = {
    .id = "y", .label = "Uneven", .min = -20, .max = 100, .neutral = 10, .tip = {}, .scale = base::Scale::aboutNeutral};

void dragTrack(ui::SliderTrack& track, int from, int to, int y, Qt::KeyboardModifiers modifiers = {}) {
    QTest::mousePress(&track, Qt::LeftButton, modifiers, QPoint(from, 6));
    QMouseEvent move(QEvent::MouseMove, QPointF(to, y), track.mapToGlobal(QPointF(to, y)), Qt::NoButton, Qt::LeftButton,
                     modifiers);
    QApplication::sendEvent(&track, &move);
    QTest::mouseRelease(&track, Qt::LeftButton, modifiers, QPoint(to, y));
}

}  // namespace

TEST(SliderTrack, AScaleAboutTheNeutralValueIsMonotoneAndComesBack) {
    for (const base::ParamSpec& spec : {exposureLike, uneven}) {
        double before = spec.min - 1;
        for (int i = 0; i <= 1000; ++i) {
            const double place = i / 1000.0, value = ui::SliderTrack::valueAt(spec, place);
            EXPECT_GT(value, before) << place;
            EXPECT_NEAR(ui::SliderTrack::placeOf(spec, value), place, 1e-9);
            before = value;
        }
        EXPECT_EQ(ui::SliderTrack::valueAt(spec, 0), spec.min);
        EXPECT_EQ(ui::SliderTrack::valueAt(spec, 1), spec.max);
        EXPECT_NEAR(ui::SliderTrack::valueAt(spec, (spec.neutral - spec.min) / (spec.max - spec.min)), spec.neutral,
                    1e-12);
    }
    const double near = ui::SliderTrack::valueAt(exposureLike, 0.51),
                 far = 5 - ui::SliderTrack::valueAt(exposureLike, 0.99);
    EXPECT_LT(near, far / 3) << "steps near the middle are smaller than near an end";
}

TEST(ValueSlider, ADragMovesFromWhereItIsAndShiftMovesATenth) {
    static constexpr base::ParamSpec spec = {.id = "x", .label = "Contrast", .min = -100, .max = 100, .tip = {}};
    ui::ValueSlider slider(spec);
    slider.resize(206, 26);  // 1 px a step
    slider.show();
    QSignalSpy finished(&slider, &ui::ValueSlider::finished);
    dragTrack(*slider.track(), 20, 50, 6);
    EXPECT_EQ(slider.value(), 30) << "not where the pointer is";
    dragTrack(*slider.track(), 20, 50, 6, Qt::ShiftModifier);
    EXPECT_EQ(slider.value(), 33);
    dragTrack(*slider.track(), 20, 50, 400);
    EXPECT_EQ(slider.value(), 36) << "far below the row it moves as finely";
    EXPECT_EQ(finished.count(), 3) << "one step for each drag";
    QTest::mouseClick(slider.track(), Qt::LeftButton, {}, QPoint(3, 22));
    EXPECT_EQ(slider.value(), -100) << "on the track itself it goes to the pointer";
    dragTrack(*slider.track(), 100, -4000, 6);
    dragTrack(*slider.track(), 20, 4000, 6);
    EXPECT_EQ(slider.value(), 100);
}

TEST(FlowLayout, WrapsWhatDoesNotFitAndIsAsHighAsItsLines) {
    QWidget box;
    auto* flow = new ui::FlowLayout(&box);
    flow->setContentsMargins(0, 0, 0, 0);
    QList<QWidget*> cells;
    for (int i = 0; i < 5; ++i) {
        cells << new QWidget;
        cells.back()->setFixedSize(40, 20);
        flow->addWidget(cells.back());
    }
    EXPECT_EQ(flow->heightForWidth(40 * 5 + 4 * 4), 20);
    EXPECT_EQ(flow->heightForWidth(100), 3 * 20 + 2 * 4);
    flow->setGeometry({0, 0, 100, 100});
    EXPECT_EQ(cells[2]->pos(), QPoint(0, 24));
    cells[0]->hide();
    EXPECT_EQ(flow->heightForWidth(100), 2 * 20 + 4);
    EXPECT_EQ(flow->minimumSize(), QSize(40, 20));
}

TEST(CurveField, KeysAddMoveAndRemoveAPoint) {
    ui::CurveField field("Curve", 8, nullptr);
    field.resize(200, 200);
    field.show();
    field.activateWindow();
    field.setFocus();
    field.setPoints({0, 0, 100, 100});
    QTest::keyClick(&field, Qt::Key_Insert);
    ASSERT_EQ(field.points().size(), 6u);
    EXPECT_NEAR(field.points()[2], 50, 1e-9);
    EXPECT_NEAR(field.points()[3], 50, 0.01) << "on the curve as it was";
    QTest::keyClick(&field, Qt::Key_Up, Qt::ShiftModifier);
    EXPECT_NEAR(field.points()[3], 60, 0.01);
    QTest::keyClick(&field, Qt::Key_Delete);
    EXPECT_EQ(field.points().size(), 4u);
}

// WCAG 2.1: relative luminance, and contrast of at least 4.5 : 1 for text (1.4.3).
TEST(Theme, TextIsReadOnEveryGround) {
    const auto luminance = [](QRgb colour) {
        const auto linear = [](int c) {
            const double v = c / 255.0;
            return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * linear(qRed(colour)) + 0.7152 * linear(qGreen(colour)) + 0.0722 * linear(qBlue(colour));
    };
    for (const QRgb ground : {ui::theme::bar, ui::theme::panel, ui::theme::raised, ui::theme::field}) {
        for (const QRgb text : {ui::theme::text, ui::theme::quiet, ui::theme::bright})
            EXPECT_GE((luminance(text) + 0.05) / (luminance(ground) + 0.05), 4.5) << std::hex << ground << " " << text;
    }
}

TEST(Segmented, OnlyThePersonsChoiceIsASignal) {
    ui::Segmented choice("Choice", {{"a", "tip a"}, {"b", "tip b"}});
    QSignalSpy chosen(&choice, &ui::Segmented::chosen);
    choice.setCurrent(1);
    EXPECT_EQ(chosen.count(), 0);
    EXPECT_EQ(choice.current(), 1);
    QTest::mouseClick(choice.findChildren<QPushButton*>()[0], Qt::LeftButton);
    ASSERT_EQ(chosen.count(), 1);
    EXPECT_EQ(chosen[0][0].toInt(), 0);
}

TEST(PenStandIn, ASlowHandPressesHarderThanAFastOne) {
    const TempFolder folder;
    Window w;
    ASSERT_TRUE(w.open(greyPhoto(folder)));
    w.key(Qt::Key_1);
    w.session().setPenStandIn(true);
    const auto pressureAfter = [&](int pauseMs) {
        quint64 now = 1000;  // the time is in the events
        const auto send = [&](QEvent::Type type, int x) {
            const QPointF at(x, 300);
            QMouseEvent event(type, at, w.canvas().mapToGlobal(at), Qt::LeftButton, Qt::LeftButton, {});
            event.setTimestamp(now);
            QApplication::sendEvent(&w.canvas(), &event);
        };
        send(QEvent::MouseButtonPress, 200);
        for (int i = 1; i <= 10; ++i) {
            now += static_cast<quint64>(pauseMs);
            send(QEvent::MouseMove, 200 + 20 * i);
        }
        QTest::mouseRelease(&w.canvas(), Qt::LeftButton, {}, QPoint(400, 300));
        const auto brush = std::dynamic_pointer_cast<const mask::Brush>(w.session().part()->shape);
        return brush->strokes().back()->points().back().pressure;
    };
    const double fast = pressureAfter(0), slow = pressureAfter(60);
    EXPECT_GT(slow, fast + 0.15);
    w.session().setPenStandIn(false);
    EXPECT_EQ(pressureAfter(0), 1.0) << "off by default: a mouse presses fully";
}

}  // namespace dimhem::tests
