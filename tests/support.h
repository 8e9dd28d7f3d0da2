// What several tests need: plans, temporary folders.
#pragma once

#include <cstdlib>
#include <filesystem>
#include <string>
#include <vector>

#include "formats/plan_json.h"
#include "placed/placed_set.h"
#include "plan/placement.h"
#include "rendering/progressive_render.h"

namespace easel::test {

inline std::string demoFile(const std::string& name = "marrow-lane-first-light") {
  return std::string(EASEL_SOURCE_DIR) + "/demo/" + name + ".easel.json";
}
inline Plan demoPlan() { return loadPlan(demoFile()); }
/// Key, fill, hair and background.
inline Plan masterPlan() { return loadPlan(demoFile("marrow-lane-master")); }

/// A black hall with nobody in it whose walls give nothing back: for checks of what comes from lights and panels alone.
inline Plan blackHall() {
  Plan p = demoPlan();
  p.room = {30, 40, 14, 18, 0, 0, 0, "neutral", {}};
  p.backdrop.distance = 17.9;
  p.backdrop.material = "velvet-deep";
  p.ambient.lux = 0;
  return p;
}

/// A light among the plan's things, the plan's own or another one, placed for one question.
inline PlacedLight placed(const Plan& plan, const Light& light) {
  Plan p = plan;
  p.lights = {light};
  return placedSetOf(p).lights.front();
}

/// A picture as it is traced, without smoothing: for comparing light.
struct UnsmoothedPicture {
  ProgressiveRender studio;
  int width;
  std::vector<float> planes[3];
  UnsmoothedPicture(const Plan& plan, int wide, int high, int passes) : studio(wide, high), width(wide) {
    studio.setSmooth(false);
    studio.setPlan(plan);
    studio.finish(passes);
    linearPicture(studio.layers(), *studio.set(), {}, planes);
  }
  double at(int x, int y) const {
    const size_t i = size_t(y) * size_t(width) + size_t(x);
    return double(luminance({planes[0][i], planes[1][i], planes[2][i]}));
  }
};

/// What the meter says of a plan.
inline Answers answersOf(const Plan& plan) {
  ProgressiveRender s(8, 8);
  s.setPlan(plan);
  return computeAnswers(*s.scene(), *s.set());
}

/// A folder that goes when the test ends.
struct TemporaryFolder {
  std::filesystem::path path;
  TemporaryFolder() {
    std::string name = (std::filesystem::temp_directory_path() / "easel-test-XXXXXX").string();
    path = ::mkdtemp(name.data());
  }
  ~TemporaryFolder() {
    std::error_code ignored;
    std::filesystem::permissions(path, std::filesystem::perms::owner_all, ignored);
    std::filesystem::remove_all(path, ignored);
  }
  TemporaryFolder(const TemporaryFolder&) = delete;
  TemporaryFolder& operator=(const TemporaryFolder&) = delete;
};

/// A data home of its own, so that kit, patterns and looks are those of the test.
struct DataHome {
  TemporaryFolder folder;
  DataHome() : before_(std::getenv("XDG_DATA_HOME") ? std::getenv("XDG_DATA_HOME") : "") {
    ::setenv("XDG_DATA_HOME", folder.path.c_str(), 1);
    std::filesystem::create_directories(folder.path / "jolly-easel" / "patterns");
  }
  ~DataHome() { before_.empty() ? ::unsetenv("XDG_DATA_HOME") : ::setenv("XDG_DATA_HOME", before_.c_str(), 1); }

 private:
  std::string before_;
};

}  // namespace easel::test
