// The sitter as they sit or stand, posed, with what they sit on: triangles and colours in studio space.
//
// The greater part of a scene's triangles and of the time that it takes to build (some 80 ms); room, backdrop and
// panels may change round the same figure. Immutable once built; any thread.
#pragma once

#include <cmath>
#include <optional>

#include "placed/placed_set.h"
#include "sitters/eyes.h"
#include "sitters/fine_skin.h"
#include "sitters/glasses.h"
#include "sitters/sitter.h"
#include "transport/fibre.h"
#include "transport/scene.h"
#include "transport/traced.h"

namespace easel {

/// How the plan has the sitter hold themselves.
Posture postureOf(const SitterPlace& as, const Sitter& sitter);

/// How the eyes turn to what the plan has them look at. At the lens as long as eyes reach it, else straight ahead.
struct Gazing {
  Gaze gaze{};
  bool reached = true;  ///< false: as far as eyes turn, and no further
};
Gazing gazeOf(const PlacedSet& set, const Sitter& sitter);

class Figure {
 public:
  Figure(const SitterPlace& as, std::shared_ptr<const Sitter> sitter, const Gaze& gaze = {});

  const Traced& traced() const { return traced_; }
  /// About what it takes; the sitter, which many figures share, left out.
  double bytes() const { return traced_.bytes() + hatAlone_.bytes(); }
  const std::shared_ptr<const Sitter>& sitter() const { return sitter_; }
  /// Pose of the head: eyes, hair, glasses and hat are given in its frame.
  const Motion& head() const { return head_; }
  const Fibre& fibre() const { return fibre_; }
  /// Left and right; local.
  const std::array<Eye, 2>& eyes() const { return eyes_; }
  /// Local, head unturned; nullptr: none are worn.
  const Glasses* glasses() const { return glasses_.get(); }
  /// Whether a hat is worn, and whether it stands between two places of the studio.
  bool hasHat() const { return bool(hat_); }
  bool hatBetween(Vec3 from, Vec3 to) const;
  /// Studio: of a lens that was hit, the front's or the back's.
  Vec3 lensNormal(const Hit& hit, bool ofBack) const;
  /// Colour of what was hit of the sitter, and, `fine`, what is finer than mesh and texture. False: it is none of
  /// theirs.
  bool colour(SurfacePoint& point, const Hit& hit, bool fine) const;

 private:
  void addSitter(const SitterPlace& as, const Gaze& gaze);
  void addStool(float height, const Motion& seat);
  void tintSkin(const SitterPlace& as);
  void addBody(const SitterPlace& as);
  void addEyes(const SitterPlace& as, const Gaze& gaze);
  void addGlasses(const SitterPlace& as);
  void addHat(const SitterPlace& as);
  void addHair(const SitterPlace& as);
  struct Legs {  // what hangs below `from` [m] is that much longer
    float from = -INFINITY, length = 1;
  };
  std::unique_ptr<Geometry> posedPart(const MeshPart& part, const SitterPlace& as, const Legs& legs) const;

  std::shared_ptr<const Sitter> sitter_;
  std::shared_ptr<const FineSkin> fine_;
  std::optional<const Posture> posture_;
  Motion head_;
  Traced traced_;
  Vec3 hairTint_, skinTint_{1, 1, 1}, faceHue_{1, 1, 1};
  Fibre fibre_;  // of that tint
  std::array<Eye, 2> eyes_{};
  EyeMeshes eyeMeshes_;
  std::unique_ptr<const Glasses> glasses_;
  std::unique_ptr<const MeshPart> hat_;  // tipped
  Traced hatAlone_;
};

/// Shared: the same figure while somebody holds it, and besides the last ones, up to 300 MB of them.
std::shared_ptr<const Figure> figureOf(const SitterPlace& as, const std::shared_ptr<const Sitter>& sitter,
                                       const Gaze& gaze = {});

}  // namespace easel
