// What stands round the lights: boards, V-flats, hand reflectors, flags, slits, cut-outs, scrims, the photographer, and
// the pieces of a set: table, stool, chair, block, walls with an opening, a picture, a lamp's shade, a branch.
//
// A panel gives no light of its own. Its finishes say what they do with light that falls on them: reflect it diffusely,
// reflect it along the mirror direction more or less widely (crinkled silver), or let it through scattered (scrim).
// Shares of the light that arrives, linear Rec. 709, 0..1; diffuse + gloss + through never exceed 1.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "geometry/vec.h"

namespace easel {

struct Finish {
  std::string id, name;
  Vec3 diffuse{0.5f, 0.5f, 0.5f};
  Vec3 gloss{0, 0, 0};
  float roughness = 0.35f;  ///< of the gloss: alpha of the microfacet lobe, 0.25..0.6
  float through = 0;        ///< scattered to the other side
  float grain = 0;          ///< how much wood differs along its grain, 0..1; the mean is as said
  std::string source;
};
const std::vector<Finish>& finishes();
/// nullptr when there is none of that id.
const Finish* findFinish(std::string_view id);

enum class PanelShape {
  Board,         ///< width x height
  Fold,          ///< two boards of that size hinged upright, opening towards the sitter
  Disc,          ///< width = diameter
  Slit,          ///< two boards of that size, side by side with a gap between
  CutOut,        ///< a board with a pattern cut out of it
  Photographer,  ///< somebody standing there, `height` tall
  // Set pieces, which the picture may show. They stand on the floor unless `above` lifts them; `height` is that of all.
  Table,    ///< top of width x depth, front finish; legs and underside in the back one
  Stool,    ///< round seat of that width
  Chair,    ///< seat of width x depth, half as high as the whole
  Block,    ///< a plinth, crate or box of width x height x depth
  Doorway,  ///< a flat of wall with an opening: openWidth x openHeight, `sill` above its foot
  Window,   ///< the same with a cross of bars in it
  Picture,  ///< framed, hung: `depth` thick; the pattern is what is painted, in the back finish on the front one
  Shade,   ///< round a lamp: six faces of cloth or paper, those to the front in the front finish; a foot below, `depth`
           ///< tall
  Branch,  ///< leafy, of that width and height
  Object,  ///< the user's own mesh (gear/model.h), of that height; without one a block
};

/// What can be put up, with its usual size and finish.
struct PanelKind {
  std::string id, name;
  PanelShape shape = PanelShape::Board;
  double width = 1, height = 1;                                   ///< m, of one leaf
  std::string front, back;                                        ///< finishes; the front looks at the sitter
  double above = 0;                                               ///< usual height of its centre above the floor [m]
  double kilograms = 0;                                           ///< 0: not known
  double depth = 0.5, openWidth = 0.8, openHeight = 2, sill = 0;  ///< usual, of set pieces [m]
  std::string use;                                                ///< in a line
};
/// Whether it is a piece of the set, which the picture may show.
constexpr bool isPiece(PanelShape s) { return s >= PanelShape::Table; }
/// Whether a drawing is cut out of it or painted on it.
constexpr bool takesPattern(PanelShape s) { return s == PanelShape::CutOut || s == PanelShape::Picture; }
const std::vector<PanelKind>& panelKinds();
const PanelKind* findPanelKind(std::string_view id);
/// Of the kind of that id; a board when there is none.
PanelShape shapeOf(std::string_view kind);

/// Paint of walls: their colour at luminance 1 (multiplied by the room's reflectance).
struct Paint {
  std::string id, name;
  Vec3 colour{1, 1, 1};
};
const std::vector<Paint>& paints();
/// Neutral when there is none of that id.
Vec3 paintColour(std::string_view id);

}  // namespace easel
