#include "gear/inventory.h"

#include "gear/gear_file.h"

namespace easel {

const std::vector<Support>& supports() { return gear().supports; }

}  // namespace easel
