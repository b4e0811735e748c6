"""What a page has opened to hear and to see with, and what of it is still open."""

from __future__ import annotations

from playwright.sync_api import Page

STREAMS = """
(() => {
  const devices = navigator.mediaDevices;
  const real = devices.getUserMedia.bind(devices);
  window.streams = [];
  devices.getUserMedia = async (wanted) => {
    const stream = await real(wanted);
    window.streams.push(stream);
    return stream;
  };
})();
"""
"""Script for `add_init_script`, after those that stand in for a microphone or a camera."""


def tracks(page: Page) -> list[str]:
    """The state of each track that the page has opened: live or ended."""
    states: list[str] = page.evaluate(
        "streams.flatMap((stream) => stream.getTracks()).map((track) => track.readyState)"
    )
    return states
