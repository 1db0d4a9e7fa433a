#include "ui/session/preferences.h"

#include <QSettings>
#include <algorithm>
#include <cmath>

#include "core/base/memory_ceiling.h"

namespace dimhem::ui {

namespace {

constexpr char surroundKey[] = "preferences/surround", sizeKey[] = "preferences/interface-size",
               penKey[] = "preferences/pen", cacheKey[] = "preferences/cache",
               ceilingKey[] = "preferences/memory-ceiling", cornerKey[] = "inset/corner", insetKey[] = "inset/shown",
               blinkKey[] = "compare/blink-ms", termsKey[] = "probe/terms";
constexpr int standardCacheMiB = 384;

int chosen(const char* key, int count) {
    return std::clamp(QSettings().value(key, 0).toInt(), 0, count - 1);
}

}  // namespace

Surround surround() {
    return static_cast<Surround>(chosen(surroundKey, surrounds));
}

void setSurround(Surround surround) {
    QSettings().setValue(surroundKey, static_cast<int>(surround));
}

// Mid: 20 % reflectance, encoded (ISO 3664 asks for a neutral surround of 10 to 60 %). Light: 60 %.
QColor surroundColour() {
    switch (surround()) {
        case Surround::mid: break;
        case Surround::light: return {0xcb, 0xcb, 0xcb};
        case Surround::black: return {0, 0, 0};
    }
    return {0x7b, 0x7b, 0x7b};
}

int interfaceSizePct() {
    return std::clamp(QSettings().value(sizeKey, 100).toInt(), leastInterfaceSizePct, mostInterfaceSizePct);
}

void setInterfaceSizePct(int percent) {
    QSettings().setValue(sizeKey, percent);
}

PenFeel penFeel() {
    return static_cast<PenFeel>((chosen(penKey, penFeels) + 1) % penFeels);  // even is the first choice
}

void setPenFeel(PenFeel feel) {
    QSettings().setValue(penKey, (static_cast<int>(feel) + penFeels - 1) % penFeels);
}

double pressureFelt(double pressure) {
    constexpr double softly = 0.6, hard = 1.6;  // exponents
    switch (penFeel()) {
        case PenFeel::soft: return std::pow(pressure, softly);
        case PenFeel::even: break;
        case PenFeel::hard: return std::pow(pressure, hard);
    }
    return pressure;
}

int cacheMiB() {
    return std::clamp(QSettings().value(cacheKey, standardCacheMiB).toInt(), leastCacheMiB, mostCacheMiB);
}

void setCacheMiB(int mebibytes) {
    QSettings().setValue(cacheKey, mebibytes);
}

int ceilingMiB() {
    const auto machine = static_cast<double>(base::machineMemory() >> 20);
    constexpr int roundTo = 256;
    const int standard = static_cast<int>(std::min(0.6 * machine, double{mostCeilingMiB})) / roundTo * roundTo;
    return std::clamp(QSettings().value(ceilingKey, standard).toInt(), leastCeilingMiB, mostCeilingMiB);
}

void setCeilingMiB(int mebibytes) {
    QSettings().setValue(ceilingKey, mebibytes);
}

int blinkMs() {
    const int ms = QSettings().value(blinkKey, blinkRatesMs[1]).toInt();
    return std::clamp(ms, blinkRatesMs[0], *std::rbegin(blinkRatesMs));
}

void setBlinkMs(int ms) {
    QSettings().setValue(blinkKey, ms);
}

ProbeTerms probeTerms() {
    return static_cast<ProbeTerms>(chosen(termsKey, probeTermsCount));
}

void setProbeTerms(ProbeTerms terms) {
    QSettings().setValue(termsKey, static_cast<int>(terms));
}

Corner insetCorner() {
    return static_cast<Corner>(std::clamp(QSettings().value(cornerKey, 3).toInt(), 0, 3));
}

void setInsetCorner(Corner corner) {
    QSettings().setValue(cornerKey, static_cast<int>(corner));
}

bool showsInset() {
    return QSettings().value(insetKey, true).toBool();
}

void setShowsInset(bool shows) {
    QSettings().setValue(insetKey, shows);
}

}  // namespace dimhem::ui
