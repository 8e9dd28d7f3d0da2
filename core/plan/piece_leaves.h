// What a piece of the set is made of: flat leaves, as for panels.
#pragma once

#include <vector>

#include "plan/leaf.h"

namespace easel {

/// Appends the leaves of a piece whose middle, frame and finishes stand in `like`. Only the cloth
/// of a shade gives its light by name; see Leaf::Sampling. Metres; the same for the same piece. Without `drawn` nothing
/// is painted on it, and nothing read from the disk.
void addPiece(std::vector<Leaf>& out, const Leaf& like, const Panel& piece, PanelShape shape, bool drawn);

}  // namespace easel
