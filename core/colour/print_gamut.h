// About how far a colour lies from what four inks on coated paper can show.
//
// The solid is drawn from the solids of offset printing on coated paper as ISO 12647-2 aims at them (paper, the three
// inks, their three overprints, all of them; from memory, to be confirmed), joined by straight faces as seen from a
// grey within. A real press bends between them: near the border this is an estimate, within about a tenth.
#pragma once

#include "core/colour/types.h"

namespace dimhem::colour {

// Distance from the grey within, as a part of the distance to the border in that direction: above 1 it does not print.
double printReach(const Lab& colour);

}  // namespace dimhem::colour
