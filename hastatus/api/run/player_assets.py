"""What a player loads: the sounds of a run, the pictures of its cues, how techniques are shown."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Final
from urllib.parse import urlencode

from hastatus.api.http.session import club_id, db
from hastatus.api.run import models as run_models
from hastatus.api.sound.assets import say
from hastatus.api.trade.catalogue import notes_of
from hastatus.core.drill.header import Voice
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import announcements, sounds
from hastatus.core.plan.round_signal import (
    RoundSignals,
    solo_signals,
    sounds_of_solo,
)
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import named
from hastatus.core.trade.label_packs import Labels
from hastatus.sound_io.speech import length_s
from hastatus.store import assets

HERE: Final = "/api"


def parts(drill: Drill, plan: RunPlan, labels: Labels) -> dict[str, Any]:
    """The parts of a `RunView` that have to be loaded before "ready"."""
    return {
        "sounds": sound_views(sounds_of_solo(drill, plan, labels), drill.voice),
        "played": played(drill),
        "beside": beside(drill, plan, labels),
        "signals": signals(solo_signals(drill, plan)),
        "pictures": pictures(drill),
        "shown": shown(drill, labels),
    }


def sound_views(
    clips: Iterable[Clip], voice: Voice, base: str = HERE
) -> list[run_models.SoundView]:
    """What sounds, with its address. base: of all addresses, before "/sounds/"."""
    return [
        run_models.SoundView(
            name=clip.name,
            url=sound_url(clip, voice, base),
            length_s=round(_length_s(clip, voice), 4),
        )
        for clip in clips
    ]


def played(drill: Drill) -> dict[str, str]:
    """The name of the sound that each cue is."""
    return {cue.key: clip.name for cue in drill.cues if (clip := sounds.of_cue(cue)) is not None}


def signals(of_rounds: Iterable[RoundSignals]) -> list[run_models.SignalPair]:
    """The names of what begins and ends each round."""
    return [run_models.SignalPair(begins=one.begins.name, ends=one.ends.name) for one in of_rounds]


def beside(drill: Drill, plan: RunPlan, labels: Labels) -> list[list[run_models.BesideSound]]:
    """What sounds around the cues of each round."""
    return [
        [_beside(sound) for sound in announcements.cue_sounds(drill, plan, round_plan, labels)]
        for round_plan in plan.rounds
    ]


def pictures(drill: Drill, base: str = HERE) -> dict[str, str]:
    """The address of each cue's own picture."""
    return {
        cue.key: f"{base}/assets/{cue.stimulus.asset}"
        for cue in drill.cues
        if cue.stimulus.kind == "picture" and cue.stimulus.asset
    }


def sound_url(clip: Clip, voice: Voice, base: str = HERE) -> str:
    """Where a sound is loaded from."""
    if clip.source == "tone":
        return f"{base}/sounds/{clip.what}.wav"
    if clip.source == "recorded":
        return f"{base}/assets/{clip.what}"
    query = {
        "words": clip.what,
        "language": voice.language,
        "words_a_minute": voice.words_a_minute,
    }
    return f"{base}/spoken.wav?{urlencode(query)}"


def _length_s(clip: Clip, voice: Voice) -> float:
    if clip.source == "tone":
        return named.length_s(clip.what)
    if clip.source == "spoken":
        return length_s(say(clip.what, voice))
    kept = assets.find(db(), club_id(), clip.what)
    return kept.length_s or 0.0 if kept else 0.0


def _beside(sound: announcements.CueSound) -> run_models.BesideSound:
    return run_models.BesideSound(
        slot=sound.slot,
        name=sound.clip.name,
        counted_from=sound.counted_from,
        after_s=sound.after_s,
    )


def shown(drill: Drill, labels: Labels, base: str = HERE) -> list[run_models.ShownView]:
    """What the club says and shows of the techniques that the drill asks for."""
    used = {step.technique for cue in drill.cues for chain in cue.asks for step in chain.steps}
    views = notes_of(used)
    return [
        run_models.ShownView(
            technique=view.technique,
            name=labels.name(view.technique),
            right_way=view.right_way,
            usual_fault=view.usual_fault,
            asset=f"{base}/assets/{view.asset}" if view.asset else None,
            media_type=view.media_type,
        )
        for view in views
    ]
