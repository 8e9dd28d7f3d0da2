#include "run/course.h"

#include <algorithm>
#include <cmath>

#include "exposure/aperture.h"
#include "exposure/stops.h"
#include "plan/roles.h"
#include "spoken/say.h"

namespace easel {

RunCourse::RunCourse(std::shared_ptr<const Scene> scene, Plan plan, JudgeBy by, Spelling spelling,
                     std::map<std::string, Known> known)
    : scene_(std::move(scene)), plan_(std::move(plan)), by_(by), spelling_(spelling), known_(std::move(known)) {
  compute();
  readings_.resize(steps_.size());
}

Known RunCourse::knownOf(const std::string& light) const {
  const auto at = known_.find(light);
  return at == known_.end() ? Known{0, by_.spread} : at->second;
}

void RunCourse::compute() {
  set_ = placedSetOf(plan_);
  answers_ = computeAnswers(*scene_, set_);
  steps_ = runSteps(*scene_, set_, answers_);
  // What has been read of a head holds wherever it goes next.
  double sum = answers_.ambient.total(), unsure = 0;
  for (const LightAnswer& a : answers_.lights)
    if (const Light* l = plan_.light(a.id); l && l->on) {
      const double gives = a.inFace.total() * std::exp2(knownOf(a.id).stops);
      sum += gives;
      unsure = std::hypot(unsure, gives * knownOf(a.id).within);
    }
  for (RunStep& s : steps_) {
    if (s.kind == RunStep::Kind::Together && answers_.face.total() > 0) {
      s.expected *= std::sqrt(sum / answers_.face.total());
      s.within = std::max(by_.spread / 2, unsure / sum);
    }
    if (s.kind != RunStep::Kind::Alone) continue;
    s.expected *= std::exp2(knownOf(s.light).stops / 2);
    s.fromTarget += knownOf(s.light).stops;
    s.within = knownOf(s.light).within;
  }
}

std::vector<double> RunCourse::offOfOthers() const {
  std::vector<double> out;
  for (size_t i = 0; i < readings_.size(); ++i)
    if (i != at_ && readings_[i] && readings_[i]->tries > 0 && steps_[i].kind == RunStep::Kind::Alone)
      out.push_back(readings_[i]->judgement.off);
  return out;
}

const Judgement& RunCourse::read(double fNumber) {
  if (!canBeRead(fNumber))
    throw std::invalid_argument(say("f/{:g} is not a reading: a meter shows f/0.1 to f/1024. Take it again.", fNumber));
  std::optional<StepReading>& r = readings_.at(at_);
  std::optional<double> before;
  if (r && r->tries > 0) before = r->fNumber;
  if (!r) r.emplace();
  if (before)
    r->why = r->unsettled                                              ? (r->told ? "set" : "changed")
             : r->judgement.verdict == Judgement::Verdict::Implausible ? "doubt"
                                                                       : "once more";
  r->told = false;
  r->fNumber = fNumber;
  r->skipped = false;
  r->unsettled.reset();
  ++r->tries;
  JudgeBy by = by_;
  by.others = offOfOthers();
  if (step().within > 0) by.spread = step().within;
  r->judgement = judge(*scene_, set_, answers_, step(), fNumber, by, before, spelling_);
  return r->judgement;
}

bool RunCourse::setAsTold() {
  std::optional<StepReading>& r = readings_.at(at_);
  if (!r || !r->judgement.power) return false;
  Light* l = plan_.light(step().light);
  if (!l || l->locked) return false;
  // The head gives something else than the plan thinks: that is kept, and what is expected follows.
  const double moved = *r->judgement.power - l->power;
  known_[l->id] = {knownOf(l->id).stops + r->judgement.off, by_.spread};
  l->power = *r->judgement.power;
  r->judgement.power.reset();
  r->unsettled = moved;
  r->told = true;
  compute();
  return true;
}

void RunCourse::next() {
  if (!over()) ++at_;
  while (!over() && readings_[at_] && !readings_[at_]->unsettled) ++at_;
}
void RunCourse::back() {
  if (at_ > 0) --at_;
}
void RunCourse::goTo(size_t step) { at_ = std::min(step, steps_.size()); }
void RunCourse::skip() {
  if (over()) return;
  if (!readings_[at_]) readings_[at_].emplace();
  readings_[at_]->skipped = true;
  readings_[at_]->unsettled.reset();
  next();
}
void RunCourse::note(const std::string& text) {
  if (over()) return;
  if (!readings_[at_]) readings_[at_].emplace();
  readings_[at_]->note = text;
}

void RunCourse::planChanged(std::shared_ptr<const Scene> scene, const Plan& plan) {
  std::vector<RunStep> before = steps_;
  const std::vector<std::optional<StepReading>> old = readings_;
  // What was read of a head, and what it is known to give, is its own: it goes where its letter goes.
  const std::map<std::string, std::string> letters = lettersIn(plan_, plan);
  for (RunStep& s : before)
    if (const auto at = letters.find(s.light); at != letters.end()) s.light = at->second;
  std::map<std::string, Known> known;
  for (const auto& [letter, gives] : known_)
    if (const auto at = letters.find(letter); at != letters.end()) known[at->second] = gives;
  known_ = std::move(known);
  const std::optional<RunStep> stood = over() ? std::nullopt : std::optional(before.at(at_));
  scene_ = std::move(scene);
  plan_ = plan;
  compute();
  const auto same = [](const RunStep& a, const RunStep& b) { return a.kind == b.kind && a.light == b.light; };
  readings_.assign(steps_.size(), {});
  const std::vector<Unsettled> moved = unsettledBy(before, steps_);
  for (size_t i = 0; i < before.size(); ++i) {
    const auto now = std::find_if(steps_.begin(), steps_.end(), [&](const RunStep& s) { return same(s, before[i]); });
    if (now == steps_.end() || !old[i]) continue;
    auto& kept = readings_[size_t(now - steps_.begin())] = old[i];
    const auto u = std::find_if(moved.begin(), moved.end(), [&](const Unsettled& m) { return m.step == i; });
    if (u != moved.end() && kept->tries > 0) kept->unsettled = u->stops;
  }
  at_ = 0;
  if (!stood) {
    at_ = steps_.size();
  } else {
    const auto now = std::find_if(steps_.begin(), steps_.end(), [&](const RunStep& s) { return same(s, *stood); });
    at_ = now == steps_.end() ? 0 : size_t(now - steps_.begin());
  }
}

std::optional<RunCamera> RunCourse::cameraBy(CameraSchool school) const {
  const auto readAt = [&](const auto& is) -> std::optional<double> {
    for (size_t i = 0; i < steps_.size(); ++i)
      if (const auto& r = readings_[i]; is(steps_[i]) && r && r->tries > 0 && !r->unsettled &&
                                        r->judgement.verdict != Judgement::Verdict::Implausible)
        return r->fNumber;
    return std::nullopt;
  };
  using K = RunStep::Kind;
  const auto f = school == CameraSchool::KeyOnly ? readAt([&](const RunStep& s) {
    const Light* l = plan_.light(s.light);
    return s.kind == K::Alone && l && l->role == Role::Key;
  })
                                                 : readAt([](const RunStep& s) { return s.kind == K::Together; });
  if (!f) return std::nullopt;
  RunCamera out;
  const double over = aperturesApart(*f, plan_.camera.aperture), thirds = std::round(3 * over) / 3;
  if (school == CameraSchool::LowerAll) {
    out.lowerBy = std::abs(over) <= by_.tolerance ? 0 : over;
    out.standing = out.lowerBy == 0;
    out.sentence = out.standing ? say("Everything on reads the target aperture: nothing to lower.")
                                : say("Take {:.1f} stops off every light: everything on then reads {} again.", over,
                                      spelling_.aperture(plan_.camera.aperture));
    return out;
  }
  out.closedBy = std::clamp(thirds, -3.0, 3.0);
  out.standing = std::abs(plan_.camera.closedBy - out.closedBy) < 0.1;
  const std::string lens = spelling_.aperture(plan_.camera.aperture * std::exp2(out.closedBy / 2));
  out.sentence = out.standing ? say("The lens is set to {}, as it was read.", lens) : say("Set the lens to {}.", lens);
  return out;
}

Plan withCamera(const Plan& plan, const RunCamera& camera) {
  Plan out = plan;
  out.camera.closedBy = camera.closedBy;
  for (Light& l : out.lights)
    if (const Unit* u = findUnit(l.unit); u && l.on && !l.locked && camera.lowerBy != 0)
      l.power = u->scale.settingFor(l.power - camera.lowerBy).stops;
  return out;
}

std::vector<size_t> RunCourse::open() const {
  std::vector<size_t> out;
  for (size_t i = 0; i < steps_.size(); ++i) {
    const auto& r = readings_[i];
    const bool picture = steps_[i].kind == RunStep::Kind::Picture;
    if (picture || (r && r->skipped)) continue;
    if (!r || r->tries == 0 || r->unsettled || r->judgement.verdict == Judgement::Verdict::Implausible)
      out.push_back(i);
  }
  return out;
}

}  // namespace easel
