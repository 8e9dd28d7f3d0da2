// How hair is worn: what a style says, as data (docs/formats/people.md).
//
// Lengths in metres. Weights of the combing add up to whatever they do: only their proportions count.
#pragma once

#include <array>
#include <string>

#include "geometry/vec.h"

namespace easel {

struct HairStyle {
  std::string id, name;

  int strands = 0;                           ///< 0: shaved
  double thickness = 0.00014;                ///< of a strand; one of ours stands for several hairs side by side
  std::array<double, 4> length{0, 0, 0, 0};  ///< on top, in front, at the sides, behind
  double varied = 0.15;                      ///< share of the length by which strands differ
  /// A cut that tapers: at sides and nape the length at the hairline, and over how many metres from there it reaches
  /// its own. 0: it does not.
  double edge = 0, taper = 0;
  double cutAt = 0;       ///< metres below the eyes where it is cut off; 0: it is not
  double bald = 0;        ///< 0..1: how far down from the crown nothing grows
  double lift = 0.3;      ///< 0: it leaves the scalp flat, 1: straight out
  double volume = 0.012;  ///< how thick it lies on the head
  double gravity = 0.5;   ///< how soon it hangs

  struct Combing {
    double back = 0, down = 0, forward = 0, aside = 0, whorl = 0, tie = 0;
    bool operator==(const Combing&) const = default;
  } combing;        ///< which way: away from the parting is aside, away from the crown whorl, to the knot tie
  double part = 0;  ///< of the parting: metres to the sitter's left of the middle
  double knot = 0;  ///< of the knot: metres above the eyes, behind

  int clumps = 300;          ///< in how many locks
  double clumping = 0.3;     ///< 0..1: how much they keep together towards their tips
  double wave = 0;           ///< how far locks swing to either side
  double waveLength = 0.05;  ///< from one swing to the next
  double coil = 0;           ///< radius of each strand's own coil
  double coilLength = 0.01;  ///< of one turn along the lock
  double frizz = 0.02;       ///< how far strands stray
};

/// What grows on cheeks, lip and chin.
struct Beard {
  std::string id, name;
  int strands = 0;                       ///< 0: shaved
  double thickness = 0.00012;            ///< metres
  double length = 0.001, varied = 0.2;   ///< metres; share by which strands differ
  double cheeks = 1, lip = 1, chin = 1;  ///< 0..1: how thick it grows there
  double curl = 0;                       ///< metres that strands swing
};

}  // namespace easel
