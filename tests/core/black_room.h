#pragma once

#include "support.h"

namespace easel::test {

/// A black room so large that nothing comes back from it.
inline Plan blackRoom() {
  Plan p = demoPlan();
  p.room = {30, 30, 15, 14, 0, 0, 0, "neutral", {}};
  p.backdrop.distance = 13;
  p.backdrop.material = "velvet-deep";
  p.ambient.lux = 0;
  return p;
}

}  // namespace easel::test
