"""Cue colours and the arithmetic of seeing them.

The hues are the Okabe-Ito colour-blind-safe set. Luminance, contrast and the saturated-red test
are those of W3C WCAG 2.2 (relative luminance, SC 1.4.3, SC 2.3.1 red flash threshold).
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal

Colour = Literal["blue", "vermillion", "orange", "purple", "green", "sky"]
Shape = Literal["circle", "triangle", "square", "diamond", "ring", "bar"]

HEX: Mapping[Colour, str] = MappingProxyType(
    {
        "blue": "#0072B2",
        "vermillion": "#D55E00",
        "orange": "#E69F00",
        "purple": "#CC79A7",
        "green": "#009E73",
        "sky": "#56B4E9",
    }
)


def linear(hex_colour: str) -> tuple[float, float, float]:
    """Linear-light red, green and blue (0 to 1) of an sRGB colour like `#D55E00`."""

    def channel(value: int) -> float:
        share = value / 255
        return share / 12.92 if share <= 0.04045 else float(((share + 0.055) / 1.055) ** 2.4)

    number = int(hex_colour.lstrip("#"), 16)
    return channel(number >> 16), channel(number >> 8 & 255), channel(number & 255)


def luminance(hex_colour: str) -> float:
    """Relative luminance, 0 (black) to 1 (white)."""
    red, green, blue = linear(hex_colour)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two colours, 1 to 21."""
    dark, light = sorted((luminance(one), luminance(other)))
    return (light + 0.05) / (dark + 0.05)
