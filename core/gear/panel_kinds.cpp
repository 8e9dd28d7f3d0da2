#include "gear/panel_kinds.h"

#include "data/by_id.h"
#include "gear/gear_file.h"

namespace easel {

const std::vector<Finish>& finishes() { return gear().finishes; }
const std::vector<PanelKind>& panelKinds() { return gear().panels; }
const std::vector<Paint>& paints() { return gear().paints; }

const Finish* findFinish(std::string_view id) { return byId(finishes(), id); }
const PanelKind* findPanelKind(std::string_view id) { return byId(panelKinds(), id); }
PanelShape shapeOf(std::string_view id) {
  const PanelKind* kind = findPanelKind(id);
  return kind ? kind->shape : PanelShape::Board;
}
Vec3 paintColour(std::string_view id) {
  const Paint* p = byId(paints(), id);
  return p ? p->colour : Vec3{1, 1, 1};
}

}  // namespace easel
