// What usually cures a fault, as steps that remedies.h tries. Only for the files of cures; from outside: remedies.h.
//
// Orders and amounts: common practice, no source.
#pragma once

#include <algorithm>
#include <cmath>
#include <stdexcept>
#include <string>
#include <vector>

#include "analysis/faults.h"
#include "exposure/shutter.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "plan/roles.h"
#include "plan/subject.h"
#include "spoken/clock.h"
#include "spoken/say.h"

namespace easel::rules {

struct Trial {
  std::string text;
  Plan plan;
  bool repower = true;
};
using Trials = std::vector<Trial>;  // of one kind, smallest first

/// What is usually done about a fault, as steps to be tried: the building blocks, and a member for each fault. What is
/// locked stays.
struct Cures {
  Cures(const Plan& plan, const Fault& fault, const FaceAnalysis& reading, const Answers& answers,
        const Spelling& spelling);

  const Plan& plan;
  const Fault& fault;
  const FaceAnalysis& r;
  const Answers& answers;
  const Spelling& spelling;
  std::string id;                        ///< the letter that the fault names; may be empty
  std::string key;                       ///< of the key that leads
  std::string fill;                      ///< the first fill that is on; may be empty
  std::vector<std::string> backgrounds;  ///< those that are on
  const Light* lamp = nullptr;           ///< of `id`
  std::vector<Trials> kinds;             ///< what the members fill

  // For each fault, or for two that are cured alike.
  void eyesInTheDark();
  void glareOnGlasses();
  void brimShadow();
  void twoNoseShadows();
  void fillOverKey();
  void unevenFill();
  void fromBelow();
  void hotFromBehind();
  void shadowOnBackdrop();
  void halo();
  void greyWhite();
  void whiteFlares();
  void spill();
  void mergedOutline();
  void inFrame();
  void flare();
  void strayCatchlight();
  void touchesSitter();
  void standsCollide();
  void throughCeilingOrFloor();
  void outsideRoom();
  void behindBackdrop();
  void sync();
  void ambient();
  void burnt();
  void outOfReach();
  void meterInShadow();
  void panelInFrame();
  void poolOffMark();
  void tableSpill();
  void lampBurnt();
  void lampDim();
  void lampBy(const std::vector<double>& stops);
  void foundOut();

  // The blocks: one kind of step each, smallest first.

  std::string length(double m) const { return spelling.length(m); }
  std::string clock(double hour) const { return writeClock(hour); }
  static double roundBy(double hour, double by) { return std::fmod(hour + by + 11.999, 12.0) + 0.001; }
  bool free(const std::string& id) const {
    const Light* l = plan.light(id);
    return l && !l->locked;
  }
  template <class F>
  void light(const std::string& id, const std::vector<double>& amounts, F change) {
    if (!free(id)) return;
    Trials steps;
    for (double a : amounts) {
      Trial s{{}, plan, true};
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
      return d < 0 ? say("Lower {} to {}", l.id, length(l.height)) : say("Raise {} to {}", l.id, length(l.height));
    });
  }
  void distance(const std::string& id, const std::vector<double>& factors) {
    light(id, factors, [&](Light& l, double f) {
      const double most = plan.room.width / 2 / std::max(0.15, std::abs(std::sin(l.hour * kPi / 6))) - 0.1;
      l.distance = rangeOf("light.distance").clamp(std::clamp(l.distance * f, 0.35, std::max(0.4, most)));
      return f > 1 ? say("Move {} back to {}", l.id, length(l.distance))
                   : say("Move {} nearer to {}", l.id, length(l.distance));
    });
  }
  void hour(const std::string& id, const std::vector<double>& by) {
    light(id, by, [&](Light& l, double d) {
      l.hour = roundBy(l.hour, d);
      return say("Move {} round to {} o'clock", l.id, clock(l.hour));
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
      const double by = std::abs(l.targetStops);
      return l.targetStops < 0 ? say("Set {} {:.1f} stops under the key", l.id, by)
                               : say("Set {} {:.1f} stops over the key", l.id, by);
    });
  }
  void feather(const std::string& id, const std::vector<double>& degrees) {
    light(id, degrees, [&](Light& l, double d) {
      // Turned so that its beam goes to the camera's side of the sitter.
      const double edge = edgeFeather(plan, l);
      l.pan = std::clamp(l.pan + (edge >= 0 ? d : -d), -90.0, 90.0);
      return say("Feather {} by {:.0f} degrees", l.id, std::abs(l.pan));
    });
  }
  void tilt(const std::string& id, const std::vector<double>& degrees) {
    light(id, degrees, [&](Light& l, double d) {
      l.tiltOffset = std::clamp(l.tiltOffset + d, -80.0, 80.0);
      return l.tiltOffset > 0 ? say("Tilt {} {:.0f} degrees over its aim", l.id, l.tiltOffset)
                              : say("Tilt {} {:.0f} degrees under its aim", l.id, -l.tiltOffset);
    });
  }
  void off(const std::string& id) {
    light(id, {0}, [&](Light& l, double) {
      l.on = false;
      return say("Switch {} off", l.id);
    });
  }
  void grid(const std::string& id) {
    light(id, {30, 20, 10}, [&](Light& l, double degrees) {
      const Modifier* m = findModifier(l.modifier);
      if (!m || m->grid > 0) return std::string();
      l.fittings.grid = degrees;
      return say("Put a {:.0f} degree grid on {}", degrees, l.id);
    });
  }
  template <class F>
  void whole(const std::vector<double>& amounts, F change, bool repower = true) {
    Trials steps;
    for (double a : amounts) {
      Trial s{{}, plan, repower};
      s.text = change(s.plan, a);
      if (!s.text.empty() && !(s.plan == plan)) steps.push_back(std::move(s));
    }
    if (!steps.empty()) kinds.push_back(std::move(steps));
  }
  // Of the board that the fault names.
  template <class F>
  void board(const std::vector<double>& amounts, F change) {
    const auto number = panelOf(fault.where);
    if (!number) return;
    whole(amounts, [&](Plan& p, double d) -> std::string {
      for (Panel& x : p.panels)
        if (x.id == *number && !x.locked) return change(x, d);
      return {};
    });
  }
  void backdropAway(const std::vector<double>& to) {
    whole(to, [&](Plan& p, double d) -> std::string {
      if (d <= plan.backdrop.distance + 0.05) return {};
      p.backdrop.distance = d;
      p.room.behind = std::max(p.room.behind, d + 0.02);
      // The room stays as deep as it is: what goes behind the sitter is lost before them.
      if (p.room.behind > p.room.depth - std::max(1.2, std::min(p.camera.distance, plan.room.depth - plan.room.behind)))
        return {};
      return say("Bring the sitter {} away from the backdrop", length(d));
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
        const double level = n.light.targetStops;
        return level < 0 ? say("Add {}: {}, {:.1f} stops under the key", n.light.id, n.light.name, -level)
                         : say("Add {}: {}, {:.1f} stops over the key", n.light.id, n.light.name, level);
      } catch (const std::invalid_argument&) {
        return {};
      }
    });
  }
};

/// from, from + step ... to.
inline std::vector<double> range(double from, double to, double step) {
  std::vector<double> v;
  for (double x = from; step > 0 ? x <= to + 1e-9 : x >= to - 1e-9; x += step) v.push_back(x);
  return v;
}

}  // namespace easel::rules
