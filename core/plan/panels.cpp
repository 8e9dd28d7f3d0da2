#include "plan/panels.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "gear/kit.h"
#include "gear/model.h"
#include "plan/edit.h"
#include "plan/leaf.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "sitters/sitter.h"
#include "spoken/say.h"

namespace easel {
namespace {

double keyHour(const Plan& plan) { return plan.key() ? plan.key()->hour : 4.5; }
const Light* keyOrFirst(const Plan& plan) {
  return plan.key() ? plan.key() : plan.lights.empty() ? nullptr : &plan.lights.front();
}

}  // namespace

bool standsOnFloor(const Panel& p) { return isPiece(shapeOf(p.kind)) && std::abs(p.above - p.height / 2) < 0.005; }

Panel ofHeight(Panel p, double height) {
  if (standsOnFloor(p)) p.above = height / 2;
  p.height = height;
  return p;
}

Panel withModel(Panel p, const std::string& id) {
  p.model = id;
  const auto model = findModel(id);
  if (!model) return p;
  const Range &wide = rangeOf("panel.width"), &deep = rangeOf("panel.depth"), &high = rangeOf("panel.height");
  p.width = wide.clamp(double(model->size.x));
  p.depth = deep.clamp(double(model->size.z));
  return ofHeight(p, high.clamp(double(model->size.y)));
}

namespace {

// A place of the floor plan, and the front level along a direction instead of towards the sitter.
void putAt(Panel& p, Vec3 at) {
  p.hour = hourOf(double(at.x), double(at.z));
  p.distance = std::hypot(double(at.x), double(at.z));
}
void putAt(Panel& p, Vec3 at, Vec3 looks) {
  putAt(p, at);
  p.turn = std::remainder(degrees(std::atan2(-at.x, -at.z) - std::atan2(looks.x, looks.z)), 360.0);
}
void standAt(Panel& p, double x, double z) { putAt(p, {float(x), 0, float(z)}, {0, 0, 1}); }

// Across the line that it stands in, and along itself away from the camera until the picture is free of its near end.
void holdBeside(const Plan& plan, Panel& p) {
  const CameraPose camera = cameraPose(plan);
  const Vec3 line = towardsHour(p.hour), aside = line.x >= 0 ? Vec3{line.z, 0, -line.x} : Vec3{-line.z, 0, line.x};
  const Vec3 stood = line * float(p.distance) + Vec3{0, float(p.above), 0};
  const auto half = float(p.width / 2);
  float by = 0;
  const auto seen = [&] {
    for (const float along : {1.f, 0.7f, 0.4f})
      for (const float up : {-0.5f, 0.f, 0.5f})
        if (const auto at = inPicture(camera, plan.camera.frame,
                                      stood + aside * (by - half * along) + Vec3{0, up * float(p.height), 0});
            at && std::abs(at->x) < 1.05f && std::abs(at->y) < 1.05f)
          return true;
    return false;
  };
  while (by < half - 0.1f && seen()) by += 0.05f;
  putAt(p, line * float(p.distance) + aside * by, -line);
}

bool between(const Leaf& l, Vec3 from, Vec3 to) {
  const Vec3 way = to - from;
  const float across = dot(way, l.frame.n);
  const float t = dot(l.centre - from, l.frame.n) / (across == 0 ? 1e-6f : across);
  if (!(t > 0 && t < 1)) return false;
  const Vec3 met = from + way * t - l.centre;
  const float u = dot(met, l.frame.u) / l.halfWidth, v = dot(met, l.frame.v) / l.halfHeight;
  return l.disc ? u * u + v * v < 1 : std::abs(u) < 1 && std::abs(v) < 1;
}

// Aside by as little as leaves the nose free, where the meter is held: in a leaf's shadow the key would be
// balanced for the leaf.
void freeTheNose(const Plan& plan, const Light& light, Panel& p) {
  const Vec3 nose = posedDirection({0, 0, 0.15f}, 1, {plan.sitter.turn, plan.sitter.tilt, plan.sitter.nod}) +
                    Vec3{0, float(plan.sitter.eyeHeight) - 0.045f, 0};
  const LightPose lamp = lightPose(plan, light);
  const Modifier* front = findModifier(light.modifier);
  const float half = front ? float(front->width) / 2 : 0.05f;
  const auto hidden = [&](const Panel& at) {
    const std::vector<Leaf> leaves = outlinesOf(at);
    int n = 0;
    for (const float x : {-1.f, 0.f, 1.f})
      for (const float y : {-1.f, 0.f, 1.f})
        for (const float lit : {0.f, half}) {
          const Vec3 off = lamp.frame.u * x + lamp.frame.v * y;
          n += std::any_of(leaves.begin(), leaves.end(),
                           [&](const Leaf& l) { return between(l, nose + off * 0.02f, lamp.centre + off * lit); });
        }
    return n;
  };
  // Rings of places about where it stands, in its own plane.
  const Panel stood = p;
  const Vec3 at = towardsHour(p.hour) * float(p.distance), along = frameOf(p).u;
  int least = hidden(p);
  for (int ring = 1; ring <= 10 && least > 0; ++ring)
    for (int k = 0; k < 12; ++k) {
      Panel moved = stood;
      const float by = 0.02f * float(ring), a = 2 * kPiF * float(k) / 12;
      putAt(moved, at + along * (by * std::cos(a)));
      moved.above += double(by * std::sin(a));
      if (const int n = hidden(moved); n < least) {
        least = n;
        p = moved;
      }
    }
}

std::string placePiece(const Plan& plan, const PanelKind& kind, Panel& p) {
  const double eyes = plan.sitter.eyeHeight, key = keyHour(plan), cloth = plan.backdrop.distance;
  const Light* light = keyOrFirst(plan);
  switch (kind.shape) {
    case PanelShape::Table:
      p.hour = 6;
      p.distance = 0.32 + p.depth / 2;
      return say("Before the sitter: a light on it makes a pool, and what it sends back lifts the chin.");
    case PanelShape::Doorway:
      standAt(p, key < 6 ? -0.45 : 0.45, -std::max(0.6, cloth * 0.5));
      return say("Behind the sitter, beside the head. Put a light with a colour behind it: another room.");
    case PanelShape::Window:
      p.hour = key < 6 ? 3 : 9;
      p.distance = std::min(1.5, std::max(0.8, plan.room.width / 2 - 0.6));
      return say("On the key's side. A hard light some metres behind it is the sun, a large soft one the sky.");
    case PanelShape::Picture:
      standAt(p, key < 6 ? -0.55 : 0.55, -std::max(0.2, cloth - p.depth / 2 - 0.005));
      p.above = eyes + 0.3;
      return say("On the backdrop, beside the head: give it a slit of light of its own.");
    case PanelShape::Shade:
      standAt(p, key < 6 ? 0.45 : -0.45, -std::min(0.4, cloth * 0.4));
      p.above = std::max(0.5, eyes - 0.1);
      p.depth = p.above - p.height / 2;  // a foot down to the floor
      return say(
          "In the picture, on the key's side: it gives the key its reason. Put a small lamp in it, and meter "
          "what it gives.");
    case PanelShape::Branch:
      // Near the face: far from it leaves are a haze.
      p.hour = light ? light->hour : key;
      p.distance = light ? std::min(0.55, light->distance * 0.6) : 0.55;
      p.above = eyes + (light ? (light->height - eyes) * p.distance / std::max(0.1, light->distance) : 0.2);
      holdBeside(plan, p);
      if (light) freeTheNose(plan, *light, p);
      return say("In the key's way: leaves on face and wall, sharper the nearer it is to them.");
    default:
      standAt(p, key < 6 ? -0.8 : 0.8, kind.shape == PanelShape::Stool ? 0.1 : -0.3);
      return say("Beside the sitter, on the side away from the key. Drag it where it belongs.");
  }
}

}  // namespace

PanelProposal proposePanel(const Plan& plan, const std::string& id) {
  const PanelKind* kind = findPanelKind(id);
  if (!kind) throw std::invalid_argument(say("There is no board or piece called \"{}\".", id));
  PanelProposal out;
  Panel& p = out.panel;
  p.id = freeNumber(plan);
  if (p.id.empty())
    throw std::invalid_argument(say("A plan holds at most sixteen boards and pieces. Remove one first."));
  p.kind = kind->id;
  p.name = kind->name;
  p.front = kind->front;
  p.back = kind->back;
  p.width = kind->width;
  p.height = kind->height;
  p.above = kind->above;
  p.depth = kind->depth;
  p.openWidth = kind->openWidth;
  p.openHeight = kind->openHeight;
  p.sill = kind->sill;
  if (isPiece(kind->shape)) {
    out.reason = placePiece(plan, *kind, p);
    return out;
  }
  const double eyes = plan.sitter.eyeHeight, key = keyHour(plan);
  const double other = key >= 12 ? 12 : 12 - key;
  const Light* light = keyOrFirst(plan);
  if (id == "v-flat" || id == "board" || id == "cloth") {
    p.hour = other;
    p.distance = 0.7;
    if (id == "board") p.above = eyes - 0.1;
    if (id != "board") {  // at right angles to the camera, or its near edge stands in the picture
      p.hour = other > 6 ? 9 : 3;
      p.distance = id == "v-flat" ? 1.1 : 0.9;
      p.fold = 120;
    }
    out.reason = id == "cloth"
                     ? say("Opposite the key: takes bounce away, so that the shadow side goes deeper.")
                     : say("Opposite the key, where its light passes the face and can be sent back into the shadows.");
  } else if (id == "reflector") {
    p.hour = 6;
    p.distance = 0.55;
    p.above = std::max(0.3, eyes - 0.5);
    p.tilt = 55;
    out.reason = say("Under the face, tilted up to the key: fills below nose and chin and gives the lower catchlight.");
  } else if (id == "flag" || id == "cut-out") {
    // Between the key and the backdrop, or before the backdrop's own light: two thirds of the way along the light.
    const bool cut = id == "cut-out";
    p.hour = light ? light->hour : key;
    p.distance = light ? light->distance * (cut ? 0.75 : 0.45) : 0.6;
    p.above = light ? eyes + (light->height - eyes) * (cut ? 0.75 : 0.45) + (cut ? 0 : 0.55) : eyes + 0.5;
    p.tilt = light ? -degrees(std::atan2(float(light->height - eyes), float(light->distance))) * 0.8 : 0;
    out.reason = cut ? say("In the key's way: a pattern on sitter and wall, softer the nearer it is to the lamp.")
                     : say("Over the line from key to face: keeps the top of the light off hair and backdrop. Lower it "
                           "to cut more.");
  } else if (id == "slit" || id == "scrim" || id == "scrim-small") {
    // Beside the sitter and along the camera's axis: across it, so wide a thing would stand in the picture.
    p.hour = key < 6 ? 3 : 9;
    p.distance = id == "scrim-small" ? 0.75 : 0.95;
    if (id != "slit") p.above = std::max(p.height / 2 + 0.02, std::min(eyes + 0.2, plan.room.height - p.height / 2));
    out.reason =
        id == "slit"
            ? say("On the key's side, clear of the picture. A light behind it draws a line; nearer the wall it is "
                  "sharper.")
            : say("On the key's side, clear of the picture. Put the light behind it, further out: the cloth becomes "
                  "the light, as large as the unit fills it.");
  } else {
    p.hour = 6;
    p.distance = plan.camera.distance + 0.3;
    p.above = p.height / 2;
    out.reason =
        say("Behind the camera: in front of a large box the body takes a bite out of its light and its catchlight.");
  }
  return out;
}

}  // namespace easel
