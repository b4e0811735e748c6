"""A club's own words and techniques, and how it shows them."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from typing import TypeVar, get_args

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.trade.faults import OwnedFault
from hastatus.core.trade.label_packs import Labels, Pack
from hastatus.core.trade.technique import Technique
from hastatus.store.models import Club, ClubTechnique, ClubWords, TechniqueNote


def labels(db: Session, club_id: uuid.UUID) -> Labels:
    """How the club names techniques, its own ones included."""
    # One statement: nearly every page asks for these.
    offered = (ClubTechnique.club_id == Club.id) & ClubTechnique.removed_at.is_(None)
    rows = db.execute(
        select(ClubWords, ClubTechnique)
        .select_from(Club)
        .outerjoin(ClubWords, ClubWords.club_id == Club.id)
        .outerjoin(ClubTechnique, offered)
        .where(Club.id == club_id)
        .order_by(ClubTechnique.key)
    ).all()
    words = rows[0][0] if rows else None
    pack: Pack = next((pack for pack in get_args(Pack) if words and pack == words.pack), "plain")
    return Labels(
        pack,
        dict(words.renames) if words else {},
        {own.key: Technique.model_validate(own.document) for _, own in rows if own},
    )


def set_words(db: Session, club_id: uuid.UUID, pack: Pack, renames: Mapping[str, str]) -> None:
    """Choose a label pack and the renames over it."""
    values = {"pack": pack, "renames": dict(renames)}
    db.execute(
        insert(ClubWords)
        .values(club_id=club_id, **values)
        .on_conflict_do_update(index_elements=["club_id"], set_=values)
    )


def own(db: Session, club_id: uuid.UUID) -> dict[str, Technique]:
    """The club's own techniques that are still offered, by key."""
    rows = db.scalars(
        select(ClubTechnique)
        .where(ClubTechnique.club_id == club_id, ClubTechnique.removed_at.is_(None))
        .order_by(ClubTechnique.key)
    )
    return {row.key: Technique.model_validate(row.document) for row in rows}


def keep_own(db: Session, club_id: uuid.UUID, technique: Technique) -> None:
    """Add a technique of the club's own, or change it."""
    document = technique.model_dump(mode="json")
    db.execute(
        insert(ClubTechnique)
        .values(club_id=club_id, key=technique.key, document=document)
        .on_conflict_do_update(
            index_elements=["club_id", "key"], set_={"document": document, "removed_at": None}
        )
    )


def faults(db: Session, club_id: uuid.UUID) -> list[OwnedFault]:
    """The faults that the club has added to the trade's."""
    return [OwnedFault.model_validate(fault) for fault in db.get_one(Club, club_id).faults]


def set_faults(db: Session, club_id: uuid.UUID, own: Sequence[OwnedFault]) -> None:
    """Keep the club's own faults; drills that use one of them have it with them."""
    db.get_one(Club, club_id).faults = [fault.model_dump(mode="json") for fault in own]
    db.flush()


def remove_own(db: Session, club_id: uuid.UUID, key: str) -> bool:
    """Offer a technique of the club's own no longer; keeping it again brings it back."""
    row = db.get(ClubTechnique, (club_id, key))
    if row is None:
        return False
    row.removed_at = row.removed_at or db.scalar(select(func.now()))
    return True


AnyForm = TypeVar("AnyForm", Drill, PartnerDrill)


def with_own(db: Session, club_id: uuid.UUID, drill: AnyForm) -> AnyForm:
    """`drill` with a copy of each of the club's own techniques it uses, so that it stands alone."""
    ours = own(db, club_id)
    used = _used(drill) if isinstance(drill, Drill) else _used_in_partner_drill(drill)
    have = {technique.key: technique for technique in drill.techniques}
    wanted = {key: ours.get(key) or have.get(key) for key in used if key in ours or key in have}
    kept = tuple(technique for _, technique in sorted(wanted.items()) if technique)
    return drill.model_copy(update={"techniques": kept})


def _used(drill: Drill) -> set[str]:
    used = {cue.attack.technique for cue in drill.cues if cue.attack}
    for cue in drill.cues:
        for chain in cue.asks:
            used |= {step.technique for step in chain.steps}
            used |= {step.footwork for step in chain.steps if step.footwork}
    return used


def _used_in_partner_drill(drill: PartnerDrill) -> set[str]:
    return {step.technique for passage in drill.passages for step in passage.steps}


def notes(
    db: Session, club_id: uuid.UUID, keys: Sequence[str] | None = None
) -> list[TechniqueNote]:
    """How the club shows techniques: all that it has said, or what it said of some."""
    query = select(TechniqueNote).where(TechniqueNote.club_id == club_id)
    if keys is not None:
        query = query.where(TechniqueNote.technique.in_(keys))
    return list(db.scalars(query.order_by(TechniqueNote.technique)))


def keep_note(
    db: Session,
    club_id: uuid.UUID,
    technique: str,
    *,
    right_way: str,
    usual_fault: str,
    asset_id: str | None,
) -> None:
    """Say how a technique is shown."""
    values = {"right_way": right_way, "usual_fault": usual_fault, "asset_id": asset_id}
    db.execute(
        insert(TechniqueNote)
        .values(club_id=club_id, technique=technique, **values)
        .on_conflict_do_update(index_elements=["club_id", "technique"], set_=values)
    )
