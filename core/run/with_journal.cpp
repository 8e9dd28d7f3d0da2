#include "run/with_journal.h"

#include <algorithm>
#include <cmath>

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
    // By the gear's own figures: what the kit has been taught is not taught again.
    out.predicted =
        course.answers().light(s.light)->aperture * std::exp2(-correctionOf(l->unit, l->modifier).stops / 2);
  } else {
    out.predicted = s.kind == RunStep::Kind::Together ? course.answers().aperture : s.expected;
  }
  out.meter = meter;
  out.spot = idOf(s.meter);
  out.hold = describe(s.meter.hold);
  out.setting = settingOf(s, course.plan());
  out.expected = s.expected;
  out.read = r.fNumber;
  using V = Judgement::Verdict;
  // "on peg" is the word that journals have held from the first.
  out.verdict = r.judgement.verdict == V::OnTarget ? "on peg" : r.judgement.verdict == V::Off ? "off" : "implausible";
  for (const Cause& c : r.judgement.causes) out.causes += (out.causes.empty() ? "" : " / ") + c.sentence;
  out.note = r.note;
  out.why = r.why;
  return out;
}

StudioCorrections correctionsFrom(const Learned& learned, const std::vector<TaughtReading>& readings,
                                  const std::string& studio) {
  StudioCorrections out;
  out.studio = studio;
  for (const Correction& c : learned.corrections()) {
    if (c.of == Correction::Of::Head) out.units[c.id] = c.stops;
    if (c.of == Correction::Of::Modifier) out.modifiers[c.id] = c.stops;
    if (c.of == Correction::Of::Room && c.id == studio) out.room = c.stops;
  }
  // What was read was read with a meter, and will be again: its share belongs to what a reading there gives. Of several
  // meters the mean, each by its readings.
  double meters = 0;
  int read = 0;
  for (const TaughtReading& r : readings)
    if (const Correction* c = learned.of(Correction::Of::Meter, r.meter)) {
      meters += c->stops;
      ++read;
    }
  if (read) out.room += meters / read;
  for (const TaughtReading& r : readings) {
    const bool there = std::any_of(out.sure.begin(), out.sure.end(),
                                   [&](const auto& s) { return s.unit == r.head && s.modifier == r.modifier; });
    // With the meter that read it: apart from it nothing here was ever seen.
    if (!there) out.sure.push_back({r.head, r.modifier, std::min(learned.predict(r).uncertainty, kNewStudio)});
  }
  return out;
}

std::map<std::string, Known> knownFrom(const Learned& learned, const Plan& plan, const std::string& studio,
                                       const std::string& meter) {
  std::map<std::string, Known> out;
  for (const Light& l : plan.lights) {
    const Learned::Prediction p = learned.predict({l.unit, l.modifier, meter, studio, 0});
    // What the kit corrects already is not expected twice.
    out[l.id] = {p.stops - correctionOf(l.unit, l.modifier).stops, std::min(p.uncertainty, kNewStudio)};
  }
  return out;
}

}  // namespace easel
