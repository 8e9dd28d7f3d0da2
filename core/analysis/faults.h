// What is wrong with a picture: a fault with its place, its size, why it matters. What would cure it: remedies.h.
//
// Rules and limits: common practice, no source, unless the sentence is arithmetic. A look can want a fault (a
// silhouette has no catchlight): who says so for a plan (Plan::wanted) is not shown again.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "analysis/catchlights.h"
#include "analysis/measures.h"
#include "analysis/pattern.h"
#include "exposure/spelling.h"
#include "meter/answers.h"

namespace easel {

struct Fault {
  std::string id;        ///< "deep-sockets"
  std::string title;     ///< "Deep eye sockets"
  std::string where;     ///< "light A", "backdrop", "eyes"
  std::string sentence;  ///< what, where, how much
  std::string why;
  bool caution = false;      ///< something to mind, nothing that the picture shows: no fault of the light
  bool wanted = false;       ///< meant so in this plan
  std::vector<Vec3> places;  ///< where it is, studio; may be empty
};

/// Every id that can come up, with its title: for lists and documents.
const std::vector<std::pair<std::string, std::string>>& faultKinds();

/// All that a picture tells.
struct FaceAnalysis {
  LightingAnalysis lighting;
  Measures measures;
  Catchlights catchlights;
  std::vector<Fault> faults;  ///< worst first; those that are wanted last

  /// Of those that are neither wanted nor mere cautions.
  int count() const;
  /// The first of that kind, at that place when one is given; nullptr when there is none.
  const Fault* fault(const std::string& id, const std::string& where = {}) const;
};

/// What a reading is made from: of one plan, what costs time on first use only. The functions give the same
/// each time.
struct ToRead {
  const Scene& scene;
  const PlacedSet& set;
  const Plan& plan;  ///< of which the set was made: what is wanted in it, and its own findings
  View view;
  std::function<const Layers&()> layers;  ///< usable
  std::function<const Answers&()> answers;
  std::function<const SpotTable&()> table;
  std::vector<LightQuality> quality = {};  ///< may be empty
};

FaceAnalysis readPicture(const ToRead& of, const Spelling& spelling = {});
/// Of that kind alone, as readPicture() tells them: a tenth of the time where the rule needs no picture. Throws
/// std::logic_error for an id that is not in the book.
std::vector<Fault> findFaults(const ToRead& of, const std::string& id, const Spelling& spelling = {});
/// Reads a finished picture. `layers` usable and, like `set`, `answers` and `table`, of this plan. About 60 ms for four
/// lights.
FaceAnalysis readPicture(const Layers& layers, const PlacedSet& set, const Plan& plan, const Answers& answers,
                         const SpotTable& table, const std::vector<LightQuality>& quality = {},
                         const Spelling& spelling = {});

}  // namespace easel
