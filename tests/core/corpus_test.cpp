// The fuzzers' corpus and all that they have found, as ordinary tests.
#include <gtest/gtest.h>

#include <algorithm>
#include <filesystem>

#include "../../tools/fuzz/targets.h"
#include "support.h"

namespace easel {
namespace {

class Corpus : public ::testing::TestWithParam<std::pair<const char*, void (*)(std::string_view)>> {};

TEST_P(Corpus, IsTakenOrRefusedWithASentence) {
  const auto [name, target] = GetParam();
  const auto folder = std::filesystem::path(EASEL_SOURCE_DIR) / "tests/corpus" / name;
  std::vector<std::filesystem::path> files;
  for (const auto& entry : std::filesystem::directory_iterator(folder)) files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  ASSERT_FALSE(files.empty());
  const char* home = std::getenv("XDG_DATA_HOME");
  const std::string before = home ? home : "";
  int taken = 0;
  for (const auto& file : files) {
    SCOPED_TRACE(file.filename().string());
    try {
      target(readWholeFile(file));
      ++taken;
    } catch (const std::runtime_error& e) {
      EXPECT_STRNE(e.what(), "");
    } catch (const std::invalid_argument& e) {
      EXPECT_STRNE(e.what(), "");
    }
  }
  EXPECT_GT(taken, 0) << "one at least goes all the way through, or the fuzzer never meets the reader";
  before.empty() ? ::unsetenv("XDG_DATA_HOME") : ::setenv("XDG_DATA_HOME", before.c_str(), 1);
}

INSTANTIATE_TEST_SUITE_P(Readers, Corpus,
                         ::testing::Values(std::pair{"plan", &fuzz::plan}, std::pair{"kit", &fuzz::kit},
                                           std::pair{"wish", &fuzz::wish}, std::pair{"data", &fuzz::data},
                                           std::pair{"ies", &fuzz::ies}, std::pair{"pattern", &fuzz::pattern},
                                           std::pair{"look", &fuzz::look}, std::pair{"sitter", &fuzz::sitter},
                                           std::pair{"wire", &fuzz::wire}, std::pair{"session", &fuzz::session},
                                           std::pair{"said", &fuzz::said}, std::pair{"photograph", &fuzz::photograph},
                                           std::pair{"day", &fuzz::day}, std::pair{"packed", &fuzz::packed},
                                           std::pair{"attached", &fuzz::attached}, std::pair{"model", &fuzz::model}),
                         [](const auto& info) { return std::string(info.param.first); });

}  // namespace
}  // namespace easel
