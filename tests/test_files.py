"""What is asked of every file: one idea, a place in the architecture, no place to download from."""

import re
from pathlib import Path

ROOT = Path(__file__).parents[1]


def test_files_hold_one_idea() -> None:
    for file in [*(ROOT / "hastatus").rglob("*.py"), *(ROOT / "benchmarks").rglob("*.py")]:
        assert len(file.read_text().splitlines()) <= 360, f"{file} is long; split it"


def test_every_file_of_the_core_is_found_from_the_architecture() -> None:
    """By its name in the row of its folder."""
    rows = re.findall(r"^\| (`[^|]+`) \| (.+) \|$", _architecture(), re.MULTILINE)
    named = {
        (folder, name)
        for folders, text in rows
        for folder in re.findall(r"`([a-z/]+)`", folders)
        for name in re.findall(r"`([a-z_]+)`", text)
    }
    core = ROOT / "hastatus" / "core"
    files = {
        (str(file.parent.relative_to(core)), file.stem)
        for file in core.rglob("*.py")
        if file.stem != "__init__" and "starter" not in file.parts and file.parent != core
    }
    assert len(files) > 90
    assert files - named == set()


def test_every_file_that_the_architecture_names_is_there() -> None:
    """Also those that are named from the folder of hastatus or core that they are in."""
    places = (ROOT, ROOT / "hastatus", ROOT / "hastatus" / "core", ROOT / "ui" / "src")
    named = re.findall(r"`([\w/.-]+/[\w-]+\.(?:py|tsx?|mjs))`", _architecture())
    assert len(named) > 40
    assert [name for name in named if not any((place / name).exists() for place in places)] == []


def _architecture() -> str:
    return (ROOT / "docs" / "architecture.md").read_text()


def test_lock_files_name_no_place_to_download_from() -> None:
    for name in ("ui/package-lock.json", "requirements/run.txt", "requirements/test.txt"):
        text = (ROOT / name).read_text()
        assert '"resolved"' not in text
        assert "registry." not in text
        assert " @ " not in text
        assert "http" not in text or name.endswith(".json")


def test_python_packages_are_pinned_and_hashed_and_running_needs_no_test_tools() -> None:
    run, test = (_pinned(f"requirements/{name}.txt") for name in ("run", "test"))
    assert "flask" in run
    assert {"pytest", "mypy", "hypothesis", "playwright"} <= set(test) - set(run)
    assert run.items() <= test.items()


def _pinned(name: str) -> dict[str, str]:
    """Version and hashes of each package of a lock file; each has some."""
    found = {}
    for entry in re.split(r"\n(?=\w)", (ROOT / name).read_text().strip()):
        package, version = re.match(r"([\w.-]+)==(\S+)", entry).groups()  # type: ignore[union-attr]
        assert "--hash=sha256:" in entry, package
        found[package] = version
    return found
