#include "analysis/remedies.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "analysis/cures.h"
#include "analysis/fault_book.h"

namespace easel {

std::vector<Remedy> findRemedies(PlanReader& reader, const Plan& plan, const std::string& faultId,
                                 const RemedySearch& search) {
  const FaceAnalysis before = reader.read(plan);
  const Answers answers = reader.answers();
  const Fault* fault = before.fault(faultId, search.where);
  if (!fault) return {};
  rules::Cures usual(plan, *fault, before, answers, search.spelling);
  if (const auto cure = recordOf(fault->id).cure) (usual.*cure)();
  std::vector<Remedy> cures, partly;
  auto known = [&](const Fault& now) {
    return std::any_of(before.faults.begin(), before.faults.end(),
                       [&](const Fault& f) { return f.id == now.id && f.where == now.where; });
  };
  const auto many =
      std::count_if(before.faults.begin(), before.faults.end(), [&](const Fault& f) { return f.id == faultId; });
  size_t done = 0, all = 0;
  for (const rules::Trials& kind : usual.kinds) all += kind.size();
  for (const rules::Trials& kind : usual.kinds) {
    for (const rules::Trial& step : kind) {
      // A stopped search gives nothing: what it has so far may not be the best.
      if (search.progress && !search.progress(double(done++) / double(all))) return {};
      Plan tried = step.plan;
      try {
        if (step.repower) tried = reader.repowered(tried, plan);
        // Most steps fail, and that most of the rules can tell without a picture.
        const std::vector<Fault> left = reader.faults(tried, faultId);
        // Gone is it when none of its kind is left there, or one fewer anywhere: a light may take it along.
        const bool gone = search.where.empty() ? std::ssize(left) < many
                                               : std::none_of(left.begin(), left.end(),
                                                              [&](const Fault& f) { return f.where == search.where; });
        if (!gone) continue;
        FaceAnalysis after = reader.read(tried);
        if (search.acceptable && !search.acceptable(after)) continue;
        std::string brings;
        for (const Fault& f : after.faults)
          if (brings.empty() && !f.caution && !f.wanted && !known(f)) brings = f.title;
        const bool clean = brings.empty();
        (clean ? cures : partly).push_back({step.text, std::move(tried), clean, std::move(brings), std::move(after)});
        if (clean) break;
      } catch (const std::exception&) {
        continue;  // a step that cannot be computed is none
      }
    }
    if (cures.size() >= search.most) break;
  }
  // A step that brings something else is better than none, but only then.
  if (cures.empty() && !partly.empty()) cures.push_back(std::move(partly.front()));
  return cures;
}

}  // namespace easel
