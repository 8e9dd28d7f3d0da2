#!/usr/bin/env python3
"""The table of speed: this build beside an older one, row by row in turn, with the aim of each row.

The older one is built from the commit in bench/baseline, or --against COMMIT, with the measuring program of today; where the
repository does not have that commit, or it can no longer be built with it, the figures stand alone. Both wait while the other
works. --rounds N: how often each row is asked (its median is told); --all: the long rows too; ROW...: only those."""
import argparse, os, statistics, subprocess, sys

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
CACHE = os.path.join(os.environ.get("XDG_CACHE_HOME") or os.path.expanduser("~/.cache"), "jolly-easel", "bench")
# As the project is built, but for what has no part in the figures.
CONFIGURE = ["cmake", "-G", "Ninja", "-DCMAKE_BUILD_TYPE=Release", "-DEASEL_APP=OFF", "-DEASEL_TESTS=OFF"]


def run(*command, **how):
    return subprocess.run(command, check=True, text=True, capture_output=True, **how).stdout


def baseline(commit):
    """Path of the measuring program built with that commit's core, or None with a sentence on standard error."""
    try:
        commit = run("git", "-C", ROOT, "rev-parse", "--verify", "--quiet", commit + "^{commit}").strip()
    except (subprocess.CalledProcessError, FileNotFoundError):
        print(f"The commit {commit} is not in this repository: no baseline.", file=sys.stderr)
        return None
    tree = os.path.join(CACHE, "tree-" + commit[:12])
    try:
        if not os.path.isdir(os.path.join(tree, "core")):
            os.makedirs(tree, exist_ok=True)
            archive = subprocess.Popen(["git", "-C", ROOT, "archive", commit], stdout=subprocess.PIPE)
            subprocess.run(["tar", "-x", "-C", tree], stdin=archive.stdout, check=True)
        for name in os.listdir(os.path.join(ROOT, "bench")):
            if name.endswith((".cpp", ".h", ".txt")):
                with open(os.path.join(ROOT, "bench", name)) as f, open(os.path.join(tree, "bench", name), "w") as to:
                    to.write(f.read())
        build = os.path.join(tree, "build")
        print(f"Building the baseline {commit[:12]}", file=sys.stderr)
        run(*CONFIGURE, "-S", tree, "-B", build)
        run("cmake", "--build", build, "--target", "easel-speed")
        return os.path.join(build, "bench", "easel-speed")
    except (subprocess.CalledProcessError, OSError) as e:
        print(f"The baseline {commit[:12]} cannot be built: {str(getattr(e, 'stdout', '') or e).strip().splitlines()[-1]}", file=sys.stderr)
        return None


class Program:
    def __init__(self, path, references):
        os.makedirs(references, exist_ok=True)
        self.process = subprocess.Popen([path, "--references", references], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)

    def ask(self, row):
        self.process.stdin.write(row + "\n")
        self.process.stdin.flush()
        answer = self.process.stdout.readline()
        if not answer:
            sys.exit(f"The measuring program ended at the row \"{row}\".")
        return float(answer)


def told(value, unit):
    return f"{value:.3g} {unit}" if value < 1000 else f"{value:.0f} {unit}"


def main():
    ask = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    ask.add_argument("rows", nargs="*", metavar="ROW")
    ask.add_argument("--against", metavar="COMMIT", default=open(os.path.join(ROOT, "bench", "baseline")).read().split()[0])
    ask.add_argument("--alone", action="store_true", help="without a baseline")
    ask.add_argument("--rounds", type=int, default=3)
    ask.add_argument("--all", action="store_true", help="the long rows too: ten minutes")
    options = ask.parse_args()
    ours = os.path.join(ROOT, "build", "bench", "easel-speed")
    theirs = None if options.alone else baseline(options.against)
    rows = [line.split("\t") for line in run(ours, "--rows").splitlines()]
    names = [r[0] for r in rows]
    for name in options.rows:
        if name not in names:
            sys.exit(f"There is no row \"{name}\". There are: {', '.join(names)}.")
    # References of the commit's own pictures: what is nearer to a wrong end is no better.
    programs = {"now": Program(ours, os.path.join(CACHE, "references"))}
    if theirs:
        programs["before"] = Program(theirs, os.path.join(CACHE, "references-" + os.path.basename(os.path.dirname(os.path.dirname(os.path.dirname(theirs))))))
    print(f"{'':44} {'before':>10} {'now':>10} {'ratio':>6} {'aim':>9}", flush=True)
    for name, what, unit, aim, longer in rows:
        if options.rows and name not in options.rows or not options.rows and longer == "1" and not options.all:
            continue
        figures = {which: [] for which in programs}
        rounds = 1 if longer == "1" or name == "memory" else options.rounds
        if name in ("hair", "kicker", "rim", "key"):
            rounds = min(rounds, 1 if unit == "%" else 3)
        for which in ("before", "now"):  # the first of each pays for what is kept
            if which in programs and rounds > 1:
                programs[which].ask(name)
        for _ in range(rounds):
            for which in ("before", "now"):
                if which in programs:
                    figures[which].append(programs[which].ask(name))
        now = statistics.median(figures["now"])
        before = statistics.median(figures["before"]) if theirs else None
        if before is not None and before < 0:
            before = None  # the older one knows no such set
        goal = float(aim)
        print(
            f"{what:44} {told(before, unit) if before is not None else '':>10} {told(now, unit):>10} {f'{now / before:.2f}' if before else '':>6}"
            f" {told(goal, unit) if goal else '':>9}  {'' if not goal else 'met' if now <= goal else 'MISSED'}",
            flush=True,
        )


main()
