"""What an operator is given: the container file and the settings say what is there."""

from __future__ import annotations

import io
import json
import re
import shlex
from pathlib import Path

from dockerfile_parse import DockerfileParser

ROOT = Path(__file__).parents[1]
CONTAINER = ROOT / "deploy" / "Containerfile"


def instructions() -> list[tuple[str, str]]:
    parser = DockerfileParser(fileobj=io.BytesIO(CONTAINER.read_bytes()))
    return [(one["instruction"], one["value"]) for one in parser.structure]


def test_all_that_is_copied_is_there_and_is_not_left_out() -> None:
    left_out = {
        line.removeprefix("**/").rstrip("/")
        for line in (ROOT / ".dockerignore").read_text().splitlines()
        if line and not line.startswith("#")
    }
    copied = [shlex.split(value) for name, value in instructions() if name == "COPY"]
    assert len(copied) > 4
    for *sources, _ in copied:
        if sources[0].startswith("--from="):
            continue
        for source in sources:
            assert (ROOT / source).exists(), source
            assert source.rstrip("/") not in left_out


def test_it_runs_as_nobody_special_on_named_versions_with_hashed_packages() -> None:
    every = instructions()
    assert all(":" in value.split()[0] for name, value in every if name == "FROM")
    assert [value for name, value in every if name == "USER"] == ["hastatus"]
    names = [name for name, _ in every]
    assert names.index("USER") > max(place for place, name in enumerate(names) if name == "RUN")
    installs = [value for name, value in every if name == "RUN" and "pip install" in value]
    assert any("--require-hashes" in value for value in installs)
    assert all("--require-hashes" in value or "--no-deps" in value for value in installs)
    assert json.loads(dict(every)["ENTRYPOINT"])[0].endswith("/hastatus")


def test_it_has_the_packages_that_set_up_installs() -> None:
    wanted = set(re.findall(r"packages\+=\(([a-z0-9-]+)\)", (ROOT / "scripts/setup").read_text()))
    tests_only = {"chromium", "chromium-headless-shell"}
    installed = next(value for name, value in instructions() if "apt-get install" in value)
    assert wanted - tests_only <= set(installed.split())


def test_every_setting_that_is_documented_is_read_and_the_other_way_round() -> None:
    told = set(re.findall(r"HASTATUS_[A-Z_]+", (ROOT / "docs/operating.md").read_text()))
    code = "".join(file.read_text() for file in (ROOT / "hastatus").rglob("*.py"))
    assert told == set(re.findall(r"HASTATUS_[A-Z]+(?:_[A-Z]+)*", code))
