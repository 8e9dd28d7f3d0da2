// CIE lightness: how light a tone looks against white.
#pragma once

namespace easel {

/// L* of the luminance `y` relative to white (0..1): 116 f(y) - 16, f(y) = y^(1/3) above (6/29)^3, else
/// y / (3 (6/29)^2) + 4/29. 0 black .. 100 white. ISO/CIE 11664-4:2019, CIE 15:2004 (8.2.1.1). Negative y counts as 0.
double lightness(double y);

}  // namespace easel
