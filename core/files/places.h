// Where what is the user's own is kept.
#pragma once

#include <filesystem>

namespace easel {

/// $HOME, or what the system knows of this user; where that is nothing either, a folder of this user's below the
/// temporary one. Never the folder that a program happens to stand in.
std::filesystem::path homeFolder();
/// jolly-easel below $XDG_DATA_HOME, or below ~/.local/share. Asked for anew each time: tests move it.
std::filesystem::path ownFolder();

}  // namespace easel
