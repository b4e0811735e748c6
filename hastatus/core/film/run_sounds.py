"""What sounded in a run, and what was shown, page by page: what a film is lined up with."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from hastatus.core.drill.solo import Drill
from hastatus.core.film.line_up import RunSound
from hastatus.core.plan import sounds
from hastatus.core.plan.round_signal import RoundSignals, solo_signals
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.events import Batch, CueShown, Event, Pause, RoundEnd, RoundStart


@dataclass(slots=True)
class PageOfRun:
    """What one page did, on its own clock. epoch: which page. cues: that came, in order."""

    epoch: int
    cues: list[CueShown] = field(default_factory=list)
    sounds: list[RunSound] = field(default_factory=list)


def pages_of_run(drill: Drill, plan: RunPlan, batches: Sequence[Batch]) -> list[PageOfRun]:
    """Each page of a run with its cues and sounds. Of calls only those whose moment is known."""
    events: dict[int, list[Event]] = defaultdict(list)
    for batch in batches:
        events[batch.epoch] += batch.events
    return [_page(drill, plan, epoch, events[epoch]) for epoch in sorted(events)]


def _page(drill: Drill, plan: RunPlan, epoch: int, events: Sequence[Event]) -> PageOfRun:
    page = PageOfRun(epoch)
    for event in events:
        if isinstance(event, CueShown):
            page.cues.append(event)
            clip = sounds.of_cue(drill.cue(event.cue))
            if clip and event.source == "audio":
                page.sounds.append(RunSound(event.t_ms / 1000, clip.name))
    page.cues.sort(key=lambda cue: cue.t_ms)
    page.sounds += _calls(plan, events)
    page.sounds += _signals(solo_signals(drill, plan), events)
    page.sounds.sort(key=lambda sound: sound.at_s)
    return page


def _calls(plan: RunPlan, events: Sequence[Event]) -> Iterator[RunSound]:
    """The calls of rounds that were not paused: theirs are the only ones whose moment is known."""
    starts = {event.round: event.t_ms for event in events if isinstance(event, RoundStart)}
    ends = {
        event.round: event.t_ms
        for event in events
        if isinstance(event, RoundEnd) and event.reason == "time"
    }
    pauses = [event.t_ms for event in events if isinstance(event, Pause)]
    for number, start_ms in starts.items():
        end_ms = ends.get(number)
        if end_ms is None or any(start_ms <= pause_ms <= end_ms for pause_ms in pauses):
            continue
        for call in plan.rounds[number - 1].calls:
            at_ms = end_ms - call.at_s * 1000 if call.from_end else start_ms + call.at_s * 1000
            yield RunSound(at_ms / 1000, sounds.spoken(call.words).name)


def _signals(signals: Sequence[RoundSignals], events: Sequence[Event]) -> Iterator[RunSound]:
    """What begins each round, and ends those whose time was up."""
    for event in events if signals else ():
        if isinstance(event, RoundStart):
            name = signals[event.round - 1].begins.name
            yield RunSound(event.t_ms / 1000, name, signal=True)
        elif isinstance(event, RoundEnd) and event.reason == "time":
            yield RunSound(event.t_ms / 1000, signals[event.round - 1].ends.name, signal=True)
