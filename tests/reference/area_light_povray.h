// Made by tools/reference/area_light.py with POV-Ray 3.7.0.10 (Debian 12). Emitter 0.6 x 0.9 m at z = 1, luminance 1,
// facing the plane z = 0; flagged: the half plane x < 0 at z = 0.5 stops light. Columns: flagged, x, y, irradiance.
#pragma once

struct ReferenceSpot {
  bool flagged;
  double x, y, irradiance;
};

inline constexpr ReferenceSpot kAreaLightPovray[] = {
    {false, -0.0250, -0.0250, 0.452244}, {false, 0.2750, -0.0250, 0.403203}, {false, 0.5750, 0.2750, 0.259630},
    {false, 0.9750, -0.0250, 0.140026},  {false, 0.1750, -0.5250, 0.307855}, {false, -0.3250, -0.0250, 0.385610},
    {false, -0.5250, -0.5250, 0.224348}, {false, 0.0750, 0.8750, 0.184656},  {true, -0.0250, -0.0250, 0.203303},
    {true, 0.2750, -0.0250, 0.391411},   {true, 0.5750, 0.2750, 0.259630},   {true, 0.9750, -0.0250, 0.140026},
    {true, 0.1750, -0.5250, 0.253926},   {true, -0.3250, -0.0250, 0.000000}, {true, -0.5250, -0.5250, 0.000000},
    {true, 0.0750, 0.8750, 0.118598},
};
