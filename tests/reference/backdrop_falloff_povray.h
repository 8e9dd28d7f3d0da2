// Made by tools/reference/backdrop_falloff.py with POV-Ray 3.7.0.10 (Debian 12). Emitter 1.2 x 1.2 m of luminance 1
// facing the backdrop. Columns: distance, x, y, irradiance.
#pragma once

struct FalloffSpot {
  double distance, x, y, irradiance;
};

inline constexpr FalloffSpot kBackdropFalloffPovray[] = {
    {0.6, 0.0250, -0.0250, 1.738602}, {0.6, 0.8250, -0.0250, 0.624148}, {1.0, 0.0250, -0.0250, 0.976777},
    {1.0, 0.8250, -0.0250, 0.512357}, {1.5, 0.0250, -0.0250, 0.527889}, {1.5, 0.8250, -0.0250, 0.355505},
    {2.0, 0.0250, -0.0250, 0.321374}, {2.0, 0.8250, -0.0250, 0.247933}, {3.0, 0.0250, -0.0250, 0.151866},
    {3.0, 0.8250, -0.0250, 0.133075}, {4.0, 0.0250, -0.0250, 0.087438}, {4.0, 0.8250, -0.0250, 0.080727},
};
