// easel-bake PACKAGE_FOLDER [CACHE_FOLDER] [--only ID]: bakes the sitters of the catalogue, or that one, that are not
// in the cache yet, or no longer as their recipe says, from the unpacked data package. One program bakes into a folder
// at a time; another waits for it.
#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <atomic>
#include <chrono>
#include <cstdio>
#include <exception>
#include <filesystem>
#include <mutex>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

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
  std::vector<std::string> words;
  std::string only;
  for (int i = 1; i < argc; ++i) {
    if (std::string_view(argv[i]) == "--only" && i + 1 < argc)
      only = argv[++i];
    else
      words.emplace_back(argv[i]);
  }
  if (words.empty()) {
    fmt::print(stderr, "usage: easel-bake PACKAGE_FOLDER [CACHE_FOLDER] [--only ID] | --check [--only ID]\n");
    return 2;
  }
  std::vector<easel::Person> people = easel::sitterCatalogue();
  if (!only.empty()) std::erase_if(people, [&](const easel::Person& p) { return p.id != only; });
  if (people.empty()) {
    fmt::print(stderr, "easel-bake: there is no sitter \"{}\".\n", only);
    return 2;
  }
  if (words[0] == "--check") {
    // 0 when every sitter of the catalogue, or that one, stands in the cache as its recipe says.
    for (const easel::Person& person : people)
      if (!baked(easel::sitterFolder(), person)) {
        fmt::print(stderr, "{} is not baked yet\n", person.name);
        return 1;
      }
    return 0;
  }
  try {
    using Clock = std::chrono::steady_clock;
    const auto start = Clock::now();
    const std::filesystem::path folder = words.size() > 1 ? words[1] : easel::sitterFolder().string();
    std::filesystem::create_directories(folder);
    const easel::BakingLock alone(folder);
    const easel::bake::HumanPackage package(words[0]);
    std::atomic<size_t> there = 0;
    std::mutex speaking;
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
    fmt::print(stderr, "easel-bake: {}. Is {} the unpacked package?\n", e.what(), words[0]);
    return 2;
  }
}
