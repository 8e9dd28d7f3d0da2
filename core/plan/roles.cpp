#include "plan/roles.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <stdexcept>

#include "gear/kit.h"
#include "plan/edit.h"
#include "plan/placement.h"
#include "sitters/looks.h"

namespace easel {
namespace {

std::string letterFor(const Plan& plan) {
  std::string letter = freeLetter(plan);
  if (letter.empty()) throw std::invalid_argument("Sixteen lights are the most a plan can hold. Remove one first.");
  return letter;
}

const Light* keyOf(const Plan& plan) {
  for (const Light& l : plan.lights)
    if (l.role == Role::Key) return &l;
  return nullptr;
}
double mirrorHour(double h) { return h >= 12 ? 12 : 12 - h; }

}  // namespace

const std::vector<RoleSchool>& roleSchools() {
  static const std::vector<RoleSchool> all = {
      {"key", Role::Key, "Key"},
      {"fill-opposite", Role::Fill, "Fill, opposite the key"},
      {"fill-key-side", Role::Fill, "Fill, near the camera on the key's side"},
      {"fill-lens", Role::Fill, "Fill, over the lens"},
      {"fill-below", Role::Fill, "Fill, from below"},
      {"hair-under", Role::Hair, "Hair, under the key"},
      {"hair-over", Role::Hair, "Hair, over the key"},
      {"background", Role::Background, "Background"},
      {"background-side", Role::Background, "Background, from the side (one of two)"},
      {"rim-under", Role::Rim, "Rim, a stop under"},
      {"rim-accent", Role::Rim, "Rim, as an accent"},
      {"kicker", Role::Kicker, "Kicker"},
  };
  return all;
}

Proposal proposeLight(const Plan& plan, const std::string& school) {
  Proposal p;
  Light& l = p.light;
  l.id = l.group = letterFor(plan);
  const auto at =
      std::find_if(roleSchools().begin(), roleSchools().end(), [&](const RoleSchool& s) { return s.id == school; });
  if (at == roleSchools().end())
    throw std::invalid_argument(fmt::format("There is no way to add a light called \"{}\".", school));
  l.role = at->role;
  l.name = at->name;
  const double eyes = plan.sitter.eyeHeight, ceiling = plan.room.height;
  const Light* key = keyOf(plan);
  const double keyHour = key ? key->hour : 4.5;
  const bool keyRight = keyHour < 6;
  const double behind = std::max(0.35, plan.backdrop.distance);

  if (school == "key") {
    l.modifier = "octa-90";
    l.hour = 4.5;
    l.distance = 1.0;
    l.height = std::min(eyes + 0.55, ceiling - 0.5);
    l.power = -3;
    p.why =
        "Key at half past four, half a metre over the eyes: about 45 degrees to the side and 30 up, like the sun in "
        "the afternoon.";
  } else if (school == "fill-opposite") {
    l.modifier = "softbox-60x90";
    l.hour = mirrorHour(keyHour);
    l.distance = 1.5;
    l.height = eyes + 0.1;
    l.targetStops = -1.5;
    p.why =
        "Fill opposite the key, at eye level so that it leaves no second shadow under the nose, one and a half stops "
        "under.";
  } else if (school == "fill-key-side") {
    l.modifier = "softbox-60x90";
    l.hour = keyRight ? 5.5 : 6.5;
    l.distance = std::min(1.8, plan.camera.distance - 0.1);
    l.height = eyes + 0.35;
    l.targetStops = -1.5;
    p.why = "Fill between five and six on the key's side: its shadows fall with the key's, one and a half stops under.";
  } else if (school == "fill-lens") {
    l.modifier = "octa-120";
    l.hour = 6;
    l.distance = plan.camera.distance + 0.3;
    l.height = std::min(plan.camera.height + 0.75, ceiling - 0.65);
    l.targetStops = -2;
    p.why =
        "Fill over and behind the lens: it fills just what the camera sees and throws its shadows out of sight, two "
        "stops under.";
  } else if (school == "fill-below") {
    l.modifier = "softbox-60x90";
    l.hour = 6;
    l.distance = 0.7;
    l.height = std::max(0.35, eyes - 0.55);
    l.targetStops = -2;
    p.why =
        "Fill from below, the camera between it and the key: a second catchlight; more than two stops under keeps it "
        "from horror.";
  } else if (school == "hair-under" || school == "hair-over") {
    l.modifier = "softbox-40x40";
    l.hour = keyRight ? 11 : 1;
    l.distance = std::clamp(behind - 0.45, 0.35, 0.9);
    l.height = std::min(eyes + 0.95, ceiling - 0.25);
    const bool pale = paleHead(plan.sitter.id, plan.sitter.hairColour, plan.sitter.hairStyle);
    l.targetStops = school == "hair-over" ? 1.0 : pale ? -2 : -1;
    p.why =
        school == "hair-over"
            ? "Hair light a stop over the key, high behind the far shoulder: a clear edge against the backdrop."
        : pale
            ? "Hair light two stops under: light from behind looks about twice as strong, and pale hair takes little."
            : "Hair light one stop under: light from behind looks about twice as strong; dark hair needs it most.";
  } else if (school == "background-side") {
    // The second goes to the other side of the first.
    const bool left = std::none_of(plan.lights.begin(), plan.lights.end(), [](const Light& o) {
      return o.role == Role::Background && o.hour > 8 && o.hour < 11.5;
    });
    l.modifier = "softbox-40x40";
    l.hour = left ? 10 : 2;
    l.distance = std::min(1.5, plan.room.width / 2);
    l.height = eyes + 0.1;
    // Aimed across at the far third of the backdrop, so that the two overlap and even each other out.
    const Vec3 from = towardsHour(l.hour) * float(l.distance);
    const Vec3 aim{-0.25f * from.x, 0, -float(behind)};
    const double wanted = std::atan2(aim.x - from.x, -(aim.z - from.z)), now = std::atan2(-from.x, -(0.12 - from.z));
    l.pan = std::remainder((wanted - now) * 180 / kPi, 360.0);
    l.targetStops = backdropLuminance(plan.backdrop.material) > 0.6 ? 1 : -1;  // two of them add a stop
    p.why = left ? "First of two background lights at ten o'clock, aimed across: with one at two they light a white "
                   "backdrop "
                   "evenly, each a stop under what the two give."
                 : "Second of two background lights, at two o'clock, aimed across: it evens out the first.";
  } else if (school == "background") {
    l.modifier = "reflector-18";
    l.hour = 12;
    l.distance = std::clamp(behind * 0.45, 0.25, 1.0);
    l.height = std::max(0.35, eyes - 0.45);
    l.pan = 180;
    const double rho = backdropLuminance(plan.backdrop.material);
    if (rho > 0.6) {
      l.targetStops = 2;
      p.why = "Background light two stops over the key on white: pure white; more would flare.";
    } else if (rho < 0.03) {
      l.targetStops = 3;
      p.why = "Background light three stops over on velvet, to lift it to mid grey.";
    } else if (rho < 0.1) {
      l.targetStops = 1.5;
      p.why = "Background light one and a half stops over on black, to lift it towards mid grey.";
    } else {
      l.targetStops = -1;
      p.why = "Background light a stop under on grey, hidden low behind the sitter: a spot behind the shoulder blades.";
    }
  } else if (school == "rim-under" || school == "rim-accent") {
    l.modifier = "strip-30x120-grid";
    l.hour = keyRight ? 10 : 2;
    l.distance = std::clamp(behind / 0.5 - 0.6, 0.6, 1.3);
    l.height = eyes + 0.05;
    l.targetStops = school == "rim-accent" ? 0.5 : -1;
    p.why =
        school == "rim-accent"
            ? "Rim as an accent, half a stop over the key, a little behind the sitter on the far side."
            : "Rim one stop under the key, a little behind the sitter on the far side: an edge that is not blown out.";
  } else {
    l.modifier = "strip-30x120";
    l.hour = keyRight ? 2 : 10;
    l.distance = 1.1;
    l.height = std::max(0.6, eyes - 0.25);
    l.targetStops = -1;
    p.why = "Kicker low behind the sitter on the key's side, one stop under: it lifts the jaw from below.";
  }
  // Nothing stands outside the room.
  l.distance = std::min(l.distance, std::max(0.3, plan.room.width / 2 - 0.1) /
                                        std::max(0.2, std::abs(std::sin(l.hour * 0.5235987755982988))));
  return p;
}

Proposal byOtherSchool(const Plan& plan, const Light& light) {
  std::vector<const RoleSchool*> own;
  size_t now = 0;
  for (const RoleSchool& s : roleSchools()) {
    if (s.role != light.role) continue;
    if (s.name == light.name) now = own.size();
    own.push_back(&s);
  }
  if (own.size() < 2)
    throw std::invalid_argument(
        fmt::format("Practice knows one way only to put up light {}: move it by hand.", light.id));
  Plan without = plan;
  std::erase_if(without.lights, [&](const Light& l) { return l.id == light.id; });
  Proposal p = proposeLight(without, own[(now + 1) % own.size()]->id);
  p.light.id = light.id;
  p.light.group = light.group;
  p.light.unit = light.unit;
  p.light.power = light.power;
  p.light.on = light.on;
  p.light.locked = light.locked;
  p.light.extra = light.extra;
  return p;
}

std::string nextInUsualOrder(const Plan& plan) {
  for (const char* school : {"key", "fill-opposite", "hair-under", "background", "rim-under", "kicker"}) {
    const Role role = std::find_if(roleSchools().begin(), roleSchools().end(), [&](const RoleSchool& s) {
                        return s.id == school;
                      })->role;
    if (std::none_of(plan.lights.begin(), plan.lights.end(), [&](const Light& l) { return l.role == role; }))
      return school;
  }
  return "rim-accent";
}

Plan mirrored(const Plan& plan) {
  Plan out = plan;
  out.sitter.turn = -plan.sitter.turn;
  out.sitter.tilt = -plan.sitter.tilt;
  for (Light& l : out.lights) {
    l.hour = mirrorHour(l.hour);
    l.pan = l.pan == 180 ? 180 : -l.pan;
    std::swap(l.fittings.doors.left, l.fittings.doors.right);
  }
  for (Panel& p : out.panels) {
    p.hour = mirrorHour(p.hour);
    p.turn = p.turn == 180 ? 180 : -p.turn;
  }
  // Pins in the air and, in the head's own space, on it.
  for (PinnedSpot& s : out.spots) {
    s.x = -s.x;
    s.nx = -s.nx;
  }
  return out;
}

Plan keySideSwapped(const Plan& plan) {
  Plan out = mirrored(plan);
  out.sitter = plan.sitter;
  return out;
}

Light copyOf(const Plan& plan, const Light& light) {
  Light l = light;
  l.id = l.group = letterFor(plan);
  l.locked = false;
  l.name = light.name.empty() ? std::string() : light.name + ", copy";
  l.hour += l.hour > 11.5 ? -0.5 : 0.5;  // beside the first, so that it can be seen and taken hold of
  return l;
}

std::vector<Light> withLettersInOrder(const Plan& plan) {
  std::vector<Light> out = plan.lights;
  // A group named after a light keeps its name's light, and all that are in it stay together.
  std::map<std::string, std::string> now;
  for (size_t i = 0; i < out.size(); ++i) now[out[i].id] = std::string(1, char('A' + i));
  for (Light& l : out) {
    if (const auto at = now.find(l.group); at != now.end()) l.group = at->second;
    l.id = now[l.id];
  }
  return out;
}

std::vector<Light> movedTo(const Plan& plan, const std::string& id, size_t place) {
  std::vector<Light> out = plan.lights;
  const auto at = std::find_if(out.begin(), out.end(), [&](const Light& l) { return l.id == id; });
  if (at == out.end()) return out;
  const Light moved = *at;
  out.erase(at);
  out.insert(out.begin() + long(std::min(place, out.size())), moved);
  return out;
}

}  // namespace easel
