// One record for each fault: what it is called, why it matters, how it is found, and what usually cures it.
//
// A new fault is a record here, a rule in faults_of_*.cpp (or one more sentence of a rule that is there) and, where
// there is something to do about it, a member of Cures in cures_of_*.cpp. A test sees to it that documents and records
// agree.
#pragma once

#include <string>
#include <vector>

#include "analysis/faults.h"

namespace easel {

namespace rules {
struct FaultSearch;
struct Cures;
}  // namespace rules

struct FaultRecord {
  std::string id, title;
  std::string why;  ///< where the rule itself knows nothing nearer
  void (*find)(rules::FaultSearch&) = nullptr;
  void (rules::Cures::*cure)() = nullptr;  ///< nullptr: nothing that a program could try
};

/// Worst first. Any thread.
const std::vector<FaultRecord>& faultBook();
/// Throws std::logic_error for an id that is not in the book.
const FaultRecord& recordOf(const std::string& id);

}  // namespace easel
