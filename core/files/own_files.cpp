#include "files/own_files.h"

#include <algorithm>
#include <cctype>

#include "spoken/say.h"

namespace easel {

bool isPlainName(const std::string& id) {
  return !id.empty() && id.front() != '.' && id.find('/') == std::string::npos && id.size() < 200;
}

std::string lowerEnding(const std::filesystem::path& file) {
  std::string e = file.extension().string();
  std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return e;
}

std::optional<std::filesystem::file_time_type> writtenAt(const std::filesystem::path& file) {
  std::error_code gone;
  const auto when = std::filesystem::last_write_time(file, gone);
  return gone ? std::nullopt : std::optional(when);
}

void keepIn(const std::filesystem::path& folder, const std::filesystem::path& file) {
  const std::string name = file.filename().string();
  std::error_code error;
  std::filesystem::create_directories(folder, error);
  std::filesystem::copy_file(file, folder / name, std::filesystem::copy_options::overwrite_existing, error);
  if (error) throw std::runtime_error(say("{} could not be saved in {}: {}.", name, folder.string(), error.message()));
}

}  // namespace easel
