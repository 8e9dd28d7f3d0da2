// Writes the rooms of tests/reference/rooms.h (or the sets of sets.h) as plain numbers for trace.cpp: faces, the
// sitter's triangles with their colour, the lamp, the places of the meter. Run by hand: see README.md beside this file.
#include <cstdio>
#include <fstream>

#include "plan/lamp.h"
#include "plan/solids.h"
#include "reference/sets.h"
#include "transport/figure.h"

using namespace easel;

namespace {
void put(std::ofstream& out, Vec3 v) { out << ' ' << v.x << ' ' << v.y << ' ' << v.z; }

// The colour of a triangle as a ray from outside meets it; of one that none reaches, that of the last.
void writeSitter(const Scene& scene, const Plan& plan, const std::string& file) {
  std::FILE* out = std::fopen(file.c_str(), "wb");
  const Vec3 up{0, float(plan.sitter.eyeHeight), 0};
  const Posture posture = postureOf(plan.sitter, scene.sitter());
  Vec3 colour{0.3f, 0.2f, 0.15f};
  for (const MeshPart& p : scene.sitter().parts) {
    if (!worn(scene.sitter(), p, {"plain", false}, plan.sitter.eyeHeight)) continue;
    if (p.surface != Surface::Skin && p.surface != Surface::Cloth && p.surface != Surface::Eye) continue;
    std::vector<Vec3> at = p.position, normal = p.normal;
    posture.place(p, at, normal);
    for (size_t t = 0; t + 2 < p.triangles.size(); t += 3) {
      Vec3 q[3];
      for (size_t k = 0; k < 3; ++k) q[k] = at[p.triangles[t + k]] + up;
      const Vec3 middle = (q[0] + q[1] + q[2]) / 3, n = cross(q[1] - q[0], q[2] - q[0]);
      if (!(dot(n, n) > 0)) continue;
      for (float side : {1.f, -1.f}) {
        const Vec3 from = middle + normalize(n) * (side * 2e-3f);
        const auto hit = scene.intersect(from, normalize(n) * -side, 1);
        if (hit && hit->distance < 4e-3f && hit->surface == p.surface) {
          colour = hit->albedo;
          break;
        }
      }
      for (const Vec3& v : {q[0], q[1], q[2], colour}) std::fwrite(&v.x, sizeof(float), 3, out);
    }
  }
  std::fclose(out);
}
}  // namespace

int main(int argc, char** argv) {
  const bool sets = argc == 3 && std::string(argv[2]) == "sets";
  if (argc != 2 && !sets) return std::fprintf(stderr, "usage: easel-reference-export FOLDER [sets]\n"), 2;
  const std::string folder = argv[1];
  bool sitter = false;
  std::ofstream out(folder + "/rooms.txt");
  out.precision(9);
  for (const test::RoomCase& c : sets ? test::setCases() : test::roomCases()) {
    ProgressiveRender studio(8, 8);
    studio.setPlan(c.plan);
    const auto scene = studio.scene();
    if (!sitter) writeSitter(*scene, c.plan, folder + "/sitter.bin");
    sitter = true;
    out << "case " << c.name << '\n';
    for (const Side& s : scene->sides()) {
      if (s.body()) continue;
      out << "face";
      for (const Vec3& v : {s.corner, s.across, s.up, s.normal, s.reflectance}) put(out, v);
      out << ' ' << s.through << ' ' << s.disc << '\n';
    }
    // What is too small to have cells: legs, rails, a reveal.
    for (const Leaf& leaf : leavesOf(c.plan.panels)) {
      if (leaf.sampling != Leaf::Sampling::ByRays) continue;
      const Vec3 u = leaf.frame.u * leaf.halfWidth, v = leaf.frame.v * leaf.halfHeight;
      for (float side : {1.f, -1.f}) {
        out << "face";
        for (const Vec3& x : {leaf.centre - u - v, u * 2, v * 2, leaf.frame.n * side, leaf.front.diffuse}) put(out, x);
        out << " 0 " << leaf.disc << '\n';
      }
    }
    for (const Solid& gear : gearThatMatters(c.plan))
      for (size_t t = 0; t + 2 < gear.triangles.size(); t += 3) {
        out << "gear";
        for (size_t k = 0; k < 3; ++k) put(out, gear.position[gear.triangles[t + k]]);
        put(out, gear.albedo);
        out << '\n';
      }
    const Light& l = c.plan.lights[0];
    const Modifier m = frontOf(l);
    const LightPose pose = lightPose(c.plan, l);
    out << "lamp " << int(m.outline) << ' ' << m.width << ' ' << m.height << ' ' << m.transmission << ' ' << m.lobe
        << ' ' << m.hotCentre << ' ' << m.backShare;
    for (const Vec3& v : {pose.centre, pose.frame.u, pose.frame.v, pose.frame.n}) put(out, v);
    out << '\n';
    for (const MeterSpot& s : sets ? test::setSpots(*scene, c.plan) : test::roomSpots(*scene, c.plan)) {
      out << "spot " << s.id << ' ' << (s.receptor == Receptor::Dome);
      put(out, s.position);
      put(out, s.normal);
      out << '\n';
    }
    out << "end\n";
  }
}
