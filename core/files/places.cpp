#include "files/places.h"

#include <cstdlib>

std::filesystem::path easel::ownFolder() {
  if (const char* data = std::getenv("XDG_DATA_HOME"); data && *data)
    return std::filesystem::path(data) / "jolly-easel";
  const char* home = std::getenv("HOME");
  return std::filesystem::path(home ? home : ".") / ".local/share/jolly-easel";
}
