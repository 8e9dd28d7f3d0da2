// From one look's set to the next: what is moved, how far, what is swapped, and how long it takes.
//
// Lights are no letters but things on stands: the stands of the first set become those of the second so that the whole
// takes least (assignment, Kuhn 1955, by shortest augmenting paths as in Jonker and Volgenant 1987); boards the same
// way among their own kind. Seconds by ShootTimes, for one pair of hands.
#pragma once

#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "plan/plan.h"
#include "shoot/usual.h"

namespace easel {

struct Chore {
  enum class Kind { Stand, Head, Modifier, Fitting, Board, Backdrop, Camera, Sitter, Power, Meter, Room } kind;
  std::string sentence;  ///< "Octabox 90 cm: from A at 4:30, 1.00 m to B at 7:30, 1.50 m, 1.35 m high."
  double seconds = 0;
  double metres = 0;     ///< that something is carried
  std::string from, to;  ///< letters or numbers; empty: from or to the side
};

struct Changeover {
  std::vector<Chore> chores;  ///< in the order in which they are done
  double seconds = 0;
  std::vector<std::string> stays;  ///< what is not touched: names of modifiers, boards, "backdrop"
  /// Things carried, swapped, brought or taken away: not powers, not readings.
  int moves() const;
};

/// Out of an empty room when `from` is null.
Changeover changeover(const Plan* from, const Plan& to, const ShootTimes& times, const Spelling& spelling = {});

/// Pairs rows and columns so that the sum is least; what[row] is its column. As many columns as rows.
std::vector<int> leastAssignment(const std::vector<std::vector<double>>& cost);

}  // namespace easel
