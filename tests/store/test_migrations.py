"""Migrations that have been out are frozen: databases made by them exist."""

from __future__ import annotations

import hashlib

from hastatus.store.database import MIGRATIONS

FROZEN = {
    "0001_first_schema.py": "3b308ac6670c4dc0",
    "0002_bench.py": "8b2570b73641755d",
    "0003_devices.py": "1f737c8bacf05f98",
    "0004_partners.py": "8b146265ac593c41",
    "0005_partner_figures.py": "fdca0b23696dff2d",
    "0006_holds_and_early_answers.py": "c6289fc8cf4432bc",
    "0007_answered_runs.py": "232dc7c3dd510823",
    "0008_runs_of_a_drill.py": "4567f649537301a7",
    "0009_mark_folds.py": "3e8729a992119d11",
    "0010_outlines_and_standings.py": "3d294ff204da187e",
    "0011_results_as_text.py": "12375d9f660b41fb",
    "0012_no_touch.py": "7add8f173675b3d6",
    "0013_faults.py": "c1aa31ed12893c36",
    "0014_chances.py": "dca74506cf625703",
    "0015_archived_students.py": "f85cf833cb98706e",
    "0016_away.py": "c999779b2741c465",
    "0017_hall.py": "1baceb198f80eabb",
    "0018_running.py": "ac38211b78375346",
    "0019_coaches.py": "3331d3b4e5dfb437",
    "0020_home.py": "e5bbc310d572d5de",
    "0021_films.py": "fd1da9ffe2a2158c",
    "0022_pair_films.py": "3c641df1e4ce308d",
    "0023_film_corrections.py": "5a8c5475a94a28db",
    "0024_film_blur.py": "2aaca33493e3d525",
}
"""Begin of the SHA-256 of each file. A change of the schema is a new migration."""


def test_no_migration_was_edited_after_it_was_out() -> None:
    files = sorted((MIGRATIONS / "versions").glob("[0-9]*.py"))
    found = {file.name: hashlib.sha256(file.read_bytes()).hexdigest()[:16] for file in files}
    assert found == FROZEN
