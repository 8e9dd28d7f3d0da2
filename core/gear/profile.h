// The angular profile of a light as measured: luminous intensity by direction, as photometric files give it.
//
// Type C photometry of ANSI/IES LM-63: vertical angle gamma from the axis (0 on it, 90 at right angles, up to 180),
// horizontal angle C about the axis. Values are candela; only their shape counts for an emitter, whose flux is set by
// the modifier's transmission. Angles in degrees, intensities >= 0.
#pragma once

#include <memory>
#include <vector>

namespace easel {

class AngularProfile {
 public:
  /// `candela[h][v]` for every horizontal and vertical angle, both ascending. Throws std::invalid_argument with a
  /// sentence when sizes do not fit, angles do not ascend, a value is negative, not finite or above 1e12, or all are
  /// zero.
  AngularProfile(std::vector<double> vertical, std::vector<double> horizontal,
                 std::vector<std::vector<double>> candela);

  const std::vector<double>& vertical() const { return vertical_; }
  const std::vector<double>& horizontal() const { return horizontal_; }
  const std::vector<std::vector<double>>& candela() const { return candela_; }

  /// Bilinear between the tabled angles; 0 beyond the last vertical angle. Horizontal angles that end at 90 or 180 are
  /// mirrored as the standard says. Candela.
  double at(double verticalDegrees, double horizontalDegrees) const;
  /// Luminous flux into the hemisphere about the axis [lm]: integral of intensity over the solid angle.
  double forwardLumens() const { return forward_; }
  /// Into the whole sphere [lm].
  double lumens() const { return all_; }
  double peak() const { return peak_; }

 private:
  double integrate(double toDegrees) const;
  std::vector<double> vertical_, horizontal_;
  std::vector<std::vector<double>> candela_;
  double forward_ = 0, all_ = 0, peak_ = 0;
};

}  // namespace easel
