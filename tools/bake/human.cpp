#include "human.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <fstream>
#include <nlohmann/json.hpp>
#include <stdexcept>

#include "files/atomic_file.h"

namespace easel::bake {
namespace {

constexpr double kArmsDownDegrees = 30;

using Json = nlohmann::json;

Json readJson(const std::filesystem::path& file) {
  const std::string bytes = readWholeFile(file, 512u << 20);
  return Json::parse(bytes);
}

std::vector<Vec3> readVertices(const Json& flat) {
  std::vector<Vec3> v(flat.size() / 3);
  for (size_t i = 0; i < v.size(); ++i) v[i] = {flat[3 * i], flat[3 * i + 1], flat[3 * i + 2]};
  return v;
}

// Packed stream; every face of this package is a quad with material and uvs: 11, v0..v3, material, t0..t3.
void readFaces(const Json& model, QuadMesh& mesh, int onlyMaterial) {
  const Json& f = model.at("faces");
  for (size_t i = 0; i + 10 <= f.size(); i += 10) {
    if (f[i] != 11) throw std::runtime_error("a face of the package is not a textured quad");
    if (onlyMaterial >= 0 && f[i + 5] != onlyMaterial) continue;
    mesh.face.push_back({f[i + 1], f[i + 2], f[i + 3], f[i + 4]});
    mesh.faceUv.push_back({f[i + 6], f[i + 7], f[i + 8], f[i + 9]});
  }
  const Json& uv = model.at("uvs");
  const Json& flat = uv.size() && uv[0].is_array() ? uv[0] : uv;
  for (size_t i = 0; i + 1 < flat.size(); i += 2) mesh.uv.push_back({flat[i], flat[i + 1]});
}

// Names of the package's bones, by ours.
std::string boneName(int side, int ofArm) {
  static const char* const kArm[] = {"upperarm01", "upperarm02", "lowerarm01", "lowerarm02", "wrist"};
  const char* hand = side ? ".R" : ".L";
  if (ofArm < Bones::Digits) return std::string(kArm[ofArm]) + hand;
  const int digit = ofArm - Bones::Digits;
  return fmt::format("finger{}-{}{}", digit / Bones::kPhalanges + 1, digit % Bones::kPhalanges + 1, hand);
}

// What each of the package's bones is to us: itself, or whatever it hangs from.
std::vector<std::uint8_t> ourBones(const Json& bones) {
  std::map<std::string, std::uint8_t> known{{"root", Bones::Legs}, {"spine05", Bones::Trunk}};
  for (int side = 0; side < 2; ++side)
    for (int k = 0; k < Bones::kOfArm; ++k) known[boneName(side, k)] = std::uint8_t(Bones::ofArm(side, k));
  std::vector<std::uint8_t> ours(bones.size(), Bones::Trunk);
  for (size_t b = 0; b < bones.size(); ++b)
    for (int at = int(b); at >= 0; at = bones[size_t(at)].at("parent").get<int>()) {
      const std::string name = bones[size_t(at)].at("name");
      if (const auto found = known.find(name.substr(0, name.find("____"))); found != known.end()) {
        ours[b] = found->second;
        break;
      }
    }
  return ours;
}

}  // namespace

void Shares::add(std::uint8_t of, float much) {
  size_t least = 0;
  for (size_t k = 0; k < bone.size(); ++k) {
    if (share[k] != 0 && bone[k] == of) {
      share[k] += much;
      return;
    }
    if (share[k] < share[least]) least = k;
  }
  if (much <= share[least]) return;
  bone[least] = of;
  share[least] = much;
}
void Shares::add(const Shares& other, float much) {
  for (size_t k = 0; k < bone.size(); ++k)
    if (other.share[k] != 0) add(other.bone[k], other.share[k] * much);
}
Binding Shares::binding() const {
  std::array<size_t, 8> order{0, 1, 2, 3, 4, 5, 6, 7};
  std::sort(order.begin(), order.end(), [&](size_t a, size_t b) { return share[a] > share[b]; });
  float sum = 0;
  for (size_t k = 0; k < 4; ++k) sum += std::max(0.f, share[order[k]]);
  Binding out;
  if (sum <= 0) return out;
  int left = 255;
  for (size_t k = 3; k > 0; --k) {
    out.bone[k] = bone[order[k]];
    out.share[k] = std::uint8_t(std::lround(std::max(0.f, share[order[k]]) / sum * 255));
    left -= out.share[k];
  }
  out.bone[0] = bone[order[0]];
  out.share[0] = std::uint8_t(left);
  return out;
}

HumanPackage::HumanPackage(std::filesystem::path root) : root_(std::move(root)) {
  const Json model = readJson(file("public/data/models/human_full_size.json"));
  base_ = readVertices(model.at("vertices"));
  readFaces(model, body_, 0);

  for (const auto& [name, list] : model.at("metadata").at("joint_pos_idxs").items()) {
    joints_[name] = list.get<std::vector<int>>();
  }

  // Share of the motion of head and legs, from the skinning weights. The neck follows in steps.
  const Json& bones = model.at("bones");
  std::vector<float> head(bones.size());
  std::vector<float> thigh[2], shin[2];
  for (auto* share : {thigh, shin})
    for (int side = 0; side < 2; ++side) share[side].resize(bones.size());
  for (size_t b = 0; b < bones.size(); ++b) {
    bool headKnown = false;
    for (int at = int(b); at >= 0; at = bones[size_t(at)].at("parent").get<int>()) {
      std::string name = bones[size_t(at)].at("name");
      name = name.substr(0, name.find("____"));
      auto share = [&](float w) {
        if (!headKnown) {
          head[b] = w;
          headKnown = true;
        }
      };
      if (name == "head") share(1);
      if (name == "neck03") share(0.75f);
      if (name == "neck02") share(0.5f);
      if (name == "neck01") share(0.2f);
      for (int side = 0; side < 2; ++side) {
        if (name == (side ? "upperleg01.R" : "upperleg01.L")) thigh[side][b] = 1;
        if (name == (side ? "lowerleg01.R" : "lowerleg01.L")) shin[side][b] = 1;
      }
    }
  }
  const std::vector<std::uint8_t> ours = ourBones(bones);
  shares_.resize(base_.size());
  const Json& index = model.at("skinIndices");
  const Json& weight = model.at("skinWeights");
  headWeight_.resize(base_.size());
  armLeft_.resize(base_.size());
  armRight_.resize(base_.size());
  hands_.resize(base_.size());
  for (auto* share : {thigh_, shin_})
    for (int side = 0; side < 2; ++side) share[side].resize(base_.size());
  for (size_t i = 0; i < base_.size(); ++i) {
    for (size_t k = 0; k < 4; ++k) {
      const size_t b = index[4 * i + k];
      const float w = weight[4 * i + k];
      if (b >= bones.size()) continue;
      if (w > 0) shares_[i].add(ours[b], w);
      headWeight_[i] += w * head[b];
      if (const int arm = ours[b] - Bones::Arms; arm >= 0) {
        (arm < Bones::kOfArm ? armLeft_ : armRight_)[i] += w;
        if (arm % Bones::kOfArm >= Bones::Hand) hands_[i] += w;
      }
      for (int side = 0; side < 2; ++side) {
        thigh_[side][i] += w * thigh[side][b];
        shin_[side][i] += w * shin[side][b];
      }
    }
  }
  for (size_t i = 0; i < base_.size(); ++i) arms_.push_back(armLeft_[i] + armRight_[i]);

  const Json list = readJson(file("src/json/targets/target-list.json")).at("targets");
  size_t row = 0;
  for (const auto& [name, unused] : list.items()) {  // nlohmann keeps object keys sorted byte by byte
    (void)unused;
    targetRow_[name] = row++;
  }
  targets_ = readWholeFile(file("public/data/targets/targets.bin"), 512u << 20);
  if (targets_.size() < row * base_.size() * 6)
    throw std::runtime_error("targets.bin of the package is shorter than its list of targets");
}

void HumanPackage::addTarget(std::vector<Vec3>& v, const std::string& name, double weight) const {
  if (weight <= 1e-6) return;
  const auto at = targetRow_.find("data/targets/" + name + ".target");
  if (at == targetRow_.end()) throw std::runtime_error(fmt::format("the package has no shape target \"{}\"", name));
  const char* bytes = targets_.data() + at->second * base_.size() * 6;
  for (size_t i = 0; i < v.size(); ++i) {
    std::int16_t d[3];
    std::memcpy(d, bytes + i * 6, 6);
    v[i] += Vec3{float(d[0]), float(d[1]), float(d[2])} * float(weight * 1e-3);
  }
}

std::vector<Vec3> HumanPackage::shaped(const BodyRecipe& s) const {
  std::vector<Vec3> v = base_;
  const double a = s.age;
  double baby = 0, child = 0, young = 0, old = 0;
  if (a < 0.5) {
    baby = std::max(0.0, 1 - 5.333 * a);
    young = std::max(0.0, 3.2 * (a - 0.1875));
    child = std::max(0.0, std::min(1.0, 5.333 * a) - young);
  } else {
    old = 2 * a - 1;
    young = 1 - old;
  }
  const std::pair<const char*, double> ages[] = {{"baby", baby}, {"child", child}, {"young", young}, {"old", old}};
  const std::pair<const char*, double> genders[] = {{"female", s.female}, {"male", 1 - s.female}};
  const char* ancestries[] = {"african", "asian", "caucasian"};
  auto three = [](double x, const char* what) {
    const double max = std::max(0.0, 2 * x - 1), min = std::max(0.0, 1 - 2 * x);
    return std::array<std::pair<std::string, double>, 3>{{{std::string("max") + what, max},
                                                          {std::string("min") + what, min},
                                                          {std::string("average") + what, 1 - max - min}}};
  };
  for (const auto& [gender, wg] : genders)
    for (const auto& [age, wa] : ages) {
      for (int r = 0; r < 3; ++r)
        addTarget(v, fmt::format("macrodetails/{}-{}-{}", ancestries[r], gender, age), wg * wa * s.ancestry[size_t(r)]);
      for (const auto& [muscle, wm] : three(s.muscle, "muscle"))
        for (const auto& [weight, ww] : three(s.weight, "weight"))
          addTarget(v, fmt::format("macrodetails/universal-{}-{}-{}-{}", gender, age, muscle, weight),
                    wg * wa * wm * ww);
    }
  for (const auto& [name, w] : s.details) addTarget(v, name, w);

  const Joints at = joints(v);
  for (int side = 0; side < 2; ++side) {
    const std::vector<float>& share = side ? armRight_ : armLeft_;
    const Vec3 pivot = at.of[size_t(Bones::ofArm(side, Bones::Upper))];
    const float angle = radians(float(kArmsDownDegrees)) * (side ? 1.f : -1.f);
    for (size_t i = 0; i < v.size(); ++i)
      if (share[i] > 0) v[i] = pivot + rotateAbout(v[i] - pivot, {0, 0, 1}, angle * share[i]);
  }
  return v;
}

std::vector<Vec3> HumanPackage::sitting(const std::vector<Vec3>& vertices) const {
  std::vector<Vec3> v = vertices;
  const Joints at = joints(vertices);
  for (int side = 0; side < 2; ++side) {
    const Vec3 hip = at.hip[size_t(side)], knee = at.knee[size_t(side)];
    // The shin first, about the knee where it still stands; then the whole leg about the hip.
    const float bend = radians(kSeatedBend);
    for (size_t i = 0; i < v.size(); ++i) {
      if (shin_[side][i] > 0) v[i] = knee + rotateAbout(v[i] - knee, {1, 0, 0}, bend * shin_[side][i]);
      if (thigh_[side][i] > 0) v[i] = hip + rotateAbout(v[i] - hip, {1, 0, 0}, -bend * thigh_[side][i]);
    }
  }
  return v;
}

QuadMesh HumanPackage::body(const std::vector<Vec3>& vertices) const {
  QuadMesh m = body_;
  m.position = vertices;
  m.headWeight = headWeight_;
  m.shares = shares_;
  return m;
}

QuadMesh HumanPackage::part(const std::string& kind, const std::string& name, const std::vector<Vec3>& V) const {
  const Json model = readJson(file(fmt::format("public/data/proxies/{}/{}/{}.json", kind, name, name)));
  QuadMesh m;
  readFaces(model, m, -1);
  const Vec3 scale{std::abs(V[5399].x - V[11998].x) / 1.48f, std::abs(V[791].y - V[881].y) / 2.3298f,
                   std::abs(V[962].z - V[5320].z) / 1.9221f};
  const Json& ref = model.at("ref_vIdxs");
  const Json& weights = model.at("weights");
  const Json& offsets = model.at("offsets");
  for (size_t i = 0; i < ref.size(); ++i) {
    Vec3 p{float(offsets[i][0]), float(offsets[i][1]), float(offsets[i][2])};
    p = p * scale;
    float head = 0;
    Shares shares;
    for (size_t k = 0; k < 3; ++k) {
      const size_t r = ref[i][k];
      const float w = weights[i][k];
      p += V.at(r) * w;
      head += headWeight_.at(r) * w;
      shares.add(shares_.at(r), w);
    }
    m.position.push_back(p);
    m.headWeight.push_back(std::clamp(head, 0.f, 1.f));
    m.shares.push_back(shares);
  }
  return m;
}

std::vector<bool> HumanPackage::hiddenBy(const std::string& garment) const {
  const Json model = readJson(file(fmt::format("public/data/proxies/clothes/{}/{}.json", garment, garment)));
  std::vector<bool> hidden(base_.size());
  const Json& marks = model.at("metadata").at("deleteVerts");
  for (size_t i = 0; i < std::min(marks.size(), hidden.size()); ++i) hidden[i] = marks[i].get<int>() != 0;
  return hidden;
}

Joints HumanPackage::joints(const std::vector<Vec3>& v) const {
  Joints j;
  j.of.resize(Bones::kAll);
  for (int side = 0; side < 2; ++side) {
    for (int k = 0; k < Bones::kOfArm; ++k)
      j.of[size_t(Bones::ofArm(side, k))] = joint(boneName(side, k) + "____head", v);
    j.hip[size_t(side)] = joint(side ? "upperleg01.R____head" : "upperleg01.L____head", v);
    j.knee[size_t(side)] = joint(side ? "lowerleg01.R____head" : "lowerleg01.L____head", v);
  }
  return j;
}

Vec3 HumanPackage::joint(const std::string& name, const std::vector<Vec3>& vertices) const {
  const auto at = joints_.find(name);
  if (at == joints_.end() || at->second.empty()) throw std::runtime_error("the package has no joint " + name);
  Vec3 sum;
  for (int i : at->second) sum += vertices.at(size_t(i));
  return sum / float(at->second.size());
}

}  // namespace easel::bake
