"""Inputs of every kind: what counts as an answer, what it is told from, whose clock it is on.

The rules are those of core/telling.py and core/score.py (common practice, no source).
"""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.read.solo_run import HomeTimes, read_times
from hastatus.core.run.device import Correction, Device, device_of
from hastatus.core.run.events import Batch, CueShown, Event, Finish, Input, RoundStart, Sync
from hastatus.core.run.pad_clock import PadClock
from hastatus.core.score.response import Response
from hastatus.core.score.scorer import Scorer, score
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.pad_kit import PadKit

DRILL = block_on_sound_strike_on_light()


def slip_drill() -> Drill:
    """The same cues, each asking for a slip."""
    document = DRILL.model_dump(mode="json")
    for each in document["cues"]:
        for chain in each["asks"]:
            chain["steps"] = [{**chain["steps"][0], "technique": "slip"}]
    return Drill.model_validate(document)


def judged(device: Device, *events: Event, drill: Drill = DRILL) -> tuple[list[Response], Scorer]:
    plan = plan_run(drill, seed=1, rung=len(drill.rungs))
    happened = [RoundStart(t_ms=0, round=1), *events, Finish(t_ms=60_000, reason="complete")]
    batch = Batch(number=0, epoch=0, until_ms=60_000, last=True, events=tuple(happened))
    return score(drill, plan, device, [batch])


def cue(slot: int, name: str, t_ms: float, window_ms: float = 800) -> CueShown:
    return CueShown(t_ms=t_ms, round=1, slot=slot, cue=name, at_s=t_ms / 1000,
                    window_ms=window_ms, source="audio")  # fmt: skip


def heard(t_ms: float, level_db: float = -20) -> Input:
    return Input(t_ms=t_ms, device="microphone", control="strike", level_db=level_db)


def key(t_ms: float, control: str = "KeyR") -> Input:
    return Input(t_ms=t_ms, device="key", control=control)


def home(t_ms: float, edge: str) -> Input:
    return Input.model_validate({"t_ms": t_ms, "device": "key", "control": "home", "edge": edge})


def whys(scorer: Scorer) -> list[str]:
    return [stray.why for stray in scorer.strays]


FLOOR = device_of(None, (), ("microphone",))
BOTH = device_of(None, (), ("key", "microphone"))


def test_a_microphone_gives_a_time_and_never_a_wrong_answer() -> None:
    found, _ = judged(FLOOR, cue(0, "bell", 1000), heard(1400), cue(1, "rear_light", 4000),
                      heard(4900), cue(2, "low_knock", 8000))  # fmt: skip
    assert [each.outcome for each in found] == ["clean", "late", "missed"]
    assert [each.time_ms for each in found] == [400, 900, None]
    assert found[0].given_technique is None
    assert found[0].timed_with == "microphone"


def test_a_strike_after_a_catch_cue_should_have_been_held() -> None:
    assert judged(FLOOR, cue(0, "hold_light", 1000), heard(1400))[0][0].outcome == "wrong"


def test_a_microphones_latency_is_taken_off() -> None:
    known = Correction.model_validate(
        {"source": "microphone", "ms": 61.5, "spread_ms": 1.5, "measured_on": "2026-11-02"}
    )
    device = device_of("tablet", (known,), ("microphone",))
    assert device.calibrated
    assert device.widest_ms == 1.5
    assert judged(device, cue(0, "bell", 1000), heard(1461.5))[0][0].time_ms == 400
    assert device_of(None, (known,), ("microphone", "key")).widest_ms == 30


def test_the_cue_itself_is_no_answer_to_it() -> None:
    found, scorer = judged(FLOOR, cue(0, "bell", 1000), heard(1008), heard(1400))
    assert (found[0].outcome, found[0].time_ms) == ("clean", 400)
    assert whys(scorer) == ["echo"]
    # A light makes no sound: what is heard then was a strike, before anybody could have seen it.
    assert judged(FLOOR, cue(0, "rear_light", 1000), heard(1008))[0][0].outcome == "jumped"


def test_a_pad_that_rings_has_been_hit_once() -> None:
    found, scorer = judged(Device(), cue(0, "bell", 1000), key(1300, "KeyU"), key(1340, "KeyU"))
    assert found[0].outcome == "clean"
    assert whys(scorer) == ["bounce"]


@pytest.mark.parametrize("after_ms", [-40.0, 40.0])
def test_one_strike_heard_and_felt_is_one_answer_whichever_comes_first(after_ms: float) -> None:
    events = sorted([key(1400, "KeyF"), heard(1400 + after_ms)], key=lambda each: each.t_ms)
    found, _ = judged(BOTH, cue(0, "bell", 1000), *events, cue(1, "bell", 4000), heard(4400))
    # The key says that it was the wrong technique; what is only heard says nothing of it.
    assert [each.outcome for each in found] == ["wrong", "clean"]
    assert found[0].time_ms == min(400, 400 + after_ms)
    assert found[0].given_technique == "straight"


def test_a_faint_strike_comes_from_next_door() -> None:
    events: list[Event] = []
    for place in range(10):
        events += [cue(place, DRILL_KEYS[place % 4], 1000 + 3000 * place)]
        events += [heard(1400 + 3000 * place, -12 - place % 3)]
    quiet = [cue(10, "bell", 40_000), heard(40_300, -45), heard(40_450, -25)]
    found, scorer = judged(FLOOR, *events, *quiet)
    assert found[-1].time_ms == 450
    assert whys(scorer) == ["faint"]


DRILL_KEYS = ("low_knock", "bell", "lead_light", "rear_light")


def test_home_is_left_for_the_reaction_and_hit_for_the_answer() -> None:
    device = device_of(None, (), ("key",), home=True)
    found, _ = judged(
        device, home(500, "down"), cue(0, "low_knock", 1000), home(1310, "up"), key(1450),
        home(1700, "down"), cue(1, "bell", 4000), key(4400, "KeyU"),
    )  # fmt: skip
    first, second = found
    assert (first.time_ms, first.reaction_ms, first.home_ms) == (450, 310, 700)
    assert (second.time_ms, second.reaction_ms, second.home_ms) == (400, None, None)


def test_what_home_says_is_read_once_there_is_enough_of_it() -> None:
    device = device_of(None, (), ("key",), home=True)
    events: list[Event] = []
    for place in range(8):
        at = 1000 + 3000.0 * place
        events += [cue(place, "low_knock", at), home(at + 290 + place, "up"),
                   key(at + 430 + place), home(at + 700 + place, "down")]  # fmt: skip
    found, _ = judged(device, *events)
    read = read_times(DRILL, found).home
    assert read
    middles = (read.reaction, read.movement, read.back)
    assert [middle.ms for middle in middles if middle] == [293.5, 140.0, 270.0]
    assert read.left == 8
    assert read.reaction
    assert 290 <= read.reaction.low_ms < 293.5 < read.reaction.high_ms <= 297
    few = read_times(DRILL, found[:7]).home
    assert few == HomeTimes(None, None, None, 7)
    assert read_times(DRILL, judged(device, cue(0, "bell", 1000))[0]).home is None


def test_leaving_home_with_no_cue_on_is_kept_and_the_next_cue_was_jumped() -> None:
    device = device_of(None, (), ("key",), home=True)
    found, scorer = judged(device, home(700, "up"), cue(0, "low_knock", 1000), key(1450))
    assert found[0].outcome == "jumped"
    assert whys(scorer) == ["left_home"]


def test_a_slip_is_timed_by_leaving_home() -> None:
    drill = slip_drill()
    name = drill.cues[0].key
    shown = cue(0, name, 1000)
    assert judged(Device(), shown, drill=drill)[0][0].left_out == "not_sensed"
    device = device_of(None, (), ("key",), home=True)
    found, _ = judged(device, shown, home(1380, "up"), home(1900, "down"), drill=drill)
    assert (found[0].outcome, found[0].time_ms, found[0].home_ms) == ("clean", 380, 900)
    assert found[0].timed_with == "home"
    assert not found[0].own_window
    assert judged(device, shown, drill=drill)[0][0].outcome == "missed"


def test_ten_thousand_hits_a_second_answer_once() -> None:
    flood = [Input(t_ms=1200 + place / 10, device="pad", control="zone:right:0")
             for place in range(10_000)]  # fmt: skip
    device = device_of(None, (), ("pad",))
    plan = plan_run(DRILL, seed=1, rung=3)
    batches = [
        Batch(number=n, epoch=0, until_ms=1200 + 200 * n, events=tuple(events), last=n == 5)
        for n, events in enumerate([[RoundStart(t_ms=0, round=1), cue(0, "bell", 1000)],
                                    *(flood[k : k + 2000] for k in range(0, 10_000, 2000))])
    ]  # fmt: skip
    found, scorer = score(DRILL, plan, device, batches)
    assert [each.outcome for each in found] == ["clean"]
    assert set(whys(scorer)) == {"bounce"}


def clocked(kit: PadKit, seconds: float) -> PadClock:
    clock = PadClock()
    for event in kit.syncs(0, seconds * 1000):
        assert isinstance(event, Sync)
        clock.add(event.sent_ms, event.own_ms, event.t_ms)
    return clock


@pytest.mark.parametrize("seed", range(5))
def test_offset_and_drift_of_a_kits_clock_are_found(seed: int) -> None:
    kit = PadKit(np.random.default_rng(seed), offset_ms=12_345, drift_ppm=-120)
    clock = clocked(kit, 300)
    for t_ms in (280_000.0, 300_000.0, 305_000.0):
        assert clock.to_page(kit.own_ms(t_ms)) == pytest.approx(t_ms, abs=2)


def test_a_clock_that_jumps_is_found_again() -> None:
    kit = PadKit(np.random.default_rng(3))
    clock = clocked(kit, 60)
    kit.offset_ms += 700
    for at in range(60_000, 66_000, 1000):
        sync = kit.sync(at)
        clock.add(sync.sent_ms, sync.own_ms, sync.t_ms)
    assert clock.jumps == 1
    assert clock.to_page(kit.own_ms(66_000)) == pytest.approx(66_000, abs=6)


def test_lost_hits_are_counted() -> None:
    kit = PadKit(np.random.default_rng(8), loss=0.2)
    hits = [hit for place in range(100) for hit in kit.hit(1000 + 300.0 * place, "zone:left:0")]
    _, scorer = judged(device_of(None, (), ("pad",)), *hits)
    missing = 100 - len(hits)
    assert missing > 5
    # Those after the last that came cannot be known of.
    assert missing - 3 <= scorer.state.lost <= missing
