// What would cure a fault: tried on small pictures, not looked up.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "analysis/plan_reader.h"

namespace easel {

struct Remedy {
  std::string text;         ///< "Lower A to 1.62 m"
  Plan plan;                ///< with it done
  bool clears = true;       ///< the fault is gone and no other has come: it was tried
  std::string brings = {};  ///< title of the fault that comes with it, when it does not clear
  FaceAnalysis reading;     ///< what was read then
};
struct RemedySearch {
  std::string where;  ///< of several faults of one kind this one; empty: the first
  size_t most = 3;    ///< cures wanted
  Spelling spelling = {};
  std::function<bool(double)> progress;                 ///< gets the share done, returns false to stop
  std::function<bool(const FaceAnalysis&)> acceptable;  ///< a further condition on what is read afterwards
};
/// Tries what usually helps, smallest change first, and gives what cures, best first. When nothing does, one that helps
/// but brings another fault, with clears false.
std::vector<Remedy> findRemedies(PlanReader& reader, const Plan& plan, const std::string& faultId,
                                 const RemedySearch& search = {});

}  // namespace easel
