#!/usr/bin/env python3
"""Makes docs/screenshots anew from the demo data. Run from the project's root after ./run-tests (needs ImageMagick)."""
import json, os, subprocess, sys, tempfile

EASEL, APP, DEMO, OUT = "build/cli/easel", "build/app/jolly-easel", "demo/marrow-lane-first-light.easel.json", "docs/screenshots"
plan = json.load(open(DEMO))
work = tempfile.mkdtemp()
env = dict(os.environ, QT_QPA_PLATFORM="offscreen", XDG_CONFIG_HOME=work, XDG_STATE_HOME=work, XDG_DATA_HOME=work)


def render(name, size="440x550", **light):
    """The demo with changes, its power set by the meter for the working aperture."""
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


wide = {"width": 8, "depth": 10, "height": 4, "behind": 4}
loop = dict(hour=4.2, height=1.72)
board("soft-hard-near-far.png", 4, [
    ("Open reflector 18 cm at 1.1 m: small, hard edge", render("small", modifier="reflector-18", distance=1.1, room=wide, **loop)),
    ("Octagon 120 cm at 1.1 m: large, soft edge", render("large", modifier="octa-120", distance=1.1, room=wide, **loop)),
    ("The same octagon at 3.5 m: harder, backdrop brighter", render("far", modifier="octa-120", hour=4.2, distance=3.5, height=2.75, room=wide)),
    ("Octagon at 1.1 m, backdrop moved back to 3.5 m", render("away", modifier="octa-120", distance=1.1, room=wide, backdrop={"distance": 3.5}, **loop)),
])
board("modifiers.png", 6, [
    (title, render("mod-" + m, size="300x375", modifier=m, hour=4.6, height=1.7, distance=1.1, **extra))
    for m, title, extra in (
        ("reflector-18", "Open reflector 18 cm", {}), ("zoom-head", "Zoom head, 50 mm", {}), ("bare", "Bare bulb", {}),
        ("dish-55", "Beauty dish, white", {}), ("dish-55", "... 30 degree grid", dict(grid=30)), ("softbox-60x90", "Softbox 60 x 90", {}),
        ("octa-120", "Octagon 120 cm", {}), ("strip-30x120", "Strip 30 x 120", {}), ("umbrella-through", "Umbrella, shoot-through", {}),
        ("snoot", "Snoot", {}), ("spot", "Spot, slats", dict(pattern="slats", spread=14)), ("ring-20", "Ring on the lens", {}))])
board("sitters.png", 4, [(n, render(n, sitter={"id": n})) for n in ("ottoline", "tobiah", "wren", "anselm")])
MASTER, FIDDLER, MAKER = (f"demo/marrow-lane-{n}.easel.json" for n in ("master", "fiddler", "maker"))
for name, file, arguments in (("window", DEMO, []), ("window-set-dim", DEMO, ["--stage", "0", "--dim"]), ("window-meter", MASTER, ["--stage", "2"]),
                              ("window-four-lights", MASTER, []), ("window-panels", FIDDLER, []), ("window-quality", MAKER, ["--page", "Quality"]),
                              ("window-eyes", MASTER, ["--stage", "3", "--page", "Eyes"]),
                              ("shelf", MASTER, ["--shelf"])):
    subprocess.run([APP, file, "--picture", f"{OUT}/{name}.png", *arguments], check=True, env=env, capture_output=True)

# Views that want keys pressed: the real program in a display of its own (xvfb, xdotool).
import time
display = ":57"
server = subprocess.Popen(["Xvfb", display, "-screen", "0", "1280x800x24"], stderr=subprocess.DEVNULL)
live = dict(os.environ, DISPLAY=display, XDG_CONFIG_HOME=f"{work}/live", XDG_STATE_HOME=f"{work}/live", XDG_DATA_HOME=f"{work}/live")


def session(file, steps, crop=None):
    """Runs the program on the plan; each step is xdotool arguments, a pause in seconds, or a name to keep the picture under."""
    app = subprocess.Popen([APP, file], env=live, stderr=subprocess.DEVNULL)
    time.sleep(5)
    window = subprocess.run(["xdotool", "search", "--onlyvisible", "--pid", str(app.pid)], env=live, capture_output=True, text=True).stdout.split()[-1]
    subprocess.run(["xdotool", "windowmove", window, "0", "0", "windowsize", window, "1280", "800", "windowfocus", window], env=live)
    time.sleep(3)
    for step in steps:
        if isinstance(step, (int, float)): time.sleep(step)
        elif step.endswith(".png"):
            subprocess.run(["import", "-window", "root", *(["-crop", crop] if crop else []), "+repage", f"{OUT}/{step}"], env=live, check=True)
        else:
            subprocess.run(["xdotool", *step.split()], env=live, check=True)
            time.sleep(0.4)
    app.kill()
    app.wait()


try:
    time.sleep(1)
    session(MASTER, ["key s", "key h", 4, "stops-map.png", "key s", "key h", 2, "key k", "mousemove 120 700 click 1", 2, "key w", 1, "wipe.png"], "545x780+0+20")
    session(MASTER, ["key F7", "mousemove 707 596 click 1", 4, "every-spot.png"])
    session("demo/marrow-lane-two-lights.easel.json", ["key r", 4, "mousemove 300 700 click 1", 3, "ratios.png"])
    session(MASTER, ["key F9", 8, "mousemove 586 595 click 1", 1, "mousemove 1150 625 click 1", 10, "window-read.png"])
    broken = json.load(open(MASTER))
    broken["title"] = "Marrow Lane Luthiers: the master, spoilt on purpose"
    broken["lights"][1].update(targetStops=0.2, power=broken["lights"][1]["power"] + 1.7)
    broken["lights"][2].update(targetStops=2.8, power=broken["lights"][2]["power"] + 4.3)
    json.dump(broken, open(f"{work}/broken.easel.json", "w"))
    session(f"{work}/broken.easel.json", ["key F9", 8, "mousemove 813 595 click 1", 1, "mousemove 640 622 click 1", 10, "window-faults.png"])
finally:
    server.kill()
subprocess.run([EASEL, "patterns", "--out", f"{OUT}/pattern-map.png"], check=True)
subprocess.run([EASEL, "series", MASTER, "--vary", "light.A.distance=0.6:2.4:5", "--hold", "--size", "240x300", "--out", f"{OUT}/series.png"], check=True, capture_output=True)
