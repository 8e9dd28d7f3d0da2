#!/usr/bin/env python3
"""Makes docs/screenshots anew from the demo data. Run from the project's root after ./run-tests (the boards need ImageMagick);
--windows: the pictures of the window alone."""
import json, os, subprocess, sys, tempfile

EASEL, APP, DEMO, OUT = "build/cli/easel", "build/app/jolly-easel", "demo/marrow-lane-first-light.easel.json", "docs/screenshots"
plan = json.load(open(DEMO))
work = tempfile.mkdtemp()
env = dict(os.environ, QT_QPA_PLATFORM="offscreen", XDG_CONFIG_HOME=work, XDG_STATE_HOME=work, XDG_DATA_HOME=work)


def render(name, size="440x550", **light):
    """The demo with changes, its power set by the meter for the target aperture."""
    p = json.loads(json.dumps(plan))
    for part in ("camera", "backdrop", "room", "sitter"):
        p.setdefault(part, {}).update(light.pop(part, {}))
    p["lights"][0].update(light)
    f = f"{work}/{name}.json"
    json.dump(p, open(f, "w"))
    answer = json.loads(subprocess.run([EASEL, "power", f, "--aperture", "f/8", "--json"], capture_output=True, check=True).stdout)
    p["lights"][0]["power"] = max(-14, min(0, answer["lights"][0]["wantedStopsBelowFull"]))
    json.dump(p, open(f, "w"))
    subprocess.run([EASEL, "render", f, "--out", f"{work}/{name}.png", "--size", size, "--samples", "32"], check=True)
    return f"{work}/{name}.png"


def board(out, columns, pairs):
    args = ["montage", "-background", "#777777", "-fill", "white", "-font", "/usr/share/fonts/opentype/inter/Inter-Regular.otf", "-pointsize", "17", "-geometry", "+6+6", "-tile", f"{columns}x"]
    for title, picture in pairs:
        args += ["-label", title, picture]
    subprocess.run(args + ["-depth", "8", f"{OUT}/{out}"], check=True)


WINDOWS_ALONE = "--windows" in sys.argv
SCENES = [("bench", "A pool on the bench"), ("glue-pot", "The lamp that gives the key"), ("back-room", "The door to the back room"),
          ("portrait", "The founder on the wall"), ("branch", "Through leaves"), ("folded-board", "Leaning on the folded board")]


def scene(name):
    out = f"{work}/scene-{name}.png"
    plan = f"demo/scenes/marrow-lane-{name}.easel.json"
    subprocess.run([EASEL, "render", plan, "--out", out, "--size", "420x525", "--samples", "64"], check=True)
    return out


if not WINDOWS_ALONE: board("scenes.png", 3, [(title, scene(name)) for name, title in SCENES])
if not WINDOWS_ALONE: board("modifiers.png", 6, [
    (title, render("mod-" + m, size="300x375", modifier=m, hour=4.6, height=1.7, distance=1.1, **extra))
    for m, title, extra in (
        ("reflector-18", "Open reflector 18 cm", {}), ("zoom-head", "Zoom head, 50 mm", {}), ("bare", "Bare bulb", {}),
        ("dish-55", "Beauty dish, white", {}), ("dish-55", "... 30 degree grid", dict(grid=30)), ("softbox-60x90", "Softbox 60 x 90", {}),
        ("octa-120", "Octagon 120 cm", {}), ("strip-30x120", "Strip 30 x 120", {}), ("umbrella-through", "Umbrella, shoot-through", {}),
        ("snoot", "Snoot", {}), ("spot", "Spot, slats", dict(pattern="slats", spread=14)), ("ring-20", "Ring on the lens", {}))])
MASTER, FIDDLER, MAKER = (f"demo/marrow-lane-{n}.easel.json" for n in ("master", "fiddler", "maker"))


def portrait(person, at):
    """The master's four lights on somebody else, at ease."""
    p = json.load(open(MASTER))
    p["sitter"].update(id=person, shoulders=(22, -20, 30, 12, -28)[at % 5], expression=("slight-smile", "smile", "neutral")[at % 3])
    f = f"{work}/{person}.json"
    json.dump(p, open(f, "w"))
    subprocess.run([EASEL, "render", f, "--out", f"{work}/{person}.png", "--size", "330x412", "--samples", "64"], check=True)
    return f"{work}/{person}.png"


if not WINDOWS_ALONE: board("sitters.png", 5, [(p["name"], portrait(p["id"], k)) for k, p in enumerate(json.load(open("data/people.json"))["people"])])
broken = json.load(open(MASTER))
broken["title"] = "Marrow Lane Luthiers: the master, spoilt on purpose"
broken["lights"][1].update(targetStops=0.2, power=broken["lights"][1]["power"] + 1.7)
broken["lights"][2].update(targetStops=2.8, power=broken["lights"][2]["power"] + 4.3)
BROKEN = f"{work}/broken.easel.json"
json.dump(broken, open(BROKEN, "w"))
for session in sorted(os.listdir("demo/sessions")):
    subprocess.run([EASEL, "journal", "--import", f"demo/sessions/{session}"], check=True, env=env, capture_output=True)
DAY = f"{work}/open-day.day.json"
subprocess.run([EASEL, "day", "demo/open-day/marrow-lane-open-day.day.json", "--reorder", DAY], check=True, capture_output=True)
for name, file, arguments in (("window", DEMO, []), ("window-set-dim", DEMO, ["--stage", "0", "--dim"]), ("window-meter", MASTER, ["--stage", "2"]),
                              ("window-four-lights", MASTER, []), ("window-panels", FIDDLER, ["--page", "Panels"]), ("window-quality", MAKER, ["--page", "Quality"]),
                              ("window-read", MASTER, ["--stage", "Read"]), ("window-faults", BROKEN, ["--stage", "Read", "--page", "Faults"]),
                              ("window-eyes", MASTER, ["--stage", "Read", "--page", "Eyes"]), ("window-far", MASTER, ["--far"]),
                              ("window-run", MASTER, ["--stage", "Run", "--run", "nothing,,f/8,,,f/8 + 0.3"]), ("journal", MASTER, ["--journal"]),
                              ("day", MASTER, ["--day", DAY]), ("sheet", FIDDLER, ["--sheet", "whole"]), ("shelf", MASTER, ["--shelf"])):
    subprocess.run([APP, file, "--picture", f"{OUT}/{name}.png", *arguments], check=True, env=env, capture_output=True)

if WINDOWS_ALONE: sys.exit()
subprocess.run([EASEL, "patterns", "--out", f"{OUT}/pattern-map.png"], check=True)
