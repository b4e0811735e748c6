"""What a player loads: the sounds of a run, the pictures of its cues, how techniques are shown."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from hastatus.api.http.session import db, who
from hastatus.api.run import models as run_models
from hastatus.api.sound.assets import say
from hastatus.api.trade.catalogue import notes_of
from hastatus.core.drill.header import Voice
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import announcements, sounds
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import tones
from hastatus.core.trade.label_packs import Labels
from hastatus.sound_io.speech import length_s
from hastatus.store import assets


def parts(drill: Drill, plan: RunPlan, labels: Labels) -> dict[str, Any]:
    """The parts of a `RunView` that have to be loaded before "ready"."""
    return {
        "sounds": [_sound(clip, drill.voice) for clip in sounds.needed(drill, plan, labels)],
        "played": {
            cue.key: clip.name for cue in drill.cues if (clip := sounds.of_cue(cue)) is not None
        },
        "beside": [
            [_beside(sound) for sound in announcements.cue_sounds(drill, plan, round_plan, labels)]
            for round_plan in plan.rounds
        ],
        "pictures": {
            cue.key: f"/api/assets/{cue.stimulus.asset}"
            for cue in drill.cues
            if cue.stimulus.kind == "picture" and cue.stimulus.asset
        },
        "shown": _shown(drill, labels),
    }


def sound_url(clip: Clip, voice: Voice) -> str:
    """Where a sound is loaded from."""
    if clip.source == "tone":
        return f"/api/sounds/{clip.what}.wav"
    if clip.source == "recorded":
        return f"/api/assets/{clip.what}"
    query = {
        "words": clip.what,
        "language": voice.language,
        "words_a_minute": voice.words_a_minute,
    }
    return f"/api/spoken.wav?{urlencode(query)}"


def _sound(clip: Clip, voice: Voice) -> run_models.SoundView:
    if clip.source == "tone":
        seconds = tones.SOUNDS[clip.what]().size / tones.RATE  # type: ignore[index]
    elif clip.source == "spoken":
        seconds = length_s(say(clip.what, voice))
    else:
        kept = assets.find(db(), who().club_id, clip.what)
        seconds = kept.length_s or 0.0 if kept else 0.0
    return run_models.SoundView(
        name=clip.name, url=sound_url(clip, voice), length_s=round(seconds, 4)
    )


def _beside(sound: announcements.CueSound) -> run_models.BesideSound:
    return run_models.BesideSound(
        slot=sound.slot,
        name=sound.clip.name,
        counted_from=sound.counted_from,
        after_s=sound.after_s,
    )


def _shown(drill: Drill, labels: Labels) -> list[run_models.ShownView]:
    """What the club says and shows of the techniques that the drill asks for."""
    used = {step.technique for cue in drill.cues for chain in cue.asks for step in chain.steps}
    views = notes_of(used)
    return [
        run_models.ShownView(
            technique=view.technique,
            name=labels.name(view.technique),
            right_way=view.right_way,
            usual_fault=view.usual_fault,
            asset=f"/api/assets/{view.asset}" if view.asset else None,
            media_type=view.media_type,
        )
        for view in views
    ]
