// easel-bake PACKAGE_FOLDER [CACHE_FOLDER]: bakes every sitter of the catalogue from the unpacked data package.
#include <fmt/format.h>

#include <chrono>
#include <cstdio>
#include <exception>
#include <filesystem>
#include <string_view>

#include "recipes.h"
#include "sitters/sitter_file.h"

int main(int argc, char** argv) {
  if (argc < 2) {
    fmt::print(stderr, "usage: easel-bake PACKAGE_FOLDER [CACHE_FOLDER] | --check\n");
    return 2;
  }
  if (std::string_view(argv[1]) == "--check") {
    // 0 when every sitter of the catalogue stands in the cache and can be read by this version.
    try {
      for (const auto& info : easel::sitterCatalogue())
        easel::readSitter(easel::sitterFolder() / (info.id + ".sitter"));
      return 0;
    } catch (const std::exception& e) {
      fmt::print(stderr, "{}\n", e.what());
      return 1;
    }
  }
  try {
    using Clock = std::chrono::steady_clock;
    const auto start = Clock::now();
    const std::filesystem::path folder = argc > 2 ? argv[2] : easel::sitterFolder();
    std::filesystem::create_directories(folder);
    const easel::bake::HumanPackage package(argv[1]);
    for (const auto& recipe : easel::bake::recipes()) {
      const easel::Sitter sitter = easel::bake::bakeSitter(package, recipe);
      size_t triangles = 0;
      for (const auto& part : sitter.parts) triangles += part.triangles.size() / 3;
      easel::writeSitter(folder / (recipe.id + ".sitter"), sitter);
      fmt::print("baked {} ({} triangles)\n", sitter.name, triangles);
      std::fflush(stdout);
    }
    fmt::print("baking took {:.1f} s\n", std::chrono::duration<double>(Clock::now() - start).count());
    return 0;
  } catch (const std::exception& e) {
    fmt::print(stderr, "easel-bake: {}. Is {} the unpacked package?\n", e.what(), argv[1]);
    return 2;
  }
}
