// easel meter, power, balance and quality: the figures of a plan. easel kit, catalogue and ies: what it is made of.
#pragma once

#include <string>

namespace easel {

void showMeter(const std::string& file, bool json, bool csv);
void showPower(const std::string& file, const std::string& aperture, bool json);
/// `sum`: lowered together so that everything on gives the target aperture. `out` empty: nothing is written.
void balancePlan(const std::string& file, bool sum, const std::string& out, bool json);
void showQuality(const std::string& file);

/// What the plan wants and the kit has not; `kitName` empty: the kit of the data home.
void showLacking(const std::string& file, const std::string& kitName);
/// Where the user's own files are kept; of a file, whether it can be taken.
void showCatalogue(const std::string& file);
void writeIes(const std::string& file, const std::string& light, const std::string& out);

}  // namespace easel
