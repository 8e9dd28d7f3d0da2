// What the run and the journal give each other: a reading as it is kept, and what earlier sessions teach for this plan.
#pragma once

#include <map>
#include <string>

#include "gear/inventory.h"
#include "journal/journal.h"
#include "run/course.h"

namespace easel {

/// Of the step where the run stands, which has been read. `meter` is what the user calls theirs.
JournalReading journalled(const RunCourse& course, const std::string& meter);

/// Of each light: what its head, modifier, this meter and this studio are known to give over what is predicted, and how
/// surely. What was never read is unsure by a third of a stop in all, as a new studio is.
std::map<std::string, Known> knownFrom(const Learned& learned, const Plan& plan, const std::string& studio,
                                       const std::string& meter);

/// For the kit: what `learned` says of heads, modifiers and that studio, the meters that were read there included: what
/// is predicted is what that meter will read.
StudioCorrections correctionsFrom(const Learned& learned, const std::vector<TaughtReading>& readings,
                                  const std::string& studio);

}  // namespace easel
