"""A cue track in open formats: WebVTT, CSV and a Standard MIDI File. (WAV is in `cue_track`.)"""

from __future__ import annotations

import csv
import io
import struct
from collections.abc import Sequence

from hastatus.core.plan.cue_track import Track

BPM = 120
DIVISION = 960
"""Ticks a beat; at 120 BPM a tick is 1/1920 s."""

FIRST_NOTE = 60
_CHANNEL = 0
_NOTE_S = 0.1

CSV_COLUMNS = ("at_s", "round", "slot", "kind", "cue", "what", "ends_s")


def webvtt(track: Track) -> str:
    """W3C WebVTT: a caption for every cue, from its onset to the end of what it asks for; without
    cues, for all that is said."""
    blocks = ["WEBVTT", f"NOTE {_vtt_text(track.title)}"]
    for number, cue in enumerate(track.told):
        times = f"{_vtt_time(cue.at_s)} --> {_vtt_time(max(cue.ends_s, cue.at_s + 0.1))}"
        name = number if cue.slot is None else cue.slot
        blocks.append(f"{cue.round}-{name}\n{times}\n{_vtt_text(cue.text)}")
    return "\n\n".join(blocks) + "\n"


def cue_csv(track: Track) -> str:
    """One row for everything on the track. Times in seconds on the track's time line."""
    sheet = io.StringIO()
    writer = csv.writer(sheet)
    writer.writerow(CSV_COLUMNS)
    for sounding in track.soundings:
        slot = "" if sounding.slot is None else sounding.slot
        row = (
            f"{sounding.at_s:.4f}",
            sounding.round,
            slot,
            sounding.kind,
            sounding.cue or "",
            sounding.text,
        )
        writer.writerow([*map(_plain, row), f"{sounding.ends_s:.4f}"])
    return sheet.getvalue()


def midi(track: Track, keys: Sequence[str]) -> bytes:
    """A Standard MIDI File (1.0, format 0): a note for every cue, a marker for every round.

    keys: of the drill's cues, or of a partner drill's passages: notes count up from `FIRST_NOTE` in
    their order. Ticks are seconds × BPM/60 × division, rounded to the nearest.
    """
    notes = {key: FIRST_NOTE + index for index, key in enumerate(keys)}
    events: list[tuple[int, int, bytes]] = [
        (0, 0, _meta(0x03, track.title.encode())),
        (0, 0, _meta(0x51, round(60_000_000 / BPM).to_bytes(3, "big"))),
    ]
    for number, start in enumerate(track.starts_s, start=1):
        events.append((ticks(start), 1, _meta(0x06, f"round {number}".encode())))
    for cue in track.cues:
        note = notes[cue.cue or ""]
        events.append((ticks(cue.at_s), 3, bytes((0x90 | _CHANNEL, note, 100))))
        events.append((ticks(cue.at_s + _NOTE_S), 2, bytes((0x80 | _CHANNEL, note, 0))))
    events.append((ticks(track.total_s), 4, _meta(0x2F, b"")))
    body = bytearray()
    before = 0
    for at, _, data in sorted(events, key=lambda event: event[:2]):
        body += _length(at - before) + data
        before = at
    header = struct.pack(">4sIHHH", b"MThd", 6, 0, 1, DIVISION)
    return header + struct.pack(">4sI", b"MTrk", len(body)) + bytes(body)


def ticks(seconds: float) -> int:
    """A time in MIDI ticks."""
    return round(seconds * BPM / 60 * DIVISION)


def _meta(kind: int, data: bytes) -> bytes:
    return bytes((0xFF, kind)) + _length(len(data)) + data


def _length(value: int) -> bytes:
    """A variable-length quantity: seven bits a byte, the last with its top bit clear."""
    parts = [value & 0x7F]
    while value := value >> 7:
        parts.append(value & 0x7F | 0x80)
    return bytes(reversed(parts))


def _vtt_time(seconds: float) -> str:
    whole = round(seconds * 1000)
    minutes, ms = divmod(whole, 60_000)
    hours, minutes = divmod(minutes, 60)
    return f"{hours:02d}:{minutes:02d}:{ms // 1000:02d}.{ms % 1000:03d}"


def _vtt_text(text: str) -> str:
    text = text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return " ".join(text.split())


def _plain(value: object) -> object:
    """A cell that no spreadsheet takes for a formula."""
    text = str(value)
    return f"'{text}" if text[:1] in ("=", "+", "-", "@") else value
