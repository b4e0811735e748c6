"""Everybody meets everybody: the circle method (common knowledge of round-robin tournaments)."""

from __future__ import annotations

from collections.abc import Sequence


def rotation(keys: Sequence[str]) -> list[list[tuple[str, ...]]]:
    """Rounds in which everybody works with each of the others once.

    Of an even number of people n there are n − 1 rounds of pairs, and each two meet once. Of an odd
    number there are n, and in each the one who would have nobody makes the last pair a ring of
    three; with fewer than three they are left out.
    """
    circle: list[str | None] = list(keys)
    if len(circle) % 2:
        circle.append(None)
    rounds = []
    for _ in range(len(circle) - 1):
        half = len(circle) // 2
        across = zip(circle[:half], reversed(circle[half:]), strict=True)
        rounds.append(_round(list(across)))
        circle = [circle[0], circle[-1], *circle[1:-1]]
    return rounds


def _round(pairs: list[tuple[str | None, str | None]]) -> list[tuple[str, ...]]:
    whole = [(one, other) for one, other in pairs if one is not None and other is not None]
    over = [one or other for one, other in pairs if one is None or other is None]
    if not over or not whole:
        return list(whole)
    third = over[0]
    assert third is not None
    return [*whole[:-1], (*whole[-1], third)]
