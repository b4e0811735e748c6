"""Renders a cue track of half an hour and prints what it took, as JSON.

A program of its own, so that its memory is the rendering's: `python -m benchmarks.track_render`.
"""

from __future__ import annotations

import io
import json
import time
from collections.abc import Mapping
from importlib import import_module
from pathlib import Path

import numpy as np
import soundfile
from numpy.typing import NDArray

from hastatus.core.drill.settings import Rounds
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import cue_track
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.sound import tones
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.sound_io import speech

AUDIBLE = 1e-3
Sounds = Mapping[str, NDArray[np.float64]]


def main() -> None:
    """Render, then look where each cue really starts."""
    drill = block_on_sound_strike_on_light().in_rounds(
        Rounds(count=1, duration_s=1800, rehearse=False, calls=("ten_seconds", "time"))
    )
    import_module("scipy.signal")  # as a server's worker does, soon after its start
    began = time.perf_counter()
    track = cue_track.make_track(drill, plan_run(drill, seed=1, rung=3))
    sounds = _sounds(drill, track)
    with open("/dev/null", "wb") as sink:
        for piece in cue_track.render(track, sounds):
            sink.write(piece)
    seconds = time.perf_counter() - began
    # Not getrusage: that begins with what the parent process had.
    status = Path("/proc/self/status").read_text()
    peak = int(status.split("VmHWM:")[1].split()[0]) / 1024
    figures = {"seconds": seconds, "peak": peak, "cues": len(track.cues)}
    print(json.dumps({**figures, "worst": _worst(track, sounds)}))


def _sounds(drill: Drill, track: cue_track.Track) -> Sounds:
    sounds = {}
    for clip in track.clips:
        if clip.source == "tone":
            sounds[clip.name] = tones.SOUNDS[clip.what]()  # type: ignore[index]
        else:
            data = io.BytesIO(speech.speak(clip.what, drill.voice))
            sounds[clip.name] = soundfile.read(data)[0]
    return sounds


def _worst(track: cue_track.Track, sounds: Sounds) -> float:
    """How many samples an onset is off at most: all other sounds taken away, where one begins."""
    data = io.BytesIO(b"".join(cue_track.render(track, sounds)))
    samples, rate = soundfile.read(data, dtype="float32")
    around = rate // 100

    def placed(sounding: cue_track.Sounding) -> tuple[int, NDArray[np.float32]]:
        assert sounding.clip is not None
        at = cue_track.sample_of(sounding.at_s)
        return at, (cue_track.LEVEL * sounds[sounding.clip.name]).astype(np.float32)

    everything = np.zeros(samples.size + 5 * rate, dtype=np.float32)
    for sounding in track.soundings:
        at, own = placed(sounding)
        everything[at : at + own.size] += own
    worst = 0.0
    for cue in track.cues:
        at, own = placed(cue)
        left = samples[at - around : at + own.size] - everything[at - around : at + own.size]
        left[around:] += own[: left.size - around]
        heard = at - around + int(np.flatnonzero(np.abs(left) > AUDIBLE)[0])
        begins = int(np.flatnonzero(np.abs(own) > AUDIBLE)[0])
        worst = max(worst, abs(heard - begins - cue.at_s * rate))
    return worst


if __name__ == "__main__":
    main()
