// easel-bake PACKAGE_FOLDER [CACHE_FOLDER]: bakes the sitters of the catalogue that are not in the cache yet, or no
// longer as their recipe says, from the unpacked data package.
#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <atomic>
#include <chrono>
#include <cstdio>
#include <exception>
#include <filesystem>
#include <mutex>
#include <stdexcept>
#include <string_view>

#include "bake_sitter.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"

namespace {

// Whether the cache has the person, baked by the recipe as it is now.
bool baked(const std::filesystem::path& folder, const easel::Person& person) {
  try {
    const easel::Sitter s = easel::readSitter(folder / (person.id + ".sitter"));
    return s.recipe == easel::recipeMark(person);
  } catch (const std::exception&) {
    return false;
  }
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 2) {
    fmt::print(stderr, "usage: easel-bake PACKAGE_FOLDER [CACHE_FOLDER] | --check\n");
    return 2;
  }
  if (std::string_view(argv[1]) == "--check") {
    // 0 when every sitter of the catalogue stands in the cache as its recipe says.
    for (const easel::Person& person : easel::sitterCatalogue())
      if (!baked(easel::sitterFolder(), person)) {
        fmt::print(stderr, "{} is not baked yet\n", person.name);
        return 1;
      }
    return 0;
  }
  try {
    using Clock = std::chrono::steady_clock;
    const auto start = Clock::now();
    const std::filesystem::path folder = argc > 2 ? argv[2] : easel::sitterFolder();
    std::filesystem::create_directories(folder);
    const easel::bake::HumanPackage package(argv[1]);
    std::atomic<size_t> there = 0;
    std::mutex speaking;
    const auto& people = easel::sitterCatalogue();
    tbb::parallel_for(size_t(0), people.size(), [&](size_t i) {
      const easel::Person& person = people[i];
      if (!baked(folder, person)) try {
          const easel::Sitter sitter = easel::bake::bakeSitter(package, person);
          size_t triangles = 0;
          for (const auto& part : sitter.parts) triangles += part.triangles.size() / 3;
          easel::writeSitter(folder / (person.id + ".sitter"), sitter);
          const std::lock_guard lock(speaking);
          fmt::print("baked {} ({} triangles; eyes at {:.3f} m when standing)\n", sitter.name, triangles,
                     -sitter.soles);
          std::fflush(stdout);
        } catch (const std::exception& e) {
          // One recipe that names what the data set has not is no reason to do without the others.
          const std::lock_guard lock(speaking);
          fmt::print(stderr, "easel-bake: {} is left out: {}\n", person.name, e.what());
          return;
        }
      ++there;
    });
    if (there == 0) throw std::runtime_error("nobody could be baked");
    fmt::print("baking took {:.1f} s\n", std::chrono::duration<double>(Clock::now() - start).count());
    return 0;
  } catch (const std::exception& e) {
    fmt::print(stderr, "easel-bake: {}. Is {} the unpacked package?\n", e.what(), argv[1]);
    return 2;
  }
}
