// The stages of the day, in their order.
#pragma once

#include "stages/stage.h"

namespace easel::app {

/// Children of `parent`.
std::vector<Stage*> allStages(const Bench& bench, QObject* parent);

}  // namespace easel::app
