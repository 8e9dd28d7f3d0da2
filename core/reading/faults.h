// What is wrong with a picture: a fault with its place, its size, why it matters; and what would cure it.
//
// Rules and limits: common practice, no source, unless the sentence is arithmetic. A look can want a fault (a
// silhouette has no catchlight): who says so for a plan (Plan::wanted) is not told again.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "meter/answers.h"
#include "reading/catchlights.h"
#include "reading/measures.h"
#include "reading/pattern.h"

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
struct FaceReading {
  LightingReading lighting;
  Measures measures;
  Catchlights catchlights;
  std::vector<Fault> faults;  ///< worst first; those that are wanted last

  /// Of those that are neither wanted nor mere cautions.
  int count() const;
  /// The first of that kind, at that place when one is given; nullptr when there is none.
  const Fault* fault(const std::string& id, const std::string& where = {}) const;
};

/// Reads a finished picture. `layers` usable and, like `answers` and `table`, of this plan. About 60 ms for four
/// lights.
FaceReading readPicture(const Layers& layers, const Plan& plan, const Answers& answers, const SpotTable& table,
                        const std::vector<LightQuality>& quality = {}, const Spelling& spelling = {});

/// Reads plans that are not on any screen, on small pictures; what one plan shares with the one before is kept.
class PlanReader {
 public:
  explicit PlanReader(int width = 160, int height = 200, int passes = 6);
  ~PlanReader();
  /// Throws as Studio::step().
  FaceReading read(const Plan& plan);
  const Layers& layers() const;
  const Answers& answers() const { return answers_; }
  /// The plan with the lights that differ from `before` (place, front, role) powered again for their targets.
  Plan repowered(const Plan& plan, const Plan& before);
  /// What the meter says of the plan, without a picture.
  Answers meter(const Plan& plan);
  /// All lights powered for their targets.
  Plan balanced(const Plan& plan);

 private:
  std::unique_ptr<Studio> studio_;
  Answers answers_;
  int passes_;
};

struct Remedy {
  std::string text;         ///< "Lower A to 1.62 m"
  Plan plan;                ///< with it done
  bool clears = true;       ///< the fault is gone and no other has come: it was tried
  std::string brings = {};  ///< title of the fault that comes with it, when it does not clear
  FaceReading reading;      ///< what was read then
};
struct RemedySearch {
  std::string where;  ///< of several faults of one kind this one; empty: the first
  size_t most = 3;    ///< cures wanted
  Spelling spelling = {};
  std::function<bool(double)> progress;                ///< gets the share done, returns false to stop
  std::function<bool(const FaceReading&)> acceptable;  ///< a further condition on what is read afterwards
};
/// Tries what usually helps, smallest change first, and gives what cures, best first. When nothing does, one that helps
/// but brings another fault, with clears false.
std::vector<Remedy> findRemedies(PlanReader& reader, const Plan& plan, const std::string& faultId,
                                 const RemedySearch& search = {});

}  // namespace easel
