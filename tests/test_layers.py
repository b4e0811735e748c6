"""Who may import whom: core knows nobody, the store knows core, the API knows both."""

import ast
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
MAY_IMPORT = {
    "core": {"core"},
    "audio": {"audio", "core"},
    "store": {"audio", "core", "store"},
    "demo": {"core", "demo", "store"},
    "api": {"api", "audio", "core", "store"},
    "command": {"api", "command", "core", "demo", "store"},
}
NOT_IN_CORE = {"flask", "flask_openapi3", "sqlalchemy", "psycopg", "click", "os", "time", "random"}


def imported(file: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found


@pytest.mark.parametrize("layer", MAY_IMPORT)
def test_layers(layer: str) -> None:
    for file in (ROOT / "hastatus" / layer).rglob("*.py"):
        names = imported(file)
        ours = {name.split(".")[1] for name in names if name.startswith("hastatus.")}
        assert ours <= MAY_IMPORT[layer], f"{file} imports {ours - MAY_IMPORT[layer]}"
        if layer == "core":
            assert not {name.split(".")[0] for name in names} & NOT_IN_CORE, file


def test_files_hold_one_idea() -> None:
    for file in [*(ROOT / "hastatus").rglob("*.py"), *(ROOT / "bench").rglob("*.py")]:
        assert len(file.read_text().splitlines()) <= 360, f"{file} is long; split it"


def test_lock_files_name_no_place_to_download_from() -> None:
    for name in ("ui/package-lock.json", "requirements/lock.txt"):
        text = (ROOT / name).read_text()
        assert '"resolved"' not in text
        assert "registry" not in text
        assert " @ " not in text
