"""What is asked of every file: one idea each, and no place to download from."""

from pathlib import Path

ROOT = Path(__file__).parents[1]


def test_files_hold_one_idea() -> None:
    for file in [*(ROOT / "hastatus").rglob("*.py"), *(ROOT / "bench").rglob("*.py")]:
        assert len(file.read_text().splitlines()) <= 360, f"{file} is long; split it"


def test_lock_files_name_no_place_to_download_from() -> None:
    for name in ("ui/package-lock.json", "requirements/lock.txt"):
        text = (ROOT / name).read_text()
        assert '"resolved"' not in text
        assert "registry" not in text
        assert " @ " not in text
