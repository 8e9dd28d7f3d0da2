#include "gear/inventory.h"

namespace easel {

const std::vector<Support>& supports() {
  static const std::vector<Support> all = {{"stand-light", "Light stand 2.4 m", 2.4, 3, false},
                                           {"stand-heavy", "Heavy stand 3.0 m", 3.0, 8, false},
                                           {"stand-low", "Floor stand", 0.6, 5, false},
                                           {"boom", "Boom with counterweight", 3.2, 4, true},
                                           {"panel-foot", "Panel clamp on a stand", 2.4, 4, false}};
  return all;
}

}  // namespace easel
