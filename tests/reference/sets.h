// Sets put together at random, for the same questions as rooms.h: two and three scrims close behind one another, scrims
// and boards, walls with openings that reach across the room, tables, shades, large fronts close to a wall, rooms from
// three to twenty metres, paints from black to white. The number of a set decides all of it.
#pragma once

#include "reference/rooms.h"

namespace easel::test {

class Dice {
 public:
  explicit Dice(std::uint32_t seed) : seed_(seed) {}
  double between(double low, double high) { return low + (high - low) * double(unitFloat(hashPair(seed_, ++n_))); }
  double evenly(double low, double high) { return std::exp(between(std::log(low), std::log(high))); }
  size_t below(size_t n) { return std::min(n - 1, size_t(between(0, double(n)))); }

 private:
  std::uint32_t seed_, n_ = 0;
};

inline constexpr int kSets = 42;

inline RoomCase setCase(int number) {
  Dice dice{std::uint32_t(number) * 7919u + 5u};
  static constexpr const char* kKinds[] = {"two-scrims", "three-scrims", "scrim-board",  "wall",
                                           "table",      "shade",        "front-at-wall"};
  RoomCase c;
  const std::string kind = kKinds[size_t(number) % std::size(kKinds)];
  c.name = "set " + std::to_string(number) + " " + kind;
  Plan& p = c.plan;
  p = demoPlan();
  p.sitter.hairStyle = "shaved";
  p.sitter.turn = p.sitter.tilt = p.sitter.nod = 0;
  p.sitter.eyeHeight = 1.53;
  p.panels.clear();
  p.ambient.lux = 0;
  const double width = dice.evenly(3, 20), depth = dice.evenly(4, 20), height = dice.evenly(2.5, 7);
  const double behind = std::min(dice.between(1.4, 3.5), depth - 2.4);
  p.room = {width,     depth, height, behind, dice.evenly(0.02, 0.95), dice.evenly(0.02, 0.95), dice.evenly(0.02, 0.95),
            "neutral", {}};
  p.camera.distance = std::min(2.2, depth - behind - 0.4);
  p.camera.height = 1.5;
  p.backdrop.distance = behind - 0.4;
  p.backdrop.width = std::min(2.5, width - 0.2);
  p.backdrop.height = 2.2;
  p.backdrop.material = "paper-mid-grey";
  p.lights.resize(1);
  Light& l = p.lights[0];
  l.fittings = {};
  l.pan = l.tiltOffset = 0;
  l.unit = "mains-400";
  l.modifier = std::array{"reflector-18", "softbox-60x90", "octa-90"}[dice.below(3)];
  const double aside = std::min(width / 2 - 0.35, 2.6);
  l.hour = dice.between(3, 4.6);
  l.distance = std::min(dice.between(1.2, 2.4), aside);
  l.height = dice.between(1.5, 2.2);
  const auto panel = [&](const char* id, const char* of, double hour, double distance, double above) -> Panel& {
    Panel q;
    q.id = id;
    q.kind = of;
    q.hour = hour;
    q.distance = distance;
    q.above = above;
    q.front = q.back = std::string(of) == "board" ? "white" : "scrim";
    p.panels.push_back(q);
    return p.panels.back();
  };
  if (kind == "two-scrims" || kind == "three-scrims" || kind == "scrim-board") {
    const int scrims = kind == "two-scrims" ? 2 : kind == "three-scrims" ? 3 : 1;
    double at = dice.between(0.5, 0.75);
    for (int k = 0; k < scrims; ++k) {
      Panel& s = panel(std::to_string(k + 1).c_str(), "scrim", l.hour, at, 1.6);
      s.width = dice.between(0.9, 1.6);
      s.height = dice.between(0.9, 1.6);
      s.turn = dice.between(-8, 8) * (k ? 0 : 1);
      if (dice.below(2)) s.front = s.back = "scrim-thin";
      at += dice.evenly(0.03, 0.6);
    }
    l.distance = std::max(l.distance, at + 0.1);
    if (kind == "scrim-board" || dice.below(2)) {
      Panel& b = panel(std::to_string(scrims + 1).c_str(), "board", dice.between(7.6, 9), dice.between(0.5, 0.9), 1.4);
      b.width = dice.between(0.6, 1.2);
      b.height = dice.between(0.6, 1.4);
    }
  } else if (kind == "wall") {
    // Across the room, behind the sitter or beside them; the lamp on either side of it.
    Panel q = proposePanel(p, dice.below(2) ? "doorway" : "window").panel;
    q.width = std::min(width, 8.0);
    q.height = height;
    q.above = height / 2;
    q.openWidth = dice.between(0.5, 1);
    standAt(q, 0, -std::min(0.6, p.backdrop.distance * 0.6));
    const bool beyond = dice.below(2);
    l.modifier = beyond ? "window-100x130" : "softbox-60x90";
    if (beyond) {
      l.hour = 11.4;
      l.distance = p.backdrop.distance - 0.15;
      l.height = 1.5;
    }
    p.panels.push_back(q);
  } else if (kind == "table") {
    Panel q = proposePanel(p, "table").panel;
    q.height = dice.between(0.7, 1.1);
    q.above = q.height / 2;
    p.panels.push_back(q);
    if (dice.below(2)) {
      l.modifier = "softbox-40x40";
      l.worksOn = q.id;
      l.hour = 8;
      l.distance = 0.9;
      l.height = 2.1;
    }
    Panel& b = panel("2", "board", 9, 0.7, 1.3);
    b.width = b.height = 0.9;
  } else if (kind == "shade") {
    Panel q = proposePanel(p, "shade").panel;
    standAt(q, dice.between(0.5, 0.9), -std::min(0.5, p.backdrop.distance * 0.4));
    if (dice.below(2)) q.front = q.back = "paper-shade";
    l.modifier = "lamp-6";
    l.unit = "bulb-7";
    l.inside = q.id;
    l.hour = q.hour;
    l.distance = q.distance;
    l.height = q.above;
    p.panels.push_back(q);
  } else {
    // A large box that looks at a wall from near by, or from a wall at the sitter.
    l.modifier = "window-100x130";
    l.hour = dice.below(2) ? 3 : 11.2;
    l.distance =
        l.hour == 3 ? std::min(width / 2 - dice.evenly(0.05, 0.4), 4.0) : p.backdrop.distance - dice.evenly(0.05, 0.2);
    l.height = 1.5;
    if (dice.below(2)) l.pan = 180;
  }
  return c;
}

inline std::vector<RoomCase> setCases() {
  std::vector<RoomCase> all;
  for (int k = 0; k < kSets; ++k) all.push_back(setCase(k));
  return all;
}

/// More of the face than in the rooms, the crown, and the backdrop's corners.
inline std::vector<MeterSpot> setSpots(const Scene& scene, const Plan& plan) {
  std::vector<MeterSpot> out;
  for (const MeterSpot& s : roomSpots(scene, plan))
    if (s.id == "light" || s.id == "camera" || s.id == "dome" || s.id.starts_with("cloth")) out.push_back(s);
  for (const MeterSpot& s : meterSpots(scene, placedSetOf(plan)))
    if (s.id == "forehead" || s.id.starts_with("cheek") || s.id == "chin" || s.id == "neck" || s.id == "hair-top" ||
        s.id == "backdrop-low-left" || s.id == "panel-1")
      out.push_back(s);
  return out;
}

}  // namespace easel::test
