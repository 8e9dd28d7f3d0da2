#!/usr/bin/python3
"""Irradiance from emitters, past flags and over panels, from POV-Ray (a general-purpose renderer).

Run by hand (apt-get install povray python3-numpy); prints the table that stands in tests/reference/panels_povray.h.
The camera stands at the spot and looks: irradiance is the picture's luminance times cosine, summed over solid angle.

  emitters   an even surface of luminance 1, seen directly
  flag       the same with a half plane before it
  white      a white board (reflectance 1), lit by an emitter of luminance 1
  scrim      cloth that passes all that falls on its back, scattered, lit likewise
  gloss      a silver board as a mosaic of small mirrors, tilted at random by the Trowbridge-Reitz distribution (alpha
             0.32), each seen with its own projected area; no other formula of reflection enters but the mirror law

Places are those of the studio (x right, y up, z to the camera); POV-Ray's z is the other way round.
Columns: case, emitter, emitter's place and what it faces, spot, its normal, irradiance.
"""
import math, subprocess, sys, tempfile
import numpy as np

PANEL = np.array([0, 6, 3.0])  # its centre; it faces -z
BOARD = (0.8, 1.2)
ALPHA = 0.32
MOST, LEVELS = 4.0, 256  # a cell may reflect up to MOST times what falls on it, in that many steps
EMITTERS = {"rectangle": ("rectangle", 0.6, 0.9), "disc": ("disc", 0.56, 0.56), "large": ("rectangle", 1.2, 1.8)}


def unit(v):
    v = np.asarray(v, float)
    return v / np.linalg.norm(v)


def frame(n):
    n = unit(n)
    u = unit(np.cross([0, 1, 0], n))
    return u, np.cross(n, u), n


def vec(v):
    return "<%.7f,%.7f,%.7f>" % (v[0], v[1], -v[2])


def glowing(kind, centre, facing):
    shape, w, h = EMITTERS[kind]
    u, v, n = frame(facing)
    if shape == "disc":
        body = f"disc {{ {vec(centre)}, {vec(n)}, {w / 2} }}"
    else:
        a, b, c, d = (centre + u * (sx * w / 2) + v * (sy * h / 2) for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1)))
        body = f"union {{ triangle {{ {vec(a)},{vec(b)},{vec(c)} }} triangle {{ {vec(a)},{vec(c)},{vec(d)} }} }}"
    return f"object {{ {body} pigment {{ rgb 1 }} finish {{ ambient 0 diffuse 0 emission 1 }} }}\n"


def lamps(kind, centre, facing, n=20):
    """The same emitter as light sources: a plain area_light lacks its cosine, a grid of cosine spotlights has it."""
    shape, w, h = EMITTERS[kind]
    u, v, d = frame(facing)
    near = 0.005
    places = [((i + .5) / n * 2 - 1, (j + .5) / n * 2 - 1) for i in range(n) for j in range(n)]
    if shape == "disc":
        places = [p for p in places if p[0] ** 2 + p[1] ** 2 < 1]
    area = math.pi * w * w / 4 if shape == "disc" else w * h
    colour = area / (len(places) * math.pi * 2 * near * near)
    out = ""
    for a, b in places:
        q = centre + u * (a * w / 2) + v * (b * h / 2)
        out += (f"light_source {{ {vec(q)} color rgb {colour:.8f} spotlight point_at {vec(q + d)} radius 89 falloff 90 "
                f"tightness 1 fade_distance {near} fade_power 2 }}\n")
    return out


def board(finish):
    w, h = BOARD
    x, y, z = PANEL
    return (f"polygon {{ 5, {vec((x - w / 2, y - h / 2, z))},{vec((x + w / 2, y - h / 2, z))},{vec((x + w / 2, y + h / 2, z))},"
            f"{vec((x - w / 2, y + h / 2, z))},{vec((x - w / 2, y - h / 2, z))} pigment {{ rgb 1 }} finish {{ ambient 0 {finish} }} }}\n")


def mosaic(spot, cells=360, seed=1):
    """Flat cells that mirror about normals of their own. A facet tilted by h under a cell shows the spot h.v / (n.v h.n)
    times the cell's area: the cell reflects that much. What facets hide of each other is left out (3 % here)."""
    w, h = BOARD
    nx, ny = int(cells * w / h), cells
    dx, dy = w / nx, h / ny
    rng = np.random.default_rng(seed)
    n = nx * ny
    # Stratified: one normal from each of n cells of the unit square, dealt out at random.
    u1 = (np.arange(n) + rng.random(n)) / n
    u2 = (np.arange(n) * 0.6180339887498949 + rng.random()) % 1
    order = rng.permutation(n)
    u1, u2 = u1[order], u2[order]
    # Share of the board's area whose normal is h: D(h) cos(h).
    c = np.sqrt((1 - u1) / (1 + (ALPHA ** 2 - 1) * u1))
    s = np.sqrt(np.maximum(0, 1 - c * c))
    normal = np.stack([s * np.cos(2 * np.pi * u2), s * np.sin(2 * np.pi * u2), -c], axis=1)
    ix, iy = np.meshgrid(np.arange(nx), np.arange(ny))
    cx = PANEL[0] - w / 2 + (ix.ravel() + .5) * dx
    cy = PANEL[1] - h / 2 + (iy.ravel() + .5) * dy
    view = np.asarray(spot, float) - np.stack([cx, cy, np.full(n, PANEL[2])], axis=1)
    view /= np.linalg.norm(view, axis=1)[:, None]
    shows = np.maximum(0, (view * normal).sum(1)) / (-view[:, 2] * c)
    level = np.minimum(LEVELS - 1, np.round(shows / MOST * LEVELS)).astype(int)
    out = [f"#declare R{k} = texture {{ pigment {{ rgb 0 }} finish {{ ambient 0 diffuse 0 reflection {{ {k / LEVELS} }} }} }}\n"
           for k in range(LEVELS)] + ["mesh {\n"]
    for k in range(n):
        a, b, c4, d = (vec((cx[k] + sx * dx, cy[k] + sy * dy, PANEL[2])) for sx, sy in ((-.5, -.5), (.5, -.5), (.5, .5), (-.5, .5)))
        # Three equal normals would be taken for a flat triangle's: they differ by a hair.
        m, m2, m3 = vec(normal[k]), vec(normal[k] + [0.002, 0, 0]), vec(normal[k] + [0, 0.002, 0])
        out.append(f"smooth_triangle {{ {a},{m},{b},{m2},{c4},{m3} texture {{ R{level[k]} }} }} "
                   f"smooth_triangle {{ {a},{m},{c4},{m2},{d},{m3} texture {{ R{level[k]} }} }}\n")
    out.append("}\n")
    return "".join(out)


def look(scene, spot, normal, at, angle, size, samples=1):
    """Irradiance at the spot from what the camera sees there, looking at `at`."""
    spot, at = np.asarray(spot, float), np.asarray(at, float)
    u, v, n = frame(spot - at)  # n: from what is seen to the camera
    text = ("#version 3.7;\nglobal_settings { assumed_gamma 1 ambient_light 0 max_trace_level 3 }\n"
            f"camera {{ perspective location {vec(spot)} right x up y direction z angle {angle} look_at {vec(at)} }}\n" + scene)
    with tempfile.TemporaryDirectory() as d:
        open(f"{d}/s.pov", "w").write(text)
        aa = [f"+A0.0", "+AM1", f"+R{samples}", "-J"] if samples > 1 else ["+A0.003", "+AM2", "+R4", "-J"]
        r = subprocess.run(["povray", f"+I{d}/s.pov", f"+O{d}/s.ppm", f"+W{size}", f"+H{size}", "+FP16", "-D", "File_Gamma=1.0"] + aa,
                           capture_output=True, text=True)
        if r.returncode:
            sys.exit(r.stderr[-2000:])
        raw = open(f"{d}/s.ppm", "rb").read()
    parts = raw.split(b"\n", 3)
    while parts[1].startswith(b"#"):
        parts = [parts[0]] + parts[2].split(b"\n", 1) + parts[3:]
    data = np.frombuffer(raw[-size * size * 6:], dtype=">u2").reshape(size, size, 3)[:, :, 0].astype(float) / 65535
    half = math.tan(math.radians(angle) / 2)
    grid = ((np.arange(size) + .5) / size * 2 - 1) * half
    px, py = np.meshgrid(grid, -grid)
    # Which way x runs in the picture: POV-Ray's hand is the other one, and so is its z; right stays right.
    ray = -n[None, None, :] + px[:, :, None] * u[None, None, :] + py[:, :, None] * v[None, None, :]
    length = np.linalg.norm(ray, axis=2)
    solid = (2 * half / size) ** 2 / length ** 3
    cosine = np.maximum(0, (ray @ unit(normal)) / length)
    return float((data * cosine * solid).sum())


def row(case, kind, place, aim, spot, normal, value):
    numbers = ", ".join("%.4g" % v for v in [*place, *aim, *spot, *unit(normal)])
    print(f'    {{"{case}", "{kind}", {numbers}, {value:.6f}}},', flush=True)


def main():
    only = sys.argv[1:]
    want = lambda c: not only or c in only
    lamp = np.array([0, 6, 3.0])
    # Emitters, near and far: square on, beside the axis, tilted away.
    if want("emitter"):
        for kind in ("rectangle", "disc"):
            for far in (0.35, 2.5):
                for side, tilt in ((0, 0), (0.3, 0), (0.3, 0.6), (-0.5, -0.4), (0.9, 0.3), (0.2, 1.0)):
                    spot = np.array([side * max(1, far / 1.5), 6 + 0.2 * side, 3 - far])
                    normal = unit([math.sin(tilt), 0.1, math.cos(tilt)])
                    angle = 150 if far < 1 else 60
                    # Looks at the middle of it from beside: the field is wide enough for all of it.
                    e = look(glowing(kind, lamp, [0, 0, -1]), spot, normal, lamp, angle, 1600 if far < 1 else 800)
                    row("emitter", kind, lamp, [0, 0, -1], spot, normal, e)
    # A half plane x < 0 in the way, near the lamp and near the spot; spots across its shadow's edge.
    if want("flag"):
        for kind, z in (("rectangle", 2.5), ("rectangle", 1.6), ("disc", 2.2)):
            far, gap = 2.0, z - 1.0
            flag = (f"polygon {{ 5, {vec((-9, -3, z))},{vec((0, -3, z))},{vec((0, 15, z))},{vec((-9, 15, z))},{vec((-9, -3, z))} "
                    "pigment { rgb 0 } finish { ambient 0 diffuse 0 } }\n")
            edge = EMITTERS[kind][1] / 2 * gap / (3 - z)
            for t in (-0.9, -0.6, -0.3, 0.0, 0.3, 0.6, 0.9, 1.2):
                spot = np.array([t * edge, 6.05, 1.0])
                e = look(glowing(kind, lamp, [0, 0, -1]) + flag, spot, [0, 0, 1], lamp, 60, 1200)
                row("flag %.1f" % z, kind, lamp, [0, 0, -1], spot, [0, 0, 1], e)
    spots = [((0, 6, 2.0), (0, 0, 1)), ((0, 6, 2.6), (0, 0, 1)), ((0.5, 6.2, 2.2), (0, 0, 1)), ((-0.5, 5.7, 2.4), (0.4, 0, 1)),
             ((0.3, 6.5, 1.5), (-0.3, -0.4, 1)), ((-1.0, 6, 1.8), (1, 0, 1)), ((0.2, 5.5, 0.5), (0, 0.2, 1))]
    def over(case, finish, kind, place):
        aim = PANEL - place
        scene = lamps(kind, place, aim) + board(finish)
        for spot, normal in spots:
            e = look(scene, spot, normal, PANEL, 130 if spot[2] > 2.3 else 90, 300)
            row(case, kind, place, unit(aim), spot, normal, e)
    if want("white"):
        over("white", "diffuse 1", "rectangle", np.array([-1.2, 6, 1.4]))
        over("white", "diffuse 1", "disc", np.array([0.9, 6, 0.2]))
    if want("scrim"):
        over("scrim", "diffuse 0, 1", "rectangle", np.array([0.3, 6, 3.7]))
        over("scrim", "diffuse 0, 1", "disc", np.array([-0.8, 6, 4.6]))
    if want("gloss"):
        for kind, place in (("rectangle", np.array([-1.0, 6, 1.2])), ("large", np.array([-1.2, 6, 0.4]))):
            aim = PANEL - place
            lamp_there = glowing(kind, place, aim)
            for spot, normal in [((1.0, 6, 1.2), (-1, 0, 1.8)), ((0.7, 6, 1.0), (-0.4, 0, 1)), ((0.4, 6.2, 1.4), (0, 0, 1)),
                                 ((1.5, 5.8, 1.0), (-1, 0, 1)), ((0.0, 6, 1.5), (0, 0, 1)), ((0.6, 6.5, 0.6), (0, -0.3, 1))]:
                # The emitter itself lies behind the camera or at its side, never in the field of the board.
                e = look(lamp_there + mosaic(spot), spot, normal, PANEL, 62, 700, 2) * MOST
                row("gloss", kind, place, unit(aim), spot, normal, e)


if __name__ == "__main__":
    main()
