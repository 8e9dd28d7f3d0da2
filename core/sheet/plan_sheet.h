// The sheet of one plan: what somebody needs who stands in the studio and has to build it.
//
//   const PlanSheet sheet = planSheet(plan, wish, progress);        // some seconds: pictures, readings, eyes
//   std::string pdf = sheetPdf(pagesOf(sheet), paperOf("a4"), Ink::Black);
//
// All figures come from the plan and from the functions that the window asks.
#pragma once

#include <array>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "analysis/eye_pictures.h"
#include "analysis/faults.h"
#include "exposure/ratio.h"
#include "exposure/spelling.h"
#include "gear/inventory.h"
#include "rendering/series.h"
#include "sheet/blocks.h"
#include "shoot/cautions.h"
#include "shoot/supports.h"

namespace easel {

struct SheetWish {
  Spelling spelling;
  RatioSchool school = RatioSchool::UnitToUnit;
  Inventory kit;
  std::vector<PluggedIn> pluggedIn;
  int width = 480, height = 600, passes = 8;
  bool eyes = true;
  /// What has been traced, as it stands on an easel: of this very plan, and not younger than `passes`, then nothing is
  /// traced again.
  struct Traced {
    Plan plan;
    std::shared_ptr<const Layers> layers;
  };
  std::optional<Traced> traced = {};
};

struct PlanSheet {
  Plan plan;
  SheetWish wish;
  Picture portrait;
  std::vector<Picture> growing;  ///< with every light up to this one, in the plan's order
  std::vector<Picture> alone;    ///< each light by itself
  std::array<EyePicture, 2> eyes;
  Answers answers;
  FaceAnalysis reading;
  std::vector<Carried> carried;
  std::vector<Caution> cautions;
};
/// `progress` gets the share that is done and returns false to stop; then what() says so. Throws std::runtime_error
/// with a sentence when the plan cannot be computed.
PlanSheet planSheet(const Plan& plan, const SheetWish& wish = {}, const std::function<bool(double)>& progress = {});

/// The whole sheet; `heading` instead of the plan's title when it is not empty.
Pages pagesOf(const PlanSheet& sheet, const std::string& heading = {});
/// To be read at two metres: letters, powers, places.
Pages standPagesOf(const PlanSheet& sheet, const std::string& heading = {});
/// For a pupil or a client: the picture as it grows, each light alone, before and after.
Pages growingPagesOf(const PlanSheet& sheet);

/// One thing varied, as the window's series made it.
Pages seriesPagesOf(const std::vector<SeriesPicture>& series, const std::string& title, const std::string& what);
/// A picture that was kept and the one that stands.
Pages comparedPagesOf(const std::string& title, const Picture& before, const Picture& after);

/// "Gel: half warm; grid 20 degrees"; empty: nothing is on it.
std::string whatIsOn(const Light& light);
std::string roleSaid(Role role);
/// What a light is to be looked at for when it is switched on. Common practice, no source.
std::string whatToLookFor(Role role);
/// "marrow-lane-the-master_sheet_a4.pdf": what it holds, in small letters that any disk takes.
std::string sheetFileName(const std::string& title, const std::string& what, const std::string& ending);

}  // namespace easel
