#include "reading/remedies.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "exposure/shutter.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "plan/edit.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "plan/roles.h"
#include "spoken/clock.h"

namespace easel {

namespace {

struct Step {
  std::string text;
  Plan plan;
  bool repower = true;
};
using Steps = std::vector<Step>;  // of one kind, smallest first

struct Maker {
  const Plan& plan;
  const Spelling& spelling;
  std::vector<Steps> kinds;

  std::string length(double m) const { return spelling.length(m); }
  std::string clock(double hour) const { return writeClock(hour); }
  bool free(const std::string& id) const {
    const Light* l = plan.light(id);
    return l && !l->locked;
  }
  template <class F>
  void light(const std::string& id, const std::vector<double>& amounts, F change) {
    if (!free(id)) return;
    Steps steps;
    for (double a : amounts) {
      Step s{{}, plan, true};
      Light& l = *s.plan.light(id);
      s.text = change(l, a);
      if (!s.text.empty() && !(l == *plan.light(id))) steps.push_back(std::move(s));
    }
    if (!steps.empty()) kinds.push_back(std::move(steps));
  }
  void height(const std::string& id, const std::vector<double>& by) {
    light(id, by, [&](Light& l, double d) {
      const Modifier* m = findModifier(l.modifier);
      const double half = m ? m->height / 2 : 0.2;
      l.height =
          rangeOf("light.height")
              .clamp(std::clamp(l.height + d, half + 0.05, std::max(half + 0.1, plan.room.height - half - 0.02)));
      return fmt::format("{} {} to {}", d < 0 ? "Lower" : "Raise", l.id, length(l.height));
    });
  }
  void distance(const std::string& id, const std::vector<double>& factors) {
    light(id, factors, [&](Light& l, double f) {
      const double most = plan.room.width / 2 / std::max(0.15, std::abs(std::sin(l.hour * kPi / 6))) - 0.1;
      l.distance = rangeOf("light.distance").clamp(std::clamp(l.distance * f, 0.35, std::max(0.4, most)));
      return fmt::format("Move {} {} to {}", l.id, f > 1 ? "back" : "nearer", length(l.distance));
    });
  }
  void hour(const std::string& id, const std::vector<double>& by) {
    light(id, by, [&](Light& l, double d) {
      l.hour = std::fmod(l.hour + d + 11.999, 12.0) + 0.001;
      return fmt::format("Move {} round to {} o'clock", l.id, clock(l.hour));
    });
  }
  // Round towards (or away from) the camera.
  void hourTowardsCamera(const std::string& id, const std::vector<double>& by) {
    const Light* l = plan.light(id);
    if (!l) return;
    const double sign = l->hour > 6 ? -1 : 1;
    std::vector<double> signedBy;
    for (double d : by) signedBy.push_back(d * sign);
    hour(id, signedBy);
  }
  void target(const std::string& id, const std::vector<double>& by) {
    light(id, by, [&](Light& l, double d) {
      l.targetStops += d;
      return fmt::format("Set {} {:.1f} stops {} the key", l.id, std::abs(l.targetStops),
                         l.targetStops < 0 ? "under" : "over");
    });
  }
  void feather(const std::string& id, const std::vector<double>& degrees) {
    light(id, degrees, [&](Light& l, double d) {
      // Turned so that its beam goes to the camera's side of the sitter.
      const double edge = edgeFeather(plan, l);
      l.pan = std::clamp(l.pan + (edge >= 0 ? d : -d), -90.0, 90.0);
      return fmt::format("Feather {} by {:.0f} degrees", l.id, std::abs(l.pan));
    });
  }
  void tilt(const std::string& id, const std::vector<double>& degrees) {
    light(id, degrees, [&](Light& l, double d) {
      l.tiltOffset = std::clamp(l.tiltOffset + d, -80.0, 80.0);
      return fmt::format("Tilt {} {:.0f} degrees {} its aim", l.id, std::abs(l.tiltOffset),
                         l.tiltOffset > 0 ? "over" : "under");
    });
  }
  void off(const std::string& id) {
    light(id, {0}, [&](Light& l, double) {
      l.on = false;
      return fmt::format("Switch {} off", l.id);
    });
  }
  void grid(const std::string& id) {
    light(id, {30, 20, 10}, [&](Light& l, double degrees) {
      const Modifier* m = findModifier(l.modifier);
      if (!m || m->grid > 0) return std::string();
      l.fittings.grid = degrees;
      return fmt::format("Put a {:.0f} degree grid on {}", degrees, l.id);
    });
  }
  template <class F>
  void whole(const std::vector<double>& amounts, F change, bool repower = true) {
    Steps steps;
    for (double a : amounts) {
      Step s{{}, plan, repower};
      s.text = change(s.plan, a);
      if (!s.text.empty() && !(s.plan == plan)) steps.push_back(std::move(s));
    }
    if (!steps.empty()) kinds.push_back(std::move(steps));
  }
  void backdropAway(const std::vector<double>& to) {
    whole(to, [&](Plan& p, double d) -> std::string {
      if (d <= plan.backdrop.distance + 0.05) return {};
      p.backdrop.distance = d;
      p.room.behind = std::max(p.room.behind, d + 0.02);
      // The room stays as deep as it is: what goes behind the sitter is lost before them.
      if (p.room.behind > p.room.depth - std::max(1.2, std::min(p.camera.distance, plan.room.depth - plan.room.behind)))
        return {};
      return fmt::format("Bring the sitter {} away from the backdrop", length(d));
    });
  }
  void add(const std::string& school, const std::vector<double>& targets) {
    whole(targets, [&](Plan& p, double t) -> std::string {
      try {
        Proposal n = proposeLight(p, school);
        if (t < 90) n.light.targetStops = t;
        // Nobody is sent to what the kit has not.
        if (const auto have = modifiersOwned(n.light.modifier); have && *have < 1) return {};
        p.lights.push_back(n.light);
        return fmt::format("Add {}: {}, {:.1f} stops {}", n.light.id, n.light.name, std::abs(n.light.targetStops),
                           n.light.targetStops < 0 ? "under the key" : "over the key");
      } catch (const std::invalid_argument&) {
        return {};
      }
    });
  }
};

std::string letterOf(const Fault& f) { return f.where.starts_with("light ") ? f.where.substr(6) : std::string(); }

std::vector<double> range(double from, double to, double step) {
  std::vector<double> v;
  for (double x = from; step > 0 ? x <= to + 1e-9 : x >= to - 1e-9; x += step) v.push_back(x);
  return v;
}

void usual(Maker& m, const Plan& plan, const Fault& f, const FaceReading& r, const Answers& answers) {
  const std::string id = letterOf(f), key = r.lighting.key;
  const Light* light = plan.light(id);
  const std::string& k = f.id;
  std::string fill;
  for (const Light& l : plan.lights)
    if (l.role == Role::Fill && l.on && fill.empty()) fill = l.id;
  std::vector<std::string> backgrounds;
  for (const Light& l : plan.lights)
    if (l.role == Role::Background && l.on) backgrounds.push_back(l.id);
  if (k == "deep-sockets" || k == "dead-eyes") {
    m.height(key, range(-0.1, -0.9, -0.1));
    m.distance(key, {1.2, 1.4, 1.7, 2.0});
    if (fill.empty())
      m.add("fill-below", {-2.5, -2, -1.5});
    else
      m.target(fill, {0.5, 1.0, 1.5});
    if (k == "dead-eyes") m.hourTowardsCamera(key, range(0.25, 1.5, 0.25));
    m.whole({-4, -8, -12}, [&](Plan& p, double d) {
      p.sitter.nod += d;
      return fmt::format("Ask for the chin {:.0f} degrees higher", -d);
    });
  } else if (k == "two-nose-shadows") {
    m.target(id, {-0.5, -1, -1.5, -2});
    const Light* l = plan.light(id);
    if (l && l->role == Role::Fill) {
      m.light(id, {1, 0}, [&](Light& x, double lens) {
        Plan without = plan;
        std::erase_if(without.lights, [&](const Light& o) { return o.id == id; });
        Light n = proposeLight(without, lens > 0 ? "fill-lens" : "fill-key-side").light;
        x.hour = n.hour;
        x.distance = n.distance;
        x.height = n.height;
        x.pan = x.tiltOffset = 0;
        if (findModifier(x.modifier) && findModifier(n.modifier) &&
            findModifier(x.modifier)->area() < findModifier(n.modifier)->area())
          x.modifier = n.modifier;
        return fmt::format("Stand {} {}", x.id, lens > 0 ? "over the lens" : "near the camera on the key's side");
      });
    }
    m.off(id);
  } else if (k == "fill-over-key") {
    m.light(id, range(-0.5, -3, -0.5), [&](Light& l, double d) {
      l.targetStops = (plan.light(key) ? plan.light(key)->targetStops : 0) + d;
      return fmt::format("Set {} {:.1f} stops under the key", l.id, -d);
    });
  } else if (k == "uneven-fill") {
    m.distance(fill, {1.25, 1.5, 1.8, 2.2, 2.8});
    m.height(fill, r.measures.fillTopToBottom < 0 ? range(0.15, 0.9, 0.15) : range(-0.15, -0.9, -0.15));
  } else if (k == "from-below") {
    m.height(id, range(0.2, 1.6, 0.2));
    if (id != key) m.target(id, range(-0.5, -2.5, -0.5));
  } else if (k == "hot-spot" || k == "on-the-nose") {
    if (k == "on-the-nose" && light && light->role == Role::Background) m.grid(id);
    if (light && light->role != Role::Key) m.target(id, range(-0.5, -2.5, -0.5));
    if (k == "on-the-nose") {
      m.light(id, range(0.05, 0.6, 0.05), [&](Light& l, double d) {
        l.distance += d;
        return fmt::format("Move {} further behind, to {}", l.id, m.length(l.distance));
      });
      if (light) m.hour(id, light->hour > 6 ? range(0.15, 1.5, 0.15) : range(-0.15, -1.5, -0.15));
      m.tilt(id, range(6, 42, 6));
      m.height(id, range(-0.1, -0.7, -0.1));
    } else {
      m.feather(id, range(6, 36, 6));
      m.distance(id, {1.2, 1.45, 1.75, 2.1});
    }
  } else if (k == "shadow-on-backdrop") {
    m.backdropAway({1.0, 1.3, 1.6, 2.0, 2.4});
    m.height(id, range(0.15, 0.75, 0.15));
    if (light) {
      const double away = light->hour > 6 ? 1 : -1;
      m.hour(id, {0.4 * away, 0.8 * away, 1.2 * away});
    }
    m.whole({0.5, 0}, [&](Plan& p, double t) -> std::string {
      Proposal n = proposeLight(p, "background");
      n.light.targetStops = t;
      p.lights.push_back(n.light);
      return fmt::format("Add {}, a background light that fills it", n.light.id);
    });
  } else if (k == "halo") {
    for (const std::string& b : backgrounds) {
      m.height(b, range(-0.1, -0.8, -0.1));
      m.tilt(b, range(-6, -30, -6));
      m.target(b, range(-0.5, -2, -0.5));
    }
  } else if (k == "grey-white") {
    m.whole(
        {1, 0},
        [&](Plan& p, double pure) -> std::string {
          p = withBackdropTone(p, answers, pure > 0 ? "pure-white" : "white");
          return "Power the background lights for white";
        },
        false);
    m.whole(range(0.5, 3, 0.5), [&](Plan& p, double d) {
      for (Light& l : p.lights)
        if (l.role == Role::Background && l.on && !l.locked) l.targetStops += d;
      return fmt::format("Raise the background lights by {:.1f} stops", d);
    });
    m.add("background-side", {1, 2});
  } else if (k == "white-flares") {
    m.whole(range(-0.3, -2.4, -0.3), [&](Plan& p, double d) {
      for (Light& l : p.lights)
        if (l.role == Role::Background && l.on && !l.locked) l.targetStops += d;
      return fmt::format("Lower the background lights by {:.1f} stops", -d);
    });
  } else if (k == "spill") {
    m.grid(id);
    m.feather(id, range(8, 48, 8));
    m.backdropAway({1.6, 2.0, 2.5, 3.0});
    m.distance(id, {0.85, 0.7, 0.55});
    if (light && light->role != Role::Key) m.target(id, range(-0.5, -2, -0.5));
  } else if (k == "merged-outline") {
    const bool hair =
        std::any_of(plan.lights.begin(), plan.lights.end(), [](const Light& l) { return l.role == Role::Hair; });
    if (!backgrounds.empty())
      m.target(backgrounds.front(), {1, 2, 0.5, 3, -1, -2});
    else
      m.add("background", {99, -1, 0, 1});
    if (!hair) m.add("hair-under", {99, -1, 0, 1});
    m.add("rim-under", {99, 0, 1});
    for (const Light& l : plan.lights)
      if ((l.role == Role::Hair || l.role == Role::Rim) && l.on) m.target(l.id, {0.5, 1, 1.5, 2});
  } else if (k == "in-frame" && light) {
    const bool behind = lightPose(plan, *light).centre.z < 0;
    m.distance(id, {1.15, 1.3, 1.5, 1.8, 2.2});
    const double out = light->hour > 6 ? -1 : 1;  // sideways, away from the camera's axis
    const double away = behind ? -out : out;
    m.hour(id, {0.25 * -away, 0.5 * -away, 0.8 * -away, 1.2 * -away});
    m.height(id, range(0.1, 0.8, 0.1));
    m.height(id, range(-0.15, -1.05, -0.15));
    m.distance(id, {0.85, 0.7, 0.55});
  } else if (k == "flare") {
    m.grid(id);
    m.feather(id, range(6, 48, 6));
    m.tilt(id, range(-6, -36, -6));
    m.target(id, range(-0.5, -2.5, -0.5));
  } else if (k == "stray-catchlight") {
    m.feather(id, range(8, 48, 8));
    if (light) m.hour(id, light->hour > 6 ? range(0.25, 1.5, 0.25) : range(-0.25, -1.5, -0.25));
    m.off(id);
  } else if (k == "touches-sitter") {
    m.distance(id, {1.1, 1.25, 1.5, 1.8, 2.2});
    m.height(id, range(0.1, 0.6, 0.1));
  } else if (k == "stands-collide") {
    m.hour(id, {0.3, -0.3, 0.6, -0.6, 1, -1});
    m.distance(id, {1.2, 1.4, 1.7});
  } else if (k == "ceiling" || k == "floor") {
    m.height(id, k == "ceiling" ? range(-0.05, -1.2, -0.05) : range(0.05, 1.2, 0.05));
  } else if (k == "outside-room") {
    m.distance(id, range(0.95, 0.3, -0.05));
  } else if (k == "behind-backdrop" && light) {
    m.distance(id, range(0.9, 0.2, -0.1));
    m.backdropAway({std::abs(double(lightPose(plan, *light).centre.z)) + 0.35});
  } else if (k == "sync") {
    m.whole(
        {0},
        [&](Plan& p, double) {
          p.camera.shutter = p.camera.syncShutter;
          return "Set the shutter to " + writeShutter(p.camera.syncShutter);
        },
        false);
  } else if (k == "ambient") {
    m.whole(
        {0},
        [&](Plan& p, double) -> std::string {
          if (p.camera.shutter <= p.camera.syncShutter * 1.02) return {};
          p.camera.shutter = p.camera.syncShutter;
          return "Set the shutter to " + writeShutter(p.camera.syncShutter);
        },
        false);
    m.whole(
        {0.5, 0.25, 0.1, 0.02},
        [&](Plan& p, double share) {
          p.ambient.lux *= share;
          return fmt::format("Turn the room light down to {:.0f} lx", p.ambient.lux);
        },
        false);
    m.whole({1, 2}, [&](Plan& p, double stops) {
      p.camera.iso = nominalIso(std::max(50.0, p.camera.iso / std::exp2(stops)));
      return fmt::format("Lower the ISO to {:.0f} and raise the flashes", p.camera.iso);
    });
  } else if (k == "burnt") {
    Steps again{{"Power all lights for their targets again", plan, true}};
    for (Light& l : again[0].plan.lights)
      if (const LightAnswer* a = answers.light(l.id); a && !l.locked && l.on) l.power = a->setting.stops;
    again[0].repower = false;
    if (!(again[0].plan == plan)) m.kinds.push_back(again);
    m.whole(range(-0.3, -2.1, -0.3), [&](Plan& p, double d) {
      for (Light& l : p.lights)
        if (l.on && !l.locked) l.targetStops += d;
      return fmt::format("Lower every light by {:.1f} stops", -d);
    });
  } else if (k == "out-of-reach" && light) {
    const LightAnswer* a = answers.light(id);
    const double miss = a ? a->setting.shortfall : 0;
    if (miss > 0) {
      m.distance(id, range(0.92, 0.35, -0.08));
      m.whole(range(1.0 / 3, 3, 1.0 / 3), [&](Plan& p, double s) {
        p.camera.iso = nominalIso(p.camera.iso * std::exp2(s));
        return fmt::format("Raise the ISO to {:.0f}", p.camera.iso);
      });
    } else {
      m.light(id, {0.3, 0.6, 0.9, 1.2, 1.8}, [&](Light& l, double nd) {
        l.fittings.nd = nd;
        return fmt::format("Put ND {:.1f} on {}", nd, l.id);
      });
      m.distance(id, range(1.15, 3, 0.2));
    }
    for (const Unit& u : knownUnits()) {
      const Unit* now = findUnit(light->unit);
      if (!now || u.kind != now->kind || u.id == now->id) continue;
      if (const auto have = unitsOwned(u.id); have && *have < 1) continue;
      m.light(id, {0}, [&](Light& l, double) {
        l.unit = u.id;
        return fmt::format("Use the {} for {}", u.name, l.id);
      });
    }
  } else if (k == "meter-in-shadow") {
    m.whole(range(-0.5, -3, -0.5), [&](Plan& p, double d) {
      Light* l = p.light(key);
      if (!l || l->locked) return std::string();
      l->targetStops += d;
      return fmt::format("Meter where it falls: {} {:.1f} stops lower", key, -d);
    });
    m.hour(key, {0.15, -0.15, 0.3, -0.3, 0.5, -0.5});
  } else if (k == "panel-in-frame" && f.where.starts_with("panel ")) {
    const std::string number = f.where.substr(6);
    auto change = [&](Plan& p, auto edit) -> std::string {
      for (Panel& x : p.panels)
        if (x.id == number && !x.locked) return edit(x);
      return {};
    };
    m.whole({-0.2, -0.4, -0.6, -0.8}, [&](Plan& p, double d) {
      return change(p, [&](Panel& x) {
        x.above = rangeOf("panel.above").clamp(std::max(0.2, x.above + d));
        return fmt::format("Lower panel {} to {}", x.id, m.length(x.above));
      });
    });
    m.whole({0.5, 1, 1.5, 2}, [&](Plan& p, double d) {
      return change(p, [&](Panel& x) {
        x.hour += x.hour > 6 ? d : -d;
        return fmt::format("Move panel {} aside", x.id);
      });
    });
  }
}

}  // namespace

std::vector<Remedy> findRemedies(PlanReader& reader, const Plan& plan, const std::string& faultId,
                                 const RemedySearch& search) {
  const FaceReading before = reader.read(plan);
  const Answers answers = reader.answers();
  const Fault* fault = before.fault(faultId, search.where);
  if (!fault) return {};
  Maker maker{plan, search.spelling, {}};
  usual(maker, plan, *fault, before, answers);
  std::vector<Remedy> cures, partly;
  auto known = [&](const Fault& now) {
    return std::any_of(before.faults.begin(), before.faults.end(),
                       [&](const Fault& f) { return f.id == now.id && f.where == now.where; });
  };
  size_t done = 0, all = 0;
  for (const Steps& kind : maker.kinds) all += kind.size();
  for (const Steps& kind : maker.kinds) {
    for (const Step& step : kind) {
      // A stopped search gives nothing: what it has so far may not be the best.
      if (search.progress && !search.progress(double(done++) / double(all))) return {};
      Plan tried = step.plan;
      try {
        if (step.repower) tried = reader.repowered(tried, plan);
        FaceReading after = reader.read(tried);
        // Gone is it when none of its kind is left there, or one fewer anywhere: a light may take it along.
        auto many = [&](const FaceReading& r) {
          return std::count_if(r.faults.begin(), r.faults.end(), [&](const Fault& f) { return f.id == faultId; });
        };
        const bool gone = search.where.empty() ? many(after) < many(before) : !after.fault(faultId, search.where);
        if (!gone || (search.acceptable && !search.acceptable(after))) continue;
        std::string brings;
        for (const Fault& f : after.faults)
          if (brings.empty() && !f.caution && !f.wanted && !known(f)) brings = f.title;
        const bool clean = brings.empty();
        (clean ? cures : partly).push_back({step.text, std::move(tried), clean, std::move(brings), std::move(after)});
        if (clean) break;
      } catch (const std::exception&) {
        continue;  // a step that cannot be computed is none
      }
    }
    if (cures.size() >= search.most) break;
  }
  // A step that brings something else is better than none, but only then.
  if (cures.empty() && !partly.empty()) cures.push_back(std::move(partly.front()));
  return cures;
}

}  // namespace easel
