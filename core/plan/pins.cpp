#include "plan/pins.h"

#include <fmt/format.h>

#include <algorithm>

#include "plan/placement.h"
#include "spoken/say.h"

namespace easel {

PinnedSpot freePin(const std::vector<PinnedSpot>& spots) {
  PinnedSpot p;
  for (int n = 1;; ++n) {
    p.id = fmt::format("pin-{}", n);
    p.name = say("Pin {}", n);
    if (std::none_of(spots.begin(), spots.end(), [&](const PinnedSpot& s) { return s.id == p.id; })) return p;
  }
}

PinnedSpot pinInAir(const Plan& plan, double x, double z) {
  PinnedSpot p = freePin(plan.spots);
  p.x = x;
  p.y = plan.sitter.eyeHeight;
  p.z = z;
  const Vec3 n = normalize(cameraPose(plan).eye - Vec3{float(p.x), float(p.y), float(p.z)});
  p.nx = n.x;
  p.ny = n.y;
  p.nz = n.z;
  return p;
}

}  // namespace easel
