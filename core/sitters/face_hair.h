// Brows and beard as strands, like the hair of the head (strands.h).
//
// Local space of the sitter, as posed: metres. The same sitter and posture give the same strands. Any thread.
#pragma once

#include <string>
#include <vector>

#include "sitters/hair_style.h"
#include "sitters/skeleton.h"
#include "sitters/strands.h"

namespace easel {

/// Adds a beard; it goes with the face's expression.
void addBeard(Strands& into, const Sitter& sitter, const Beard& beard, const std::string& expression,
              const Posture& posture);
/// Adds brows where the data set's card shows them; `position` and `normal` of the card as posed.
void addBrows(Strands& into, const Sitter& sitter, const MeshPart& card, const std::vector<Vec3>& position,
              const std::vector<Vec3>& normal);

}  // namespace easel
