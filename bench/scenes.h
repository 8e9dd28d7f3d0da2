// The sets that are measured: the demo's plans, and what grows of them.
#pragma once

#include <algorithm>
#include <cmath>
#include <string>
#include <vector>

#include "core_of_any_age.h"
#include "formats/plan_json.h"
#include "picture/develop.h"
#include "plan/roles.h"

namespace easel::bench {

inline Plan demoPlan() {
  Plan plan = loadPlan(EASEL_DEMO_DIR "/marrow-lane-first-light.easel.json");
  plan.lights[0].modifier = "octa-120";
  return plan;
}

/// The master's portrait grown to eight lights, as a set with kickers and accents is.
inline Plan eightLights() {
  Plan plan = loadPlan(EASEL_DEMO_DIR "/marrow-lane-master.easel.json");
  for (const char* school : {"rim-under", "kicker", "fill-below", "rim-accent"})
    plan.lights.push_back(proposeLight(plan, school).light);
  return plan;
}

/// The first `lights` of the eight, twice over if need be, with that many panels; once there are any, one light
/// projects a pattern.
inline Plan withPanels(int lights, int panels) {
  Plan plan = eightLights();
  const std::vector<Light> eight = plan.lights;
  for (int k = 8; k < lights; ++k) {
    Light l = eight[size_t(k) % 8];
    l.id = std::string(1, char('A' + k));
    l.hour = l.hour > 6 ? l.hour - 0.4 : l.hour + 0.4;
    plan.lights.push_back(l);
  }
  plan.lights.resize(size_t(lights));
  const char* kinds[] = {"v-flat", "reflector", "flag", "scrim-small"};
  for (int i = 0; i < panels; ++i) plan.panels.push_back(proposePanel(plan, kinds[i % 4]).panel);
  if (panels > 0) {
    plan.lights.back().modifier = "spot";
    plan.lights.back().fittings.pattern = "panes";
  }
  return plan;
}

/// The maker at the bench, with a chair and a wall with a doorway besides; `pieces` false: without all three. Throws
/// where the core does not know such things.
inline Plan benchScene(size_t lights, bool pieces) {
  Plan plan = loadPlan(EASEL_DEMO_DIR "/scenes/marrow-lane-bench.easel.json");
  for (const char* kind : {"chair", "doorway"}) plan.panels.push_back(proposePanel(plan, kind).panel);
  if (!pieces) plan.panels.clear();
  plan.lights.resize(std::min(lights, plan.lights.size()));
  return plan;
}

/// What is seen, 0..1: three planes after the tone curve.
inline std::vector<float> toned(const Layers& layers, const Plan& plan) {
  std::vector<float> planes[3], out;
  linearPicture(layers, setOf(plan), {}, planes);
  for (auto& p : planes)
    for (float v : p) out.push_back(float(toneCurve(double(v))));
  return out;
}
/// Root mean square of the difference over the mean of `b`.
inline double rmse(const std::vector<float>& a, const std::vector<float>& b) {
  double sum = 0, mean = 0;
  for (size_t i = 0; i < a.size(); ++i) {
    sum += double(a[i] - b[i]) * double(a[i] - b[i]);
    mean += double(b[i]);
  }
  return std::sqrt(sum / double(a.size())) / (mean / double(a.size()));
}
/// The same over the pixels that the light reaches (more than one step of 255): a picture that is nearly all black has
/// no mean worth dividing by.
inline double rmseLit(const std::vector<float>& a, const std::vector<float>& b) {
  std::vector<float> x, y;
  for (size_t i = 0; i < b.size(); ++i)
    if (b[i] > 1.f / 255) {
      x.push_back(a[i]);
      y.push_back(b[i]);
    }
  return y.empty() ? 0 : rmse(x, y);
}

}  // namespace easel::bench
