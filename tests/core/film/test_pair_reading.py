"""A film of two partners: who began when, what landed, who moved first, against what was done."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from pydantic import ValidationError

from hastatus.core.film.pair_reading import PairFilmReading, read_pair_film
from hastatus.core.film.pair_sounds import PairRun, pair_sounds, signal_rises
from hastatus.core.film.scene import Film
from hastatus.core.motion.zone import CameraPlace, Zone
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.sound import named
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.demo.film import Camera
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_pair import FilmedPair
from hastatus.demo.filmed_run import Filming
from hastatus.demo.pairs import Pair, batches
from hastatus.film_io.film_file import read_film_file

FILMING = Filming(
    look=Look(width=320, height=180), camera=Camera(rate_hz=25.0), starts_s=2.0, length_s=28.0
)


def pair_run(title: str, seed: int, left: int, tempo_bpm: float = 80) -> PairRun:
    drill = PARTNER_STARTERS[title]()
    sheet = feed_sheet(drill, seed=seed, tempo_bpm=tempo_bpm)
    marked = batches(drill, sheet, Pair(clean=0.8), np.random.default_rng(seed))
    return PairRun(drill, sheet, [mark for batch in marked for mark in batch.marks], left)


def filmed(run: PairRun, folder: Path, seed: int) -> tuple[FilmedPair, Film]:
    pair = FilmedPair(run, FILMING, seed, ahead=0.3)
    names = [sound.name for sound in pair_sounds(run)]
    samples = {name: named.samples(name.removeprefix("tone:")) for name in names}
    pair.write(folder / "film.mp4", samples)
    return pair, read_film_file(folder / "film.mp4", pair.place.zones)[0]


def read(run: PairRun, place: CameraPlace, film: Film) -> PairFilmReading:
    return read_pair_film(run, place, film, signal_rises(run))


@pytest.fixture(scope="module")
def answered(tmp_path_factory: pytest.TempPathFactory) -> tuple[PairRun, FilmedPair, Film]:
    run = pair_run("third-beat answer", seed=4, left=1)
    return run, *filmed(run, tmp_path_factory.mktemp("pair"), seed=5)


def test_each_exchange_is_told_as_it_was_done(answered: tuple[PairRun, FilmedPair, Film]) -> None:
    run, pair, film = answered
    reading = read(run, pair.place, film)
    assert reading.refusal is None
    assert reading.line_up is not None
    assert reading.line_up.starts_s == pytest.approx(FILMING.starts_s, abs=0.01)
    done = {(one.round, one.number): one for one in pair.exchanges}
    assert len(reading.exchanges) >= 3
    for seen in reading.exchanges:
        true = done[seen.round, seen.number]
        for began, move in ((seen.fed, true.fed), (seen.answered, true.answered)):
            assert began.at_ms == pytest.approx(1000 * (move.onset_s - seen.film_s), abs=60)
        first = true.answered.onset_s < true.fed.onset_s
        assert (seen.ran_ahead, (seen.reaction_ms or 0) < 0) == (first, first)
        assert true.landed_s is not None
        assert seen.landed_ms == pytest.approx(1000 * (true.landed_s - seen.film_s), abs=12)
    told = reading.partners[reading.exchanges[0].defender]
    assert told.ahead == sum(one.ran_ahead for one in reading.exchanges)


def test_a_counter_that_lands_after_its_beat_at_a_quick_tempo_is_heard(tmp_path: Path) -> None:
    run = pair_run("stop and hit", seed=4, left=1, tempo_bpm=110)
    pair, film = filmed(run, tmp_path, seed=5)
    done = {(one.round, one.number): one for one in pair.exchanges}
    exchanges = read(run, pair.place, film).exchanges
    assert len(exchanges) >= 3
    for seen in exchanges:
        landed_s = done[seen.round, seen.number].landed_s
        assert landed_s is not None
        assert seen.landed_ms == pytest.approx(1000 * (landed_s - seen.film_s), abs=12)


def test_what_cannot_be_read_says_so(answered: tuple[PairRun, FilmedPair, Film]) -> None:
    run, pair, film = answered
    mine = pair.place.model_copy(
        update={
            "zones": tuple(
                zone.model_copy(update={"person": None})
                for zone in pair.place.zones
                if zone.person == "left"
            )
        }
    )
    assert read(run, mine, film).refusal == "no_people"
    three = pair_run("pressure branch, ring of three", seed=4, left=0)
    assert read(three, pair.place, film).refusal == "three_people"
    other = pair_run("third-beat answer", seed=40, left=1)
    assert read(other, pair.place, film).refusal in ("none_heard", "other_run")
    mute = Film(film.length_s, film.motion, None)
    assert read(run, pair.place, mute).refusal == "no_sound"


def test_zones_say_whose_they_are_or_none_does() -> None:
    head = Zone(part="head", left=0.1, top=0.1, width=0.2, height=0.2)
    left = head.model_copy(update={"person": "left"})
    with pytest.raises(ValidationError, match="say it of all or none"):
        CameraPlace(name="door", zones=(head, left))
    with pytest.raises(ValidationError, match="two zones of the head on the left; keep one"):
        CameraPlace(name="door", zones=(left, left))
