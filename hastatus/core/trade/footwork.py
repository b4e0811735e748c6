"""Footwork: which way the feet go with a step."""

from __future__ import annotations

from typing import Literal

Footwork = Literal[
    "hold", "advance", "retreat", "slide_step", "cross_step", "cross_back",
    "step_off_lead", "step_off_rear", "step_round", "pivot",
]  # fmt: skip

FOOTWORK_NAMES: dict[Footwork, str] = {
    "hold": "hold",
    "advance": "advance",
    "retreat": "retreat",
    "slide_step": "slide-step",
    "cross_step": "cross-step",
    "cross_back": "cross-step back",
    "step_off_lead": "step off, lead side",
    "step_off_rear": "step off, rear side",
    "step_round": "step round behind",
    "pivot": "pivot",
}
