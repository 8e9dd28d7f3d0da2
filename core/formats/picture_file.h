// Pictures out (PNG for eyes, OpenEXR for numbers) and textures in (PNG).
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

#include "sitters/sitter.h"

namespace easel {

/// 8-bit RGBA, rows from the top, to PNG (tagged sRGB). Throws std::runtime_error with a sentence.
void writePng(const std::filesystem::path& file, int width, int height, const std::vector<std::uint8_t>& rgba);

/// The same as bytes.
std::string pngText(int width, int height, const std::vector<std::uint8_t>& rgba);

/// Planes of linear Rec. 709 RGB, rows from the top, to OpenEXR (32-bit float, ZIP). Throws std::runtime_error.
void writeExr(const std::filesystem::path& file, int width, int height, const float* r, const float* g, const float* b);

/// Any PNG, as 8-bit sRGB with straight alpha. Throws std::runtime_error.
Texture readPng(const std::filesystem::path& file);

}  // namespace easel
