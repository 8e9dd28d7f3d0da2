// The demo's key for a general-purpose renderer, and our own pictures of it for the same measure. Run by compare.py.
//
//   easel-general export FOLDER          studio.bin: the same triangles, diffuse, under one rectangular lamp
//   easel-general ours FOLDER PASSES     references of so many passes, then pictures as they come, plain and smoothed
//
// The sitter is shaven: the other renderer knows no half-transparent cards.
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <string>

#include "colour/colour.h"
#include "formats/plan_json.h"
#include "picture/develop.h"
#include "plan/lamp.h"
#include "rendering/progressive_render.h"
#include "sitters/sitter_file.h"
#include "transport/figure.h"

using namespace easel;

namespace {

constexpr int kWidth = 640, kHeight = 800;

Plan thePlan() {
  Plan plan = loadPlan(EASEL_SOURCE_DIR "/demo/marrow-lane-first-light.easel.json");
  plan.lights.resize(1);
  plan.lights[0].modifier = "softbox-90x120";
  plan.sitter.hairStyle = "shaved";
  plan.ambient.lux = 0;
  return plan;
}

// Little-endian: as these machines are.
class SceneFile {
 public:
  explicit SceneFile(const std::string& file) : out_(file, std::ios::binary) {}
  void number(std::int32_t n) { out_.write(reinterpret_cast<const char*>(&n), 4); }
  void number(float v) { out_.write(reinterpret_cast<const char*>(&v), 4); }
  void place(Vec3 v) {
    for (int c = 0; c < 3; ++c) number(v[c]);
  }
  void mesh(bool lamp, Vec3 colour, const std::vector<Vec3>& positions, const std::vector<std::uint32_t>& triangles) {
    number(std::int32_t(lamp));
    place(colour);
    number(std::int32_t(positions.size()));
    for (const Vec3& p : positions) placedSetOf(p);
    number(std::int32_t(triangles.size() / 3));
    for (const std::uint32_t t : triangles) number(std::int32_t(t));
  }

 private:
  std::ofstream out_;
};

// The mean colour of a part as the camera's rays meet it.
Vec3 meanColour(const Layers& layers, Surface surface) {
  Vec3 sum;
  int n = 0;
  for (int y = 0; y < layers.height; y += 4)
    for (int x = 0; x < layers.width; x += 4)
      if (const auto hit = surfaceAt(layers, x, y); hit && hit->surface == surface) {
        sum += hit->albedo;
        ++n;
      }
  return n ? sum / float(n) : Vec3{0.3f, 0.3f, 0.3f};
}

void exportTo(const std::string& folder) {
  const Plan plan = thePlan();
  ProgressiveRender studio(kWidth, kHeight);
  studio.setPlan(plan);
  studio.finish(1);
  const auto scene = studio.scene();
  const Layers& layers = studio.layers();
  SceneFile file(folder + "/studio.bin");
  const CameraPose c = cameraPose(plan, double(kWidth) / kHeight);
  file.number(kWidth);
  file.number(kHeight);
  file.place(c.eye);
  file.place(c.eye - c.frame.n);
  file.place(c.frame.v);
  file.number(degrees(2 * std::atan(c.tanHalfHeight * float(kWidth) / kHeight)));
  struct Mesh {
    Vec3 colour;
    std::vector<Vec3> at;
    std::vector<std::uint32_t> triangles;
  };
  std::vector<Mesh> meshes;
  const Vec3 up{0, float(plan.sitter.eyeHeight), 0};
  const Posture posture = postureOf(plan.sitter, scene->sitter());
  for (const MeshPart& p : scene->sitter().parts) {
    if (!worn(scene->sitter(), p, {"plain", false}, plan.sitter.eyeHeight)) continue;
    if (p.surface != Surface::Skin && p.surface != Surface::Cloth && p.surface != Surface::Eye) continue;
    Mesh mesh{meanColour(layers, p.surface), p.position, p.triangles};
    std::vector<Vec3> normal = p.normal;
    posture.place(p, mesh.at, normal);
    for (Vec3& q : mesh.at) q += up;
    meshes.push_back(std::move(mesh));
  }
  for (const Side& s : scene->sides())
    if (!s.body())
      meshes.push_back({s.reflectance,
                        {s.corner, s.corner + s.across, s.corner + s.across + s.up, s.corner + s.up},
                        {0, 1, 2, 0, 2, 3}});
  file.number(std::int32_t(meshes.size() + 1));
  for (const Mesh& m : meshes) file.mesh(false, m.colour, m.at, m.triangles);
  const Modifier m = frontOf(plan.lights[0]);
  const LightPose l = lightPose(plan, plan.lights[0]);
  const Vec3 u = l.frame.u * float(m.width / 2), v = l.frame.v * float(m.height / 2);
  file.mesh(true, {4, 4, 4}, {l.centre - u - v, l.centre + u - v, l.centre + u + v, l.centre - u + v},
            {0, 1, 2, 0, 2, 3});
}

void put(const std::string& file, const Layers& layers, const Plan& plan) {
  std::vector<float> planes[3];
  linearPicture(layers, placedSetOf(plan), {}, planes);
  std::ofstream out(file, std::ios::binary);
  for (size_t i = 0; i < planes[0].size(); ++i) {
    const float y = luminance({planes[0][i], planes[1][i], planes[2][i]});
    out.write(reinterpret_cast<const char*>(&y), 4);
  }
}

void ours(const std::string& folder, int passes) {
  const Plan plan = thePlan();
  for (const bool smooth : {false, true}) {
    ProgressiveRender s(kWidth, kHeight);
    s.setSeed(1);
    s.setSmooth(smooth);
    s.setOnlyLast(true);
    s.setPlan(plan);
    s.finish(passes);
    put(folder + "/ours-" + (smooth ? "smooth" : "plain") + "-reference.lum", s.layers(), plan);
    if (smooth) continue;  // both show the same
    std::ofstream mask(folder + "/sitter.mask", std::ios::binary);
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) {
        const auto hit = surfaceAt(s.layers(), x + 0.5, y + 0.5);
        mask.put(char(hit && hit->surface <= Surface::Cloth));
      }
  }
  std::ofstream index(folder + "/ours.txt");
  const Interrupt never;
  for (const bool smooth : {false, true}) {
    ProgressiveRender s(kWidth, kHeight);
    s.setSmooth(smooth);
    s.setPlan(plan);
    s.scene();
    double spent = 0;
    for (int last = -1;;) {
      const auto from = std::chrono::steady_clock::now();
      const auto progress = s.improve(never, 64);
      spent += std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
      if (progress == ProgressiveRender::Progress::Done) break;
      if (!s.layers().current || s.layers().passes == last) continue;
      last = s.layers().passes;
      const std::string file = folder + "/ours-" + (smooth ? "smooth" : "plain") + "-" + std::to_string(last) + ".lum";
      put(file, s.layers(), plan);
      index << (smooth ? "smooth" : "plain") << ' ' << last << ' ' << spent << ' ' << file << '\n';
    }
  }
}

}  // namespace

int main(int argc, char** argv) {
  const std::string what = argc > 2 ? argv[1] : "";
  if (what == "export")
    exportTo(argv[2]);
  else if (what == "ours" && argc > 3)
    ours(argv[2], std::atoi(argv[3]));
  else
    return std::fprintf(stderr, "usage: easel-general export FOLDER | ours FOLDER PASSES\n"), 2;
  return 0;
}
