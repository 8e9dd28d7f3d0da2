#include "run/with_journal.h"

#include <algorithm>

namespace easel {

JournalReading journalled(const RunCourse& course, const std::string& meter) {
  const RunStep& s = course.step();
  const StepReading& r = *course.reading(course.at());
  JournalReading out;
  out.step = s.kind == RunStep::Kind::AllOff ? "off" : s.kind == RunStep::Kind::Together ? "together" : "alone";
  out.light = s.light;
  if (const Light* l = course.plan().light(s.light)) {
    out.head = l->unit;
    out.modifier = l->modifier;
    out.predicted = course.answers().light(s.light)->aperture;
  } else {
    out.predicted = s.kind == RunStep::Kind::Together ? course.answers().aperture : s.expected;
  }
  out.meter = meter;
  out.spot = s.meter.spot;
  out.hold = describe(s.meter.hold);
  out.setting = s.setting;
  out.expected = s.expected;
  out.read = r.fNumber;
  using V = Judgement::Verdict;
  out.verdict = r.judgement.verdict == V::OnPeg ? "on peg" : r.judgement.verdict == V::Off ? "off" : "implausible";
  for (const Cause& c : r.judgement.causes) out.causes += (out.causes.empty() ? "" : " / ") + c.sentence;
  out.note = r.note;
  return out;
}

std::map<std::string, Known> knownFrom(const Learned& learned, const Plan& plan, const std::string& studio,
                                       const std::string& meter) {
  std::map<std::string, Known> out;
  for (const Light& l : plan.lights) {
    const Learned::Prediction p = learned.predict({l.unit, l.modifier, meter, studio, 0});
    out[l.id] = {p.stops, std::min(p.uncertainty, kNewStudio)};
  }
  return out;
}

}  // namespace easel
