// What lies over the picture for those who judge by eye.
#pragma once

namespace easel::app {

struct EaselTools {
  bool clipping = false;  ///< stripes where it is burnt out or blocked up
  bool stopsMap = false;  ///< bands of one stop instead of the picture; must have been asked for with it
  bool histogram = false;
  bool zebra = false;       ///< stripes where it is lighter than `zebraLevel`
  bool greyCard = false;    ///< a grey card held where the pointer is, as the picture would show it
  double zebraLevel = 0.9;  ///< 0..1 of full scale
  bool operator==(const EaselTools&) const = default;

  EaselTools with(bool EaselTools::*tool, bool on) const {
    EaselTools changed = *this;
    changed.*tool = on;
    return changed;
  }
};

}  // namespace easel::app
