#include "shoot/forecast.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "plan/check.h"
#include "spoken/say.h"

namespace easel {
namespace {

// "10:42" of the running clock in seconds; what is no time was not ticked.
std::optional<double> ticked(const std::string& time) {
  if (time.empty()) return {};
  try {
    return 60.0 * readTime(time);
  } catch (const std::invalid_argument&) {
    return {};
  }
}

}  // namespace

Standing standingOf(const Day& day, double now) {
  Standing out;
  out.now = now;
  std::vector<std::pair<double, size_t>> done;
  for (size_t i = 0; i < day.looks.size(); ++i) {
    const DayLook& l = day.looks[i];
    if (const auto at = ticked(l.done)) {
      done.emplace_back(*at, i);
    } else if (const auto begun = ticked(l.begun)) {
      const double ends = *begun + l.frames * day.secondsPerFrame;
      done.emplace_back(std::max(ends, now), i);
      out.now = std::max(now, ends);
    }
  }
  std::stable_sort(done.begin(), done.end());
  for (const auto& [at, look] : done) out.done.push_back(look);
  return out;
}

std::vector<std::string> brokenRules(const Day& day, const std::vector<size_t>& looks) {
  std::vector<std::string> out;
  std::vector<std::string> up;
  const auto name = [&](size_t i) { return say("{}, {}", day.looks[i].id, day.looks[i].name()); };
  for (size_t k = 0; k < looks.size(); ++k) {
    const DayLook& l = day.looks[looks[k]];
    if (l.first && k > 0) out.push_back(say("Look {} has to be the first.", name(looks[k])));
    if (l.last && k + 1 < looks.size()) out.push_back(say("Look {} has to be the last.", name(looks[k])));
    if (!l.after.empty())
      for (size_t j = k + 1; j < looks.size(); ++j)
        if (day.looks[looks[j]].id == l.after)
          out.push_back(say("Look {} has to come after {}.", name(looks[k]), name(looks[j])));
    const std::string& cloth = l.plan.backdrop.material;
    if (day.backdropOnce && (up.empty() || up.back() != cloth)) {
      if (std::find(up.begin(), up.end(), cloth) != up.end()) {
        const BackdropMaterial* m = findBackdrop(cloth);
        out.push_back(say("{} goes up a second time for look {}.", m ? m->name : cloth, name(looks[k])));
      }
      up.push_back(cloth);
    }
  }
  return out;
}

double paceOf(const std::vector<JournalEvent>& timed) {
  constexpr double kPrior = 2;
  double sum = 0, n = 0;
  for (const JournalEvent& e : timed) {
    const double ratio = e.took / std::max(1.0, e.expected);
    // Ten times as long was lunch, not a change.
    if (!(ratio > 0.1 && ratio < 10)) continue;
    sum += std::log(ratio);
    n += 1;
  }
  return std::exp(sum / (n + kPrior));
}

double paceIn(const std::filesystem::path& journal) {
  try {
    return std::filesystem::exists(journal) ? paceOf(Journal(journal).timed("set")) : 1;
  } catch (const std::exception&) {
    return 1;
  }
}

DayForecast forecast(const Day& day, const Inventory& kit, double pace, double now, const Spelling& spelling) {
  DayForecast r;
  r.pace = pace;
  r.problems = checkDay(day);
  r.standing = standingOf(day, now);
  for (const DayLook& l : day.looks)
    for (const Finding& f : checkPlan(l.plan, spelling))
      if (f.severity == Severity::Error) r.problems.push_back(say("Look {}, {}: {}", l.id, l.name(), f.sentence));
  const ShootTimes& times = usualDay().times;
  std::vector<size_t> left;
  for (size_t i = 0; i < day.looks.size(); ++i)
    if (std::find(r.standing.done.begin(), r.standing.done.end(), i) == r.standing.done.end()) left.push_back(i);
  const double wind = windOf(day.pluggedIn);
  for (size_t i = 0; i < day.looks.size(); ++i) {
    const Plan& plan = day.looks[i].plan;
    LookForecast& look = r.looks.emplace_back();
    look.mains = spreadOver(day.circuits, consumersOf(plan, day.pluggedIn), spelling);
    look.carried = carriedIn(plan, kit, wind, spelling);
    look.cautions = cautionsFor(plan, kit, day.pluggedIn, spelling);
  }
  r.packing = packingFor(day, kit, spelling);
  std::string lacks;
  for (const PackItem& i : r.packing)
    if (i.missing()) lacks += (lacks.empty() ? "" : ", ") + say("{} ({} of {})", i.name, *i.owned, i.count);
  if (!lacks.empty())
    r.problems.push_back(say("The kit has too few: {}. The packing list says what could stand in.", lacks));
  std::set<std::string> missing;
  for (const PackItem& i : r.packing)
    if (i.missing()) missing.insert(i.key);
  for (const DayLook& l : day.looks)
    for (const Light& light : l.plan.lights) {
      const std::string head = "unit:" + light.unit, front = "modifier:" + light.modifier;
      if (!missing.count(head) && !missing.count(front)) continue;
      for (StandIn& s : standInsFor(l.plan, light.id, kit)) {
        const std::string& key = s.plan.light(light.id)->unit != light.unit ? head : front;
        if (missing.count(key)) r.standIns[key].push_back({l.id, light.id, std::move(s)});
      }
    }
  r.best.problem = r.planned.problem = whatPreventsAnOrder(day);
  if (!r.best.problem.empty()) return r;
  const DayCosts costs(day, times, pace);
  r.planned = timed(day, costs, left, r.standing);
  r.best = bestOrder(day, costs, r.standing);
  std::vector<size_t> all = r.standing.done;
  all.insert(all.end(), left.begin(), left.end());
  for (const std::string& p : brokenRules(day, all)) r.problems.push_back(p);
  int before = r.standing.done.empty() ? -1 : int(r.standing.done.back());
  const auto why = whyThisOrder(day, r.planned, times);
  for (size_t k = 0; k < left.size(); ++k) {
    LookForecast& look = r.looks[left[k]];
    look.change =
        changeover(before < 0 ? nullptr : &day.looks[size_t(before)].plan, day.looks[left[k]].plan, times, spelling);
    look.why = why[k];
    before = int(left[k]);
  }
  r.reliefs = reliefs(day, costs, r.planned, r.standing, spelling);
  return r;
}

}  // namespace easel
