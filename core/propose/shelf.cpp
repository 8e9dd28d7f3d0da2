#include "propose/shelf.h"

#include <algorithm>

#include "gear/kit.h"

namespace easel {
namespace {

SetLook look(const char* id, const char* name, const char* forWhat) {
  SetLook l;
  l.id = id;
  l.name = name;
  l.forWhat = forWhat;
  return l;
}

std::vector<SetLook> made() {
  using P = FacePattern;
  std::vector<SetLook> all;
  {
    SetLook l = look("one-soft", "One soft light", "Anyone, any use: the light of a window, with one unit.");
    l.steps = {"Sitter 1.5 m and more before the backdrop.",
               "One large front 40 degrees to the side, its middle above the eyes, near.",
               "Meter at the face, dome in. Look for the small shadow beside the nose."};
    l.levels = "Key at the working aperture; nothing else.";
    l.mistakes = "Too far away it is no longer soft, and lights the backdrop as well.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-120", "softbox-90x120", "octa-90"};
    all.push_back(l);
  }
  {
    SetLook l = look("one-triangle", "One light and a triangle", "Character: craftsmen, musicians, older faces.");
    l.steps = {"One front 50 to 60 degrees to the side and above the eyes.",
               "Move it round until the nose's shadow meets the cheek's.",
               "The lit triangle under the far eye wants to be no wider than the eye."};
    l.levels = "Key alone; a board may lift the dark side by a stop.";
    l.mistakes = "A step too far and the far eye loses its catchlight.";
    l.pattern = P::Rembrandt;
    l.elevationLeast = 25;
    l.keyFronts = {"octa-90", "dish-55", "softbox-60x90"};
    l.wanted = {"merged-outline"};
    all.push_back(l);
  }
  {
    SetLook l = look("half-dark", "Half in the dark", "Drama with one unit: record sleeves, stage people.");
    l.steps = {"One front level with the head, square to the side, half a metre off.",
               "Feather it forward until just half of the face has light.", "Keep walls away or hang black cloth."};
    l.levels = "Key alone.";
    l.mistakes = "A pale wall on the dark side fills it.";
    l.pattern = P::Split;
    l.elevationLeast = -3;
    l.elevationMost = 22;
    l.hardness = Hardness::Any;
    l.keyFronts = {"strip-35x90", "softbox-60x90", "dish-55"};
    l.wanted = {"merged-outline", "dead-eyes"};
    all.push_back(l);
  }
  {
    SetLook l =
        look("from-above", "Straight from above the lens", "Beauty and strong cheekbones; flattering when high.");
    l.steps = {"A dish on the nose line, over the lens, tilted down by some 45 degrees.",
               "Lower it until the eyes have their catchlight.", "Lens just under its edge."};
    l.levels = "Key alone, or a board below two stops under.";
    l.mistakes = "Too high: dark sockets. Too low: flat.";
    l.pattern = P::Butterfly;
    l.hardness = Hardness::Firm;
    l.elevationLeast = 30;
    l.elevationMost = 48;
    l.keyFronts = {"dish-55", "dish-70", "octa-55"};
    all.push_back(l);
  }
  {
    SetLook l = look("shell", "Light and its answer", "Close heads, skin, eyes: two lights shut like a shell.");
    l.steps = {"The key over the lens, the answer under it, the lens between.",
               "Set the answer two stops under the key.", "Equal widths look best; each makes its catchlight."};
    l.levels = "Fill from below two stops under.";
    l.mistakes = "An answer that is as strong as the key is light from below.";
    l.pattern = P::Butterfly;
    l.clamshell = true;
    l.elevationLeast = 32;
    l.elevationMost = 48;
    l.keyFronts = {"octa-90", "softbox-60x90", "dish-70"};
    l.lights = {{"fill-below", -2, {"softbox-60x90", "strip-35x90"}, 0, 0, "none", "none"}};
    l.ratioStops = 2;
    all.push_back(l);
  }
  {
    SetLook l = look("three-on-black", "Three on black", "Actors, musicians, dark clothes that must not vanish.");
    l.steps = {"Key first, alone.", "Fill: look at it alone; it should only lift the key's shadows.",
               "Rim from behind the far shoulder last, gridded, until the outline stands."};
    l.levels = "Fill two stops under, rim one under.";
    l.mistakes = "A rim without a grid lights the lens; spill makes grey of black.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "softbox-60x90", "octa-120"};
    l.lights = {{"fill-key-side", -2, {}, 0, 0, "none", "none"},
                {"rim-under", -0.5, {"strip-30x120-grid"}, 0, 0, "none", "none"}};
    l.backdrop = "paper-black";
    l.ratioStops = 2;
    l.wanted = {"merged-outline"};
    all.push_back(l);
  }
  {
    SetLook l = look("four-round", "Four round the clock", "The classic studio portrait: everything has its place.");
    l.steps = {"Key at half past four, above the eyes.", "Fill near the lens, one and a half stops under.",
               "Hair light at eleven, high, pointing down.", "Background light hidden behind the sitter.",
               "Meter all together and set the lens."};
    l.levels = "Fill 1 1/2 under, hair 1 under (2 on pale hair), backdrop 1 under.";
    l.mistakes = "A halo round the head instead of behind the shoulder blades; a hair light on the nose.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "softbox-60x90", "dish-70"};
    l.lights = {{"fill-key-side", -1.5, {}, 0, 0, "none", "none"},
                {"hair-under", 99, {"softbox-40x40-grid", "softbox-40x40"}, 0, 0, "none", "none"},
                {"background", -1, {}, 0, 0, "none", "none"}};
    l.ratioStops = 1.5;
    all.push_back(l);
  }
  {
    SetLook l = look("white-round", "White all round", "Catalogue, staff pages, children: bright and clean.");
    l.steps = {"White paper, the sitter two metres before it.",
               "Two background lights at two and ten, aimed across, until the paper is just white.",
               "A large key near the lens, a large fill one stop under."};
    l.levels = "Backdrop up to two stops over; fill 1 under.";
    l.mistakes = "More than two stops over flares; less prints grey.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-120", "octa-150", "softbox-90x120"};
    l.lights = {{"fill-lens", -1, {"octa-120", "softbox-90x120"}, 0, 0, "none", "none"},
                {"background-side", 1, {"reflector-21", "reflector-18"}, 40, 0, "none", "none"},
                {"background-side", 1, {"reflector-21", "reflector-18"}, 40, 0, "none", "none"}};
    l.backdrop = "paper-white";
    l.tone = "pure-white";
    l.ratioStops = 1;
    l.wanted = {"merged-outline"};
    all.push_back(l);
  }
  {
    SetLook l = look("between-edges", "Head between two edges", "Modern business and sport heads.");
    l.steps = {"Two gridded strips at two and ten, a little behind the sitter; look at them alone.",
               "A dish over the lens, a stop over them.", "Backdrop dark by distance."};
    l.levels = "Edges one stop under the key.";
    l.mistakes = "Edges that reach the nose; strips that look into the lens.";
    l.pattern = P::Butterfly;
    l.elevationLeast = 30;
    l.elevationMost = 48;
    l.keyFronts = {"dish-70", "octa-90", "dish-55"};
    l.lights = {{"rim-under", -1, {"strip-30x120-grid"}, 0, 0, "none", "none"},
                {"rim-under", -1, {"strip-30x120-grid"}, 0, 0, "none", "none"}};
    all.push_back(l);
  }
  {
    SetLook l = look("carved", "Carved from behind", "Accents: shape by edges, the face held low.");
    l.steps = {"Two strips behind the sitter as accents, equal to the key or a little over.",
               "A small light on the hair, cut down with ND where it cannot go low enough.",
               "A quiet key that only says who it is."};
    l.levels = "Accents up to half a stop over a moody key; hair one under.";
    l.mistakes = "Blown-out edges, a hot scalp.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "dish-55", "softbox-60x90"};
    l.lights = {{"rim-accent", 0, {"strip-30x120-grid"}, 0, 0, "none", "none"},
                {"hair-under", 99, {"softbox-40x40-grid"}, 0, 0, "none", "none"}};
    l.backdrop = "canvas-grey";
    all.push_back(l);
  }
  {
    SetLook l = look("turned-dish", "Dish turned away", "Mood with one dish: its edge lights, its middle passes by.");
    l.steps = {"A dish to the side, above the eyes.",
               "Turn it until its edge points at the nose and the body of it in front.",
               "Read the backdrop at each step: it darkens with the feather."};
    l.levels = "Key alone; the backdrop falls two to four stops under.";
    l.mistakes = "Turned too far the light ends on the cheek.";
    l.pattern = P::Rembrandt;
    l.elevationLeast = 25;
    l.hardness = Hardness::Firm;
    l.feather = 0.6;
    l.keyFronts = {"dish-70", "dish-55", "dish-55-silver"};
    l.wanted = {"merged-outline"};
    all.push_back(l);
  }
  {
    SetLook l = look("short-low", "Low key, short side", "Slimming and serious: the far side of a turned face is lit.");
    l.steps = {"Turn the sitter to the light, the near cheek in shadow.", "Key further round than the nose.",
               "A back light with a grid for the hair."};
    l.levels = "Key alone in front, hair one under.";
    l.mistakes = "The near ear goes black and merges; watch the outline.";
    l.pattern = P::Loop;
    l.breadth = Breadth::Short;
    l.turn = 25;
    l.keyFronts = {"softbox-60x90", "octa-90", "dish-55"};
    l.lights = {{"hair-under", 99, {"softbox-40x40-grid"}, 0, 0, "none", "none"}};
    l.wanted = {"merged-outline"};
    all.push_back(l);
  }
  {
    SetLook l = look("broad-open", "Open, broad side", "Thin faces, friendly and wide.");
    l.steps = {"Turn the sitter away from the light.", "Light the cheek that is nearer the lens.",
               "Fill one stop under."};
    l.levels = "Fill one stop under.";
    l.mistakes = "It widens: not for round faces.";
    l.pattern = P::Loop;
    l.breadth = Breadth::Broad;
    l.turn = 22;
    l.keyFronts = {"octa-90", "octa-120", "softbox-60x90"};
    l.lights = {{"fill-lens", -1, {}, 0, 0, "none", "none"}};
    l.ratioStops = 1;
    all.push_back(l);
  }
  {
    SetLook l = look("hard-sun", "Hard sun, wide fill", "The sun in a room: a crisp key over a wall of quiet light.");
    l.steps = {"A small hard key, high to the side.", "A very large fill behind the lens, three stops under.",
               "The shadows stay crisp and can still be read."};
    l.levels = "Fill three stops under.";
    l.mistakes = "A fill that makes a shadow of its own.";
    l.pattern = P::Loop;
    l.hardness = Hardness::Hard;
    l.keyFronts = {"reflector-18", "reflector-21", "bare"};
    l.lights = {{"fill-lens", -3, {"octa-150", "octa-120"}, 0, 0, "none", "none"}};
    l.ratioStops = 3;
    all.push_back(l);
  }
  {
    SetLook l =
        look("ring-in-shadows", "A ring in the shadows", "Fashion and bands: crisp key, shadows lifted from the lens.");
    l.steps = {"Key first, hard enough to draw.", "A ring round the lens, added by eye until the shadows just open."};
    l.levels = "Ring two stops under.";
    l.mistakes = "A ring that leads: flat faces with round sparks.";
    l.pattern = P::Loop;
    l.hardness = Hardness::Firm;
    l.keyFronts = {"dish-55", "dish-70", "octa-55"};
    l.lights = {{"fill-lens", -2, {"ring-20"}, 0, 0, "none", "none"}};
    l.ratioStops = 2;
    all.push_back(l);
  }
  {
    SetLook l = look("profile-line", "A line of profile", "Medals, music, lovers: the face drawn by its edge.");
    l.steps = {"Turn the face square to the lens.", "Key in front of the face and a little behind it.",
               "Dark backdrop; a touch of light on the hair."};
    l.levels = "Key alone; hair one under.";
    l.mistakes = "The ear lit brighter than the face.";
    l.pattern = P::Loop;
    l.profile = true;
    l.turn = 90;
    l.keyFronts = {"softbox-60x90", "octa-90", "strip-35x90"};
    l.backdrop = "paper-black";
    l.wanted = {"merged-outline", "dead-eyes"};
    l.elevationLeast = 5;
    l.elevationMost = 35;
    all.push_back(l);
  }
  {
    SetLook l = look("outline-only", "Outline only", "Title pages: who it is says the shape.");
    l.steps = {"No light on the face.", "Light the backdrop evenly behind the sitter.",
               "Meter the backdrop; the sitter falls black."};
    l.levels = "Backdrop at mid to light grey or white; face four stops under.";
    l.mistakes = "A pale floor or wall that fills the face.";
    l.pattern = P::None;
    l.lights = {{"background-side", 0, {}, 0, 0, "none", "none"}, {"background-side", 0, {}, 0, 0, "none", "none"}};
    l.backdrop = "paper-light-grey";
    l.tone = "light-grey";
    l.wanted = {"dead-eyes", "merged-outline", "ambient", "spill"};
    all.push_back(l);
  }
  {
    SetLook l = look("warm-and-cool", "Warm and cool", "Two colour temperatures: a lamp's warmth, a window's blue.");
    l.steps = {"A key at the camera's white.", "An edge light at 3200 K: it looks like a lamp in the room.",
               "Balance by the key, not between them."};
    l.levels = "Edge one stop under.";
    l.mistakes = "Both on the face: mixed colours on skin look ill.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "softbox-60x90", "octa-120"};
    l.lights = {{"rim-under", -1, {"strip-30x120-grid"}, 0, 0, "warm-full", "none"},
                {"fill-key-side", -2, {}, 0, 0, "none", "none"}};
    l.ratioStops = 2;
    all.push_back(l);
  }
  {
    SetLook l = look("light-and-board", "A light and a board", "One unit and a white board: gentle, cheap, quick.");
    l.steps = {"One key, as for one soft light.", "A white V-flat opposite it, out of the picture.",
               "Nearer lifts the shadows, a black side turned in deepens them."};
    l.levels = "The board lifts the dark cheek by half a stop to a stop.";
    l.mistakes = "A board that stands in the picture, or that mirrors a coloured wall.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "softbox-60x90", "octa-120"};
    l.panel = "v-flat";
    all.push_back(l);
  }
  {
    SetLook l =
        look("answer-by-board", "Answered by a board", "Beauty with one unit: the board below is the second light.");
    l.steps = {"The key over the lens.", "A reflector on the knees, tilted up to the key.",
               "Raise it until the shadow under the chin opens."};
    l.levels = "The board gives back about two stops under the key.";
    l.mistakes = "Silver too near: light from below.";
    l.pattern = P::Butterfly;
    l.elevationLeast = 32;
    l.elevationMost = 48;
    l.keyFronts = {"dish-70", "octa-90", "octa-55"};
    l.panel = "reflector";
    all.push_back(l);
  }
  {
    SetLook l = look("panes-behind", "Panes on the wall", "A story in the backdrop: a window that is not there.");
    l.steps = {"The key first, kept off the backdrop.",
               "A focusing spot with panes, from the side, across the backdrop.",
               "Focus until the bars are as sharp as you like."};
    l.levels = "Panes a third to one and a half stops under the key.";
    l.mistakes = "A key that spills on the wall washes the panes out.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "softbox-60x90", "dish-55"};
    LookLight panes{"background-side", -0.3, {"spot"}, 0, 0, "none", "panes"};
    l.lights = {panes};
    all.push_back(l);
  }
  {
    SetLook l = look("coloured-edges", "Coloured edges", "Music and games: a quiet face between two colours.");
    l.steps = {"The key alone, neutral.", "Two gridded strips behind, one with a blue gel, one with rose.",
               "A gel looks deeper at lower power: start low."};
    l.levels = "Edges equal to the key or a little under.";
    l.mistakes = "Colour on the cheeks: turn the strips further behind.";
    l.pattern = P::Loop;
    l.keyFronts = {"octa-90", "dish-55", "softbox-60x90"};
    l.lights = {{"rim-under", -0.5, {"strip-30x120-grid"}, 0, 0, "blue", "none"},
                {"rim-under", -0.5, {"strip-30x120-grid"}, 0, 0, "rose", "none"}};
    l.backdrop = "paper-dark-grey";
    all.push_back(l);
  }
  return all;
}

}  // namespace

const std::vector<SetLook>& setLooks() {
  static const std::vector<SetLook> all = made();
  return all;
}

const SetLook* findSetLook(const std::string& id) {
  for (const SetLook& l : setLooks())
    if (l.id == id) return &l;
  return nullptr;
}

Plan planForSitter(const Plan& look, const Plan& here) {
  Plan out = look;
  out.title = here.title;
  out.notes = here.notes;
  out.room = here.room;
  out.ambient = here.ambient;
  const double up = here.sitter.eyeHeight - look.sitter.eyeHeight;
  const SitterPlace head = look.sitter;
  out.sitter = here.sitter;
  out.sitter.turn = head.turn;
  out.sitter.tilt = head.tilt;
  out.sitter.nod = head.nod;
  out.camera = here.camera;
  out.camera.aperture = look.camera.aperture;
  out.backdrop.distance = std::min(look.backdrop.distance, here.room.behind);
  for (Light& l : out.lights) {
    const Modifier* m = findModifier(l.modifier);
    const double half = m ? m->height / 2 : 0.1;
    l.height = std::clamp(l.height + up, half, std::max(half + 0.05, here.room.height - half));
    l.locked = false;
  }
  for (Panel& p : out.panels) p.above = std::clamp(p.above + up, 0.0, here.room.height);
  return out;
}

}  // namespace easel
