#include <cmath>

#include "sitters/sitter.h"

namespace easel {

bool worn(const Sitter& s, const MeshPart& p, const Clothing& c, double eyeHeight) {
  if ((!p.of.empty() && p.of != c.garment) || (p.garment == Garment::Apron && !c.apron)) return false;
  return p.wear.empty() || p.wear == (seated(-double(s.soles), eyeHeight) ? "seated" : "standing");
}

void express(const std::vector<Morph>& all, const std::string& expression, std::vector<Vec3>& position,
             std::vector<Vec3>& normal) {
  for (const Morph& m : all) {
    if (m.expression != expression) continue;
    for (size_t k = 0; k < m.vertex.size(); ++k) {
      position[m.vertex[k]] += m.shift[k];
      normal[m.vertex[k]] = m.normal[k];
    }
  }
}

Vec3 frontOfChin(const Sitter& sitter) {
  const Landmarks& l = sitter.landmarks;
  const float high = std::lerp(l.mouthHeight(), l.chin.y, 0.6f), low = l.chin.y - 0.004f;
  Vec3 found = l.chin;
  float most = -1;
  for (const MeshPart& part : sitter.parts) {
    if (part.surface != Surface::Skin || !part.of.empty() || !part.wear.empty()) continue;
    for (size_t i = 0; i < part.position.size(); ++i) {
      const Vec3 p = part.position[i];
      if (std::abs(p.x) > 0.003f || p.y > high || p.y < low || p.z < l.chin.z - 0.02f) continue;
      // Both the fold under the lip and the chin look ahead: the chin stands further out.
      if (const float ahead = p.z + 0.03f * part.normal[i].z; ahead > most) {
        most = ahead;
        found = p;
      }
    }
  }
  return found;
}

Vec3 posedDirection(Vec3 d, float w, const HeadPose& pose) {
  if (w <= 0) return d;
  // Fractions of one rotation per vertex keep the neck a smooth twist rather than a hinge.
  d = rotateAbout(d, {1, 0, 0}, radians(float(pose.nod)) * w);
  d = rotateAbout(d, {0, 0, 1}, -radians(float(pose.tilt)) * w);
  return rotateAbout(d, {0, 1, 0}, radians(float(pose.turn)) * w);
}

Vec3 posed(Vec3 p, float w, Vec3 pivot, const HeadPose& pose) { return pivot + posedDirection(p - pivot, w, pose); }

Vec3 unposedDirection(Vec3 d, float w, const HeadPose& pose) {
  if (w <= 0) return d;
  d = rotateAbout(d, {0, 1, 0}, -radians(float(pose.turn)) * w);
  d = rotateAbout(d, {0, 0, 1}, radians(float(pose.tilt)) * w);
  return rotateAbout(d, {1, 0, 0}, -radians(float(pose.nod)) * w);
}

Vec3 unposed(Vec3 p, float w, Vec3 pivot, const HeadPose& pose) { return pivot + unposedDirection(p - pivot, w, pose); }

}  // namespace easel
