"""A scripted student at a real keyboard: answers each cue a known delay after it truly came.

A sound that a machine at its limit lets out late is answered late, as a person would.

Keys go in through the browser's own input path (DevTools protocol), each with the time stamp that
the script wants it to have, so that what was given is known to the microsecond.
"""

from __future__ import annotations

import heapq
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from playwright.sync_api import Page

NOTICES = """
window.notices = [];
for (const name of ['hastatus:cue', 'hastatus:came'])
  addEventListener(name, (event) => notices.push({ name, ...event.detail }));
"""
_LOOK = """([last, until_ms]) => new Promise((resolve) => {
  const look = () => {
    const now = performance.now()
    const phase = document.querySelector('.floor')?.dataset.phase ?? 'none'
    if (phase === last && now < until_ms && !window.notices?.length) return setTimeout(look, 15)
    resolve({ now, phase, notices: window.notices?.splice(0) ?? [] })
  }
  look()
})"""
"""Waits in the page, which costs far less than to be asked again and again."""
LONGEST_MS = 500.0

KEYS = {
    ("high_block", "lead"): "KeyR",
    ("high_block", "rear"): "KeyU",
    ("straight", "lead"): "KeyF",
    ("straight", "rear"): "KeyJ",
}

RIGHT = {
    "low_knock": KEYS["high_block", "lead"],
    "bell": KEYS["high_block", "rear"],
    "lead_light": KEYS["straight", "lead"],
    "rear_light": KEYS["straight", "rear"],
}
"""The key that answers each cue of the first starter drill; a ring asks for none."""
"""For a student whose left hand leads."""

Script = Callable[[dict[str, Any]], tuple[str, float] | None]
"""From the notice of a cue that came to a control and a delay in ms, or None for no answer."""


@dataclass
class Given:
    """An answer that was given. t_ms: its time stamp on the page's clock."""

    round: int
    slot: int
    cue: str
    control: str
    t_ms: float
    delay_ms: float


@dataclass
class Answerer:
    """Answers on a page by a script; `given`, `shown` and `planned` say what was."""

    page: Page
    script: Script
    touch: bool = False
    now_ms: float = 0.0
    """Of the page's clock, when it was looked at last."""
    given: list[Given] = field(default_factory=list)
    shown: list[dict[str, Any]] = field(default_factory=list)
    planned: list[dict[str, Any]] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._cdp = self.page.context.new_cdp_session(self.page)
        self._origin_ms = float(self.page.evaluate("performance.timeOrigin"))
        self._due: list[tuple[float, int, Given]] = []
        self._phase = ""
        self.page.evaluate(NOTICES)

    def until(self, phases: set[str], seconds: float = 120.0) -> str:
        """Go on answering until the player is in one of `phases`."""
        deadline = time.monotonic() + seconds
        phase = self.look()
        while time.monotonic() < deadline:
            if phase in phases:
                return phase
            phase = self.look(LONGEST_MS)
        raise AssertionError(f"the player did not come to {phases}; it is in {phase}")

    def look(self, wait_ms: float = 0.0) -> str:
        """Take what came, give what is due; the phase that the player is in. wait_ms: at most so
        long is waited for a cue, an answer that is due or another phase."""
        next_ms = self._due[0][0] if self._due else float("inf")
        until_ms = min(self.now_ms + wait_ms, next_ms)
        seen = self.page.evaluate(_LOOK, [self._phase, until_ms])
        self.now_ms, self._phase = seen["now"], str(seen["phase"])
        for notice in seen["notices"]:
            if notice["name"] == "hastatus:came":
                self._plan(notice)
            else:
                self.planned.append(notice)
        while self._due and self._due[0][0] <= seen["now"]:
            self._give(heapq.heappop(self._due)[2])
        return self._phase

    def until_given(self, count: int, seconds: float = 60.0) -> None:
        """Go on until `count` answers have been given."""
        deadline = time.monotonic() + seconds
        while len(self.given) < count:
            assert time.monotonic() < deadline, f"only {len(self.given)} answers were given"
            self.look(LONGEST_MS)

    def _plan(self, notice: dict[str, Any]) -> None:
        self.shown.append(notice)
        wanted = self.script(notice)
        if wanted is None:
            return
        control, delay_ms = wanted
        t_ms = notice["t_ms"] + delay_ms
        given = Given(notice["round"], notice["slot"], notice["cue"], control, t_ms, delay_ms)
        heapq.heappush(self._due, (t_ms, notice["slot"], given))

    def _give(self, given: Given) -> None:
        stamp = (self._origin_ms + given.t_ms) / 1000
        if self.touch:
            column, row = given.control.split(":")[1:]
            size = self.page.viewport_size
            assert size is not None
            x = size["width"] * (0.25 if column == "left" else 0.75)
            y = size["height"] * (0.25 if row == "0" else 0.75)
            points = [{"x": x, "y": y}]
            self._send(
                "Input.dispatchTouchEvent", type="touchStart", touchPoints=points, timestamp=stamp
            )
            self._send("Input.dispatchTouchEvent", type="touchEnd", touchPoints=[])
        else:
            letter = given.control.removeprefix("Key").lower()
            key = {"code": given.control, "key": letter, "timestamp": stamp,
                   "windowsVirtualKeyCode": ord(letter.upper())}  # fmt: skip
            self._send("Input.dispatchKeyEvent", type="rawKeyDown", **key)
            self._send("Input.dispatchKeyEvent", type="keyUp", **key)
        self.given.append(given)

    def _send(self, method: str, **parameters: Any) -> None:
        self._cdp.send(method, parameters)


def begin(page: Page) -> None:
    """Press Begin on a floor that is ready."""
    page.get_by_role("button", name="Begin").click()


def student(page: Page) -> Answerer:
    """Somebody who knows every answer of the first starter drill, 444 ms after its cue."""
    return Answerer(page, lambda cue: (RIGHT[cue["cue"]], 444.0) if cue["cue"] in RIGHT else None)
