// The quality of a light on this face, measured: how wide its shadow edge is, how it falls off, how evenly it lies.
//
// Measured on the sitter's own mesh with the light alone, at the point meter's accuracy; never from the picture.
// Lengths in millimetres on the skin, differences in stops. Soft or hard is the width of the nose's shadow edge: the
// distance over which the share of the light that is seen grows from 10 to 90 %, square to the edge, against how far
// the shadow is thrown there: a front that is wide across one edge and narrow across another is soft and hard at once.
#pragma once

#include <string>
#include <vector>

#include "placed/placed_set.h"
#include "transport/emitter.h"
#include "transport/interrupt.h"
#include "transport/scene.h"

namespace easel {

/// What is so wide fills so many degrees seen from so far off; any one length.
double seenAngle(double across, double distance);
/// A front, from corner to corner, as LightAnswer::apparentSize has it [degrees]; metres.
double seenAngle(const Modifier& front, double distance);

/// The edge of a shadow on the skin.
struct ShadowEdge {
  enum class Kind {
    None,   ///< the light throws no shadow of the nose that the camera's side of the face shows
    Edge,   ///< `width` from 10 to 90 %
    Wider,  ///< never quite dark: softer than `width`, which is how far it was followed
    Merges  ///< runs into the shadow side of the cheek before it is over
  } kind = Kind::None;
  double width = 0;  ///< mm, of an Edge square to it
  /// Of an Edge: from what throws it to the skin, towards the middle of the light [mm]; 0: not found.
  double thrown = 0;
  /// Of an Edge, how it runs as the face is seen from before: degrees, 0 upright .. 90 level, whichever way it leans.
  double lean = 0;
  /// Width that similar triangles give it: the front's width across the edge times thrown / distance, laid on the skin
  /// as it stands there; 10 to 90 % of an even front [mm]. 0: not found.
  double expected = 0;
  /// Width of the light as seen from the skin, across the edge and along it [degrees].
  double across = 0, along = 0;

  enum class Firmness { Hard, Firm, Soft, VerySoft };
  /// By width against what it is thrown over, which is the light's; by width alone where that is not known. Common
  /// practice, no source: 4, 10 and 20 mm at 30 mm from the nose.
  Firmness firmness() const;
};

struct LightQuality {
  std::string light;
  double apparentSize = 0;    ///< degrees from the face
  double wide = 0, tall = 0;  ///< the same from side to side and from top to bottom: across upright and level edges
  ShadowEdge nose;
  double cheekToCheek = 0;    ///< near cheek over far cheek by distance and angle to the modifier alone, stops, >= 0
  double foreheadToChin = 0;  ///< forehead over chin, the same way, stops, signed
  double backdrop = 0;        ///< backdrop behind the head against the face, stops
  double panels = 0;          ///< stops that panels add at the face
  std::vector<std::string> words;  ///< what it is, and what would change it
};

/// Follows a shadow over the skin: places hit by rays along -`forward` from over `tip` + t `along`, t from 4 mm to
/// `far` [m]. What is dark because the skin turns away is no thrown shadow.
ShadowEdge followShadow(const Scene& scene, const Emitter& emitter, Vec3 tip, Vec3 forward, Vec3 along,
                        float far = 0.075f);

/// Follows the shadow of the nose over the skin, away from the light.
ShadowEdge noseShadowEdge(const Scene& scene, const PlacedSet& set, const PlacedLight& light);

/// For every light of the plan that has a unit and a modifier. Some 10 ms a light, on all cores; a raised interrupt
/// leaves out those that are not done.
std::vector<LightQuality> lightQualities(const Scene& scene, const PlacedSet& set, const Interrupt& interrupt = {});

}  // namespace easel
