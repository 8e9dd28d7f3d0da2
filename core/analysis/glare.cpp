#include "analysis/glare.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "exposure/stops.h"
#include "sitters/eyes.h"
#include "sitters/glasses.h"
#include "transport/source.h"

namespace easel {
namespace {

constexpr int kAcross = 28, kDown = 22;  // places on a lens
constexpr float kEye = 0.011f;           // metres about the middle of the iris

// A place on a lens that the camera sees, and where its surfaces send the camera's ray.
struct Place {
  Vec3 at;
  std::array<Vec3, 2> mirrored;
  std::array<float, 2> share;
  bool eye = false;
};

std::vector<Place> placesOf(const Scene& scene, const Lens& lens, Vec3 iris, Vec3 camera) {
  std::vector<Place> out;
  const Vec3 origin = scene.studioPoint({});
  for (int j = 0; j < kDown; ++j)
    for (int i = 0; i < kAcross; ++i) {
      const float x = lens.halfWidth * (2 * (float(i) + 0.5f) / kAcross - 1),
                  y = lens.halfHeight * (2 * (float(j) + 0.5f) / kDown - 1);
      if (!lens.inside(x, y)) continue;
      const Vec3 local = lens.point(x, y);
      Place p;
      p.at = scene.studioPoint(local);
      const Vec3 toEye = normalize(camera - p.at);
      bool seen = true;
      for (int back = 0; back < 2; ++back) {
        const Vec3 n = scene.studioPoint(lens.normal(local, back)) - origin;
        const float cosine = dot(n, toEye);
        seen &= cosine > 0.02f;
        p.mirrored[size_t(back)] = normalize(n * (2 * cosine) - toEye);
        p.share[size_t(back)] = mirroredByGlass(cosine);
      }
      if (!seen || scene.occluded(p.at, toEye, 0.002f, length(camera - p.at), 1)) continue;
      // What of the eye's plane shows there.
      const float on = dot(iris - p.at, toEye);
      p.eye = length(p.at + toEye * on - iris) < kEye;
      out.push_back(p);
    }
  return out;
}

// What places of a lens show of one lamp or board, added up.
struct Shown {
  int count = 0, onEye = 0;
  Vec3 place;
  double most = 0;  // cd s/m^2
  void add(const Place& p, double sent) {
    if (sent <= 0) return;
    ++count;
    onEye += p.eye;
    place += p.at;
    most = std::max(most, sent);
  }
  void tell(Glare g, const std::vector<Place>& places, double litSkin, std::vector<Glare>& out) const {
    if (!count) return;
    const auto eyes = std::count_if(places.begin(), places.end(), [](const Place& p) { return p.eye; });
    g.place = place / float(count);
    g.share = double(count) / double(places.size());
    g.onEye = eyes ? double(onEye) / double(eyes) : 0;
    g.overSkin = stopsFromRatio(most / litSkin);
    out.push_back(std::move(g));
  }
};

// A light that is on, and what it gives.
struct Lit {
  std::string id;
  Source source;
  double energy;
};

// All that the lights send over boards to a place of a lens, by the board that it mirrors.
void addBoards(const Scene& scene, const Place& p, const std::vector<Lit>& lights, std::vector<Shown>& boards) {
  constexpr std::uint32_t kPoints = 8;  // of each lamp
  std::vector<double> sent(boards.size());
  for (size_t back = 0; back < 2; ++back)
    for (const Lit& l : lights)
      for (std::uint32_t k = 0; k < kPoints; ++k) {
        const auto seen = l.source.seenPanel(scene, p.at, p.mirrored[back], 20, k, 0x91a2eu);
        if (!seen || (k == 0 && scene.occluded(p.at, p.mirrored[back], 0.004f, seen->distance * 0.999f, 3))) break;
        sent[size_t(seen->panel)] += double(luminance(seen->luminance) * p.share[back]) * l.energy / kPoints;
      }
  for (size_t i = 0; i < boards.size(); ++i) boards[i].add(p, sent[i]);
}

}  // namespace

std::vector<Glare> readGlare(const Scene& scene, const PlacedSet& set, double luxSeconds, double skin) {
  std::vector<Glare> out;
  const Glasses* glasses = scene.glasses();
  if (!glasses || luxSeconds <= 0) return out;
  const double litSkin = luxSeconds * skin / kPi;
  const Vec3 camera = set.cameraPose.eye;
  std::vector<Lit> lights;
  for (const PlacedLight& l : set.lights)
    if (l.burns()) lights.push_back({l.light.id, sourceOf(set, l), l.energy(set.camera)});
  for (int side = 0; side < 2; ++side) {
    const Vec3 iris = scene.studioPoint(scene.eyes()[size_t(side)].iris());
    const std::vector<Place> places = placesOf(scene, glasses->lens[size_t(side)], iris, camera);
    for (const Lit& l : lights) {
      const Emitter& emitter = l.source.emitter();
      Shown shown;
      for (const Place& p : places) {
        double sent = 0;
        for (size_t back = 0; back < 2; ++back) {
          float distance = 0;
          const auto seen = emitter.seen(p.at, p.mirrored[back], 1e6f, &distance);
          if (seen && *seen > 0 && !scene.occluded(p.at, p.mirrored[back], 0.004f, distance * 0.999f, 3))
            sent += double(*seen * p.share[back]) * l.energy;
        }
        shown.add(p, sent);
      }
      shown.tell({.light = l.id, .panel = {}, .lens = side, .place = {}}, places, litSkin, out);
    }
    if (!scene.hasPanels()) continue;
    std::vector<Shown> boards(set.panels.size());
    for (const Place& p : places) addBoards(scene, p, lights, boards);
    for (size_t i = 0; i < boards.size(); ++i)
      boards[i].tell({.light = {}, .panel = set.panels[i].id, .lens = side, .place = {}}, places, litSkin, out);
  }
  return out;
}

}  // namespace easel
