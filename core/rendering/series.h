// One thing varied, everything else kept: a row of pictures that shows what it does.
//
// A variation is written  light.A.distance=0.5:3:6  (from : to : how many) or  light.A.hour=3,4.5,6 . With `hold` the
// light that is varied is powered again for its target at each step, as one would with a meter in hand; what changes
// then is the light's quality, not its level.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "rendering/progressive_render.h"

namespace easel {

struct Variation {
  std::string path;            ///< "light.A.distance", "camera.aperture", "backdrop.distance" ...
  std::vector<double> values;  ///< as written: metres, hours, degrees, stops below full, f-numbers, seconds
};
/// What can be varied, with `A` for the light's letter in its path and {} in its name.
struct Varied {
  std::string path, name, unit;
  double from = 0, to = 0;  ///< a useful default range
};
const std::vector<Varied>& variedThings();

/// "Distance of light B" for "light.B.distance".
std::string variedName(const std::string& path);

/// Throws std::invalid_argument with a sentence: unknown path, not a number, fewer than 2 or more than 24 pictures.
Variation readVariation(const std::string& text);
/// The plan with the value put in. Throws std::invalid_argument when the light is missing or locked, or the value is
/// outside the plan's ranges.
Plan varied(const Plan& plan, const std::string& path, double value);
/// "1.25 m", "4:30", "1/8 + 0.3", "f/5.6": the value as photographers say it.
std::string writeVaried(const Plan& plan, const std::string& path, double value, const Spelling& spelling = {});

struct SeriesPicture {
  Plan plan;
  std::string caption;  ///< the value
  std::string reading;  ///< what the face reads with everything on
  Picture picture;
};
/// All pictures. `progress` is called after each with the share that is done; it returns false to cancel, and then what
/// stands so far comes back. Throws std::runtime_error with a sentence when a step cannot be computed.
std::vector<SeriesPicture> renderSeries(const Plan& plan, const Variation& variation, bool hold, int width, int height,
                                        int passes, const std::function<bool(double)>& progress,
                                        const Spelling& spelling = {});

/// The same set at 1:1, 2:1, 4:1, 8:1 and 16:1, unit against unit: the plan with its fill lights that many stops under
/// the key, in the units' real steps. Empty without a key and a fill.
struct RatioPlan {
  std::string name;  ///< "4:1"
  double stopsUnder;
  Plan plan;
  bool reached = true;  ///< false when a fill cannot go that low or that high
};
std::vector<RatioPlan> ratioStrip(const Plan& plan, const Answers& answers);

}  // namespace easel
