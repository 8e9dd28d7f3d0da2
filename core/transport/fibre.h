// What a strand of hair makes of light: a rough dielectric cylinder with an absorbing core and tilted scales.
//
// Four ways through it (mirrored R, through TT, mirrored inside TRT, and all further ones) of M. Chiang, B. Bitterli,
// C. Tappan, B. Burley, "A practical and controllable hair and fur model for production path tracing", Computer
// Graphics Forum 35(2), 2016, after S. Marschner and others (SIGGRAPH 2003) and E. d'Eon and others (EGSR 2011),
// averaged over the width of the strand. What strands beside it send on: A. Zinke and others, "Dual scattering
// approximation for fast multiple scattering in hair", SIGGRAPH 2008: light goes forward from strand to strand, and a
// part comes back.
//
// Directions are units that lead away from the strand. Linear Rec. 709. Immutable once built (some milliseconds), any
// thread.
#pragma once

#include <array>
#include <vector>

#include "geometry/vec.h"

namespace easel {

class Fibre {
 public:
  struct Surface {
    float along = 0.28f;   ///< roughness along the strand, 0..1
    float around = 0.32f;  ///< and round it
    float tilt = 2.5f;     ///< of the scales, degrees: their normals lean towards the root
    float beside = 0.7f;   ///< how densely others lie about it; 0: a strand by itself
  };
  /// `absorption` [1 / radius of the strand]; `reflectance` is that of a mass of such hair, which meant() tells again.
  Fibre(Vec3 absorption, Vec3 reflectance, Surface surface);
  Fibre(Vec3 absorption, Vec3 reflectance) : Fibre(absorption, reflectance, Surface()) {}

  /// Which absorption gives a mass of hair that reflectance: equation 9 of Chiang and others.
  static Vec3 absorptionOf(Vec3 reflectance);
  /// Of the two pigments, in the units of d'Eon and others (2011): dark hair has 8 of eumelanin, blond 0.3.
  static Vec3 absorptionOf(double eumelanin, double pheomelanin);

  /// Radiance that leaves towards the eye per unit of illuminance across the way to the light [1/sr].
  struct Sent {
    Vec3 coloured;       ///< what has been inside
    float mirrored = 0;  ///< what has not
  };
  /// `along` from root to tip.
  Sent sent(Vec3 along, Vec3 toEye, Vec3 toLight) const;

  /// Transmittance forward through one strand.
  float passes() const { return passes_; }
  /// The colour that light has taken on when so much of it has passed strands; its luminance is about 1.
  Vec3 tinted(float passed) const;
  /// Luminance of the reflectance that it was made for.
  float meant() const { return meant_; }
  /// Extinction across the strand [1 / its radius].
  Vec3 absorption() const { return absorption_; }

 private:
  static constexpr int kSlants = 16, kTurns = 48;
  struct Around {  // by lobe: what goes that way round the strand, per radian
    Vec3 through, inside, further;
    float mirrored = 0;
  };
  const Around& row(int slant, int turn) const { return table_[size_t(slant) * (kTurns + 1) + size_t(turn)]; }

  Surface surface_;
  Vec3 absorption_, back_, byOne_;
  struct Lobe {
    float variance = 0, norm = 0;  // along the strand
    float sinLean = 0, cosLean = 1;
  };
  std::array<Lobe, 4> lobes_;  // mirrored, through, inside, further
  float passes_ = 0, meant_ = 1;
  std::vector<Around> table_;  // slant of the way to the eye (its sine), turn from the light
};

}  // namespace easel
