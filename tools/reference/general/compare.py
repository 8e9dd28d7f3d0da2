#!/usr/bin/env python3
"""Equal error against a general-purpose renderer: the same triangles, diffuse, one lamp, one bounce. See README.md.

Each against its own long reference with more of its own samples, in linear luminance over the sitter's pixels, root mean square
in percent of their mean. Both on all threads; reading, and building the trees of triangles, is left out on both sides."""
import array, math, os, subprocess, sys

ROOT = os.path.dirname(os.path.dirname(os.path.dirname(os.path.dirname(os.path.abspath(__file__)))))
HERE = os.path.join(ROOT, "tools", "reference", "general")
PROGRAM = os.path.join(ROOT, "build", "tools", "reference", "general", "easel-general")
JARS = "/usr/share/java/sunflow.jar:/usr/share/java/janino.jar"
FOLDER = sys.argv[1] if len(sys.argv) > 1 else "/tmp/easel-general"
PASSES, REFERENCE, TRIED = 512, 3, (1, 1, 2)  # theirs as powers of four; the first only warms up its compiler


def floats(path):
    values = array.array("f")
    with open(path, "rb") as f:
        values.frombytes(f.read())
    return values


def radiance(path):
    """Luminance of an RGBE picture; this renderer writes the pixels plain."""
    with open(path, "rb") as f:
        data = f.read()
    body = data[data.index(b"\n", data.index(b"-Y ")) + 1:]
    return array.array("f", ((0.2126 * r + 0.7152 * g + 0.0722 * b + 0.5) * 2.0 ** (e - 136) if e else 0
                             for r, g, b, e in zip(*(body[c::4] for c in range(4)))))


def mean(picture, mask):
    return sum(v for v, m in zip(picture, mask) if m) / sum(mask)


def error(picture, truth, mask):
    squares = sum((a - b) ** 2 for a, b, m in zip(picture, truth, mask) if m)
    return 100 * math.sqrt(squares / sum(mask)) / mean(truth, mask)


def to_error(rows, percent):
    """Seconds, and passes or samples, to an error: between the two rows around it, error over cost straight on logarithms."""
    for (n0, s0, e0), (n1, s1, e1) in zip(rows, rows[1:]):
        if e0 >= percent >= e1 > 0:
            t = math.log(e0 / percent) / math.log(e0 / e1)
            return s0 * (s1 / s0) ** t, n0 * (n1 / n0) ** t
    n, s, e = rows[-1]  # beyond what was rendered: as the square root of the samples
    return (s * (e / percent) ** 2, n * (e / percent) ** 2) if e > percent else rows[0][1::-1]


def traced(levels):
    out = os.path.join(FOLDER, "theirs")
    lines = subprocess.run(["java", "-Xmx2g", "-cp", f"{JARS}:{FOLDER}", "Traced", os.path.join(FOLDER, "studio.bin"), out, *map(str, levels)],
                           check=True, text=True, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL).stdout.splitlines()
    return [(int(a), float(s), f"{out}-{a}.hdr") for a, s in (line.split() for line in lines if line[:1] in "-0123456789")]


def main():
    os.makedirs(FOLDER, exist_ok=True)
    subprocess.run([PROGRAM, "export", FOLDER], check=True)
    subprocess.run(["javac", "-cp", JARS, "-d", FOLDER, os.path.join(HERE, "Traced.java")], check=True)
    subprocess.run([PROGRAM, "ours", FOLDER, str(PASSES)], check=True)
    with open(os.path.join(FOLDER, "sitter.mask"), "rb") as f:
        mask = f.read()
    truth = {kind: floats(os.path.join(FOLDER, f"ours-{kind}-reference.lum")) for kind in ("plain", "smooth")}
    ours = {"plain": [], "smooth": []}
    print("ours: passes, seconds, % of the mean")
    with open(os.path.join(FOLDER, "ours.txt")) as f:
        for line in f:
            kind, passes, seconds, path = line.split()
            ours[kind].append((max(1, int(passes)), float(seconds), error(floats(path), truth[kind], mask)))
            print("  {:7} {:>4} {:8.2f} s {:6.2f} %".format(kind, *ours[kind][-1]), flush=True)

    rows = traced((-1, -1, *TRIED, REFERENCE))
    start = rows[1][1]
    reference = radiance(rows[-1][2])
    print(f"theirs: samples a pixel, seconds (without the {start:.1f} s of a picture of a few pixels), % of the mean")
    theirs = []
    for level, seconds, path in rows[3:-1]:
        # The same sequence goes on in the reference: its first samples are in both.
        seen = error(radiance(path), reference, mask)
        theirs.append((4 ** level, seconds - start, seen / math.sqrt(1 - 4 ** (level - REFERENCE))))
        print("  {:>12} {:8.2f} s {:6.2f} %".format(*theirs[-1]), flush=True)
    scale = mean(truth["plain"], mask) / mean(reference, mask)
    print("the two references, theirs scaled by one number: {:.1f} % apart".format(
        error([v * scale for v in reference], truth["plain"], mask)))
    for percent in (4, 2):
        other = to_error(theirs, percent)
        for kind, rows in ours.items():
            own = to_error(rows, percent)
            print(f"to {percent} %: {kind} {own[0]:.2f} s, {own[1]:.1f} passes; theirs {other[0]:.1f} s, {other[1]:.0f} samples: "
                  f"{other[0] / own[0]:.0f} times the time, {other[1] / own[1]:.1f} times the samples")


main()
