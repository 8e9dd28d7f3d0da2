// A sitter: a head and shoulders as triangle meshes, with what is needed to turn the head and to hold a meter to the
// face.
//
// Local space: metres; y = 0 at eye level, x = 0 in the plane of symmetry, z = 0 on the axis of the neck; the face
// looks along +z and the sitter's left is +x. Arrays are parallel.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "sitters/distance_field.h"
#include "sitters/skeleton.h"

namespace easel {

enum class Surface : std::uint8_t {
  Skin = 0,
  Eye = 1,
  Cornea = 2,
  Brow = 3,
  Lash = 4,
  Hair = 5,
  Cloth = 6,  // of the sitter
  Backdrop = 7,
  Floor = 8,
  Wall = 9,
  Piece = 10,  // of the set: what of it is too small to send light by name
  Panel = 11,
  Scrim = 12,    // a panel that lets light through
  Nothing = 13,  // of the studio
  Lens = 14      // of glasses: told of as what is behind it, like the cornea
};
constexpr int kSurfaces = 15;
/// The sitter's own, hair and clothes included; without clothes, what turns with the head.
constexpr bool ofSitter(Surface s) { return s <= Surface::Cloth; }
constexpr bool ofHead(Surface s) { return s <= Surface::Hair; }
/// Boards, scrims, cloth of shades: their light is sampled as an emitter's, and no ray that meets them counts it again.
constexpr bool sampledByArea(Surface s) { return s == Surface::Panel || s == Surface::Scrim; }
/// Boards and pieces: what was brought into the room.
constexpr bool putUp(Surface s) { return s >= Surface::Piece && s <= Surface::Scrim; }

/// 8-bit sRGB + straight alpha, rows from the top.
struct Texture {
  int width = 0, height = 0;
  std::vector<std::uint8_t> rgba;

  /// The four bytes of the texel at `uv`, v up.
  const std::uint8_t* at(Vec2 uv) const {
    const int x = std::clamp(int(uv.x * float(width)), 0, width - 1),
              y = std::clamp(int((1 - uv.y) * float(height)), 0, height - 1);
    return &rgba[(size_t(y) * size_t(width) + size_t(x)) * 4];
  }
};

/// What a cloth part is: how it is coloured. A shirt is one that shows under another garment.
enum class Garment : std::uint8_t { Top, Trousers, Shoes, Apron, Shirt, Tie, Frame, Teeth, Hat };

/// What an expression does to a part: how far some of its vertices move, and their normals then.
struct Morph {
  std::string expression;
  std::vector<std::uint32_t> vertex;
  std::vector<Vec3> shift, normal;  ///< parallel to vertex
};
/// Moves vertices and normals of a mesh to the expression; as they are when none of `all` is of that id.
void express(const std::vector<Morph>& all, const std::string& expression, std::vector<Vec3>& position,
             std::vector<Vec3>& normal);

struct MeshPart {
  Surface surface = Surface::Skin;
  Garment garment = Garment::Top;
  std::string wear;                      ///< empty: always; "standing" or "seated"
  std::string of;                        ///< empty: with every garment; else the one above the hips that it belongs to
  std::int32_t texture = -1;             ///< index into Sitter::textures, -1 for none
  std::int32_t relief = -1;              ///< cloth: of its folds, a map of normals in the frame of the uv
  std::vector<Vec3> position;            ///< metres
  std::vector<Vec3> normal;              ///< unit
  std::vector<Vec2> uv;                  ///< v up; cloth without relief: x, y in metres on the unturned body
  std::vector<float> headWeight;         ///< 0 (body) .. 1 (head): share of the head's turn that the vertex follows
  std::vector<Binding> binding;          ///< besides the head; none: all of it goes with the trunk
  std::vector<std::uint32_t> triangles;  ///< three indices each
  std::vector<Morph> morphs;
};

/// The skin that hair can grow from: triangles of it, and how far inside the hairline they are.
struct HairGround {
  std::vector<Vec3> position, normal;
  std::vector<float> scalp;       ///< metres, on a head of middle size
  std::vector<float> beard;       ///< the same, inside of the line that a beard keeps to
  std::vector<float> headWeight;  ///< as the skin's: at the nape it turns less than the head
  std::vector<Morph> morphs;      ///< with the face
  std::vector<std::uint32_t> triangles;
};

/// Points on the face, local space, head unturned.
struct Landmarks {
  Vec3 eyeLeft, eyeRight, noseTip;
  Vec3 chin;  ///< low on it, near its edge; its front is Sitter::chinFront
  Vec3 forehead, crown, cheekLeft, cheekRight, neckPivot;

  Vec3 middleOfHead() const { return {0, 0.03f, neckPivot.z + 0.02f}; }
  /// Height of the line between the lips, of a face that says nothing.
  float mouthHeight() const { return (noseTip.y + chin.y) / 2; }
};

/// The ball of an eye as the package has it: what its lids lie on (sitters/eyes.h).
struct EyeSocket {
  Vec3 centre;  ///< metres, local
  float radius = 0.0146f;
};

struct Sitter {
  std::string id, name;
  std::string recipe;                        ///< what it was baked from (people.h, recipeMark)
  std::string hairStyle;                     ///< the one of their own
  float hips = -0.70f, soles = -1.53f;       ///< joint of the hips and soles of the feet, standing: y [m]
  Vec3 hairTint{1, 1, 1};                    ///< multiplies the luminance of the hair texture
  Vec3 skinTint{1, 1, 1};                    ///< multiplies the skin texture
  Vec3 faceReflectance{0.4f, 0.25f, 0.18f};  ///< as baked, skinTint included; taken from the texture on reading
  std::vector<Texture> textures;
  std::vector<MeshPart> parts;
  HairGround ground;
  Joints joints;
  DistanceField headField, bodyField;  ///< of the skin that turns with the head, and of what it stands on
  Landmarks landmarks;
  Vec3 chinFront;                      ///< frontOfChin(), found on reading
  std::array<EyeSocket, 2> sockets{};  ///< left, right: socketsOf(), found on reading
};

/// Where the chin looks straight ahead, between lower lip and edge: where a meter is held to it. Local space, a face
/// that says nothing.
Vec3 frontOfChin(const Sitter& sitter);

/// Whether a sitter whose eyes are at `standingEyes` when standing sits when they are at `eyeHeight` [m above the
/// floor]: clearly lower.
inline bool seated(double standingEyes, double eyeHeight) { return eyeHeight < 0.86 * standingEyes; }
/// What somebody has on above the hips.
struct Clothing {
  std::string garment;  ///< MeshPart::of
  bool apron = false;
};
/// Whether the part is worn: the standing or the seated legs, what belongs to those clothes.
bool worn(const Sitter& sitter, const MeshPart& part, const Clothing& clothes, double eyeHeight);

/// `p` (with its head weight) after the head has taken the pose about the neck pivot.
Vec3 posed(Vec3 p, float headWeight, Vec3 pivot, const HeadPose& pose);
/// Takes the pose back.
Vec3 unposed(Vec3 p, float headWeight, Vec3 pivot, const HeadPose& pose);
Vec3 unposedDirection(Vec3 d, float headWeight, const HeadPose& pose);
/// Direction version (normals).
Vec3 posedDirection(Vec3 d, float headWeight, const HeadPose& pose);

}  // namespace easel
