// The general-purpose human data set, unpacked: base mesh, shape targets, and parts fitted to the shaped mesh.
//
// Units of the package: decimetres, +y up, the face looks +z, the sitter's left is +x. Layout of the files and the
// fitting rule are described in docs/formats/sitters.md.
#pragma once

#include <array>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "sitters/people.h"
#include "sitters/sitter.h"

namespace easel::bake {

/// What shares a vertex has in the bones: the eight greatest at most.
struct Shares {
  std::array<std::uint8_t, 8> bone{};
  std::array<float, 8> share{};
  void add(std::uint8_t of, float much);
  void add(const Shares& other, float much);
  Binding binding() const;
};

struct QuadMesh {
  std::vector<Vec3> position;
  std::vector<float> headWeight;
  std::vector<Shares> shares;  ///< of the bones other than the head
  std::vector<Vec2> uv;
  std::vector<std::array<int, 4>> face;    ///< vertex indices
  std::vector<std::array<int, 4>> faceUv;  ///< uv indices, parallel to face
};

class HumanPackage {
 public:
  /// `root` is the unpacked package folder. Throws std::runtime_error naming what is missing.
  explicit HumanPackage(std::filesystem::path root);

  /// Base mesh with the shape applied, arms lowered. All vertices, helper ones too (parts are fitted to them).
  std::vector<Vec3> shaped(const BodyRecipe& body) const;
  /// The base mesh as it comes, unshaped: places on it are the same for everyone.
  const std::vector<Vec3>& unshaped() const { return base_; }
  /// Shares (0..1) of the body's parts in a vertex, from the skinning weights: arm from the shoulder, hand from the
  /// wrist, foot from the ankle.
  const std::vector<float>& arms() const { return arms_; }
  const std::vector<float>& hands() const { return hands_; }
  /// `vertices` (as given by shaped()) sitting: thighs forward, shins down.
  std::vector<Vec3> sitting(const std::vector<Vec3>& vertices) const;
  /// The body's quads only, on `vertices` as given by shaped().
  QuadMesh body(const std::vector<Vec3>& vertices) const;
  /// A part of the kind (eyes, eyebrows, eyelashes, hair) fitted to the shaped vertices.
  QuadMesh part(const std::string& kind, const std::string& name, const std::vector<Vec3>& vertices) const;
  /// Vertices of the body that lie under a garment ("clothes"), to be left out.
  std::vector<bool> hiddenBy(const std::string& garment) const;
  /// Where the bones begin, in the package's units.
  Joints joints(const std::vector<Vec3>& vertices) const;
  Vec3 joint(const std::string& name, const std::vector<Vec3>& vertices) const;
  std::filesystem::path file(const std::string& below) const { return root_ / below; }

 private:
  void addTarget(std::vector<Vec3>& v, const std::string& name, double weight) const;

  std::filesystem::path root_;
  std::vector<Vec3> base_;
  std::vector<float> headWeight_, armLeft_, armRight_, arms_, hands_;
  std::vector<Shares> shares_;
  std::vector<float> thigh_[2], shin_[2];  ///< left, right
  QuadMesh body_;
  std::map<std::string, std::vector<int>> joints_;
  std::map<std::string, size_t> targetRow_;
  mutable std::string targets_;  ///< the raw rows, int16
};

}  // namespace easel::bake
