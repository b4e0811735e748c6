"""`hastatus plan`, `simulate` and `score`: files in, files out, one line for what is wrong."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner

from hastatus.command.main import COMMANDS, cli, main
from hastatus.core.film.reading import FilmReading
from hastatus.core.loop.results import RESULTS, read_record
from hastatus.core.plan.run_plan import PlanDocument, plan_run
from hastatus.core.run.events import RunRecord
from hastatus.core.starter import block_on_sound_strike_on_light

Done = subprocess.CompletedProcess[str]


def hastatus(*arguments: object, stdin: str = "") -> Done:
    """A command, in this process: to start one takes longer than most commands do."""
    argv = ["hastatus", *map(str, arguments)]
    code = 0
    with pytest.MonkeyPatch.context() as patch, CliRunner().isolation(input=stdin) as streams:
        patch.setattr(sys, "argv", argv)
        try:
            main()
        except SystemExit as ended:
            code = int(ended.code or 0)
        out, err = (stream.getvalue().decode() for stream in streams[:2])
    return Done(argv, code, out, err)


def in_a_shell(*arguments: object, stdin: str = "") -> Done:
    """A command as a shell starts it."""
    return subprocess.run(
        [sys.executable, "-m", "hastatus.command.main", *map(str, arguments)],
        capture_output=True,
        text=True,
        input=stdin,
    )


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder with a plan, a record of its run and the results."""
    folder = tmp_path_factory.mktemp("files")
    for command in (
        ("plan", "--seed", 5, "--rung", 2, "-o", folder / "plan.json"),
        ("simulate", folder / "plan.json", "--seed", 6, "-o", folder / "run.json"),
        ("score", folder / "run.json", "-o", folder / "results.json"),
    ):
        done = hastatus(*command)
        assert (done.returncode, done.stderr) == (0, "")
    return folder


def test_the_files_are_what_the_core_says(made: Path) -> None:
    plan = PlanDocument.model_validate_json((made / "plan.json").read_bytes())
    assert plan.plan == plan_run(block_on_sound_strike_on_light(), seed=5, rung=2)
    record = RunRecord.model_validate_json((made / "run.json").read_bytes())
    results = RESULTS.validate_json((made / "results.json").read_bytes())
    assert results == read_record(record)
    assert results.figures.summary.count > 60
    assert sorted(path.name for path in made.iterdir()) == ["plan.json", "results.json", "run.json"]


def test_a_film_of_a_simulated_student_is_read_beside_its_run(made: Path, tmp_path: Path) -> None:
    """What landed on a key is seen to begin before it lands, on the same clock."""
    run, film, place = (tmp_path / name for name in ("run.json", "film.mp4", "place.json"))
    plan = PlanDocument.model_validate_json((made / "plan.json").read_bytes())
    first = plan.plan.rounds[0]
    first = first.model_copy(update={"cues": first.cues[:9], "duration_s": first.cues[9].at_s})
    short = plan.plan.model_copy(update={"rounds": (first,)})
    (tmp_path / "plan.json").write_text(
        plan.model_copy(update={"plan": short}).model_dump_json(), encoding="utf-8"
    )
    filmed = hastatus(
        "simulate", tmp_path / "plan.json", "--film", film, "--place", place, "-o", run
    )
    assert (filmed.returncode, filmed.stderr) == (0, "")
    done = hastatus("film", run, place, film, "-o", tmp_path / "reading.json")
    assert (done.returncode, done.stderr) == (0, "")
    reading = FilmReading.model_validate_json((tmp_path / "reading.json").read_bytes())
    responses = read_record(RunRecord.model_validate_json(run.read_bytes())).responses
    landed = {(one.round, one.slot): one.time_ms for one in responses if one.time_ms}
    onsets = [
        (cue, zone.onset_ms)
        for cue in reading.cues
        for zone in cue.zones
        if zone.part == "head" and zone.onset_ms is not None
    ]
    before = [landed[cue.round, cue.slot] - onset_ms for cue, onset_ms in onsets]
    assert len(before) >= 4
    assert all(100 < one < 450 for one in before)
    other = hastatus("simulate", made / "plan.json", "--seed", 9, "-o", tmp_path / "other.json")
    assert other.returncode == 0
    refused = hastatus("film", made / "run.json", place, tmp_path / "plan.json")
    assert "no film that can be read" in refused.stderr


def test_the_same_seed_and_a_pipe_give_the_same_bytes(made: Path) -> None:
    piped = in_a_shell("simulate", "-", "--seed", 6, stdin=(made / "plan.json").read_text())
    assert piped.stdout == (made / "run.json").read_text()
    other = hastatus("simulate", made / "plan.json", "--seed", 7)
    assert other.stdout != piped.stdout


def cut(made: Path) -> str:
    text = (made / "plan.json").read_text()
    return text[: len(text) // 2]


def changed(made: Path, **fields: object) -> str:
    return json.dumps(json.loads((made / "run.json").read_text()) | fields)


def before_start(made: Path) -> str:
    record = json.loads((made / "run.json").read_text())
    record["batches"][0]["events"] = [{"type": "resume", "t_ms": -4}]
    return json.dumps(record)


def other_cue(made: Path) -> str:
    record = json.loads((made / "run.json").read_text())
    event = next(e for b in record["batches"] for e in b["events"] if e["type"] == "cue")
    event["cue"] = "gong"
    return json.dumps(record)


@pytest.mark.parametrize(
    ("arguments", "stdin", "says"),
    [
        (("simulate", "-"), cut, "his cannot be read as JSON"),
        (("score", "-"), lambda made: "", "his cannot be read as JSON"),
        (("score", "-"), lambda made: changed(made, kind="something-else"), "kind"),
        (("score", "-"), lambda made: changed(made, schema_version=2), "schema_version"),
        (("score", "-"), before_start, "t_ms"),
        (("score", "-"), other_cue, "events."),
        (("score", "/nowhere/run.json"), lambda made: "", "No such file"),
        (("plan", "--rung", 9), lambda made: "", "no rung 9"),
        (("plan", "--seed", -1), lambda made: "", "--seed"),
        (("plan", "--window", "nan"), lambda made: "", "--window"),
        (("plan", "-o", "/nowhere/plan.json"), lambda made: "", "No such file"),
        (("plan", "--drill", "-"), lambda made: '{"title": "x", "cues": []}', "rungs"),
        (("sing",), lambda made: "", "No such command"),
    ],
)
def test_what_is_wrong_is_one_line_and_exit_code_2(made: Path, arguments, stdin, says) -> None:
    done = hastatus(*arguments, stdin=stdin(made))
    assert done.returncode == 2
    assert done.stdout == ""
    assert len(done.stderr.strip().splitlines()) == 1
    assert says in done.stderr


def test_every_command_explains_itself_as_the_list_does(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("hastatus.command.main._count_together", lambda: None)  # only who serves
    listed = CliRunner().invoke(cli, ["--help"])
    assert listed.exit_code == 0
    for name, (_, does) in COMMANDS.items():
        assert f"{name}  " in listed.output
        done = CliRunner().invoke(cli, [name, "--help"])
        assert done.exit_code == 0
        assert "Usage:" in done.output
        assert does.rstrip(".") in " ".join(done.output.split())
