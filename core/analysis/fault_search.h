// The rules of the faults, room by room, and what they share. Only for the files of faults; from outside: faults.h.
#pragma once

#include <cmath>
#include <memory>
#include <string>
#include <vector>

#include "analysis/face.h"
#include "analysis/faults.h"
#include "analysis/late.h"
#include "exposure/stops.h"
#include "transport/scene.h"

namespace easel::rules {

// Limits. Common practice, no source, where not said otherwise.
inline constexpr double kDeepSocket = 1.6;        // stops under the lit forehead
inline constexpr double kSecondShadow = 0.5;      // stops by which a second nose shadow is darker than beside it
inline constexpr double kHot = 1.2;               // stops over the brightest part of the face
inline constexpr double kOnNose = 0.12;           // share of the light on the nose's tip that may come from behind
inline constexpr double kUnevenFill = 0.9;        // stops, forehead against throat
inline constexpr double kAmbientShare = 0.10;     // of the light at the face
inline constexpr double kShadowOnBackdrop = 0.5;  // stops
inline constexpr double kIntoLens = -1.25;        // stops at the lens against the light on the face
inline constexpr double kGlareOnEye = 0.06, kGlareOnLens = 0.12;  // shares of what shows the eye, and of a lens
inline constexpr double kGlareShows = -2.5;                       // stops against lit skin
inline constexpr double kBrimTakes = 0.8;                         // stops that a brim may take from the eyes
inline constexpr double kPoolOff = 0.5;                           // stops over what falls on the mark
inline constexpr double kSpillOnNose = 0.12;                      // share of the light on the nose
inline constexpr double kLampBurnt = 3.7, kLampDim = 0.7;         // stops over mid grey in the picture
inline constexpr double kFoundOut = 0.5;                          // stops
inline constexpr double kNearest = 0.22;                          // m, front to the middle of the head

/// What a rule of the faults may look at; `tell` adds what it finds. What costs time is computed on first use, the
/// finished picture for `measures` alone: a rule that needs less takes a tenth of the time.
struct FaultSearch {
  FaultSearch(const ToRead& of, const Spelling& spelling);
  FaultSearch(const FaultSearch&) = delete;
  FaultSearch& operator=(const FaultSearch&) = delete;

  const ToRead& of;
  const Scene& scene;
  const PlacedSet& set;
  const View& view;
  const Spelling& spelling;
  std::vector<double> energy;  // of the lights of the plan; 0 for what is not in the kit
  std::vector<Fault> out;
  Late<std::shared_ptr<const FaceChart>> fine, coarse;
  Late<LightingAnalysis> lighting;
  Late<Measures> measures;
  Late<Catchlights> catchlights;
  Late<std::vector<LightOnFace>> lights;  // on the coarse chart, per light of the plan; empty for those that are off
  Late<std::vector<FaceDirection>> from;
  Late<double> bounced;  // what the room sends back to the face, lx s

  const Answers& answers() const { return of.answers(); }
  const SpotTable& table() const { return of.table(); }
  const FaceChart& chart() const { return *coarse(); }
  /// Whether light `i` is known and on.
  bool burns(size_t i) const { return set.lights[i].burns() && energy[i] > 0; }
  /// Of the light whose pattern is read, among those of the plan; -1: none.
  int key() const;
  /// `why` where the rule knows something nearer than the record does.
  void tell(std::string id, std::string where, std::string sentence, std::vector<Vec3> places = {},
            bool caution = false, std::string why = {});
  bool onFace() const {
    const FacePattern p = lighting().pattern.pattern;
    return p != FacePattern::BackLight && p != FacePattern::None;
  }
  double spot(const char* id) const {
    for (size_t i = 0; i < table().spots.size(); ++i)
      if (table().spots[i].id == id) return table().together[i];
    return 0;
  }
  const MeterSpot* place(const char* id) const {
    for (const MeterSpot& s : table().spots)
      if (s.id == id) return &s;
    return nullptr;
  }
  bool lit(size_t i) const { return !lights()[i].arrives.empty(); }
  double total(size_t cell) const {
    double sum = set.ambientExposure() + bounced();
    const std::vector<LightOnFace>& each = lights();
    for (size_t i = 0; i < each.size(); ++i)
      if (!each[i].arrives.empty()) sum += energy[i] * double(each[i].arrives[cell]);
    return sum;
  }
};

inline double stopsOf(double a, double b) { return stopsOver(a, b, -99); }
/// Whose place is behind the sitter or out of the face: no catchlight of theirs is wanted.
inline bool worksFromBehind(Role r) { return r == Role::Background || r == Role::Hair || r == Role::Rim; }

void sockets(FaultSearch& c);
void eyes(FaultSearch& c);
void brim(FaultSearch& c);
void glasses(FaultSearch& c);
void noseShadows(FaultSearch& c);
void fillOverKey(FaultSearch& c);
void unevenFill(FaultSearch& c);
void fromBelow(FaultSearch& c);
void hotSpots(FaultSearch& c);
void onTheNose(FaultSearch& c);
void backdrop(FaultSearch& c);
void frame(FaultSearch& c);
void shadowOnBackdrop(FaultSearch& c);
void collisions(FaultSearch& c);
void burnt(FaultSearch& c);
void reach(FaultSearch& c);
void roomLight(FaultSearch& c);
void meterInShadow(FaultSearch& c);
void fromCheck(FaultSearch& c);
void pools(FaultSearch& c);
void lampsInThePicture(FaultSearch& c);

}  // namespace easel::rules
