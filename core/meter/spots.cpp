#include "meter/spots.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "files/csv.h"
#include "geometry/hashing.h"
#include "meter/answers.h"
#include "meter/point_meter.h"
#include "plan/pins.h"
#include "spoken/say.h"
#include "threads/parallel.h"
#include "transport/view.h"

namespace easel {

double MeterSpot::aperture(double h, const Camera& c) const {
  return apertureForExposure(h, c.iso, calibrationConstant(receptor));
}
double MeterSpot::stops(double h, const Camera& c) const {
  return stopsFromRatio(h / exposureForAperture(c.aperture, c.iso, calibrationConstant(receptor)));
}

namespace {

constexpr size_t kBatches = 4;

// Where a quarter of the rays about the place meet hair; a single one may meet a strand on it or one deep inside. Those
// that the camera sees count, when it sees a quarter of them: what stands in the picture is what is read. Else empty.
std::vector<MeterPlace> patchOfHair(const Scene& scene, Vec3 target, Vec3 start, Vec3 camera) {
  constexpr size_t kPlaces = 3 * kBatches;
  constexpr float kRadius = 0.015f, kDeepest = 0.04f, kGoldenAngle = 2.39996323f;
  const Frame facing = Frame::facing(start - target);
  std::vector<SurfacePoint> hits;
  for (size_t i = 0; i < kPlaces; ++i) {
    const float r = kRadius * std::sqrt((float(i) + 0.5f) / kPlaces), turn = kGoldenAngle * float(i);
    const Vec3 aside = facing.toWorld({r * std::cos(turn), r * std::sin(turn), 0});
    if (const auto hit = scene.intersect(start + aside, -facing.n, std::uint32_t(1 + i))) hits.push_back(*hit);
  }
  const auto ofHair = [](const SurfacePoint& p) { return p.surface == Surface::Hair; };
  if (size_t(std::count_if(hits.begin(), hits.end(), ofHair)) < kPlaces / 4) return {};
  // What lies past the edge of the hair belongs to something else.
  const auto height = [&](const SurfacePoint& p) { return dot(p.position, facing.n); };
  float highest = -1e9f;
  for (const SurfacePoint& p : hits) highest = std::max(highest, height(p));
  std::vector<MeterPlace> all, seen;
  for (const SurfacePoint& p : hits) {
    if (height(p) < highest - kDeepest) continue;
    all.push_back({p.position + facing.n * 0.01f, p.normal});
    const Vec3 towards = camera - all.back().at;
    if (!scene.occluded(all.back().at, normalize(towards), 0, length(towards), std::uint32_t(all.size())))
      seen.push_back(all.back());
  }
  return seen.size() >= std::max(kBatches, all.size() / 4) ? seen : all;
}

}  // namespace

std::vector<MeterSpot> meterSpots(const Scene& scene, const PlacedSet& set) {
  const Landmarks& l = scene.sitter().landmarks;
  std::vector<MeterSpot> spots;
  const HeldMeter held = heldAsCameraIsSet(scene, set);
  spots.push_back({"meter", say("Meter: {}", describe(held.hold)), held.at, held.looks, held.hold.receptor, true});
  const Vec3 camera = set.cameraPose.eye;
  // Out of the surface as it is smooth there, found by a ray from outside.
  const auto onSitter = [&](const char* id, const std::string& name, Vec3 target, Vec3 start) {
    const Vec3 out = normalize(start - target);
    // A little aside: landmarks are vertices, and a ray exactly at one may slip between its triangles.
    const Vec3 aside = Frame::facing(out).toWorld({0.00017f, 0.00011f, 0});
    const auto hit = scene.intersect(start + aside, -out, 1);
    MeterSpot spot{id, name, hit ? hit->position + hit->facet * 0.01f : target + out * 0.01f, hit ? hit->normal : out};
    spot.patch = patchOfHair(scene, target, start, camera);
    if (!spot.patch.empty()) {
      spot.position = spot.normal = {};
      for (const MeterPlace& p : spot.patch) {
        spot.position += p.at * (1 / float(spot.patch.size()));
        spot.normal += p.out;
      }
      spot.normal = length(spot.normal) > 0 ? normalize(spot.normal) : out;
    }
    spots.push_back(std::move(spot));
  };
  const auto onHead = [&](const char* id, const std::string& name, Vec3 local, Vec3 from) {
    onSitter(id, name, scene.studioPoint(local), scene.studioPoint(local + from * 0.3f));
  };
  const Vec3 front{0, 0, 1};
  onHead("face", say("Face (nose)"), l.noseTip, front);
  onHead("forehead", say("Forehead"), l.forehead, front);
  onHead("cheek-left", say("Left cheek"), l.cheekLeft, front);
  onHead("cheek-right", say("Right cheek"), l.cheekRight, front);
  onHead("chin", say("Chin"), scene.sitter().chinFront, front);
  onHead("neck", say("Neck"), {0, l.chin.y - 0.05f, 0.03f}, front);
  onHead("hair-top", say("Hair, top"), l.crown, {0, 1, 0});
  onHead("hair-left", say("Hair, left"), {0, l.forehead.y, 0.0f}, {1, 0, 0});
  onHead("hair-right", say("Hair, right"), {0, l.forehead.y, 0.0f}, {-1, 0, 0});
  const float eyes = float(set.sitter.eyeHeight);
  for (int side : {1, -1}) {
    const Vec3 above{0.17f * float(side), eyes + 0.1f, 0};
    onSitter(side > 0 ? "shoulder-left" : "shoulder-right", side > 0 ? say("Left shoulder") : say("Right shoulder"),
             {above.x, eyes - 0.25f, 0}, above);
    // On cloth the meter lies on the shoulder, whatever the folds do.
    if (spots.back().patch.empty()) spots.back().normal = {0, 1, 0};
  }
  const float z = -float(set.backdrop.distance) + 0.01f;
  spots.push_back({"backdrop", say("Backdrop, middle"), {0, eyes - 0.3f, z}, front});
  // The corners of the backdrop as the picture has them, a little inside; where the picture goes past the cloth, its
  // edge.
  const View view{set.cameraPose, std::max(1, int(std::lround(1000 * set.camera.frame))), 1000};
  for (int corner = 0; corner < 4; ++corner) {
    const bool right = corner & 1, low = corner & 2;
    const auto w = float(view.width);
    const Vec3 d = view.direction(w * (right ? 0.9375f : 0.0625f), low ? 950.f : 50.f);
    const float t = d.z < -1e-4f ? (z - view.camera.eye.z) / d.z : 0;
    const float half = float(set.backdrop.width) / 2 - 0.05f;
    const float x = std::clamp(view.camera.eye.x + d.x * t, -half, half),
                y = std::clamp(view.camera.eye.y + d.y * t, 0.05f, float(set.backdrop.height) - 0.05f);
    spots.push_back({fmt::format("backdrop-{}-{}", low ? "low" : "high", right ? "right" : "left"),
                     low     ? right ? say("Backdrop, low right") : say("Backdrop, low left")
                         : right ? say("Backdrop, high right")
                             : say("Backdrop, high left"),
                     {x, y, z},
                     front});
  }
  for (const Panel& p : set.panels) {
    if (!p.on || !isPiece(shapeOf(p.kind)) || shapeOf(p.kind) == PanelShape::Branch) continue;
    const PieceSpot s = spotOf(p);
    spots.push_back({"panel-" + p.id, calledFirst(p), s.at, s.looks});
  }
  for (const PinnedSpot& p : set.spots) {
    Vec3 at{float(p.x), float(p.y), float(p.z)}, n{float(p.nx), float(p.ny), float(p.nz)};
    if (p.onHead) {
      at = scene.studioPoint(at);
      n = posedDirection(n, 1, {set.sitter.turn, set.sitter.tilt, set.sitter.nod});
    }
    const std::string name = p.name.empty() ? p.id : p.name;
    spots.push_back(
        {p.id, p.receptor == Receptor::Dome ? say("{} (dome)", name) : name, at, n, p.receptor, false, true});
  }
  return spots;
}

namespace {

// A part of the samples of a spot that is independent of the other parts: they tell what the sampling is good for.
struct Batch {
  std::uint32_t seed = 1;
  int direct = HeldMeter::kDirect;
  std::vector<BouncePoints> holds;
  LampShare share;
  double sum = 0;
};

std::vector<Batch> batchesOf(const Scene& scene, const MeterSpot& spot, size_t number) {
  constexpr int kDirect = 384 / kBatches, kBounced = 448 / kBatches;
  const auto hold = [&](const MeterPlace& p, int bounced, std::uint32_t seed) {
    return bouncePoints(scene, p.at, p.out, spot.receptor, bounced, seed);
  };
  std::vector<Batch> all(spot.held ? 1 : kBatches);
  if (spot.held) {
    // The very figure of the answers.
    all[0].holds = {hold({spot.position, spot.normal}, HeldMeter::kBounced, all[0].seed)};
    return all;
  }
  const std::vector<MeterPlace> places = spot.places();
  for (size_t b = 0; b < kBatches; ++b) {
    Batch& batch = all[b];
    // Of a patch each batch has its share.
    std::vector<MeterPlace> own;
    for (size_t i = b; i < places.size(); i += kBatches) own.push_back(places[i]);
    if (own.empty()) own = places;
    // Other points at every spot: with the same ones all would be off together.
    batch.seed = hashPair(std::uint32_t(number), std::uint32_t(b));
    batch.share = {int(b), int(kBatches)};
    batch.direct = std::max(8, kDirect / int(own.size()));
    for (const MeterPlace& p : own)
      batch.holds.push_back(
          hold(p, std::max(8, kBounced / int(own.size())), batch.seed + std::uint32_t(batch.holds.size())));
  }
  return all;
}

}  // namespace

SpotTable spotTable(const Scene& scene, const PlacedSet& set, const Interrupt& interrupt) {
  SpotTable t;
  t.spots = meterSpots(scene, set);
  for (const PlacedLight& l : set.lights) t.lights.push_back(l.light.id);
  t.lights.push_back("ambient");
  std::vector<std::optional<Source>> sources;
  std::vector<double> energy;
  for (const PlacedLight& l : set.lights) {
    sources.push_back(l.lamp ? std::optional(sourceOf(scene, set, l)) : std::nullopt);
    energy.push_back(l.energy(set.camera));
  }
  t.together.assign(t.spots.size(), 0);
  t.luxSeconds.assign(t.spots.size(), {});
  t.error.assign(t.spots.size(), 0);
  inParallel(t.spots.size(), [&](size_t s) {
    if (interrupt.raised()) return;
    const MeterSpot& spot = t.spots[s];
    std::vector<double>& row = t.luxSeconds[s];
    const double ambient = evenly(spot.receptor, set.ambientExposure());
    std::vector<Batch> batches = batchesOf(scene, spot, s);
    for (Batch& b : batches) b.sum = ambient;
    for (size_t k = 0; k < set.lights.size(); ++k) {
      double all = 0;
      for (Batch& b : batches) {
        if (interrupt.raised()) return;
        if (!sources[k]) break;
        double lux = 0;
        for (size_t h = 0; h < b.holds.size(); ++h)
          lux += energy[k] * meteredLux(scene, *sources[k], b.holds[h], b.direct, b.seed + std::uint32_t(h), b.share) /
                 double(b.holds.size());
        all += lux / double(batches.size());
        if (set.lights[k].light.on) b.sum += lux;
      }
      row.push_back(all);
    }
    row.push_back(ambient);
    const double n = double(batches.size());
    double mean = 0, squares = 0;
    for (const Batch& b : batches) mean += b.sum / n;
    for (const Batch& b : batches) squares += (b.sum - mean) * (b.sum - mean);
    t.together[s] = mean;
    if (n > 1 && mean > 0) t.error[s] = std::sqrt(squares / (n * (n - 1))) / mean / std::log(2.0);
  });
  if (interrupt.raised()) return {};
  return t;
}

namespace {

constexpr double kDark = -20;  // stops under the target aperture: nothing that a meter or a picture shows

}  // namespace

std::string writeSpotCsv(const SpotTable& t, const Camera& camera) {
  std::string out = "spot,name,receptor";
  auto columns = [&](const std::string& id) { out += say(",{0} lux seconds,{0} f-number,{0} stops from working", id); };
  for (const std::string& id : t.lights) columns(id);
  columns("together");
  out += ",error stops\r\n";
  auto value = [&](const MeterSpot& spot, double h) {
    const double stops = spot.stops(h, camera);
    if (stops > kDark)
      out += fmt::format(",{:.4f},{:.2f},{:.2f}", h, spot.aperture(h, camera), unsignedZero(stops, 100));
    else
      out += ",0,,";
  };
  for (size_t s = 0; s < t.spots.size(); ++s) {
    const MeterSpot& spot = t.spots[s];
    out += csvField(spot.id) + "," + csvField(spot.name) + (spot.receptor == Receptor::Flat ? ",flat" : ",dome");
    for (double h : t.luxSeconds[s]) value(spot, h);
    value(spot, t.together[s]);
    out += s < t.error.size() && !spot.held ? fmt::format(",{:.3f}", t.error[s]) : std::string(",");
    out += "\r\n";
  }
  return out;
}

PinnedSpot pinAt(const Scene& scene, const PlacedSet& set, const SurfacePoint& point) {
  PinnedSpot p = freePin(set.spots);
  Vec3 at = point.position + point.facet * 0.01f, n = point.normal;
  // Skin and hair go with the head; what is on shoulders, backdrop and floor stays where it is.
  p.onHead = ofHead(point.surface) && at.y > float(set.sitter.eyeHeight) + scene.sitter().landmarks.neckPivot.y;
  if (p.onHead) {
    const HeadPose pose{set.sitter.turn, set.sitter.tilt, set.sitter.nod};
    at = unposed(at - Vec3{0, float(set.sitter.eyeHeight), 0}, 1, scene.sitter().landmarks.neckPivot, pose);
    n = unposedDirection(n, 1, pose);
  }
  p.x = at.x;
  p.y = at.y;
  p.z = at.z;
  p.nx = n.x;
  p.ny = n.y;
  p.nz = n.z;
  return p;
}

}  // namespace easel
