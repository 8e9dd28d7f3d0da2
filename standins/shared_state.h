// What the simulated devices know of each other: one small file in the folder of the simulated studio, written whole.
// The trigger writes what flashed, the meter and the camera read it; the program puts the plan beside it. Any process.
#pragma once

#include <filesystem>
#include <map>
#include <string>

#include "hidden_studio.h"

namespace easel {

struct SharedState {
  std::uint64_t seed = 1;
  struct Head {
    bool on = false, modelling = false;
    double power = 0;  ///< stops from full, negative below it
  };
  std::map<std::string, Head> heads;
  int flash = 0;                       ///< how often it has flashed
  std::map<std::string, Fired> fired;  ///< the last time
};

/// A file that is missing or broken is a studio where nothing has happened.
SharedState readState(const std::filesystem::path& folder);
/// Throws std::runtime_error with a sentence.
void writeState(const std::filesystem::path& folder, const SharedState& state);

inline std::filesystem::path planFile(const std::filesystem::path& folder) { return folder / "plan.easel.json"; }
/// With the powers that the heads have been set to.
Plan planWith(const Plan& plan, const SharedState& state);

}  // namespace easel
