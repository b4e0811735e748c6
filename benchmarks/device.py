"""The device page in a real browser: the detector in its worklet, and the measuring of a delay."""

from __future__ import annotations

import base64
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, sync_playwright

from benchmarks.figure import Figure
from benchmarks.hearing import Outside
from benchmarks.strikes import scene
from hastatus.core.sound.tones import RATE
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Server, make_club, sign_in
from tests.harness.database import temporary_database, url_of
from tests.harness.hearing import microphone

DELAYS_MS = (40.0, 180.0)
SCENE_SEED = 3
FIRST_S = 1.2
LOOSE_S = 25.0

PLAY = """
async (data) => {
  const bytes = Uint8Array.from(atob(data), (each) => each.charCodeAt(0));
  const samples = new Float32Array(bytes.buffer);
  window.heard = [];
  addEventListener('hastatus:strike', (event) => heard.push(event.detail.at_s));
  const from_s = room.context.currentTime + 1;
  room.play(samples, from_s);
  window.over = () => room.context.currentTime > from_s + samples.length / 48000 + 0.5;
  return from_s;
}
"""


def figures(loose: bool) -> Iterator[Figure]:
    """Drive the page with a microphone of the bench's own."""
    with temporary_database() as engine, sync_playwright() as playwright:
        server = Server(url_of(engine))
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            server.start()
            context = browser.new_context()
            context.add_init_script(microphone(delay_ms=0.0, leak=0.5, hiss=0.0005))
            page = sign_in(browser, server, make_club(engine), context)[1]
            page.goto(f"{server.address}/device")
            yield from _loopback(page)
            context.close()
            context = browser.new_context()
            context.add_init_script(microphone(leak=0.0, hiss=0.00001))
            page = sign_in(browser, server, make_club(engine), context)[1]
            page.goto(f"{server.address}/device")
            yield from _worklet(page, LOOSE_S if loose else None)
        finally:
            browser.close()
            server.stop()


def _loopback(page: Page) -> Iterator[Figure]:
    """Each planted delay against the way without one, which is the stream's own hop."""
    hop_ms = _measure(page, 0.0)
    for delay_ms in DELAYS_MS:
        off = abs(_measure(page, delay_ms) - hop_ms - delay_ms)
        yield Figure(f"calibration, planted delay of {delay_ms:g} ms, off by", off, "ms", 3, 3)


def _measure(page: Page, delay_ms: float) -> float:
    page.evaluate("ms => { room.delay_ms = ms }", delay_ms)
    with page.expect_response("**/loopback") as answered:
        page.get_by_role("button", name="Measure the sound").click()
    view = answered.value.json()
    if not answered.value.ok:
        raise RuntimeError(view["detail"])
    page.get_by_role("button", name="Measure the sound").wait_for()
    return float(
        next(source["ms"] for source in view["inputs"] if source["source"] == "microphone")
    )


def _worklet(page: Page, seconds: float | None) -> Iterator[Figure]:
    """Play the first `seconds` of a scene to the page, or the whole of it."""
    made = scene(SCENE_SEED, 20.0, leak=False)
    if seconds is not None:
        made = replace(made, samples=made.samples[: round(seconds * RATE)])
    with tempfile.TemporaryDirectory() as folder:
        outside = np.asarray(Outside(Path(folder)).hear(made))
    page.get_by_role("button", name="Listen to strikes").click()
    page.get_by_role("status").wait_for()
    page.wait_for_timeout(1500)
    samples = made.samples.astype("<f4").tobytes()
    from_s = page.evaluate(PLAY, base64.b64encode(samples).decode())
    length_s = made.samples.size / RATE
    deadline = time.monotonic() + length_s + 60
    while not page.evaluate("over()"):  # the page's policy forbids Playwright's own way to wait
        if time.monotonic() > deadline:
            raise RuntimeError("the scene did not come to its end")
        page.wait_for_timeout(200)
    inside = np.asarray(page.evaluate("heard"))
    # The noise of the room sets in with the scene, out of silence; before it there is no strike.
    inside = inside[inside > from_s + FIRST_S]
    missing = abs(inside.size - outside.size)
    name = f"strikes of one scene, worklet against Node, {outside.size} of them"
    yield Figure(f"{name}, found by one only", missing, "strikes", 0)
    if not missing:
        offsets = (inside - outside) * 1000
        apart = float(np.abs(offsets - np.median(offsets)).max())
        yield Figure(f"{name}, furthest apart after one offset", apart, "ms", 1, 3)
