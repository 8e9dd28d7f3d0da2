#include "analysis/catchlights.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "plan/subject.h"
#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {
namespace {

constexpr int kPoints = 48;      // of a front
constexpr double kLives = 0.12;  // share of a front that makes a catchlight

// What the camera meets on the way to a point of the cornea; empty when it sees the eye there.
std::string coveredBy(const Scene& scene, Vec3 lens, Vec3 point, Vec3 up, const Eye& eye) {
  const Vec3 d = normalize(point - lens);
  const auto hit = scene.intersect(lens, d, 1, 0.6f, Colours::None);
  if (!hit) return say("something in front");
  if (hit->surface == Surface::Eye || hit->surface == Surface::Cornea) return {};
  const float off = length(hit->position - point);
  if (hit->surface == Surface::Lash) return say("the lashes");
  if (hit->surface == Surface::Cloth && off < 0.04f) return say("the rim of the glasses");
  if (hit->surface == Surface::Hair) return "hair";
  if (hit->surface == Surface::Skin && off < 0.03f)
    return dot(point - eye.iris(), up) > 0 ? say("the upper lid") : say("the lower lid");
  return hit->surface == Surface::Skin ? say("the nose") : say("something in front");
}

// What keeps light from a point of the cornea; empty when it comes.
std::string blockedBy(const Scene& scene, Vec3 from, Vec3 direction, float distance, Vec3 up) {
  // Past the lids' own edge: they are skin within a few millimetres of the cornea.
  if (!scene.occluded(from, direction, 0.0025f, distance * 0.999f, 3)) return {};
  const auto hit = scene.intersect(from + direction * 0.0025f, direction, 3, -1, Colours::None);
  if (!hit) return say("something");
  if (hit->surface == Surface::Cloth && scene.hatBetween(from, from + direction * distance))
    return say("the brim of the hat");
  switch (hit->surface) {
    case Surface::Lash:
      return say("the lashes");
    case Surface::Hair:
      return "hair";
    case Surface::Piece:
      return say("a piece of the set");
    case Surface::Panel:
    case Surface::Scrim:
      return say("a board");
    case Surface::Skin:
      return hit->distance > 0.03f ? say("the nose") : dot(direction, up) > 0 ? say("the brow") : say("the lower lid");
    default:
      return say("something");
  }
}

std::string shapeOf(const Modifier& m, double width, double height) {
  if (m.outline == Outline::Ring) return say("ring");
  const double ratio = width > 0 && height > 0 ? width / height : 1;
  if (ratio > 1.7) return say("wide strip");
  if (ratio < 1 / 1.7) return say("tall strip");
  return m.outline == Outline::Rectangle ? say("square")
         : m.outline == Outline::Octagon ? say("eight-sided")
                                         : say("round");
}

struct Front {
  std::string id;
  std::vector<Vec3> points;
  Modifier modifier;
};

// On the cornea's cap, else on the white, which is a larger ball; where its edge is, the one or the other or neither.
struct Mirrored {
  Vec3 place, normal;
  bool there = true;
};
Mirrored mirroredBy(const Eye& eye, Vec3 lens, Vec3 light) {
  const auto on = [&](Vec3 centre, float radius) {
    const Vec3 place = mirrorPoint(centre, radius, lens, light);
    return Mirrored{place, (place - centre) / radius};
  };
  const auto edge = [](float radius) { return std::sqrt(1 - kIris * kIris / (radius * radius)); };
  Mirrored cornea = on(eye.corneaCentre(), kCornea);
  if (dot(cornea.normal, eye.frame.n) >= edge(kCornea)) return cornea;
  const Mirrored white = on(eye.centre, kGlobe);
  if (dot(white.normal, eye.frame.n) <= edge(kGlobe)) return white;
  cornea.there = false;
  return cornea;
}

Catchlight readOne(const Scene& scene, const CameraPose& camera, const Front& front, const Emitter* emitter,
                   const Eye& eye, int which) {
  Catchlight c;
  c.light = front.id;
  c.eye = which;
  const Vec3 right = camera.frame.u, up = camera.frame.v, iris = eye.iris();
  float least[2] = {1, 1}, most[2] = {-1, -1};
  Vec3 middle{}, everything{};
  int shown = 0, usable = 0;
  std::vector<std::pair<std::string, int>> hidden;
  for (const Vec3& q : front.points) {
    const Mirrored mirrored = mirroredBy(eye, camera.eye, q);
    const Vec3 p = mirrored.place, n = mirrored.normal;
    everything += p;
    ++usable;
    std::string why;
    const Vec3 to = q - p;
    const float distance = length(to);
    const Vec3 d = to / distance;
    if (!mirrored.there || dot(n, d) <= 0)
      why = say("its place: the eye mirrors nothing from there");
    else if (emitter && !emitter->seen(p, d, distance * 1.05f))
      why = say("its beam, which passes the eye");
    else
      why = coveredBy(scene, camera.eye, p, up, eye);
    if (why.empty()) why = blockedBy(scene, p, d, distance, up);
    if (!why.empty()) {
      const auto at = std::find_if(hidden.begin(), hidden.end(), [&](const auto& h) { return h.first == why; });
      if (at == hidden.end())
        hidden.emplace_back(why, 1);
      else
        ++at->second;
      continue;
    }
    ++shown;
    middle += p;
    const float a = dot(p - iris, right), b = dot(p - iris, up);
    least[0] = std::min(least[0], a);
    least[1] = std::min(least[1], b);
    most[0] = std::max(most[0], a);
    most[1] = std::max(most[1], b);
  }
  if (!usable) return c;
  c.visible = double(shown) / double(usable);
  c.lives = c.visible >= kLives;
  c.point = shown ? middle / float(shown) : everything / float(usable);
  const float diameter = 2 * kIris;
  c.x = double(dot(c.point - iris, right) / diameter);
  c.y = double(dot(c.point - iris, up) / diameter);
  c.onIris = std::hypot(c.x, c.y) < 0.5;
  c.hour = hourOf(c.x, -c.y);  // the clock of the picture: up is 12
  if (shown) {
    // Points are inside the outline: half a point's spacing on each side.
    const double grow = 1 + 1 / std::sqrt(double(shown));
    c.width = 1000 * double(most[0] - least[0]) * grow;
    c.height = 1000 * double(most[1] - least[1]) * grow;
    c.shape = shapeOf(front.modifier, c.width, c.height);
  }
  if (!c.lives && !hidden.empty())
    c.hiddenBy = std::max_element(hidden.begin(), hidden.end(), [](const auto& a, const auto& b) {
                   return a.second < b.second;
                 })->first;
  return c;
}

Front frontOfLight(const PlacedLight& l, const Emitter& e, Vec3 receiver) {
  Front f;
  f.id = l.light.id;
  f.modifier = l.lamp->front;
  for (int i = 0; i < kPoints; ++i) f.points.push_back(e.sample(receiver, sobol2(std::uint32_t(i), 5)).position);
  return f;
}

}  // namespace

std::vector<Eye> eyesInStudio(const Scene& scene) {
  std::vector<Eye> out;
  if (scene.sitter().parts.empty()) return out;
  for (const Eye& local : scene.eyes()) {
    Eye eye;
    eye.centre = scene.studioPoint(local.centre);
    const auto turned = [&](Vec3 d) { return normalize(scene.studioPoint(local.centre + d) - eye.centre); };
    eye.frame = {turned(local.frame.u), turned(local.frame.v), turned(local.frame.n)};
    out.push_back(eye);
  }
  return out;
}

Vec3 mirrorPoint(Vec3 centre, float radius, Vec3 eye, Vec3 light) {
  // Fixed point of n = half-way direction at centre + radius n; it contracts by radius over distance a step.
  Vec3 n = normalize(normalize(eye - centre) + normalize(light - centre));
  for (int i = 0; i < 12; ++i) {
    const Vec3 p = centre + n * radius;
    n = normalize(normalize(eye - p) + normalize(light - p));
  }
  return centre + n * radius;
}

int Catchlights::living(int eye) const {
  return int(std::count_if(all.begin(), all.end(), [&](const Catchlight& c) { return c.eye == eye && c.lives; }));
}

Catchlights readCatchlights(const Scene& scene, const PlacedSet& set) {
  Catchlights out;
  const std::vector<Eye> eyes = eyesInStudio(scene);
  const Vec3 lens = set.cameraPose.eye;
  for (size_t k = 0; k < eyes.size(); ++k) {
    const Eye& eye = eyes[k];
    // Seen when any of a few places of the iris shows.
    out.seesEye[k] = false;
    if (dot(eye.frame.n, normalize(lens - eye.centre)) < 0.2f) continue;
    for (float y : {0.f, -0.3f, 0.3f}) {
      const Vec3 p = eye.iris() + Vec3{0, y * kIris, 0};
      if (coveredBy(scene, lens, p, {0, 1, 0}, eye).empty()) out.seesEye[k] = true;
    }
  }
  struct Job {
    const PlacedLight* light;
    int eye;
    int panel = -1;
  };
  std::vector<Job> jobs;
  for (const PlacedLight& l : set.lights)
    if (l.burns())
      for (int k = 0; k < int(eyes.size()); ++k)
        if (out.seesEye[k]) jobs.push_back({&l, k});
  // Panels that are in front of the face and bright towards it.
  for (int i = 0; i < int(set.panels.size()); ++i)
    for (int k = 0; k < int(eyes.size()); ++k)
      if (set.panels[size_t(i)].on && out.seesEye[k]) jobs.push_back({nullptr, k, i});
  out.all.resize(jobs.size());
  inParallel(jobs.size(), [&](size_t j) {
    const Job& job = jobs[j];
    const Eye& eye = eyes[size_t(job.eye)];
    if (job.light) {
      const Emitter e = emitterOf(set, *job.light);
      Catchlight c = readOne(scene, set.cameraPose, frontOfLight(*job.light, e, eye.iris()), &e, eye, job.eye);
      // How low it would have to come.
      if (!c.lives && job.light->light.role != Role::Background && e.pose().centre.z > 0) {
        Light lower = job.light->light;
        while (lower.height > set.sitter.eyeHeight + 0.05) {
          lower.height -= 0.05;
          const PlacedLight there = placedAs(set, *job.light, lower);
          const Emitter f = emitterOf(set, there);
          if (readOne(scene, set.cameraPose, frontOfLight(there, f, eye.iris()), &f, eye, job.eye).visible > 0.3) {
            c.lowerTo = lower.height;
            break;
          }
        }
      }
      out.all[j] = std::move(c);
      return;
    }
    Front f;
    f.id = panelSubject(set.panels[size_t(job.panel)].id);
    f.modifier.outline = Outline::Rectangle;
    double level = 0;
    for (const Leaf& leaf : set.leaves) {
      if (leaf.panel != job.panel) continue;
      const bool front = dot(eye.centre - leaf.centre, leaf.frame.n) > 0;
      const Finish& finish = front ? leaf.front : leaf.back;
      if (maxOf(finish.diffuse) + maxOf(finish.gloss) < 0.3f) continue;  // a black board is no catchlight
      for (int i = 0; i < kPoints; ++i) {
        const Vec2 u = sobol2(std::uint32_t(i), 5);
        f.points.push_back(leaf.centre + leaf.frame.u * ((2 * u.x - 1) * leaf.halfWidth) +
                           leaf.frame.v * ((2 * u.y - 1) * leaf.halfHeight));
      }
      for (const PlacedLight& l : set.lights)
        if (l.burns()) {
          const Emitter e = emitterOf(set, l);
          const Vec3 n = front ? leaf.frame.n : -leaf.frame.n;
          const auto p = e.sample(leaf.centre, {0.5f, 0.5f});
          const float c = dot(n, p.direction);
          if (c > 0) level = std::max(level, double(p.geometry * c) * l.energy(set.camera));
        }
    }
    Catchlight c;
    c.light = f.id;
    c.eye = job.eye;
    if (!f.points.empty() && level > 0) c = readOne(scene, set.cameraPose, f, nullptr, eye, job.eye);
    out.all[j] = std::move(c);
  });
  std::erase_if(out.all, [](const Catchlight& c) { return panelOf(c.light) && !c.lives; });
  std::stable_sort(out.all.begin(), out.all.end(),
                   [](const Catchlight& a, const Catchlight& b) { return a.lives && !b.lives; });
  return out;
}

}  // namespace easel
