#include "plan/check.h"

#include <algorithm>

#include "data/by_id.h"
#include "exposure/shutter.h"
#include "gear/gobo.h"
#include "gear/kit.h"
#include "gear/model.h"
#include "plan/gaze.h"
#include "plan/leaf.h"
#include "plan/placement.h"
#include "plan/subject.h"
#include "plan/sync.h"
#include "sitters/colouring.h"
#include "sitters/glasses.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "sitters/wardrobe.h"
#include "spoken/say.h"

namespace easel {

namespace {

// For the interface thread: a pattern that has not been tried yet is taken to be good until it has.
bool patternUsable(const std::string& id) {
  const GoboState s = goboState(id);
  return s == GoboState::Usable || s == GoboState::NotTried;
}

}  // namespace

bool hangsOver(const Plan& plan, Vec3 at) {
  return std::hypot(double(at.x), double(at.z)) < 0.5 && double(at.y) > plan.sitter.eyeHeight + 0.3;
}

namespace {

// One part of the plan after the other; each says what is wrong with it.
class Check {
 public:
  Check(const Plan& plan, const Spelling& spelling) : plan_(plan), spelling_(spelling) {}

  std::vector<Finding> all() {
    standing();
    sitter();
    materials();
    for (const Light& l : plan_.lights) light(l);
    for (const Panel& p : plan_.panels) panel(p);
    if (plan_.haze > 0)
      tell(Severity::Note, "air",
           say("Haze is on: ventilate, ask about asthma, and tell whoever minds the smoke detectors. The venue's rules "
               "decide."));
    shutter();
    return std::move(found_);
  }

 private:
  void standing();
  void sitter();
  void materials();
  void light(const Light& l);
  void fittings(const Light& l, const Unit* unit, const Modifier& modifier);
  void placeOf(const Light& l, const Modifier& modifier);
  void panel(const Panel& p);
  void placeOf(const Panel& p);
  void shutter();

  void tell(Severity s, std::string where, std::string sentence, std::string id = {}) {
    found_.push_back({s, std::move(where), std::move(sentence), std::move(id), false});
  }
  // Something that this kit or this program does not know is shown as something else.
  void leaveAside(std::string where, std::string sentence) {
    found_.push_back({Severity::Warning, std::move(where), std::move(sentence), {}, true});
  }
  std::string written(double metres) const { return spelling_.length(metres); }
  bool outside(Vec3 at) const {
    const Room& room = plan_.room;
    return std::abs(at.x) > room.width / 2 || at.z > room.depth - room.behind || at.z < -room.behind;
  }

  const Plan& plan_;
  const Spelling& spelling_;
  std::vector<Finding> found_;
};

void Check::standing() {
  const Room& room = plan_.room;
  const Camera& cam = plan_.camera;

  if (plan_.backdrop.distance <= 0.12)
    tell(Severity::Error, "backdrop",
         say("The backdrop is {} behind the sitter's axis, inside the head or in front of it. "
             "Put it at least {} behind.",
             written(plan_.backdrop.distance), written(0.2)));
  if (-plan_.backdrop.distance >= cam.distance)
    tell(Severity::Error, "backdrop",
         say("The backdrop is behind the camera. Give it a distance above {} behind the sitter.", written(0.2)));
  if (plan_.backdrop.distance > room.behind + 1e-6)
    tell(Severity::Warning, "backdrop",
         say("The backdrop at {} is beyond the wall at {}. Bring it nearer or deepen the room.",
             written(plan_.backdrop.distance), written(room.behind)));
  if (cam.distance > room.depth - room.behind + 1e-6)
    tell(Severity::Warning, "camera",
         say("The camera at {} is outside the room, which ends {} in front of the sitter.", written(cam.distance),
             written(room.depth - room.behind)));
  if (plan_.sitter.eyeHeight + 0.13 > room.height)
    tell(Severity::Warning, "sitter",
         say("The sitter's head is at the ceiling. Lower the eye height or raise the ceiling."));
}

void Check::sitter() {
  if (!findHairColour(plan_.sitter.hairColour))
    leaveAside("sitter", say("There is no hair colour \"{}\": the sitter's own is shown. Choose one on the Set page.",
                             plan_.sitter.hairColour));
  if (!byId(hairStyles(), plan_.sitter.hairStyle))
    leaveAside("sitter", say("There is no hair style \"{}\": the sitter's own is shown. Choose one on the Set page.",
                             plan_.sitter.hairStyle));
  if (!findOutfit(plan_.sitter.outfit))
    leaveAside("sitter", say("There is no outfit \"{}\": the sitter's own is shown. Choose one on the Set page.",
                             plan_.sitter.outfit));
  if (!findCloth(plan_.sitter.cloth))
    leaveAside("sitter", say("There is no cloth \"{}\": the sitter's own is shown. Choose one on the Set page.",
                             plan_.sitter.cloth));
  if (!findBeard(plan_.sitter.beard))
    leaveAside("sitter", say("There is no beard \"{}\": the sitter's own is shown. Choose one on the Set page.",
                             plan_.sitter.beard));
  if (!findExpression(plan_.sitter.expression))
    leaveAside("sitter", say("There is no expression \"{}\": the face is neutral. Choose one on the Set page.",
                             plan_.sitter.expression));
  if (const std::string& gaze = plan_.sitter.gaze;
      gaze != kLooksAtLens && gaze != kLooksAhead && gaze != kLooksAtLight && gaze != kLooksAtPoint)
    leaveAside("sitter",
               say("There is no gaze \"{}\": the sitter looks at the lens. Choose one on the Set page.", gaze));
  if (plan_.sitter.gaze == kLooksAtLight && !plan_.light(plan_.sitter.gazeLight))
    tell(Severity::Warning, "sitter",
         say("The sitter looks at light {}, which is not there: the eyes are at the lens. Choose another on the Set "
             "page.",
             plan_.sitter.gazeLight));
  if (!findHat(plan_.sitter.hat))
    leaveAside("sitter", say("There is no hat \"{}\": none is worn. Choose one on the Set page.", plan_.sitter.hat));
  if (!findPose(plan_.sitter.pose))
    leaveAside("sitter",
               say("There is no pose \"{}\": arms are at rest. Choose one on the Set page.", plan_.sitter.pose));
  if (!findClothColour(plan_.sitter.clothColour))
    leaveAside("sitter",
               say("There is no colour of clothes \"{}\": the sitter's own is shown. Choose one on the Set page.",
                   plan_.sitter.clothColour));
  if (!findGlasses(plan_.sitter.glasses))
    leaveAside("sitter", say("There are no glasses \"{}\": the sitter's own are shown. Choose some on the Set page.",
                             plan_.sitter.glasses));
  if (!findSkinTone(plan_.sitter.skinTone))
    leaveAside("sitter", say("There is no skin tone \"{}\": the sitter's own is shown. Choose one on the Set page.",
                             plan_.sitter.skinTone));
}

void Check::materials() {
  if (!findBackdrop(plan_.backdrop.material))
    leaveAside("backdrop", say("There is no backdrop material \"{}\": mid grey is shown. Choose one on the Set "
                               "page.",
                               plan_.backdrop.material));
  if (std::none_of(paints().begin(), paints().end(), [&](const auto& p) { return p.id == plan_.room.paint; }))
    leaveAside("room",
               say("There is no paint \"{}\": neutral walls are shown. Choose one on the Set page.", plan_.room.paint));
}

void Check::light(const Light& l) {
  const std::string where = lightSubject(l.id);
  const Unit* unit = findUnit(l.unit);
  const Modifier* modifier = findModifier(l.modifier);
  if (!unit)
    tell(Severity::Error, where,
         say("Light {} uses the unit \"{}\", which is not in the catalogue. Choose one that is.", l.id, l.unit));
  if (!modifier) {
    tell(
        Severity::Error, where,
        say("Light {} uses the modifier \"{}\", which is not in the catalogue. Choose one that is.", l.id, l.modifier));
    return;
  }
  fittings(l, unit, *modifier);
  placeOf(l, *modifier);
}

void Check::fittings(const Light& l, const Unit* unit, const Modifier& modifier) {
  const std::string where = lightSubject(l.id);
  if (!findGel(l.fittings.gel))
    leaveAside(where, say("Light {} has the gel \"{}\", which is not in the catalogue: none is shown. Choose one.",
                          l.id, l.fittings.gel));
  if (!findDiffusion(l.fittings.diffusion))
    leaveAside(where,
               say("Light {} has the diffusion \"{}\", which is not in the catalogue: none is shown. Choose one.", l.id,
                   l.fittings.diffusion));
  if (l.fittings.pattern != "none" && modifier.projects && !patternUsable(l.fittings.pattern))
    leaveAside(where, say("Light {} projects the gobo \"{}\", which is not here or cannot be read: a plain disc is "
                          "shown. Load it (On the light page) or choose another.",
                          l.id, l.fittings.pattern));
  if (l.fittings.gel != "none" && unit && unit->modellingWatts > 0)
    tell(Severity::Note, where,
         say("Light {} has a gel before a modelling lamp: gels scorch. Leave an air gap, turn the lamp down, and "
             "do not leave it alone.",
             l.id));
}

void Check::placeOf(const Light& l, const Modifier& modifier) {
  const std::string where = lightSubject(l.id);
  const LightPose pose = lightPose(plan_, l);
  const Vec3 head = sitterToStudio(plan_, {0, 0, 0.05f});
  // The modifier's front, as a disc of its half diagonal, against a head of 13 cm radius.
  const Vec3 to = head - pose.centre;
  const float along = dot(to, pose.frame.n);
  const float across = length(to - pose.frame.n * along);
  const double radius = std::hypot(modifier.width, modifier.height) / 2;
  if (std::abs(along) < 0.14 && across < radius + 0.10)
    tell(Severity::Error, where,
         say("Light {} stands inside the sitter's head. Move it to at least {}.", l.id, written(0.3)), "inside-sitter");
  const Vec3 c = pose.centre;
  if (c.y + 0.5 * modifier.height * std::abs(pose.frame.v.y) > plan_.room.height)
    tell(Severity::Warning, where,
         say("Light {} goes through the ceiling at {}. Lower it to {}.", l.id, written(plan_.room.height),
             written(plan_.room.height - 0.5 * modifier.height * std::abs(pose.frame.v.y))),
         "ceiling");
  if (c.y - 0.5 * modifier.height * std::abs(pose.frame.v.y) < 0)
    tell(Severity::Warning, where, say("Light {} goes through the floor. Raise it.", l.id), "floor");
  if (outside(c))
    tell(Severity::Warning, where, say("Light {} stands outside the room. Bring it nearer or widen the room.", l.id),
         "outside-room");
  if (c.z < -plan_.backdrop.distance && std::abs(c.x) < plan_.backdrop.width / 2 && c.y < plan_.backdrop.height)
    tell(Severity::Warning, where,
         say("Light {} stands behind the backdrop, which keeps its light from the sitter. Bring it "
             "in front, or move the backdrop back beyond {}.",
             l.id, written(-c.z + 0.3)),
         "behind-backdrop");
  if (hangsOver(plan_, c))
    tell(Severity::Note, where,
         say("Light {} hangs over the sitter: boom with counterweight, safety line and sandbag, and nobody under it "
             "while it is moved. Local rules decide.",
             l.id),
         "boom");
}

void Check::panel(const Panel& p) {
  const std::string where = panelSubject(p.id);
  if (!findPanelKind(p.kind))
    leaveAside(where, say("{} is a \"{}\", which is not in the catalogue: a plain board is shown. Choose one that is.",
                          calledFirst(p), p.kind));
  for (const std::string& finish : {p.front, p.back})
    if (!findFinish(finish))
      leaveAside(where, say("{} has the finish \"{}\", which is not in the catalogue: grey is shown. Choose another.",
                            calledFirst(p), finish));
  const PanelShape shape = shapeOf(p.kind);
  if (takesPattern(shape) && !patternUsable(p.pattern))
    leaveAside(where, say("{} needs the pattern \"{}\", which is not here or cannot be read: it is shown without it. "
                          "Load it or choose another.",
                          calledFirst(p), p.pattern));
  if (shape == PanelShape::Object && !modelThere(p.model))
    leaveAside(where, p.model.empty() ? say("{} has no mesh yet: a block is shown. Load an OBJ file.", calledFirst(p))
                                      : say("{} needs the mesh \"{}\", which is not here or cannot be read: a block is "
                                            "shown. Load it or choose another.",
                                            calledFirst(p), p.model));
  if (p.on) placeOf(p);
}

void Check::placeOf(const Panel& p) {
  const std::string where = panelSubject(p.id);
  const Vec3 lens = cameraPose(plan_).eye, face = facePoint(plan_), head = sitterToStudio(plan_, {0, 0, 0.02f});
  bool between = false, inside = false, outdoors = false;
  for (const Leaf& l : outlinesOf(p)) {
    auto within = [&](Vec3 q) {
      const Vec3 d = q - l.centre;
      return std::abs(dot(d, l.frame.u)) < l.halfWidth && std::abs(dot(d, l.frame.v)) < l.halfHeight;
    };
    const float a = dot(lens - l.centre, l.frame.n), b = dot(face - l.centre, l.frame.n);
    between |= a * b < 0 && within(lens + (face - lens) * (a / (a - b)));
    inside |= std::abs(dot(head - l.centre, l.frame.n)) < 0.09f && within(head);
    outdoors |= outside(l.centre);
  }
  if (inside)
    tell(Severity::Warning, where,
         say("{} stands inside the sitter's head. Move it at least {} out.", calledFirst(p), written(0.3)));
  else if (between)
    tell(Severity::Warning, where,
         say("{} stands between the lens and the face: the picture shows it instead. Move it aside, or "
             "lower it.",
             calledFirst(p)),
         "panel-in-frame");
  if (outdoors)
    tell(Severity::Warning, where,
         say("{} stands outside the room. Bring it nearer or widen the room.", calledFirst(p)));
  if (findPanelKind(p.kind) && p.height >= 1.8 && shapeOf(p.kind) != PanelShape::Photographer)
    tell(Severity::Note, where,
         say("{} is {} tall: two stands or weights on its foot, and none of them in a draught.", calledFirst(p),
             written(p.height)));
}

void Check::shutter() {
  const Camera& cam = plan_.camera;
  std::string hidden, pulsed;
  for (const Light& l : plan_.lights)
    if (const Unit* u = findUnit(l.unit); u && l.on) {
      const Sync s = syncOf(*u, cam);
      std::string& list = s == Sync::Band ? hidden : pulsed;
      if (s != Sync::Whole) list += (list.empty() ? "" : ", ") + l.id;
    }
  if (!hidden.empty())
    tell(Severity::Warning, "camera",
         curtainsCross(cam)
             ? say("The shutter at {} is faster than the sync speed {}: {:.0f} % of the picture, on its right, gets no "
                   "flash from {}. Use {} or slower, or a unit with high-speed sync.",
                   writeShutter(cam.shutter), writeShutter(cam.syncShutter), std::max(1.0, 100 * darkBand(cam)), hidden,
                   writeShutter(cam.syncShutter))
             : say("The shutter at {} is faster than the sync speed {}: {:.0f} % of the picture, at its foot, gets no "
                   "flash from {}. Use {} or slower, or a unit with high-speed sync.",
                   writeShutter(cam.shutter), writeShutter(cam.syncShutter), std::max(1.0, 100 * darkBand(cam)), hidden,
                   writeShutter(cam.syncShutter)),
         "sync");
  if (!pulsed.empty())
    tell(Severity::Note, "camera",
         say("High-speed sync at {} for {}: light falls with the shutter time as a lamp's does, the unit empties and "
             "heats faster, and pulses flicker like one. {} gives all of the flash.",
             writeShutter(cam.shutter), pulsed, writeShutter(cam.syncShutter)));
}

}  // namespace

std::vector<Finding> checkPlan(const Plan& plan, const Spelling& spelling) { return Check(plan, spelling).all(); }

}  // namespace easel
