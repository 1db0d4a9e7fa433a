// Breaks both rules on purpose.
#include <QString>

#include "core/render/frame.h"
