// What skin does with light: how far it wanders inside, where it shines, what the shine leaves.
//
// Light that enters skin comes out about by the profile of P. Christensen and B. Burley, "Approximate reflectance
// profiles for efficient subsurface scattering", 2015: R(r) = (exp(-r/d) + exp(-r/3d)) / (8 pi d r), with d = l / s,
// s = 1.9 - A + 3.5 (A - 0.8)^2 for light from everywhere. Mean free path l and albedo A are those of "skin1" in H.
// Jensen and others, "A practical model for subsurface light transport", 2001 (values from memory). Any thread.
#pragma once

#include <array>

#include "geometry/vec.h"
#include "sitters/sitter.h"

namespace easel {

/// d of the profile by channel, metres: 0.68, 0.33, 0.20 mm.
const std::array<float, 3>& skinScatter();
/// Share of the light that comes out within `x` to one side of a line through where it went in, d = 1: 0 to 1/2. The
/// profile summed along lines is (K0(x) + K0(x/3)) / 4 pi.
float scatteredWithin(float x);

/// Share of the oily lobe in skin's sheen at a place of the head, unturned: forehead, nose, lips and chin shine, cheeks
/// and neck less (common practice, no source).
float oilAt(Vec3 rest, const Landmarks& landmarks);
/// Share of the light on one side of skin so thick [m] that comes out on the other, by channel: J. Jimenez and others,
/// "Real-time realistic skin translucency", 2010, with the six Gaussians of E. d'Eon and D. Luebke (2007), values from
/// memory.
Vec3 throughSkin(float thickness);

/// What sheen leaves of light from everywhere for the even part, seen up to 40 degrees off straight on (a test holds
/// it).
constexpr float kSkinGivesOn = 0.965f;

}  // namespace easel
