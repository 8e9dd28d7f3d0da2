#include "stages/all_stages.h"

#include "stages/build_stage.h"
#include "stages/meter_stage.h"
#include "stages/read_stage.h"
#include "stages/run_stage.h"
#include "stages/set_stage.h"

namespace easel::app {

std::vector<Stage*> allStages(const Bench& bench, QObject* parent) {
  return {new SetStage(bench, parent), new BuildStage(bench, parent), new MeterStage(bench, parent),
          new RunStage(bench, parent), new ReadStage(bench, parent)};
}

}  // namespace easel::app
