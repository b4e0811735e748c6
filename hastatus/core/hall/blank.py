"""An evening and a block that have just been begun."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from hastatus.core.hall.evening import Block, Evening

USUAL = timedelta(minutes=90)
_SOME_DAY = datetime(2026, 1, 6, 19, tzinfo=UTC)


def fresh_block() -> Block:
    """A talk of five minutes: what needs the least to be whole."""
    return Block(key="block_1", kind="talk", name="Talk", minutes=5)


def fresh_evening() -> Evening:
    """An evening with a warm-up; its day is to be set."""
    warm_up = Block(key="block_1", kind="base", name="Base and warm-up", minutes=15)
    return Evening(
        title="Evening class", starts_at=_SOME_DAY, ends_at=_SOME_DAY + USUAL, blocks=(warm_up,)
    )
