"""A cue track as Ogg Opus (RFC 7845), encoded while it is sent: about a tenth of a WAV's size."""

from __future__ import annotations

import io
from collections.abc import Iterable, Iterator

import numpy as np
import soundfile

from hastatus.core.sound.tones import RATE


class _Drain(io.RawIOBase):
    """Takes what an encoder writes, and gives it away piece by piece."""

    def __init__(self) -> None:
        super().__init__()
        self._pieces: list[bytes] = []
        self._at = 0

    def writable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return True

    def tell(self) -> int:
        return self._at

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        """Ogg is written from front to back: only where it already is."""
        return self._at

    def write(self, data: bytes) -> int:  # type: ignore[override]
        self._pieces.append(bytes(data))
        self._at += len(data)
        return len(data)

    def take(self) -> bytes:
        """What was written since the last time."""
        taken = b"".join(self._pieces)
        self._pieces.clear()
        return taken


def ogg_opus(pcm: Iterable[bytes]) -> Iterator[bytes]:
    """16-bit mono samples at `RATE` in, an Ogg Opus file out."""
    drain = _Drain()
    with soundfile.SoundFile(
        drain, "w", samplerate=RATE, channels=1, format="OGG", subtype="OPUS"
    ) as encoder:
        for piece in pcm:
            encoder.write(np.frombuffer(piece, dtype="<i2"))
            yield drain.take()
    yield drain.take()
