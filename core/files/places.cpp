#include "files/places.h"

#include <fmt/format.h>
#include <pwd.h>
#include <unistd.h>

#include <cstdlib>

namespace easel {

std::filesystem::path homeFolder() {
  if (const char* home = std::getenv("HOME"); home && *home == '/') return home;
  if (const passwd* user = ::getpwuid(::getuid()); user && user->pw_dir && *user->pw_dir == '/') return user->pw_dir;
  return std::filesystem::temp_directory_path() / fmt::format("jolly-easel-{}", ::getuid());
}

std::filesystem::path ownFolder() {
  if (const char* data = std::getenv("XDG_DATA_HOME"); data && *data == '/')
    return std::filesystem::path(data) / "jolly-easel";
  return homeFolder() / ".local/share/jolly-easel";
}

}  // namespace easel
