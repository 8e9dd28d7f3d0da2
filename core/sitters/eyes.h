// Eyes: globe, cornea and iris of a grown person, the same for every sitter, set where the lids of their mesh expect a
// ball and turned to where they look.
//
// Figures, all of means that differ little between grown people: globe 24 mm across (I. Bekerman, P. Gottlieb,
// M. Vaiman, "Variations in eyeball diameters of the healthy adults", J. Ophthalmology 2014: 24.2 transverse); front of
// the cornea 7.8 mm of radius (Y. Le Grand, S. El Hage, "Physiological Optics", 1980, the schematic eye); cornea 11.7
// mm from white to white (F. Rufer, A. Schroder, C. Erb, "White-to-white corneal diameter", Cornea 2005: 11.71). The
// axis of the eye stands 5 degrees outwards of the line of sight (angle kappa, F. Basmak and others, "Measurement of
// angle kappa with synoptophore and Orbscan II", J. Refractive Surgery 2007: 5.5 at most), which is why a catchlight of
// a lamp at the lens lies a little to the nose's side of the pupil. Values from memory.
//
// The package models a ball of 29 mm, and lids that lie on it. Where lids leave the eye bare both balls are within half
// a millimetre of one another; in the corners and under the lids the surface goes over to the package's.
//
// Local space of sitter.h, head unturned. Any thread.
#pragma once

#include <array>

#include "sitters/sitter.h"

namespace easel {

constexpr float kGlobe = 0.012f, kCornea = 0.0078f, kIris = 0.00585f;  ///< radii, metres
constexpr float kKappa = 5;                                            ///< degrees

/// Where one of the two looks, as far as it can: half degrees to the sitter's left and up, of the line of sight. Whole
/// numbers: a lens that is moved by a little leaves the eyes as they are.
struct EyeTurn {
  int left = 0, up = 0;
  bool operator==(const EyeTurn&) const = default;
  auto operator<=>(const EyeTurn&) const = default;
};
using Gaze = std::array<EyeTurn, 2>;  ///< of the left eye and of the right

/// How far eyes turn without the head, degrees: further, people move their head (common practice, no source).
constexpr float kAside = 35, kUp = 20, kDown = 25;

struct Eye {
  Vec3 centre;  ///< of the globe
  Frame frame;  ///< n: the axis of the eye, out of it
  /// Of the sphere that the cornea is a cap of.
  Vec3 corneaCentre() const;
  /// Middle of the iris where it meets the white.
  Vec3 iris() const;
};

/// Eyes of a sitter, left and right, that look so.
std::array<Eye, 2> eyesOf(const Sitter& sitter, const Gaze& gaze);
/// The turn by which an eye (0 left, 1 right) looks at a place; where that is further than eyes turn, aside or up and
/// down, as far as they do.
struct EyeAim {
  EyeTurn turn;
  bool aside = true, height = true;  ///< reached
};
EyeAim lookAt(const Sitter& sitter, size_t eye, Vec3 place);

/// Both eyes as meshes: the white with iris and pupil, textured like the package's, and the clear cornea.
struct EyeMeshes {
  MeshPart white, cornea;
};
EyeMeshes eyeMeshes(const Sitter& sitter, const std::array<Eye, 2>& eyes);

/// The ball that the lids of one side were modelled on: a sphere through the package's. Left first; on reading.
std::array<EyeSocket, 2> socketsOf(const Sitter& sitter);

}  // namespace easel
