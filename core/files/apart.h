// Files of strangers, read in a process of their own: easel-apart, with limits of time, memory and output.
//
// A few kilobytes can ask the libraries that read drawings, PDF or meshes for gigabytes or minutes, or make them end
// the process; what they do to easel-apart becomes one sentence. Blocking; any thread.
#pragma once

#include <cstddef>
#include <functional>
#include <map>
#include <string>
#include <string_view>

namespace easel {

struct ApartLimits {
  std::size_t memory = std::size_t(1) << 30;  ///< bytes
  int processorSeconds = 2;
  int milliseconds = 10'000;  ///< in all, on a busy machine
  std::size_t output = std::size_t(32) << 20;
  /// What to do instead, as a sentence: "Save it as a simpler drawing."
  std::string advice;
};

/// What the reader of that kind makes of the bytes. `name` is for the sentences. Throws std::runtime_error with one:
/// the reader's own, or that a limit was met.
std::string readApart(const std::string& kind, std::string_view bytes, const std::string& name,
                      const ApartLimits& limits);

/// In easel-apart: a reader for each kind. What they throw is the sentence.
using ApartReader = std::function<std::string(const std::string& bytes, const std::string& name)>;
/// Its main(): reads its input, writes what the reader makes of it to its output, or a sentence to its error output.
/// Gives the exit status.
int apartProcess(int argc, char** argv, const std::map<std::string, ApartReader>& readers);

}  // namespace easel
