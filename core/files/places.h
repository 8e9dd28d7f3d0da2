// Where what is the user's own is kept.
#pragma once

#include <filesystem>

namespace easel {

/// jolly-easel below $XDG_DATA_HOME, or below ~/.local/share. Asked for anew each time: tests move it.
std::filesystem::path ownFolder();

}  // namespace easel
