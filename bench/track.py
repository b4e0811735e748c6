"""Cue tracks: how long a half hour takes to render, in how much memory, and how exactly."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Iterator

from bench.figure import Figure

_RENDER = """
import io, json, time
import numpy as np, soundfile
from hastatus.audio import speech
from hastatus.core.plan import cue_track
from hastatus.core.sound import tones
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.drill.settings import Rounds
from hastatus.core.starter import block_on_sound_strike_on_light

drill = block_on_sound_strike_on_light().in_rounds(
    Rounds(count=1, duration_s=1800, rehearse=False, calls=("ten_seconds", "time"))
)
begun = time.perf_counter()
made = track.make_track(drill, plan_run(drill, seed=1, rung=3))
sounds = {}
for clip in made.clips:
    if clip.source == "tone":
        sounds[clip.name] = sound.SOUNDS[clip.what]()
    else:
        data = io.BytesIO(speech.speak(clip.what, drill.voice))
        sounds[clip.name] = soundfile.read(data)[0]
with open("/dev/null", "wb") as sink:
    for piece in track.render(made, sounds):
        sink.write(piece)
seconds = time.perf_counter() - begun
# Not getrusage: that begins with what the parent process had.
status = open("/proc/self/status").read()
peak = int(status.split("VmHWM:")[1].split()[0]) / 1024

# Where each cue really starts: take every other sound away, and find the first sample left.
data = io.BytesIO(b"".join(track.render(made, sounds)))
samples, rate = soundfile.read(data, dtype="float32")
every = np.zeros(samples.size + 5 * rate, dtype=np.float32)
def placed(each):
    at = track.sample_of(each.at_s)
    return at, (track.LEVEL * sounds[each.clip.name]).astype(np.float32)
for each in made.soundings:
    at, own = placed(each)
    every[at : at + own.size] += own
AUDIBLE, AROUND = 1e-3, rate // 100
worst = 0
for each in made.cues:
    at, own = placed(each)
    left = samples[at - AROUND : at + own.size] - every[at - AROUND : at + own.size]
    left[AROUND:] += own[: left.size - AROUND]
    found = at - AROUND + int(np.flatnonzero(np.abs(left) > AUDIBLE)[0])
    begins = int(np.flatnonzero(np.abs(own) > AUDIBLE)[0])
    worst = max(worst, abs(found - begins - each.at_s * rate))
told = {"seconds": seconds, "peak": peak, "worst": worst, "cues": len(made.cues)}
print(json.dumps(told))
"""


def figures(loose: bool) -> Iterator[Figure]:
    """Measure in a process of its own, so that its memory is the rendering's."""
    done = subprocess.run([sys.executable, "-c", _RENDER], capture_output=True, check=True)
    told = json.loads(done.stdout)
    yield Figure("30-minute cue track rendered to WAV", told["seconds"], "s", 3, 3)
    yield Figure("its peak memory", told["peak"], "MB", 250)
    yield Figure(
        f"onset in the WAV against the plan, worst of {told['cues']} cues",
        told["worst"],
        "samples",
        1,
    )
