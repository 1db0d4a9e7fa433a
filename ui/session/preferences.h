// What a person has chosen once for all photos. Lives in the settings; read anew wherever it is needed.
#pragma once

#include <QColor>
#include <QString>

namespace dimhem::ui {

// The ground the photo stands on.
enum class Surround { mid, light, black };
inline constexpr int surrounds = 3;
Surround surround();
void setSurround(Surround surround);
QColor surroundColour();

// Of the font and what goes with it, in percent of the system's; counts from the next start on.
inline constexpr int leastInterfaceSizePct = 75, mostInterfaceSizePct = 200;
int interfaceSizePct();
void setInterfaceSizePct(int percent);

// How the pressure of a pen counts: the harder the pen, the more force full strength takes.
enum class PenFeel { soft, even, hard };
inline constexpr int penFeels = 3;
PenFeel penFeel();
void setPenFeel(PenFeel feel);
double pressureFelt(double pressure);  // 0..1, both

// Memory that finished work may keep so that it need not be done again, in MiB; counts from the next photo on.
inline constexpr int leastCacheMiB = 128, mostCacheMiB = 16384;
int cacheMiB();
void setCacheMiB(int mebibytes);

// The most memory the program may take, in MiB; where nothing else was chosen 60 % of the machine's, and no less than
// leastCeilingMiB. Counts at once.
inline constexpr int leastCeilingMiB = 1536, mostCeilingMiB = 1 << 20;
int ceilingMiB();
void setCeilingMiB(int mebibytes);

// How long each side of a blink is shown. Never more than three changes a second (WCAG 2.1, 2.3.1 three flashes).
inline constexpr int blinkRatesMs[] = {400, 700, 1000, 1500};
int blinkMs();
void setBlinkMs(int ms);

// In which terms probes are shown.
enum class ProbeTerms { rgb, percent, lab, hueChroma };
inline constexpr int probeTermsCount = 4;
ProbeTerms probeTerms();
void setProbeTerms(ProbeTerms terms);

// Where the small whole photo stands while the view is closer than fit.
enum class Corner { topLeft, topRight, bottomLeft, bottomRight };
Corner insetCorner();
void setInsetCorner(Corner corner);
bool showsInset();
void setShowsInset(bool shows);

}  // namespace dimhem::ui
