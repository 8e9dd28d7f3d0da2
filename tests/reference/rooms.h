// Rooms with a sitter in them, as the test asks the meter about them and as tools/reference/rooms writes them out for a
// path tracer of its own: three sizes, three paints, four kinds of light, panels that light goes over twice, and pieces
// of a set.
#pragma once

#include <string>
#include <vector>

#include "meter/answers.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "support.h"

namespace easel::test {

/// A place of the floor plan, the front towards the camera's side: the traced rows hold for it, wherever proposals go.
inline void standAt(Panel& p, double x, double z) {
  p.hour = hourOf(x, z);
  p.distance = std::hypot(x, z);
  p.turn = degrees(std::atan2(float(-x), float(-z)));
}

struct RoomCase {
  std::string name;
  Plan plan;
};

inline std::vector<RoomCase> roomCases() {
  struct Size {
    const char* name;
    double width, depth, height, behind;
  };
  const auto room = [](const Size& s, double paint) {
    Plan p = demoPlan();
    p.sitter.hairStyle = "shaved";
    p.sitter.turn = p.sitter.tilt = p.sitter.nod = 0;
    p.sitter.eyeHeight = 1.53;
    p.panels.clear();
    p.ambient.lux = 0;
    p.room = {s.width, s.depth, s.height, s.behind, paint, 0.2, paint > 0.5 ? 0.8 : 0.7, "neutral", {}};
    p.camera.distance = 1.8;
    p.camera.height = 1.5;
    p.backdrop.distance = s.behind - 0.5;
    p.backdrop.width = 2;
    p.backdrop.height = 2.2;
    p.backdrop.material = "paper-mid-grey";
    p.lights.resize(1);
    p.lights[0].fittings = {};
    p.lights[0].pan = p.lights[0].tiltOffset = 0;
    p.lights[0].unit = "mains-400";
    return p;
  };
  const auto key = [](Plan p, const char* modifier) {
    Light& l = p.lights[0];
    l.modifier = modifier;
    l.hour = 4.4;
    l.distance = 1.2;
    l.height = p.sitter.eyeHeight + 0.4;
    return p;
  };
  std::vector<RoomCase> all;
  for (const Size& s : {Size{"small", 3, 4, 2.4, 1.8}, Size{"middle", 5, 6, 2.8, 2.6}, Size{"large", 8, 10, 4, 4}})
    for (double paint : {0.1, 0.35, 0.8}) {
      const std::string at = std::string(s.name) + " " + std::to_string(int(100 * paint + 0.5)) + " ";
      const Plan bare = room(s, paint);
      all.push_back({at + "box", key(bare, "softbox-60x90")});
      all.push_back({at + "through", key(bare, "umbrella-through")});
      // A hot-shoe flash that looks at the ceiling, 15 cm under it, and a reflector at the wall behind the camera.
      Plan up = key(bare, "zoom-head");
      up.lights[0].hour = 6;
      up.lights[0].distance = 1.3;
      up.lights[0].height = s.height - 0.15;
      up.lights[0].tiltOffset = 90 + downTilt(up, up.lights[0]);
      all.push_back({at + "ceiling", up});
      Plan back = key(bare, "reflector-18");
      back.lights[0].hour = 6;
      back.lights[0].distance = s.depth - s.behind - 0.2;
      back.lights[0].height = 1.9;
      back.lights[0].pan = 180;
      all.push_back({at + "wall", back});
    }
  // A V-flat on the fill side, in a dark and a light room; a scrim before the lamp and a board opposite, either first.
  for (double paint : {0.1, 0.8}) {
    Plan p = key(room({"large", 8, 10, 4, 4}, paint), "softbox-60x90");
    Panel v;
    v.id = "1";
    v.kind = "v-flat";
    v.front = v.back = "white";
    v.width = 1.2;
    v.height = 2.4;
    v.fold = 90;
    v.hour = 8.2;
    v.distance = 0.9;
    v.above = 1.2;
    p.panels = {v};
    all.push_back({"large " + std::to_string(int(100 * paint + 0.5)) + " v-flat", p});
    Plan chain = key(room({"large", 8, 10, 4, 4}, paint), "reflector-18");
    chain.lights[0].distance = 2.2;
    Panel scrim;
    scrim.id = "1";
    scrim.kind = "scrim";
    scrim.front = scrim.back = "scrim";
    scrim.width = scrim.height = 1.5;
    scrim.hour = 4.4;
    scrim.distance = 1;
    scrim.above = 1.6;
    Panel board;
    board.id = "2";
    board.kind = "board";
    board.width = 1;
    board.height = 1;
    board.hour = 8;
    board.distance = 0.6;
    board.above = 1.4;
    chain.panels = {scrim, board};
    all.push_back({"large " + std::to_string(int(100 * paint + 0.5)) + " scrim-board", chain});
    std::swap(chain.panels[0], chain.panels[1]);
    std::swap(chain.panels[0].id, chain.panels[1].id);
    all.push_back({"large " + std::to_string(int(100 * paint + 0.5)) + " board-scrim", chain});
  }
  // Pieces of the set: a table under the key and under a light of its own, a bulb in a shade, a lamp behind a doorway.
  for (double paint : {0.1, 0.35}) {
    const std::string at = "middle " + std::to_string(int(100 * paint + 0.5)) + " ";
    const Plan bare = key(room({"middle", 5, 6, 2.8, 2.6}, paint), "softbox-60x90");
    const auto with = [&](const char* kind) {
      Plan p = bare;
      p.panels = {proposePanel(p, kind).panel};
      return p;
    };
    Plan table = with("table");
    table.panels[0].height = 1.0;
    table.panels[0].above = 0.5;
    all.push_back({at + "table", table});
    Light& own = table.lights[0];
    own.modifier = "softbox-40x40";
    own.worksOn = "1";
    own.hour = 8;
    own.distance = 0.9;
    own.height = 2.1;
    all.push_back({at + "pool", table});
    Plan shade = with("shade");
    standAt(shade.panels[0], 0.7, -std::min(0.5, bare.backdrop.distance * 0.4));
    shade.lights[0].modifier = "lamp-6";
    shade.lights[0].unit = "bulb-7";
    shade.lights[0].inside = "1";
    shade.lights[0].hour = shade.panels[0].hour;
    shade.lights[0].distance = shade.panels[0].distance;
    shade.lights[0].height = shade.panels[0].above;
    all.push_back({at + "shade", shade});
    Plan door = with("doorway");
    standAt(door.panels[0], -0.9, -std::max(0.6, bare.backdrop.distance * 0.6));
    door.lights[0].modifier = "window-100x130";  // a body of its own it has not
    door.lights[0].hour = 10.9;
    door.lights[0].distance = 2.2;
    door.lights[0].height = 1.6;
    all.push_back({at + "doorway", door});
  }
  return all;
}

inline bool pieces(const Plan& plan) {
  return std::any_of(plan.panels.begin(), plan.panels.end(), [](const Panel& p) { return isPiece(shapeOf(p.kind)); });
}

/// Where the meter is held: before the nose towards the light and towards the camera, along the skin of the cheek that
/// the light does not see, on the cloth beside the head; with pieces of the set under the chin and at the piece.
inline std::vector<MeterSpot> roomSpots(const Scene& scene, const Plan& plan) {
  const Vec3 nose = beforeTheNose(scene).at, lamp = lightPose(plan, plan.lights[0]).centre, eye = cameraPose(plan).eye;
  std::vector<MeterSpot> out{{"light", {}, nose, normalize(lamp - nose)},
                             {"camera", {}, nose, normalize(eye - nose)},
                             {"dome", {}, nose, normalize(eye - nose), Receptor::Dome}};
  for (const MeterSpot& s : meterSpots(scene, placedSetOf(plan)))
    if (s.id == "cheek-right" || s.id == "panel-1" || (s.id == "chin" && !plan.panels.empty() && pieces(plan)))
      out.push_back(s);
  for (const Vec3& at : besideTheHead(placedSetOf(plan)))
    out.push_back({at.x > 0 ? "cloth-right" : "cloth-left", {}, at, {0, 0, 1}});
  return out;
}

}  // namespace easel::test
