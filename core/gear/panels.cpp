#include "gear/panels.h"

#include "gear/by_id.h"

namespace easel {

const std::vector<Finish>& finishes() {
  const char* memory = "from memory";
  static const std::vector<Finish> all = {
      {"white", "White", {0.85f, 0.85f, 0.84f}, {}, 0.35f, 0, "matt white board 0.80 to 0.88, from memory"},
      {"black", "Black", {0.035f, 0.035f, 0.035f}, {}, 0.35f, 0, "painted foam board, from memory"},
      {"cloth-black", "Black cloth", {0.02f, 0.02f, 0.02f}, {}, 0.35f, 0, "duvetyn, from memory"},
      {"grey", "Grey", {0.18f, 0.18f, 0.18f}, {}, 0.35f, 0, "18 % by definition of mid grey"},
      {"silver",
       "Silver",
       {0.14f, 0.14f, 0.14f},
       {0.66f, 0.66f, 0.67f},
       0.32f,
       0,
       "crinkled aluminium reflects 0.8 in all, most of it near the mirror direction: from memory"},
      {"gold", "Gold", {0.15f, 0.11f, 0.05f}, {0.70f, 0.53f, 0.24f}, 0.32f, 0, memory},
      {"scrim",
       "Diffusion cloth",
       {0.32f, 0.32f, 0.32f},
       {},
       0.35f,
       0.50f,
       "about a stop through, a third thrown back: from memory"},
      {"scrim-thin",
       "Diffusion cloth, thin",
       {0.20f, 0.20f, 0.20f},
       {},
       0.35f,
       0.68f,
       "about half a stop through, from memory"},
      {"clothes", "Dark clothes", {0.06f, 0.06f, 0.065f}, {}, 0.35f, 0, memory},
      {"wood", "Pale spruce", {0.52f, 0.40f, 0.25f}, {}, 0.35f, 0, memory},
  };
  return all;
}

const std::vector<PanelKind>& panelKinds() {
  using S = PanelShape;
  static const std::vector<PanelKind> all = {
      {"v-flat", "V-flat", S::Fold, 1.2, 2.4, "white", "black", 1.2,
       "White fills a whole side softly; black takes light away."},
      {"board", "Board", S::Board, 1.0, 0.7, "white", "white", 1.1, "A small white fill near the face."},
      {"reflector", "Hand reflector", S::Disc, 0.8, 0.8, "silver", "white", 0.9,
       "Silver is crisp and strong, white is soft."},
      {"flag", "Flag", S::Board, 0.6, 0.9, "cloth-black", "cloth-black", 1.6, "Keeps light off something."},
      {"cloth", "Black cloth", S::Board, 2.0, 2.4, "cloth-black", "cloth-black", 1.2,
       "Deepens the shadow side; stops bounce."},
      {"slit", "Slit between two boards", S::Slit, 1.2, 2.4, "black", "black", 1.2, "Lets a line of light through."},
      {"cut-out", "Cut-out or branch", S::CutOut, 1.0, 1.0, "black", "black", 1.6,
       "Breaks the light on a wall; nearer the lamp is softer."},
      {"scrim", "Scrim", S::Board, 3.6, 3.6, "scrim", "scrim", 1.8,
       "One or two units fire through it: a wall of light."},
      {"scrim-small", "Scrim, small", S::Board, 1.2, 1.8, "scrim", "scrim", 1.6, "Softens a bare unit or the sun."},
      {"photographer", "The photographer", S::Photographer, 0.5, 1.75, "clothes", "clothes", 0.875,
       "Stands before a large box and takes a bite out of it."},
  };
  return all;
}

const std::vector<Paint>& paints() {
  // Colours by eye, each scaled to luminance 1.
  static const std::vector<Paint> all = [] {
    std::vector<Paint> p = {
        {"neutral", "neutral", {1, 1, 1}},          {"cream", "cream", {1.12f, 1.0f, 0.72f}},
        {"brick", "brick red", {1.9f, 0.8f, 0.6f}}, {"sage", "sage green", {0.85f, 1.07f, 0.75f}},
        {"blue", "blue", {0.6f, 1.0f, 1.9f}},       {"spruce", "pale spruce", {1.25f, 0.97f, 0.62f}}};
    for (Paint& q : p) q.colour = q.colour / luminance(q.colour);
    return p;
  }();
  return all;
}

const Finish* findFinish(std::string_view id) { return byId(finishes(), id); }
const PanelKind* findPanelKind(std::string_view id) { return byId(panelKinds(), id); }
Vec3 paintColour(std::string_view id) {
  const Paint* p = byId(paints(), id);
  return p ? p->colour : Vec3{1, 1, 1};
}

}  // namespace easel
