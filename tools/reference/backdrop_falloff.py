#!/usr/bin/env python3
"""Fall-off of a large source with distance, from POV-Ray: what arrives on a backdrop that is moved back.

Run by hand (apt-get install povray); prints the table that stands in tests/reference/backdrop_falloff_povray.h.
Emitter 1.2 x 1.2 m of luminance 1 facing the white plane, at several distances; cosine spotlights as in area_light.py.
"""
import math, re, subprocess, tempfile
import area_light as a

SIDE, N = 1.2, 48
DISTANCES = [0.6, 1.0, 1.5, 2.0, 3.0, 4.0]
POINTS = [(0.0, 0.0), (0.8, 0.0)]


def scene(z):
    colour = SIDE * SIDE / (N * N * math.pi * 2 * a.FD * a.FD)
    place = lambda i: (i + .5) / N * SIDE - SIDE / 2
    lights = "".join(
        f"light_source {{ <{place(i):.6f},{place(j):.6f},{z}> color rgb {colour:.8f} spotlight "
        f"point_at <{place(i):.6f},{place(j):.6f},0> radius 89 falloff 90 tightness 1 fade_distance {a.FD} fade_power 2 }}\n"
        for i in range(N) for j in range(N))
    return ("#version 3.7;\nglobal_settings { assumed_gamma 1 ambient_light 0 }\n"
            f"camera {{ orthographic location <0,0,0.3> look_at <0,0,0> up y*{a.SPAN} right x*{a.SPAN} }}\n"
            "plane { z, 0 pigment { rgb 0.25 } finish { diffuse 1 ambient 0 } }\n" + lights)


version = re.search(r"POV-Ray ([\d.]+)", subprocess.run(["povray", "--version"], capture_output=True, text=True).stderr)
print("// POV-Ray", version.group(1) if version else "?")
for z in DISTANCES:
    with tempfile.TemporaryDirectory() as d:
        open(f"{d}/s.pov", "w").write(scene(z))
        subprocess.run(["povray", f"+I{d}/s.pov", f"+O{d}/s.png", f"+W{a.SIZE}", f"+H{a.SIZE}", "+FN16", "-D",
                        "File_Gamma=1.0", "-A"], check=True, capture_output=True)
        at = a.png16(f"{d}/s.png")
        for x, y in POINTS:
            px, py = int((x / a.SPAN + .5) * a.SIZE), int((.5 - y / a.SPAN) * a.SIZE)
            cx, cy = ((px + .5) / a.SIZE - .5) * a.SPAN, (.5 - (py + .5) / a.SIZE) * a.SPAN
            print(f"    {{{z:.1f}, {cx:.4f}, {cy:.4f}, {at(px, py) * math.pi / 0.25:.6f}}},")
