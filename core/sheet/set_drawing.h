// The set from above and from the side, to scale, and the stop ladder: what a plan view alone loses is height and tilt.
//
// Both views are orthographic and at one scale, which is said. Letters stand in columns or rows at the edge with a line
// to their light, so that they never lie over one another however close the lights are.
#pragma once

#include "exposure/spelling.h"
#include "meter/answers.h"
#include "plan/plan.h"
#include "sheet/blocks.h"

namespace easel {

/// "1 to `scale`" at which both views of the plan fit a paper so wide [mm]; one of a draughtsman's series.
double scaleOfSet(const Plan& plan, double width);

enum class SetView { Above, Side };
Drawing drawnSet(const Plan& plan, SetView view, const Spelling& spelling = {});
/// Where each light's middle is drawn, from the drawing's upper left corner [mm], in the plan's order.
std::vector<std::pair<double, double>> drawnLights(const Plan& plan, SetView view, double width);

/// "32° down", "level"; "feathered 10° clockwise", empty when it is not.
std::string tiltSaid(const Plan& plan, const Light& light);
std::string featherSaid(const Light& light);

/// Reach, target and reading of each light in stops about the target aperture.
Drawing drawnLadder(const Plan& plan, const Answers& answers, const Spelling& spelling = {});

}  // namespace easel
