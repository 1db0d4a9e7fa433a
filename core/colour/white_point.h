// White points of daylight and lamps, and adaptation from one white to another.
//
// Daylight: CIE 15:2004, 4000..25000 K. Planckian: Kim et al., "Design of advanced color temperature control system
// for HDTV applications", 2002 (cubic approximation, 1667..25000 K). The locus used for white balance is the
// Planckian one up to 4000 K, the daylight one from 6500 K, and a smooth passage between them. Duv is the distance
// from the locus along the isotherm in CIE 1960 (u, v); positive is towards green (ANSI C78.377 takes the same sign).
#pragma once

#include "core/base/error.h"
#include "core/colour/matrix3.h"
#include "core/colour/types.h"

namespace dimhem::colour {

inline constexpr double minTempK = 1800;
inline constexpr double maxTempK = 25000;

base::Result<Chromaticity> daylight(double tempK);   // 4000..25000 K
base::Result<Chromaticity> planckian(double tempK);  // 1667..25000 K

struct WhiteSetting {
    double tempK = 6500;
    double duv = 0;
};

// The white of a setting; tempK is clamped to minTempK..maxTempK.
Chromaticity whiteOf(const WhiteSetting& setting);

// The setting whose white is nearest to the given chromaticity, by search along the locus.
WhiteSetting settingOf(const Chromaticity& white);

// How much brighter each cone's response to white `to` is than to white `from`: what bradford() scales by.
Vector3 coneGains(const Chromaticity& from, const Chromaticity& to);

// XYZ under white `from` to XYZ under white `to`, Bradford (Lam 1985; ICC.1:2010 annex E prints the matrix).
Matrix3 bradford(const Chromaticity& from, const Chromaticity& to);

// The same for linear sRGB values.
Matrix3 adaptationOfLinear(const Chromaticity& from, const Chromaticity& to);

}  // namespace dimhem::colour
