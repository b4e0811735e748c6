"""Cue tracks in open formats, each read back by a library that is not ours."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import jsonschema
import mido
import numpy as np
import pytest
import soundfile
import webvtt
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hastatus.api.plan.compressed_audio import ogg_opus
from hastatus.core.drill.checks.fault import Unplannable
from hastatus.core.drill.file import DrillFile, json_schema
from hastatus.core.drill.header import Voice
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import cue_track, track_formats
from hastatus.core.plan.cue_track import Track, make_track
from hastatus.core.plan.run_plan import RunPlan, plan_run
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import tones
from hastatus.core.starter import STARTERS, block_on_sound_strike_on_light
from hastatus.sound_io import speech
from tests.harness.drills import drills

VALIDATOR = jsonschema.Draft202012Validator(json_schema())
"""Holds a document against the schema of drill files."""


def samples_of(clip: Clip, drill: Drill) -> np.ndarray:
    if clip.source == "tone":
        return tones.SOUNDS[clip.what]()  # type: ignore[index]
    data, rate = soundfile.read(io.BytesIO(speech.speak(clip.what, drill.voice)))
    assert rate == tones.RATE
    return np.asarray(data)


def every_track() -> list[tuple[str, Drill, RunPlan, Track]]:
    made = []
    for name, make in STARTERS.items():
        drill = make()
        for rung in range(1, len(drill.rungs) + 1):
            plan = plan_run(drill, seed=5, rung=rung)
            made.append((f"{name}, rung {rung}", drill, plan, make_track(drill, plan)))
    return made


TRACKS = every_track()
each_track = pytest.mark.parametrize(
    ("drill", "plan", "made"), [each[1:] for each in TRACKS], ids=[each[0] for each in TRACKS]
)


@each_track
def test_a_track_holds_every_planned_cue(drill: Drill, plan: RunPlan, made: Track) -> None:
    planned = [
        (made.starts_s[each.number - 1] + cue.at_s, cue.cue)
        for each in plan.rounds
        for cue in each.cues
    ]
    assert [(cue.at_s, cue.cue) for cue in made.cues] == sorted(planned)
    assert made.total_s >= max(sounding.at_s for sounding in made.soundings)


@each_track
def test_webvtt_is_read_back(drill: Drill, plan: RunPlan, made: Track) -> None:
    # W3C WebVTT, read by webvtt-py.
    read = webvtt.from_buffer(io.StringIO(track_formats.webvtt(made)))
    assert len(read.captions) == len(made.told) > 0
    for caption, cue in zip(read.captions, made.told, strict=True):
        start = caption.start_time
        seconds = start.hours * 3600 + start.minutes * 60 + start.seconds + start.milliseconds / 1e3
        assert seconds == pytest.approx(cue.at_s, abs=0.00051)
        assert caption.text.replace("&gt;", ">") == cue.text


@each_track
def test_midi_is_read_back_to_half_a_tick(drill: Drill, plan: RunPlan, made: Track) -> None:
    # Standard MIDI Files 1.0: ticks = seconds × BPM/60 × division; read by mido.
    file = mido.MidiFile(file=io.BytesIO(track_formats.midi(made, [cue.key for cue in drill.cues])))
    assert file.ticks_per_beat == track_formats.DIVISION
    now, onsets, rounds = 0, [], 0
    for message in file.tracks[0]:
        now += message.time
        if message.type == "note_on":
            onsets.append((now, message.note))
        rounds += message.type == "marker"
        if message.type == "set_tempo":
            assert mido.tempo2bpm(message.tempo) == track_formats.BPM
    keys = [cue.key for cue in drill.cues]
    assert rounds == len(plan.rounds)
    assert len(onsets) == len(made.cues)
    for (tick, note), cue in zip(onsets, made.cues, strict=True):
        assert abs(tick - cue.at_s * track_formats.BPM / 60 * track_formats.DIVISION) <= 0.5 + 1e-6
        assert keys[note - track_formats.FIRST_NOTE] == cue.cue


@each_track
def test_csv_is_read_back(drill: Drill, plan: RunPlan, made: Track) -> None:
    rows = list(csv.DictReader(io.StringIO(track_formats.cue_csv(made))))
    assert len(rows) == len(made.soundings)
    for row, each in zip(rows, made.soundings, strict=True):
        assert float(row["at_s"]) == pytest.approx(each.at_s, abs=5.1e-5)
        assert (row["kind"], row["cue"]) == (each.kind, each.cue or "")


@pytest.mark.parametrize("name", STARTERS)
def test_the_wav_is_read_back_and_each_cue_starts_on_its_sample(name: str) -> None:
    # RIFF WAVE, read by libsndfile. Every sound is put where the plan has it, to the sample.
    drill = STARTERS[name]()
    last = drill.rungs[-1]
    short = last.rounds.model_copy(update={"count": 1, "duration_s": 60, "ends": "time"})
    drill = drill.in_rounds(short)
    plan = plan_run(drill, seed=2, rung=len(drill.rungs))
    made = make_track(drill, plan)
    sounds = {clip.name: samples_of(clip, drill) for clip in made.clips}
    data = b"".join(cue_track.render(made, sounds))
    assert len(data) == cue_track.wav_size(made)
    read, rate = soundfile.read(io.BytesIO(data))
    assert rate == tones.RATE
    assert np.abs(read).max() < 1.0
    expected = np.zeros(read.size + tones.RATE * 5)
    for sounding in made.soundings:
        assert sounding.clip
        at = round(sounding.at_s * tones.RATE)
        clip = sounds[sounding.clip.name]
        expected[at : at + clip.size] += cue_track.LEVEL * clip
    quiet = np.abs(expected[: read.size]) < 0.79
    assert np.abs(read - expected[: read.size])[quiet].max() < 2 / 32767


def test_the_opus_track_is_the_same_track_a_tenth_of_the_size() -> None:
    """RFC 7845: Ogg pages, an identification header. Read by libsndfile: as long as the WAV to the
    sample, and each cue where it was, as the two are most alike without a shift."""
    drill = block_on_sound_strike_on_light()
    short = drill.rungs[0].rounds.model_copy(update={"count": 1, "duration_s": 40, "ends": "time"})
    drill = drill.in_rounds(short)
    made = make_track(drill, plan_run(drill, seed=2, rung=1))
    sounds = {clip.name: samples_of(clip, drill) for clip in made.clips}
    wav = b"".join(cue_track.render(made, sounds))
    opus = b"".join(ogg_opus(cue_track.pcm(made, sounds)))
    assert opus[:4] == b"OggS"
    assert opus[28:36] == b"OpusHead"
    assert len(opus) < len(wav) / 8
    (plain, _), (small, rate) = (soundfile.read(io.BytesIO(data)) for data in (wav, opus))
    assert (rate, small.size) == (tones.RATE, plain.size)
    reach = 240  # 5 ms either way
    alike = [float(np.dot(plain[reach:-reach], np.roll(small, shift)[reach:-reach]))
             for shift in range(-reach, reach + 1, 8)]  # fmt: skip
    assert abs(range(-reach, reach + 1, 8)[int(np.argmax(alike))]) <= 8


def test_the_published_schema_is_the_one_that_is_used() -> None:
    kept = Path(__file__).parents[2] / "docs" / "drill.schema.json"
    assert json.loads(kept.read_text()) == json.loads(json.dumps(json_schema()))
    jsonschema.Draft202012Validator.check_schema(json_schema())


@pytest.mark.parametrize("name", STARTERS)
def test_a_drill_file_fits_its_schema_and_comes_back(name: str) -> None:
    # JSON Schema 2020-12, checked by the jsonschema library.
    drill = STARTERS[name]()
    file = DrillFile(drill=drill)
    document = file.model_dump(mode="json")
    VALIDATOR.validate(document)
    assert DrillFile.model_validate_json(file.model_dump_json()).drill == drill
    document["drill"]["rungs"][0]["catch_share"] = 1
    with pytest.raises(jsonschema.ValidationError):
        VALIDATOR.validate(document)


@settings(max_examples=40, suppress_health_check=list(HealthCheck))
@given(drills(), st.integers(0, 2**30))
def test_any_drill_has_a_track_that_reads_back(drill: Drill, seed: int) -> None:
    VALIDATOR.validate(DrillFile(drill=drill).model_dump(mode="json"))
    try:
        plan = plan_run(drill, seed=seed)
    except Unplannable:
        return
    made = make_track(drill, plan)
    assert len(webvtt.from_buffer(io.StringIO(track_formats.webvtt(made))).captions) == len(
        made.cues
    )
    notes = [
        each
        for each in mido.MidiFile(
            file=io.BytesIO(track_formats.midi(made, [cue.key for cue in drill.cues]))
        )
        if each.type == "note_on"
    ]
    assert len(notes) == len(made.cues)


@pytest.mark.parametrize("words", ["jab", "slip", "high, in", "ten seconds", "9"])
def test_a_spoken_call_begins_with_its_sound(words: str) -> None:
    """What is kept is loud within 2 ms, and what was cut away before it was not."""
    data, _ = soundfile.read(io.BytesIO(speech.speak(words, Voice())))
    level = np.sqrt((data[: 2 * tones.RATE // 1000] ** 2).mean())
    assert level > np.abs(data).max() * 10 ** (-50 / 20)
    assert data.size / tones.RATE == pytest.approx(speech.length_s(speech.speak(words, Voice())))
