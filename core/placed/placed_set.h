// The placed set: a plan as it stands in the studio, with its gear out of one catalogue. Poses in metres, heads and
// modifiers resolved, patterns and meshes read, leaves of boards and pieces, what works on what, the camera.
//
//   const PlacedSet set = placedSetOf(plan);
//   const Scene scene(set, loadSitter(set.sitter.id));
//   const Answers answers = computeAnswers(scene, set);
//
// A value, built once for each change of a plan and then shared: light, meter, picture and reading take it and go back
// neither to the plan nor to the catalogue, so that one computation never sees two kits or two poses. Lights and panels
// stand in the order of the plan, those that are off and those of unknown gear too. Any thread. placedSetOf() takes
// some microseconds a light; a pattern or mesh of the user's is read from the disk the first time.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "gear/catalogue.h"
#include "gear/gobo.h"
#include "gear/model.h"
#include "plan/lamp.h"
#include "plan/leaf.h"
#include "plan/parts.h"
#include "plan/pose.h"

namespace easel {

struct Plan;

struct PlacedLight {
  Light light;               ///< as the plan says it
  std::optional<Lamp> lamp;  ///< empty: unit or modifier are not known; it gives no light
  LightPose pose;
  bool onLens = false;                  ///< round the lens: its place is the camera's
  std::shared_ptr<const Gobo> pattern;  ///< that it projects; null: none
  double focus = 0;                     ///< from the front to where the pattern is sharp [m]
  double distance = 0;                  ///< front to face point, straight [m]
  double elevation = 0;                 ///< of that line above the horizontal at the face [degrees]
  int worksOn = -1;                     ///< panel that it is there for, when that is in the set: index; -1: none

  /// Whether it is known and on: the one test of who gives light.
  bool burns() const { return light.on && lamp; }
  /// Of the lamp at its power; nothing of an unknown one.
  LampEnergy gives(const Camera& camera) const { return lamp ? lamp->gives(light.power, camera) : LampEnergy{}; }
  double energy(const Camera& camera) const { return gives(camera).total(); }
};

struct PlacedSet {
  Room room;
  SitterPlace sitter;
  std::optional<Vec3> lookedAt;  ///< by the sitter's eyes; empty: straight ahead
  Vec3 face;                     ///< that lights aim at: between the eyes and the nose
  Camera camera;
  CameraPose cameraPose;  ///< of the plan's own frame
  Backdrop backdrop;
  Ambient ambient;
  double haze = 0;  ///< extinction [1/m]
  Receptor receptor = Receptor::Flat;
  MeterAim meterAim = MeterAim::Light;
  std::vector<PinnedSpot> spots;
  std::vector<PlacedLight> lights;
  std::vector<Panel> panels;
  std::vector<Leaf> leaves;                          ///< of the panels that are in the set
  std::vector<std::shared_ptr<const Model>> models;  ///< by panel; null where no mesh stands

  /// nullptr when there is none of that letter.
  const PlacedLight* light(const std::string& id) const;
  /// The first key that gives light; nullptr: none does.
  const PlacedLight* key() const;
  const Panel* workedOn(const PlacedLight& l) const { return l.worksOn < 0 ? nullptr : &panels[size_t(l.worksOn)]; }
  /// Illuminance of the room over the time of the exposure [lx s].
  double ambientExposure() const { return ambient.lux * camera.shutter; }
};

PlacedSet placedSetOf(const Plan& plan, const Catalogue& catalogue = Catalogue::inUse());
/// One light of it with other settings and the same gear on it: for searches that try many places.
PlacedLight placedAs(const PlacedSet& set, const PlacedLight& like, const Light& now);
/// The set without one of its panels; every light stays aimed as it was.
PlacedSet without(const PlacedSet& set, size_t panel);

/// Whether the same panels stand in the same places, of the same patterns and meshes.
bool samePanels(const PlacedSet& a, const PlacedSet& b);
/// Whether what the light leaves from is the same and stands alike: gel, ND, power and switch only weigh its light.
bool sameSource(const PlacedLight& a, const PlacedLight& b);

}  // namespace easel
