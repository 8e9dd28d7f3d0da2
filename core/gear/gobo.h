// Cut-outs: what a focusing spot projects, and what stands between a light and a wall. Black keeps light back, white
// lets it through.
//
// Patterns of our own travel with the program (patterns/*.svg); the user's lie in the patterns folder of the data
// home as SVG or PNG and are named by their file name, so that a plan says "fern.png" wherever it is opened.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace easel {

struct Gobo {
  int size = 0;               ///< pixels a side
  std::vector<float> passes;  ///< 0..1, rows from the top
  double mean = 0;            ///< of all
  /// At x (right) and y (up) in -1..1, bilinear; 0 outside.
  float at(float x, float y) const;
};

struct GoboName {
  std::string id, name;
};
/// Those of our own, then the user's.
std::vector<GoboName> gobos();
/// Whether there is a usable one of that name, as far as is known: looks at the file's time only, for the interface.
enum class GoboState { Usable, Unreadable, Missing, NotTried };
GoboState goboState(const std::string& id);
/// nullptr when there is none of that name, or it cannot be read. Read once, then kept until the file changes; a file
/// of the user's is drawn in a process of its own (gear/drawing.h) and may take seconds the first time.
std::shared_ptr<const Gobo> findGobo(const std::string& id);

/// Reads an SVG or a PNG (drawn over black; its luminance is what passes). Throws std::runtime_error with a sentence.
Gobo readGobo(const std::filesystem::path& file);
/// Takes a file into the user's folder and gives back its id. Throws std::runtime_error with a sentence.
std::string importGobo(const std::filesystem::path& file);
/// $XDG_DATA_HOME/jolly-easel/patterns, made when it is first written to.
std::filesystem::path goboFolder();

}  // namespace easel
