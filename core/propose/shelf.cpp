#include "propose/shelf.h"

#include <algorithm>

#include "data/by_id.h"
#include "data/data_files.h"
#include "gear/kit.h"
#include "propose/look_file.h"

namespace easel {
const std::vector<Look>& looks() {
  static const std::vector<Look> all = gathered<std::vector<Look>>(DataKind::Looks, readLooks);
  return all;
}
const Look* findLook(const std::string& id) { return byId(looks(), id); }

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
