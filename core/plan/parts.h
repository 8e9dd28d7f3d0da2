// What a plan is made of: room, sitter, camera, backdrop, lights, panels, each as a photographer would write it down.
//
// Units: metres, degrees, kelvin, seconds; power in stops below full. Places are given by the clock: the sitter is the
// hub, the camera at 6 o'clock, the backdrop at 12. Ranges stand in docs/formats/plan.schema.json and are checked on
// loading. `extra` members keep unknown fields of a file as JSON text, so that they survive a round trip.
#pragma once

#include <cmath>
#include <string>

#include "exposure/meter.h"
#include "gear/fittings.h"
#include "sitters/sitter.h"

namespace easel {

struct Room {
  double width = 4.0;   ///< across, centred on the sitter [m]
  double depth = 5.5;   ///< along 12-6 o'clock [m]
  double height = 2.6;  ///< floor to ceiling [m]
  double behind = 2.5;  ///< wall behind the backdrop, distance from the sitter [m]
  double wallReflectance = 0.35, floorReflectance = 0.20, ceilingReflectance = 0.55;
  std::string paint = "neutral";  ///< of the walls: gear/panel_kinds.h
  std::string extra;
  bool operator==(const Room&) const = default;
};

/// SitterPlace::gaze.
inline constexpr const char *kLooksAtLens = "lens", *kLooksAhead = "ahead", *kLooksAtLight = "light",
                            *kLooksAtPoint = "point";

struct SitterPlace {
  std::string id = "ottoline";
  double eyeHeight = 1.25;         ///< floor to eyes [m]: seated about 1.2, standing about 1.6
  double turn = 0;                 ///< head, degrees to the sitter's left (camera right)
  double tilt = 0, nod = 0;        ///< head, degrees
  std::string hairColour = "own";  ///< sitters/colouring.h
  std::string hairStyle = "own";   ///< an id of hairStyles()
  std::string skinTone = "own";    ///< sitters/colouring.h
  std::string outfit = "own", cloth = "own", clothColour = "own";  ///< sitters/wardrobe.h
  std::string beard = "own";                                       ///< an id of beards()
  std::string glasses = "own";                                     ///< sitters/glasses.h
  double templesUp = 0;                                            ///< degrees that their temples sit higher
  std::string pose = "relaxed";                                    ///< of arms and hands: an id of poses()
  std::string expression = "neutral", hat = "none";                ///< ids of expressions() and hats()
  double hatBack = 0;                                              ///< degrees that the hat is tipped back
  double shoulders = 0;       ///< degrees that the body is turned to the sitter's left, apart from the head
  double lean = 0;            ///< degrees that the trunk leans forward
  std::string gaze = "lens";  ///< where the eyes look: plan/gaze.h
  std::string gazeLight;      ///< id of the light, when it is a light
  double gazeHour = 6, gazeDistance = 2, gazeHeight = 1.5;  ///< the place, when it is one: as a light's
  std::string extra;
  bool operator==(const SitterPlace&) const = default;
};

struct Camera {
  double distance = 2.0;                       ///< lens to the sitter's axis, horizontally [m]
  double height = 1.30;                        ///< of the lens [m]
  double focalLength = 85;                     ///< mm
  double sensorWidth = 24, sensorHeight = 36;  ///< mm, as held (upright picture: width < height)
  double frame = 0.8;                          ///< the picture's width over its height
  double aimBelowEyes = 0.07;                  ///< picture centre below the eyes [m]
  double iso = 100;
  double shutter = 1.0 / 160;      ///< s
  double syncShutter = 1.0 / 200;  ///< shortest time that synchronises with flash [s]
  double aperture = 8;             ///< target aperture, exact f-number: what the lights are balanced round
  double closedBy = 0;             ///< stops that the lens is closed beyond it, when set to the sum of all lights
  double whiteBalance = 5600;      ///< K
  bool extends = true;             ///< the lens moves out as it focuses: plan/lens.h
  std::string extra;

  double shootingAperture() const { return aperture * std::exp2(closedBy / 2); }
  bool operator==(const Camera&) const = default;
};

struct Backdrop {
  double distance = 1.8;             ///< behind the sitter's axis [m]
  double width = 2.7, height = 2.5;  ///< [m]
  std::string material = "canvas-grey";
  std::string extra;
  bool operator==(const Backdrop&) const = default;
};

struct Ambient {
  double lux = 15;  ///< illuminance of the unlit room at the face
  double kelvin = 4000;
  std::string extra;
  bool operator==(const Ambient&) const = default;
};

enum class Role { Key, Fill, Hair, Rim, Kicker, Background, Other };

struct Light {
  std::string id;  ///< "A", "B" ...: the letter, unique in the plan
  std::string name;
  Role role = Role::Key;
  std::string group = "A";  ///< trigger group
  std::string unit = "mains-400", modifier = "octa-90";
  Fittings fittings;      ///< gel, ND, diffusion, grid
  double hour = 4.5;      ///< clock place, (0, 12]
  double distance = 1.1;  ///< horizontally from the sitter's axis to the front of the modifier [m]
  double height = 1.75;   ///< of the modifier's centre above the floor [m]
  double pan = 0;         ///< feather: turned off the aim, degrees, > 0 clockwise seen from above
  double tiltOffset = 0;  ///< turned up from the aim, degrees
  double power = -3;      ///< stops below full
  bool on = true;
  bool modelling = false;  ///< its modelling lamp burns on while the shutter is open
  double targetStops = 0;  ///< wanted level against the key
  bool locked = false;     ///< place, modifier, unit and power are not to be changed
  /// Panel or piece that it is there for: aimed at and metered there. Empty: the sitter, or the backdrop by its role.
  std::string worksOn;
  std::string inside;  ///< a lamp's shade that it burns in: one moves with the other. Empty: none
  std::string extra;
  bool operator==(const Light&) const = default;
};

/// A board, flag, reflector, scrim ... or a piece of the set: gear/panel_kinds.h. Upright, its front towards the
/// sitter's axis, then turned and tilted off that.
struct Panel {
  std::string id;  ///< "1" .. "16", unique in the plan
  std::string name;
  std::string kind = "board";
  std::string front = "white", back = "white";  ///< finishes
  double width = 1, height = 0.7;               ///< of one leaf [m]
  double fold = 90;                             ///< V-flat: angle between its leaves [degrees], 180 flat
  double gap = 0.05;                            ///< slit: between its boards [m]
  std::string pattern = "branch";               ///< cut-out, and what is painted on a picture: gear/gobo.h
  double depth = 0.5;                           ///< set pieces: front to back; a shade's foot [m]
  double openWidth = 0.8, openHeight = 2;       ///< of the opening in a flat [m]
  double sill = 0;                              ///< the opening above the flat's foot [m]
  double reflectance = 0;                       ///< of its front, 0..0.95; 0: the finish's own
  std::string model;                            ///< an object's mesh: a file in the user's folder of models
  double hour = 8, distance = 0.8;              ///< clock place, horizontally from the sitter's axis to its centre [m]
  double above = 1.1;                           ///< its centre above the floor [m]
  double turn = 0;                              ///< off facing the sitter, degrees, > 0 clockwise seen from above
  double tilt = 0;                              ///< front turned up, degrees; 90: it lies and looks up
  bool on = true;                               ///< in the set; off: carried out
  bool locked = false;
  std::string extra;
  bool operator==(const Panel&) const = default;
};
constexpr size_t kMostPanels = 16;

/// A place where the user holds the meter: studio space, as the head stood when it was pinned.
struct PinnedSpot {
  std::string id, name;
  double x = 0, y = 0, z = 0;     ///< [m]
  double nx = 0, ny = 0, nz = 1;  ///< the receptor's normal, unit
  bool onHead = false;            ///< turns and tilts with the head: kept in the sitter's own space, head unturned
  Receptor receptor = Receptor::Flat;
  std::string extra;
  bool operator==(const PinnedSpot&) const = default;
};

/// Where the receptor looks when it is held at the face.
enum class MeterAim { Light, Camera };

/// "key", as in the file.
const char* roleName(Role role);
bool roleFromName(const std::string& name, Role& role);
constexpr int kRoleCount = 7;

}  // namespace easel
