// Shutter and flash: what a focal-plane shutter that is faster than its sync time leaves of a flash.
//
// The curtains cross the short side of the sensor in about the sync time T. A flash fires when the first has arrived;
// with a shutter time t < T the second has by then covered all but t / T. That stays dark, of flash alone: at the
// bottom of a picture that lies, at the right of one that stands (camera turned with the release upwards). A unit made
// for high-speed sync pulses for as long as the curtains travel: the frame is whole, at a loss of its own, and its
// light goes with the shutter time like a lamp's. Common practice; the geometry follows from the two curtains.
#pragma once

#include "gear/kit.h"
#include "plan/parts.h"

namespace easel {

enum class Sync {
  Whole,      ///< all of its flash, over all of the frame; continuous light always
  HighSpeed,  ///< pulsed: over all of the frame, with less light
  Band        ///< a part of the frame gets none of it
};
Sync syncOf(const Unit& unit, const Camera& camera);

/// Share of its flash that counts where the frame is open: 1, below 1 in high-speed sync.
double syncShare(const Unit& unit, const Camera& camera);

/// Share of the sensor that is open to a flash, 0..1; 1 up to the sync time.
double openToFlash(const Camera& camera);
/// Whether the curtains cross the picture from left to right, as when the camera stands; else from top to bottom.
bool curtainsCross(const Camera& camera);
/// How open to a flash the picture is at `at` of its width (or height), 0..1 each; the edge is a little soft, for the
/// curtains stand before the sensor and a flash has a length. `aspect`: the picture's width over its height.
double openAt(const Camera& camera, double aspect, double at);
/// Share of the picture that stays dark of flash, 0..1.
double darkBand(const Camera& camera);

}  // namespace easel
