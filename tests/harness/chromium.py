"""Debian's Chromium and how it is started here: no network of its own, made-up devices."""

CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = (
    "--no-sandbox",
    "--disable-quic",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
)
