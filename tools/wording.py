#!/usr/bin/env python3
"""All that the core says, as one file that Qt's tools collect from: say("...") of core/, names and sentences of data/.

    tools/wording.py > build/core-wording.cpp && lupdate build/core-wording.cpp -ts core_xx.ts
"""
import json
import pathlib
import re

ROOT = pathlib.Path(__file__).parent.parent
SPOKEN = {"name", "for", "steps", "levels", "mistakes", "why", "use", "description", "source", "terms"}
LITERAL = r'"(?:[^"\\\n]|\\.)*"'
COUNTED = re.compile(r"\bsayMany\([^;\"]*?,\s*" + "(?:" + LITERAL + r"\s*)+,\s*((?:" + LITERAL + r"\s*)+)")
SAID = re.compile(r"(?:\b(?:say|marked)\(|\.(?:kind|otherwise) =)\s*(" + LITERAL + r"(?:\s*" + LITERAL + r")*)")


def of_data(value, key=None):
    if isinstance(value, dict):
        for k, v in value.items():
            yield from of_data(v, k)
    elif isinstance(value, list):
        for v in value:
            yield from of_data(v, key)
    elif isinstance(value, str) and key in SPOKEN:
        yield json.dumps(value, ensure_ascii=False)


literals = set()
counted = set()


def joined(said):
    """Pieces that stand one after another are one text."""
    return '"' + "".join(piece[1:-1] for piece in re.findall(LITERAL, said)) + '"'


for file in sorted((ROOT / "data").glob("*.json")):
    literals.update(of_data(json.loads(file.read_text(encoding="utf-8"))))
for file in sorted((ROOT / "core").rglob("*.cpp")):
    text = file.read_text(encoding="utf-8")
    literals.update(joined(said) for said in SAID.findall(text))
    counted.update(joined(said) for said in COUNTED.findall(text))
print("// Made by tools/wording.py for translators; nothing is compiled from it.")
for literal in sorted(literals):
    print(f'QT_TRANSLATE_NOOP("core", {literal})')
for literal in sorted(counted):
    print(f'QT_TRANSLATE_N_NOOP("core", {literal})')
