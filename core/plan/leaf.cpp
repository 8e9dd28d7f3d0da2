#include "plan/leaf.h"

#include <cmath>

#include "plan/piece_leaves.h"
#include "plan/pose.h"

namespace easel {
namespace {

Finish finishOf(const std::string& id) {
  const Finish* f = findFinish(id);
  return f ? *f : *findFinish("grey");
}

Frame turnedAbout(const Frame& f, Vec3 axis, float angle) {
  return {rotateAbout(f.u, axis, angle), rotateAbout(f.v, axis, angle), rotateAbout(f.n, axis, angle)};
}

// A person as three upright prisms of six faces: legs, trunk, head.
void addPerson(std::vector<Leaf>& out, const Leaf& like, double tall) {
  const auto t = float(tall);
  auto prism = [&](float from, float to, float rx, float rz) {
    for (int k = 0; k < 6; ++k) {
      const float a = float(k) * kPiF / 3, b = a + kPiF / 3;
      auto corner = [&](float angle) {
        return like.frame.u * (rx * std::cos(angle)) + like.frame.n * (rz * std::sin(angle));
      };
      const Vec3 p = corner(a), q = corner(b);
      Leaf face = like;
      face.centre = like.centre + (p + q) * 0.5f;
      face.centre.y = t * (from + to) / 2;
      const Vec3 up{0, 1, 0}, along = normalize(q - p);
      face.frame = {along, up, cross(along, up)};
      if (dot(face.frame.n, p + q) < 0) face.frame = {-along, up, -face.frame.n};
      face.halfWidth = length(q - p) / 2;
      face.halfHeight = t * (to - from) / 2;
      out.push_back(face);
    }
  };
  prism(0, 0.48f, 0.17f, 0.11f);
  prism(0.48f, 0.83f, 0.25f, 0.13f);
  prism(0.83f, 1, 0.085f, 0.10f);
}

}  // namespace

static std::vector<Leaf> leavesOf(const Panel& p, int index, bool drawn) {
  std::vector<Leaf> out;
  const PanelShape shape = shapeOf(p.kind);
  Leaf leaf;
  leaf.panel = index;
  const Vec3 away = towardsHour(p.hour);
  leaf.centre = away * float(p.distance);
  leaf.centre.y = float(p.above);
  leaf.frame = frameOf(p);
  if (shape == PanelShape::Photographer) {  // nobody stands tilted
    Panel upright = p;
    upright.tilt = 0;
    leaf.frame = frameOf(upright);
  }
  leaf.halfWidth = float(p.width / 2);
  leaf.halfHeight = float(p.height / 2);
  leaf.front = finishOf(p.front);
  if (const float own = luminance(leaf.front.diffuse); p.reflectance > 0 && own > 0) {
    // As it is stated: painted, without a mirror of its own.
    Finish& f = leaf.front;
    f.gloss = {};
    f.through = std::min(f.through, 1 - float(p.reflectance));
    f.diffuse *= float(p.reflectance) / own;
    for (int c = 0; c < 3; ++c) f.diffuse[c] = std::min(f.diffuse[c], 1 - f.through);
  }
  leaf.back = finishOf(p.back);
  switch (shape) {
    case PanelShape::Board:
      out.push_back(leaf);
      break;
    case PanelShape::Disc:
      leaf.disc = true;
      leaf.halfHeight = leaf.halfWidth;
      out.push_back(leaf);
      break;
    case PanelShape::CutOut:
      if (drawn) leaf.pattern = findGobo(p.pattern);
      out.push_back(leaf);
      break;
    case PanelShape::Slit:
      for (float side : {-1.f, 1.f}) {
        Leaf half = leaf;
        half.centre += leaf.frame.u * (side * (leaf.halfWidth + float(p.gap) / 2));
        out.push_back(half);
      }
      break;
    case PanelShape::Fold: {
      const float swing = radians(float((180 - p.fold) / 2));
      for (float side : {-1.f, 1.f}) {
        Leaf half = leaf;
        half.frame = turnedAbout(leaf.frame, leaf.frame.v, -side * swing);
        half.centre = leaf.centre + half.frame.u * (side * leaf.halfWidth);
        out.push_back(half);
      }
      break;
    }
    case PanelShape::Photographer:
      addPerson(out, leaf, p.height);
      break;
    default:
      addPiece(out, leaf, p, shape, drawn);
      break;
  }
  return out;
}

std::vector<Leaf> leavesOf(const Panel& panel, int index) { return leavesOf(panel, index, true); }
std::vector<Leaf> outlinesOf(const Panel& panel) { return leavesOf(panel, 0, false); }

std::vector<Leaf> leavesOf(const std::vector<Panel>& panels) {
  std::vector<Leaf> out;
  for (size_t i = 0; i < panels.size(); ++i)
    if (panels[i].on)
      for (Leaf& l : leavesOf(panels[i], int(i))) out.push_back(std::move(l));
  return out;
}

}  // namespace easel
