// A wish as JSON: docs/formats/wish.md.
#pragma once

#include <filesystem>
#include <optional>
#include <string_view>

#include "propose/propose.h"

namespace easel {

struct WishFile {
  Wish wish;
  std::optional<Plan> plan;  ///< room, sitter, camera and backdrop to work with; empty: not given
};
/// Throws std::runtime_error with a sentence that says where: damaged JSON, an unknown key or word, a ratio or aperture
/// that is none. `folder`: what a plan named by its file is relative to.
WishFile readWishText(std::string_view text, const std::filesystem::path& folder = {});
WishFile loadWish(const std::filesystem::path& file);

}  // namespace easel
