// Where the camera stands for a framing: the height of the picture at the sitter, with the lens and sensor as they are.
//
// Heights at the sitter (metres) and the place of the eyes are common practice, no source: a headshot cuts just under
// the collar, head and shoulders at the chest, half length at the waist,
// three-quarter length above the knee. Eyes on the upper third or a little above.
#pragma once

#include <span>
#include <string>
#include <utility>
#include <vector>

#include "geometry/vec.h"
#include "plan/plan.h"

namespace easel {

/// How far in front of the axis the face is, where framing and focus are wanted [m].
constexpr double kFaceDepth = 0.08;

struct Framing {
  std::string id, name;
  double height;     ///< of the picture at the sitter [m]
  double belowEyes;  ///< picture centre below the eyes [m]
};
/// From tight to wide; full length is for a standing adult.
const std::vector<Framing>& framings();

/// The camera moved (and its lens raised a little above the picture's centre) so that the framing fills the sensor.
/// Distance is kept between 0.5 and 50 m.
Camera framed(const Plan& plan, const Framing& framing);
/// The framing cut out of what is seen from where the camera stands, as a longer or shorter lens would, in another
/// frame and with the exposure that it has.
Camera croppedTo(const Plan& plan, const Framing& framing, double frame);
/// By its id; throws std::out_of_range.
const Framing& framingCalled(const std::string& id);
/// The camera as near as it is but so far back, aimed so high or low, that head and `points` (studio space, m) lie
/// within the picture; where the room ends the lens grows shorter, to 24 mm. As it is when they do already.
Camera widened(const Plan& plan, std::span<const Vec3> points);
/// The framing that the camera shows now: the nearest in height.
const Framing& framingOf(const Plan& plan);

/// Proportions of the picture.
struct PictureFrame {
  std::string id, name;
  double widthOverHeight;
};
const std::vector<PictureFrame>& frames();
/// Width and height in pixels of a picture in that frame that has about `pixels` of them; 8 at least.
std::pair<int, int> sizeInFrame(double widthOverHeight, double pixels = 640.0 * 800);
/// Whether the picture lies on its long side; one that is nearly square does not.
constexpr bool liesWide(const Camera& camera) { return camera.frame > 1.05; }
/// The camera held for another frame and moved so that the framing stays.
Camera inFrame(const Plan& plan, double widthOverHeight);

struct Sensor {
  std::string id, name;
  double shortSide, longSide;  ///< mm
};
const std::vector<Sensor>& sensors();

/// Height of the eyes on a stool, of a sitter who stands at `standingEyes` [m] (common practice, no source).
constexpr double seatedEyes(double standingEyes) { return 0.76 * standingEyes; }
/// The sitter up or down to `eyeHeight`, with lights and camera as far up or down as the eyes go, inside the room.
Plan withEyesAt(const Plan& plan, double eyeHeight);

}  // namespace easel
