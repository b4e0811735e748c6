"""The player in a real browser: when sounds and flashes really came, and when answers did.

Sound is recorded sample by sample in the rendered audio; flashes are what the browser itself says
of its presentation; answers go in through its own input path with known time stamps.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from playwright.sync_api import Browser, BrowserContext, Page, sync_playwright
from sqlalchemy import Engine, select

from benchmarks.figure import Figure, percentile
from hastatus.core.drill.settings import Rounds, Unguessable
from hastatus.core.drill.solo import Drill, Pace, Rung
from hastatus.core.score.response import SOUND_SPREAD_MS
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.store.database import transaction
from hastatus.store.models import EventBatch
from tests.harness.answering import Answerer, begin
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Made, Server, get, make_club, sign_in, to_the_floor
from tests.harness.database import temporary_database, url_of

FRAME_MS = 1000 / 60
STAMPS_AROUND = 9
NEAR_S = 0.02
"""A sound that was rendered so near to a logged one is that one."""

BLOCK = """
(function block() {
  const until = performance.now() + 60;
  while (performance.now() < until);
  requestAnimationFrame(block);
})()
"""
"""Holds the main thread for 60 ms in each frame."""

RECORD_AUDIO = """
(() => {
  const code = `
    registerProcessor('onsets', class extends AudioWorkletProcessor {
      constructor() { super(); this.silent = 4800 }
      process([[samples]]) {
        if (!samples) { this.silent += 128; return true }
        for (let i = 0; i < samples.length; i++) {
          if (samples[i] === 0) { this.silent++; continue }
          if (this.silent >= 2400) this.port.postMessage((currentFrame + i) / sampleRate);
          this.silent = 0;
        }
        return true
      }
    })`;
  window.onsets = [];
  const connect = AudioNode.prototype.connect;
  AudioNode.prototype.connect = function (to, ...rest) {
    if (to instanceof AudioDestinationNode) {
      const url = URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
      this.context.audioWorklet.addModule(url).then(() => {
        const recorder = new AudioWorkletNode(this.context, 'onsets', { channelCount: 1 });
        recorder.port.onmessage = (event) => window.onsets.push(event.data);
        connect.call(this, recorder);
        connect.call(recorder, this.context.destination);
      });
    }
    return connect.call(this, to, ...rest);
  };
})()
"""
"""Notes the audio time of the first sample after 50 ms of silence, in the rendered audio."""

WATCH_STAMPS = """
(() => {
  window.stamps = [];
  const made = window.AudioContext;
  window.AudioContext = class extends made {
    constructor(...rest) {
      super(...rest);
      const read = () => {
        const { contextTime, performanceTime } = this.getOutputTimestamp();
        if (contextTime) stamps.push([contextTime, performanceTime]);
        setTimeout(read, 4);
      };
      read();
    }
  };
})()
"""
"""Reads the output's time stamps on its own, far more often than the player does."""

WATCH_FLASHES = """
window.presented = [];
new PerformanceObserver((list) => {
  for (const entry of list.getEntries())
    presented.push([entry.identifier, entry.presentationTime || entry.renderTime]);
}).observe({ type: 'element', buffered: true });
"""


@dataclass
class Bench:
    """A server, its database and a browser; where a run is played on the floor."""

    engine: Engine
    server: Server
    browser: Browser
    where = ""

    def open(
        self, made: Made, context: BrowserContext | None = None, *, touch: bool = False
    ) -> Page:
        """A run that is ready to begin."""
        page = sign_in(self.browser, self.server, made, context)[1]
        to_the_floor(page, self.server, made)
        return page

    def end(self, page: Page, student: Answerer, made: Made, seconds: float) -> str:
        """Go on until all is on the server; the id of the run."""
        student.until({"done"}, seconds=seconds)
        return page.url.split("/")[-2]

    def readout(self, page: Page, made: Made, run: str) -> Any:
        """What is read of a run."""
        return get(page, f"/api/runs/{run}/readout")

    def events(self, run: str, made: Made) -> list[dict[str, Any]]:
        """Every event that the server holds of a run."""
        with transaction(self.engine) as db:
            rows = db.scalars(
                select(EventBatch.body).where(EventBatch.club_id == made.club_id)
                .where(EventBatch.run_id == run).order_by(EventBatch.number)
            )  # fmt: skip
            return [event for body in rows for event in body["events"]]


def quick_drill(seconds: float, lights: bool) -> Drill:
    """The starter drill at its quickest, so that many cues come in little time."""
    drill = block_on_sound_strike_on_light()
    cues = tuple(cue for cue in drill.cues if (cue.channel == "see") == lights)
    rung = Rung(
        name="quick", window_s=0.6, goal_window_s=0.5,
        rounds=Rounds(count=1, duration_s=seconds, rest_s=4, rehearse=False),
        waiting=Unguessable(least_s=0.3, mean_s=0.1, most_s=0.6),
    )  # fmt: skip
    changes = {
        "cues": tuple(cue for cue in cues if not cue.is_catch),
        "rungs": (rung,),
        "pace": Pace(least_s=0.5, most_s=0.7),
    }
    return Drill.model_validate(drill.model_copy(update=changes).model_dump())


def figures(loose: bool) -> Iterator[Figure]:
    """Measure the player, each condition in a round of its own."""
    seconds = 10.0 if loose else 110.0
    with temporary_database() as engine, sync_playwright() as playwright:
        server = Server(url_of(engine))
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            server.start()
            yield from measured(Bench(engine, server, browser), seconds)
        finally:
            browser.close()
            server.stop()


def measured(bench: Bench, seconds: float) -> Iterator[Figure]:
    """Each condition in a round of its own."""
    yield from _sound(bench, seconds)
    yield from _flashes(bench, seconds)
    yield from _answers(bench, seconds, touch=False)
    yield from _answers(bench, seconds, touch=True)


def _sound(bench: Bench, seconds: float) -> Iterator[Figure]:
    made = make_club(bench.engine, quick_drill(seconds, lights=False))
    # The recorder is a script of the bench's own, which the page's policy would refuse.
    context = bench.browser.new_context(bypass_csp=True)
    context.add_init_script(RECORD_AUDIO)
    context.add_init_script(WATCH_STAMPS)
    page = bench.open(made, context)
    student = Answerer(page, lambda cue: None)
    begin(page)
    student.until({"round"})
    page.evaluate(BLOCK)
    run = bench.end(page, student, made, seconds + 60)
    heard = [float(at) for at in page.evaluate("onsets")]
    stamps = np.asarray(page.evaluate("stamps"), dtype=float)
    cues = [e for e in bench.events(run, made) if e["type"] == "cue"]
    logged = [e["audio_s"] for e in cues]
    context.close()
    if len(heard) != len(logged) or not heard:
        alone = [at for at in logged if not any(abs(at - one) < NEAR_S for one in heard)]
        raise RuntimeError(
            f"{len(logged)} sounds were logged, {len(heard)} were rendered; not rendered: {alone} s"
        )
    errors = [abs(one - other) * 1000 for one, other in zip(heard, logged, strict=True)]
    name = (
        f"{bench.where}sound onset, rendered against logged, page blocked, {len(errors)} cues, p99"
    )
    yield Figure(name, percentile(errors, 0.99), "ms", 0.1)
    trusted = [e for e in cues if e["spread_ms"] <= SOUND_SPREAD_MS]
    off = [abs(e["t_ms"] - left_ms(stamps, e["audio_s"])) for e in trusted]
    name = f"sound onset on the page's clock, against its output, {len(off)} trusted cues, worst"
    yield Figure(bench.where + name, max(off), "ms", 3)
    yield Figure(f"{bench.where}sounds not trusted", 100 * (1 - len(trusted) / len(cues)), "%", 5)


def left_ms(stamps: NDArray[np.float64], audio_s: float) -> float:
    """When a sample left, on the page's clock: the median offset of the stamps around it."""
    near = stamps[np.argsort(np.abs(stamps[:, 0] - audio_s))[:STAMPS_AROUND]]
    return audio_s * 1000 + float(np.median(near[:, 1] - near[:, 0] * 1000))


def _flashes(bench: Bench, seconds: float) -> Iterator[Figure]:
    worst: list[float] = []
    for blocked in (False, True):
        made = make_club(bench.engine, quick_drill(seconds, lights=True))
        page = bench.open(made)
        page.evaluate(WATCH_FLASHES)
        student = Answerer(page, lambda cue: None)
        begin(page)
        student.until({"round"})
        if blocked:
            page.evaluate(BLOCK)
        run = bench.end(page, student, made, seconds + 60)
        presented = sorted(float(at) for _, at in page.evaluate("presented"))
        logged = sorted(e["t_ms"] for e in bench.events(run, made) if e["type"] == "cue")
        if len(presented) != len(logged) or not logged:
            raise RuntimeError(f"{len(logged)} flashes logged, {len(presented)} presented")
        worst += [abs(one - other) for one, other in zip(presented, logged, strict=True)]
        if not blocked:
            planned = sorted(cue["t_ms"] for cue in student.planned)
            late = [abs(one - other) for one, other in zip(presented, planned, strict=True)]
            name = f"{bench.where}flash, planned to drawn, {len(late)} cues, p95"
            yield Figure(name, percentile(late, 0.95), "ms", FRAME_MS, 3)
        page.context.close()
    name = f"flash, logged against presented, page blocked in half of {len(worst)} cues, worst"
    yield Figure(bench.where + name, max(worst), "ms", FRAME_MS)


def _answers(bench: Bench, seconds: float, *, touch: bool) -> Iterator[Figure]:
    """What the readout says of an answer's time against its own stamp and the flash's moment."""
    made = make_club(bench.engine, quick_drill(seconds, lights=True))
    page = bench.open(made, touch=touch)
    page.evaluate(WATCH_FLASHES)
    # Straights are all that this drill asks for, so they have the first row of keys and zones.
    controls = {"lead_light": "KeyR", "rear_light": "KeyU"}
    if touch:
        controls = {"lead_light": "zone:left:0", "rear_light": "zone:right:0"}
    student = Answerer(page, lambda cue: (controls[cue["cue"]], 180.0 + cue["slot"] % 37), touch)
    begin(page)
    run = bench.end(page, student, made, seconds + 60)
    presented = sorted(float(at) for _, at in page.evaluate("presented"))
    readout = bench.readout(page, made, run)
    page.context.close()
    responses = {response["slot"]: response for response in readout["responses"]}
    shown = {cue["slot"]: at for cue, at in zip(student.shown, presented, strict=True)}
    counted = [given for given in student.given if not responses[given.slot]["left_out"]]
    errors = [_off_ms(responses[given.slot], given.t_ms - shown[given.slot]) for given in counted]
    how = bench.where + ("touch" if touch else "keys")
    median, most = (17, 17) if touch else (2, 5)
    yield Figure(f"{how}, injected against measured, {len(errors)} answers, median",
                 percentile(errors, 0.5), "ms", median)  # fmt: skip
    yield Figure(f"{how}, injected against measured, 99 %", percentile(errors, 0.99), "ms", most, 3)
    left_out = 100 * (1 - len(counted) / len(student.given))
    yield Figure(f"{how}, answers to cues that are left out", left_out, "%", 5)


def _off_ms(response: dict[str, Any], true_ms: float) -> float:
    """How far an answer's time is off; without one it is off by all that there is."""
    if response["time_ms"] is None:
        print(f"no time: {response}")
        return float("inf")
    return float(abs(response["time_ms"] - true_ms))
