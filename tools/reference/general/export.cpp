// The demo's key for a general-purpose renderer, and our own pictures of it for the same measure. Run by compare.py.
//
//   easel-general export FOLDER        studio.xml and studio.xml.bin: the same triangles, diffuse, one quadrilateral
//   lamp easel-general ours FOLDER PASSES   reference, then pictures as they come, plain and smoothed: planes and
//   seconds
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
#include "picture/studio.h"
#include "plan/lamp.h"
#include "sitters/sitter_file.h"

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

class Xml {
 public:
  explicit Xml(const std::string& folder)
      : xml_(folder + "/studio.xml"), bin_(folder + "/studio.xml.bin", std::ios::binary) {
    xml_ << "<?xml version=\"1.0\"?>\n<scene>\n<Group>\n";
  }
  ~Xml() { xml_ << "</Group>\n</scene>\n"; }
  void mesh(const std::vector<Vec3>& positions, const std::vector<std::uint32_t>& triangles, Vec3 colour) {
    xml_ << "<TriangleMesh><material><code>\"OBJ\"</code><parameters><float name=\"d\">1</float><float3 name=\"Kd\">"
         << colour.x << ' ' << colour.y << ' ' << colour.z
         << "</float3><float3 name=\"Ks\">0 0 0</float3></parameters></material>\n";
    xml_ << "<positions ofs=\"" << bin_.tellp() << "\" size=\"" << positions.size() << "\"/>\n";
    for (const Vec3& p : positions) bin_.write(reinterpret_cast<const char*>(&p), 12);
    xml_ << "<triangles ofs=\"" << bin_.tellp() << "\" size=\"" << triangles.size() / 3 << "\"/>\n</TriangleMesh>\n";
    bin_.write(reinterpret_cast<const char*>(triangles.data()), std::streamsize(triangles.size() * 4));
  }
  std::ofstream& text() { return xml_; }

 private:
  std::ofstream xml_, bin_;
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
  Studio studio(kWidth, kHeight);
  studio.setPlan(plan);
  studio.finish(1);
  const auto scene = studio.scene();
  const Layers& layers = studio.layers();
  Xml xml(folder);
  const Vec3 up{0, float(plan.sitter.eyeHeight), 0};
  const HeadPose pose{plan.sitter.turn, plan.sitter.tilt, plan.sitter.nod};
  for (const MeshPart& p : scene->sitter().parts) {
    if (!worn(scene->sitter(), p, plan.sitter.hairStyle, plan.sitter.eyeHeight)) continue;
    if (p.surface != Surface::Skin && p.surface != Surface::Cloth && p.surface != Surface::Eye) continue;
    std::vector<Vec3> at;
    for (size_t i = 0; i < p.position.size(); ++i)
      at.push_back(posed(p.position[i], p.headWeight[i], scene->sitter().landmarks.neckPivot, pose) + up);
    xml.mesh(at, p.triangles, meanColour(layers, p.surface));
  }
  for (const Side& s : scene->sides())
    if (!s.body())
      xml.mesh({s.corner, s.corner + s.across, s.corner + s.across + s.up, s.corner + s.up}, {0, 1, 2, 0, 2, 3},
               s.reflectance);
  // The lamp: radiance such that the sitter's brightest stays under the eight bits that come back.
  const Modifier m = frontOf(plan.lights[0]);
  const LightPose l = lightPose(plan, plan.lights[0]);
  const Vec3 across = l.frame.u * float(m.width), down = l.frame.v * float(m.height);
  const Vec3 corner = l.centre - across * 0.5f - down * 0.5f;
  const char* asked = std::getenv("EASEL_RADIANCE");
  const double radiance = asked ? std::atof(asked) : 4.0;
  auto column = [](Vec3 a, Vec3 b, Vec3 c, Vec3 p, int k) {
    return std::to_string(a[k]) + " " + std::to_string(b[k]) + " " + std::to_string(c[k]) + " " + std::to_string(p[k]) +
           "\n";
  };
  xml.text() << "<QuadLight><AffineSpace>";
  for (int k = 0; k < 3; ++k) xml.text() << column(across, down, cross(across, down), corner, k);
  xml.text() << "</AffineSpace><L>" << radiance << ' ' << radiance << ' ' << radiance << "</L></QuadLight>\n";
  const CameraPose c = cameraPose(plan, double(kWidth) / kHeight);
  const Vec3 to = c.eye - c.frame.n;
  std::ofstream(folder + "/camera.txt") << "-vp " << c.eye.x << ' ' << c.eye.y << ' ' << c.eye.z << " -vi " << to.x
                                        << ' ' << to.y << ' ' << to.z << " -vu " << c.frame.v.x << ' ' << c.frame.v.y
                                        << ' ' << c.frame.v.z << " -fov " << degrees(2 * std::atan(c.tanHalfHeight))
                                        << '\n';
}

void put(const std::string& file, const Layers& layers, const Plan& plan) {
  std::vector<float> planes[3];
  linearPicture(layers, plan, {}, planes);
  std::ofstream out(file, std::ios::binary);
  for (size_t i = 0; i < planes[0].size(); ++i) {
    const float y = luminance({planes[0][i], planes[1][i], planes[2][i]});
    out.write(reinterpret_cast<const char*>(&y), 4);
  }
}

void ours(const std::string& folder, int passes) {
  const Plan plan = thePlan();
  {
    Studio s(kWidth, kHeight);
    s.setSeed(1);
    s.setOnlyLast(true);
    s.setPlan(plan);
    s.finish(passes);
    put(folder + "/ours-reference.lum", s.layers(), plan);
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
    Studio s(kWidth, kHeight);
    s.setSmooth(smooth);
    s.setPlan(plan);
    s.scene();
    double spent = 0;
    for (int last = -1;;) {
      const auto from = std::chrono::steady_clock::now();
      const auto progress = s.step(never, 64);
      spent += std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
      if (progress == Studio::Progress::Done) break;
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
