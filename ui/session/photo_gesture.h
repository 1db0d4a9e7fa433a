// Something a panel asks to be done on the photo: while it is wanted, the canvas hands it the pointer instead of the
// tool of the selected part. Esc gives it up.
#pragma once

#include <QString>
#include <functional>

#include "core/base/rect.h"

namespace dimhem::ui {

struct PhotoDrag {
    base::Point from, to;  // of the photo
    double upPx = 0;       // how far the hand has gone up, in pixels of the screen
    bool far = false;      // more than a click

    // The rectangle dragged over; after a click the seven pixels' square about the place.
    base::Rect area() const;
};

struct PhotoGesture {
    QString hint;                                 // what to do, in a few words
    QString asker;                                // whose it is, for the control that shows it; may be empty
    bool marksArea = false;                       // the rectangle dragged over is drawn
    bool stays = false;                           // for any number of drags, until it is given up
    std::function<void(const PhotoDrag&)> moved;  // from the press on; may be empty
    std::function<void(const PhotoDrag&)> done;   // the button was let go
    std::function<void()> givenUp;                // in the middle of a drag; may be empty
};

}  // namespace dimhem::ui
