// What a photograph says of how it was taken (Exif, through libexiv2), and how that differs from the plan.
//
// A foreign file: 64 MB at most, what is damaged is a FileError. Any thread, tens of milliseconds.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "plan/plan.h"

namespace easel {

struct PhotographSettings {
  std::optional<double> shutter, aperture, iso;  ///< seconds, f-number, ISO
};

/// Throws FileError. Pictures without Exif have no settings.
PhotographSettings settingsOfPhotograph(const std::filesystem::path& file);

/// Stops of light that the photograph took more (+) than the plan means by its settings: flash and room apart, because
/// the shutter changes only one of them. Empty where the photograph does not say.
struct AgainstPlan {
  std::optional<double> flash, room;
  std::vector<std::string> sentences;  ///< what differs, and by how much; or that nothing does
};
AgainstPlan against(const PhotographSettings& settings, const Plan& plan, const Spelling& spelling = {});

/// Writes the settings into a picture that is there (the simulated camera). Throws FileError.
void writeSettings(const std::filesystem::path& file, const PhotographSettings& settings);

}  // namespace easel
