#include "transport/emitter.h"

#include <algorithm>
#include <cmath>
#include <mutex>
#include <numbers>
#include <stdexcept>

#include "spoken/say.h"

namespace easel {
namespace {
constexpr float kOctagonCut = std::numbers::sqrt2_v<float>;  // |x| + |y| <= half width * sqrt 2
}

Emitter::Emitter(const Modifier& m, const LightPose& pose, const Doors& doors, const Slide& slide)
    : outline_(m.outline),
      pose_(pose),
      halfWidth_(float(m.width / 2)),
      halfHeight_(float(m.height / 2)),
      centre_(float(m.centre / 2)),
      area_(float(m.area())),
      flux_(float(m.transmission)),
      lobe_(float(m.lobe)),
      hot_(float(m.hotCentre)),
      gridTangent_(m.grid > 0 ? std::tan(radians(float(m.grid))) : 0),
      cutCosine_(m.cutOff > 0 ? std::cos(radians(float(m.cutOff))) : 0),
      profile_(m.profile) {
  if (!(m.width > 0.001 && m.height > 0.001 && m.width < 20 && m.height < 20 && area_ > 0) || !(m.transmission > 0) ||
      m.transmission > 1 || !(m.centre < m.width) || !(m.backShare >= 0 && m.backShare < 1))
    throw std::invalid_argument(
        say("The modifier \"{}\" has no usable size ({} x {} m). Give it a width and height between 1 mm and 20 m, "
            "and a transmission between 0 and 1.",
            m.name, m.width, m.height));
  back_ = float(m.transmission * m.backShare) / (kPiF * area_);
  if (m.takesDoors && doors.closed()) doors_ = doors;
  if (m.projects) {
    pattern_ = slide.pattern;
    focus_ = std::clamp(float(slide.focus), 0.3f, 50.f);
    slide_ = focus_ * std::tan(radians(float(m.cutOff)));
  }
  squareCells_ = m.grid > 0 && m.squareCells;
  cut_ = profile_ || pattern_ || doors_.closed() || squareCells_;
  // Flux of the profile with peak 1, by the same points that will be used for sampling.
  if (outline_ == Outline::Ball) {
    hiddenFrom_ = float(m.cutOff);
    cutCosine_ = 0;
    peak_ = float(m.axialIntensity() / (m.area() / 4));  // seen as a disc of a quarter of its surface
    return;
  }
  peak_ = float(m.forward() / (meanEvenness() * double(area_) * m.profileIntegral()));
}

// By thousands of places, and searches try thousands of lights: what was computed for one serves the others of its
// kind.
double Emitter::meanEvenness() const {
  if (hot_ == 0) return 1;
  struct Known {
    Outline outline;
    float halfWidth, halfHeight, centre, hot;
    double even;
  };
  static std::mutex guard;
  static std::vector<Known> known;
  constexpr size_t kKept = 256;
  const std::scoped_lock lock(guard);
  for (const Known& k : known)
    if (k.outline == outline_ && k.halfWidth == halfWidth_ && k.halfHeight == halfHeight_ && k.centre == centre_ &&
        k.hot == hot_)
      return k.even;
  double even = 0;
  constexpr int n = 4096;
  for (int i = 0; i < n; ++i) even += double(evenness(onOutline(sobol2(std::uint32_t(i), 7))));
  if (known.size() >= kKept) known.clear();
  known.push_back({outline_, halfWidth_, halfHeight_, centre_, hot_, even / n});
  return even / n;
}

float Emitter::extent() const {
  const float across = 2 * std::max(halfWidth_, halfHeight_);
  switch (outline_) {
    case Outline::Rectangle:
      return 2 * std::hypot(halfWidth_, halfHeight_);
    case Outline::Octagon:
      return across / std::cos(kPiF / 8);  // from corner to corner
    default:
      return across;
  }
}

float Emitter::evenness(Vec2 p) const {
  if (hot_ == 0) return 1;
  const float x = p.x / halfWidth_, y = p.y / halfHeight_;
  return std::exp2(-hot_ * std::min(1.5f, x * x + y * y));
}

float Emitter::luminance(Vec2 place, Vec3 leaving) const {
  return outline_ == Outline::Ball ? luminanceOfBall(leaving) : luminanceAt(place, leaving);
}

float Emitter::luminanceOfBall(Vec3 leaving) const {
  if (hiddenFrom_ <= 0) return peak_;
  const float off = degrees(std::acos(std::clamp(dot(leaving, pose_.frame.n), -1.f, 1.f)));
  constexpr auto ramp = float(Modifier::kHides);
  return peak_ * std::clamp((hiddenFrom_ + ramp - off) / ramp, 0.f, 1.f);
}

float Emitter::luminanceAt(Vec2 p, Vec3 leaving) const {
  const float cosine = dot(leaving, pose_.frame.n);
  if (cosine <= 0) return cosine < 0 ? back_ : 0;
  if (cosine < cutCosine_) return 0;
  if (cut_) return luminanceCut(p, leaving, cosine);
  float lobe = lobe_ == 1 ? 1.f : std::pow(cosine, lobe_ - 1);
  if (gridTangent_ > 0)
    lobe *= std::max(0.f, 1 - std::sqrt(std::max(0.f, 1 - cosine * cosine)) / (cosine * gridTangent_));
  return peak_ * evenness(p) * lobe;
}

float Emitter::luminanceCut(Vec2 p, Vec3 leaving, float cosine) const {
  const float tx = dot(leaving, pose_.frame.u) / cosine, ty = dot(leaving, pose_.frame.v) / cosine;
  float l = peak_ * evenness(p);
  if (profile_) {
    // Intensity over cosine; past 88 degrees the cosine says nothing any more.
    l *= float(profile_->at(degrees(std::acos(std::min(1.f, cosine))), degrees(std::atan2(ty, tx))) /
               std::max(1e-12, profile_->peak())) /
         std::max(0.035f, cosine);
  } else if (lobe_ != 1) {
    l *= std::pow(cosine, lobe_ - 1);
  }
  if (gridTangent_ > 0) l *= gridPasses(squareCells_, gridTangent_, tx, ty);
  if (doors_.closed()) {
    // A leaf hinges on the front's edge; a ray is stopped when it passes outside the leaf's far edge. +u is on the left
    // of someone behind the light.
    auto stopped = [](float at, float slope, float edge, float length, double open) {
      if (open >= 90) return false;
      const float a = radians(float(open)), ahead = length * std::cos(a);
      return at + ahead * slope > edge + length * std::sin(a);
    };
    const float across = 2 * halfWidth_, up = 2 * halfHeight_;
    if (stopped(p.x, tx, halfWidth_, across, doors_.left) || stopped(-p.x, -tx, halfWidth_, across, doors_.right) ||
        stopped(p.y, ty, halfHeight_, up, doors_.top) || stopped(-p.y, -ty, halfHeight_, up, doors_.bottom))
      return 0;
  }
  if (pattern_) l *= pattern_->at(-(p.x + focus_ * tx) / slide_, (p.y + focus_ * ty) / slide_);
  return l;
}

bool Emitter::inside(Vec2 p) const {
  switch (outline_) {
    case Outline::Rectangle:
      return std::abs(p.x) <= halfWidth_ && std::abs(p.y) <= halfHeight_;
    case Outline::Octagon:
      return std::abs(p.x) <= halfWidth_ && std::abs(p.y) <= halfWidth_ &&
             std::abs(p.x) + std::abs(p.y) <= kOctagonCut * halfWidth_;
    case Outline::Disc:
      return p.x * p.x + p.y * p.y <= halfWidth_ * halfWidth_;
    case Outline::Ring: {
      const float r2 = p.x * p.x + p.y * p.y;
      return r2 <= halfWidth_ * halfWidth_ && r2 >= centre_ * centre_;
    }
    case Outline::Ball:
      break;
  }
  return false;
}

Vec2 Emitter::onOutline(Vec2 u) const {
  switch (outline_) {
    case Outline::Rectangle:
      return {(2 * u.x - 1) * halfWidth_, (2 * u.y - 1) * halfHeight_};
    case Outline::Octagon: {
      // Eight equal triangles about the centre; the square root makes the radius uniform by area.
      const float scaled = u.x * 8;
      const int k = std::min(7, int(scaled));
      const float along = scaled - float(k), out = std::sqrt(u.y);
      const float t = std::tan(kPiF / 8), a = (float(k)) * (kPiF / 4);
      const Vec2 p{halfWidth_ * out, halfWidth_ * out * t * (2 * along - 1)};
      const float c = std::cos(a), s = std::sin(a);
      return {p.x * c - p.y * s, p.x * s + p.y * c};
    }
    case Outline::Disc:
    case Outline::Ball: {
      const Vec2 d = concentricDisc(u);
      return {d.x * halfWidth_, d.y * halfWidth_};
    }
    case Outline::Ring: {
      const float r = std::sqrt(centre_ * centre_ + u.x * (halfWidth_ * halfWidth_ - centre_ * centre_));
      const float a = 2 * kPiF * u.y;
      return {r * std::cos(a), r * std::sin(a)};
    }
  }
  return {};
}

Vec3 Emitter::onFront(Vec2 u) const {
  const Vec2 p = onOutline(u);
  return pose_.centre + pose_.frame.u * p.x + pose_.frame.v * p.y;
}

// 1 - cosine of the half angle of the cone that a ball fills; 0 within it.
static float openingOf(float radius, float far) {
  if (far <= radius * 1.001f) return 0;
  const float sine2 = radius * radius / (far * far);
  return sine2 / (1 + std::sqrt(1 - sine2));
}

// Even over the cone in which the ball is seen: near to it, as in a lamp's shade, a disc through its middle would be
// too far away by the ball's radius.
Emitter::Point Emitter::sampleBall(Vec3 receiver, Vec2 u) const {
  Point out{};
  const Vec3 to = pose_.centre - receiver;
  const float far = length(to);
  const float least = openingOf(halfWidth_, far);
  if (!(least > 0)) return out;
  const Vec2 d = concentricDisc(u);
  const float out2 = d.x * d.x + d.y * d.y, less = out2 * least;
  const Frame f = anyFrame(to / far);
  const float sine = std::sqrt(std::max(0.f, less * (2 - less))), round = out2 > 0 ? sine / std::sqrt(out2) : 0;
  out.direction = f.n * (1 - less) + f.u * (d.x * round) + f.v * (d.y * round);
  out.distance = far * (1 - less);
  out.position = receiver + out.direction * out.distance;
  out.geometry = luminanceOfBall(-out.direction) * 2 * kPiF * least * clearness(out.distance);
  return out;
}

Emitter::Point Emitter::sample(Vec3 receiver, Vec2 u) const {
  Point out{};
  if (outline_ == Outline::Ball) return sampleBall(receiver, u);
  const Vec2 p = onOutline(u);
  const Frame& frame = pose_.frame;
  out.position = pose_.centre + frame.u * p.x + frame.v * p.y;
  const Vec3 d = out.position - receiver;
  const float d2 = dot(d, d);
  if (d2 < 1e-10f) return out;
  out.distance = std::sqrt(d2);
  out.direction = d / out.distance;
  const float cosine = -dot(out.direction, frame.n);
  out.geometry = luminanceAt(p, -out.direction) * std::abs(cosine) * area_ / d2 * clearness(out.distance);
  return out;
}

FlatFront Emitter::front() const {
  FlatFront f;
  f.outline = outline_;
  f.frame = pose_.frame;
  f.centre = pose_.centre;
  f.halfWidth = halfWidth_;
  f.halfHeight = halfHeight_;
  f.hole = centre_;
  f.area = area_;
  f.peak = peak_;
  f.lobe = lobe_;
  f.hot = hot_;
  f.gridTangent = gridTangent_;
  f.squareCells = squareCells_;
  f.back = back_;
  f.cutCosine = cutCosine_;
  return f;
}

void Emitter::sampleRun(int n, const Run3& receiver, const Run2& u, Run3& direction, Plane& distance,
                        Plane& geometry) const {
  if (outline_ != Outline::Ball && !profile_ && !pattern_ && !doors_.closed()) {
    lightOfFront(front(), n, receiver, u, direction, distance, geometry);
    for (size_t k = 0; k < size_t(n) && extinction_ > 0; ++k) geometry[k] *= clearness(distance[k]);
    return;
  }
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const Point p = sample(receiver[i], {u.x[k], u.y[k]});
    direction.set(i, p.direction);
    distance[k] = p.distance;
    geometry[k] = p.geometry;
  }
}

void Emitter::maySee(int n, const Run3& origin, const Run3& direction, std::array<std::uint8_t, kRun>& may) const {
  if (outline_ == Outline::Ball)
    may.fill(1);
  else
    meetFront(front(), n, origin, direction, may);
}

float Emitter::pdf(Vec3 receiver, Vec3 direction, float distance) const {
  if (outline_ == Outline::Ball) {
    const float opening = openingOf(halfWidth_, length(pose_.centre - receiver));
    return opening > 0 ? 1 / (2 * kPiF * opening) : 0;
  }
  return distance * distance / (std::max(1e-4f, std::abs(dot(direction, pose_.frame.n))) * area_);
}

void Emitter::pdfRun(int n, const Run3& receiver, const Run3& direction, const Plane& distance, Plane& out) const {
  for (int i = 0; i < n; ++i) out[size_t(i)] = pdf(receiver[i], direction[i], distance[size_t(i)]);
}

bool Emitter::mayLight(Vec3 point) const {
  return outline_ == Outline::Ball || back_ > 0 || dot(point - pose_.centre, pose_.frame.n) > 0;
}
bool Emitter::mayLight(Vec3 point, Vec3 normal) const {
  return mayLight(point) && dot(pose_.centre - point, normal) > -std::hypot(halfWidth_, halfHeight_);
}

std::optional<Vec2> Emitter::intersect(Vec3 origin, Vec3 direction, float limit, float* distance) const {
  const float facing = dot(direction, pose_.frame.n);
  if (std::abs(facing) < 1e-6f) return {};
  const float t = dot(pose_.centre - origin, pose_.frame.n) / facing;
  if (t <= 1e-4f || t >= limit) return {};
  const Vec3 hit = origin + direction * t - pose_.centre;
  const Vec2 p{dot(hit, pose_.frame.u), dot(hit, pose_.frame.v)};
  if (distance) *distance = t;
  return p;
}

std::optional<float> Emitter::seen(Vec3 origin, Vec3 direction, float limit, float* distance) const {
  if (outline_ == Outline::Ball) {
    const Vec3 to = pose_.centre - origin;
    const float along = dot(to, direction);
    const float off2 = dot(to, to) - along * along;
    if (along <= 0 || along >= limit || off2 > halfWidth_ * halfWidth_) return {};
    if (distance) *distance = along;
    return luminanceOfBall(-direction) * clearness(along);
  }
  if (back_ <= 0 && dot(direction, pose_.frame.n) >= 0) return {};
  float way = 0;
  const auto p = intersect(origin, direction, limit, &way);
  if (distance) *distance = way;
  if (!p || !inside(*p)) return {};
  return luminanceAt(*p, -direction) * clearness(way);
}

bool Emitter::blocks(Vec3 origin, Vec3 direction, float limit) const {
  if (outline_ == Outline::Ball) return seen(origin, direction, limit).has_value();
  const auto p = intersect(origin, direction, limit, nullptr);
  if (!p) return false;
  if (outline_ == Outline::Ring) return p->x * p->x + p->y * p->y <= halfWidth_ * halfWidth_;
  return inside(*p);
}

Emitter emitterOf(const PlacedSet& set, const PlacedLight& l) {
  if (!l.lamp)
    throw std::invalid_argument(
        say("Light {} uses the unit \"{}\" and the modifier \"{}\", which are not both known. "
            "Choose others for it.",
            l.light.id, l.light.unit, l.light.modifier));
  return Emitter(l.lamp->front, l.pose, l.lamp->fittings.doors, {l.pattern, l.focus}).inAir(float(set.haze));
}

}  // namespace easel
