#!/usr/bin/env python3
"""Irradiance of a rectangular area light, open and half occluded, from POV-Ray (a general-purpose renderer).

Run by hand (apt-get install povray); prints the table that stands in tests/reference/area_light_povray.h.
Emitter 0.6 x 0.9 m at z = 1 facing the white plane z = 0, luminance 1; the flag is the half plane x < 0 at z = 0.5.
A plain area_light lacks the emitter's cosine, so the emitter is a 48 x 48 grid of cosine spotlights; pixel value = E / pi.
"""
import re, struct, subprocess, sys, tempfile, zlib, math, os

W, H, N, FD, SIZE, SPAN = 0.6, 0.9, 48, 0.005, 80, 4.0
POINTS = [(0.0, 0.0), (0.3, 0.0), (0.6, 0.3), (1.0, 0.0), (0.2, -0.5), (-0.3, 0.0), (-0.5, -0.5), (0.1, 0.9)]


def scene(flag):
    colour = W * H / (N * N * math.pi * 2 * FD * FD)
    lights = "".join(
        f"light_source {{ <{(i + .5) / N * W - W / 2:.6f},{(j + .5) / N * H - H / 2:.6f},1> color rgb {colour:.8f} "
        f"spotlight point_at <{(i + .5) / N * W - W / 2:.6f},{(j + .5) / N * H - H / 2:.6f},0> radius 89 falloff 90 tightness 1 "
        f"fade_distance {FD} fade_power 2 }}\n" for i in range(N) for j in range(N))
    occluder = "box { <-9,-9,0.5>,<0,9,0.5001> pigment { rgb 0 } }\n" if flag else ""
    return ("#version 3.7;\nglobal_settings { assumed_gamma 1 ambient_light 0 }\n"
            f"camera {{ orthographic location <0,0,0.4> look_at <0,0,0> up y*{SPAN} right x*{SPAN} }}\n"
            "plane { z, 0 pigment { rgb 1 } finish { diffuse 1 ambient 0 } }\n" + occluder + lights)


def png16(path):
    data = open(path, "rb").read()
    at, raw, w = 8, b"", 0
    while at < len(data):
        n, kind = struct.unpack(">I4s", data[at:at + 8])
        body = data[at + 8:at + 8 + n]
        if kind == b"IHDR": w, h, depth, colour = struct.unpack(">IIBB", body[:10])
        if kind == b"IDAT": raw += body
        at += 12 + n
    raw = zlib.decompress(raw)
    channels = {0: 1, 2: 3}[colour]
    bpp, stride, rows, prev, at = channels * depth // 8, w * channels * depth // 8, [], None, 0
    for _ in range(h):
        f, line = raw[at], bytearray(raw[at + 1:at + 1 + stride])
        for i in range(stride):
            a = line[i - bpp] if i >= bpp else 0
            b = prev[i] if prev else 0
            c = prev[i - bpp] if prev and i >= bpp else 0
            p = a + b - c
            paeth = a if abs(p - a) <= abs(p - b) and abs(p - a) <= abs(p - c) else b if abs(p - b) <= abs(p - c) else c
            line[i] = (line[i] + (0, a, b, (a + b) // 2, paeth)[f]) & 255
        rows.append(bytes(line)); prev = line; at += 1 + stride
    return lambda x, y: struct.unpack(">H", rows[y][x * bpp:x * bpp + 2])[0] / 65535


def main():
    version = re.search(r"POV-Ray ([\d.]+)", subprocess.run(["povray", "--version"], capture_output=True, text=True).stderr)
    print("POV-Ray", version.group(1) if version else "?")
    for flag in (False, True):
        with tempfile.TemporaryDirectory() as d:
            open(f"{d}/s.pov", "w").write(scene(flag))
            subprocess.run(["povray", f"+I{d}/s.pov", f"+O{d}/s.png", f"+W{SIZE}", f"+H{SIZE}", "+FN16", "-D", "File_Gamma=1.0", "-A"],
                           check=True, capture_output=True)
            at = png16(f"{d}/s.png")
            for x, y in POINTS:
                # Nearest pixel; its centre is the place that is compared. Orthographic view from +z: x runs to the left in the picture.
                best = None
                for mirror in (1,):
                    px = int((-x / SPAN + 0.5) * SIZE); py = int((0.5 - y / SPAN) * SIZE)
                    cx, cy = -((px + .5) / SIZE - .5) * SPAN, (.5 - (py + .5) / SIZE) * SPAN
                    best = (cx, cy, at(px, py) * math.pi)
                print("    {%s, %.4f, %.4f, %.6f}," % ("true" if flag else "false", *best))


if __name__ == "__main__":
    main()
