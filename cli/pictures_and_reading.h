// easel render, series and patterns: pictures of a plan. easel read, check and propose: what they show.
#pragma once

#include <string>

namespace easel {

/// PNG, or linear values as OpenEXR, by the name of `out`. `size` empty: the plan's frame; `solo` empty: all lights.
void writePicture(const std::string& file, const std::string& out, const std::string& size, const std::string& solo,
                  int samples, bool plain);
/// A sheet of pictures with one thing varied; `hold`: the light is powered again for its target.
void writeSeries(const std::string& file, const std::string& vary, const std::string& out, const std::string& size,
                 bool hold, int samples);
/// Which pattern a key makes at every `step` degrees round the face; `file` empty: of all sitters.
void writePatterns(const std::string& file, const std::string& out, double step);

void showReading(const std::string& file, bool json, const std::string& size, int samples);
/// 0: nothing is wrong with the picture, 1: something is.
int showFaults(const std::string& file, bool json, const std::string& size, int samples);
/// 0: as it was wished, 1: something had to stay open.
int proposeSet(const std::string& file, const std::string& base, const std::string& out, const std::string& picture);

}  // namespace easel
