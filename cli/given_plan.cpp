#include "given_plan.h"

#include <fmt/format.h>

#include <filesystem>
#include <stdexcept>

#include "formats/kit_json.h"
#include "gear/gobo.h"
#include "gear/kit.h"
#include "gear/model.h"
#include "plan/check.h"
#include "sheet/sheet_file.h"
#include "terminal.h"

namespace easel {
namespace {
std::string kitProblem;  // empty: it could be read
}

void useOwnKit() {
  try {
    kitProblem.clear();
    takeIntoUse(std::filesystem::exists(kitFile()) ? loadKit(kitFile()) : Inventory{});
  } catch (const std::exception& e) {
    kitProblem = fmt::format("the kit cannot be read: {}", e.what());
    putError("easel: not used: {}\n", kitProblem);
  }
}

Plan planFrom(const std::string& file) {
  const Plan plan = openPlan(file);
  for (const Light& l : plan.lights) findGobo(l.fittings.pattern);  // tried, so that the check knows
  for (const Panel& p : plan.panels) {
    findGobo(p.pattern);
    findModel(p.model);
  }
  for (const Finding& f : checkPlan(plan))
    if (f.leftAside) putError("easel: not used: {}\n", f.sentence);
  return plan;
}

void refuse(const Plan& plan) {
  for (const Finding& f : checkPlan(plan))
    if (f.severity == Severity::Error)
      throw std::runtime_error(kitProblem.empty() ? f.sentence : fmt::format("{} ({})", f.sentence, kitProblem));
}

}  // namespace easel
