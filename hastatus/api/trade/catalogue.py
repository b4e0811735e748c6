"""Techniques in the club's own words, which answers fit, and how they are shown."""

from __future__ import annotations

from collections.abc import Collection
from typing import get_args

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import club_id, db, signed_in, who
from hastatus.api.trade import models as trade_models
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.faults import FAULT_OWNERS, OwnedFault
from hastatus.core.trade.figure import figures
from hastatus.core.trade.label_packs import Labels, Pack
from hastatus.core.trade.matchups import fit
from hastatus.core.trade.technique import Technique
from hastatus.core.trade.technique_notes import TECHNIQUE_NOTES
from hastatus.store import assets, club_catalogue
from hastatus.store.models import TechniqueNote

bp = ApiBlueprint("catalogue", __name__, url_prefix="/api", abp_tags=[Tag(name="catalogue")])

_VERDICTS = ("usual", "possible", "poor")


def _technique(technique: Technique, labels: Labels) -> trade_models.TechniqueView:
    key = technique.key
    return trade_models.TechniqueView(
        **{name: getattr(technique, name) for name in _SAME},
        name=labels.name(key),
        lead=labels.sided(key, "lead"),
        rear=labels.sided(key, "rear"),
        own=key in labels.own,
        plain=technique.name,
    )


_SAME = ("key", "use", "family", "line", "reach", "limb", "lands", "sided")


def _view() -> trade_models.CatalogueView:
    labels = club_catalogue.labels(db(), who().club_id)
    every = [*TECHNIQUES.values(), *labels.own.values()]
    return trade_models.CatalogueView(
        pack=labels.pack,
        renames=dict(labels.renames),
        packs=[
            trade_models.PackView(key=pack, name=pack.replace("_", " ")) for pack in get_args(Pack)
        ],
        techniques=[_technique(technique, labels) for technique in every],
        notes=notes_of(),
        faults=[
            *(
                trade_models.FaultView(name=name, owner=owner)
                for name, owner in FAULT_OWNERS.items()
            ),
            *(
                trade_models.FaultView(name=own.name, owner=own.owner, own=True)
                for own in club_catalogue.faults(db(), who().club_id)
            ),
        ],
    )


def notes_of(keys: Collection[str] | None = None) -> list[trade_models.NoteView]:
    """How techniques are done: as the club says it, or as it is usual. keys: None: all of them."""
    own = {
        note.technique: _note(note)
        for note in club_catalogue.notes(db(), club_id(), None if keys is None else sorted(keys))
    }
    for key, usual in TECHNIQUE_NOTES.items():
        if keys is not None and key not in keys:
            continue
        note = own.setdefault(key, trade_models.NoteView(technique=key))
        if not (note.right_way or note.usual_fault):
            note.right_way, note.usual_fault = usual.right_way, usual.usual_fault
    return [own[key] for key in sorted(own)]


def _note(note: TechniqueNote) -> trade_models.NoteView:
    asset = assets.find(db(), club_id(), note.asset_id) if note.asset_id else None
    return trade_models.NoteView(
        technique=note.technique,
        right_way=note.right_way,
        usual_fault=note.usual_fault,
        asset=note.asset_id,
        media_type=asset.media_type if asset else None,
    )


def _find(key: str) -> Technique:
    technique = club_catalogue.labels(db(), who().club_id).technique(key)
    if technique is None:
        raise not_found("technique")
    return technique


@bp.get("/catalogue", responses={200: trade_models.CatalogueView})
@signed_in
def get_catalogue() -> Response:
    """Every technique, in the club's words."""
    return reply(_view())


@bp.get("/catalogue/figures", responses={200: trade_models.FigureList})
@signed_in
def get_figures(query: trade_models.StanceQuery) -> Response:
    """A plain line figure of each technique that comes with the app, in a stance."""
    return reply(trade_models.FigureList(figures=list(figures(query.stance))))


@bp.put("/catalogue/words", responses={200: trade_models.CatalogueView})
@signed_in
def set_words(body: trade_models.WordsRequest) -> Response:
    """Choose a label pack and rename techniques."""
    known = club_catalogue.labels(db(), who().club_id)
    for key in body.renames:
        if known.technique(key) is None:
            raise Problem(422, "Not valid", f"renames.{key}: there is no such technique.")
    club_catalogue.set_words(db(), who().club_id, body.pack, body.renames)
    return reply(_view())


@bp.put("/catalogue/techniques/<string:key>", responses={200: trade_models.CatalogueView})
@signed_in
def keep_technique(path: trade_models.TechniquePath, body: trade_models.OwnTechnique) -> Response:
    """Add a technique of the club's own, or change it."""
    if path.key in TECHNIQUES or body.key != path.key:
        raise Problem(409, "Taken", f"'{path.key}' comes with the app; rename it, or add another.")
    club_catalogue.keep_own(db(), who().club_id, Technique.model_validate(body.model_dump()))
    return reply(_view())


@bp.delete("/catalogue/techniques/<string:key>", responses={200: trade_models.CatalogueView})
@signed_in
def remove_technique(path: trade_models.TechniquePath) -> Response:
    """Offer one of the club's own no longer; drills keep it, and keeping it again undoes this."""
    if not club_catalogue.remove_own(db(), who().club_id, path.key):
        raise not_found("technique")
    return reply(_view())


@bp.put("/catalogue/faults", responses={200: trade_models.CatalogueView})
@signed_in
def set_faults(body: trade_models.FaultsRequest) -> Response:
    """Keep the faults that the club tags beside the trade's, each with its owner."""
    names = [fault.name for fault in body.faults]
    for place, name in enumerate(names):
        if name in FAULT_OWNERS or name in names[:place]:
            what = f"faults.{place}.name: '{name}' is in the list already."
            raise Problem(422, "Not valid", what)
    own = [OwnedFault(name=fault.name, owner=fault.owner) for fault in body.faults]
    club_catalogue.set_faults(db(), who().club_id, own)
    return reply(_view())


@bp.put("/catalogue/notes/<string:key>", responses={200: trade_models.CatalogueView})
@signed_in
def keep_note(path: trade_models.TechniquePath, body: trade_models.NoteRequest) -> Response:
    """Say and show how a technique is done."""
    _find(path.key)
    if body.asset and assets.missing(db(), who().club_id, {body.asset}):
        raise not_found("picture or clip")
    club_catalogue.keep_note(
        db(),
        who().club_id,
        path.key,
        right_way=body.right_way,
        usual_fault=body.usual_fault,
        asset_id=body.asset,
    )
    return reply(_view())


@bp.get("/catalogue/answers/<string:key>", responses={200: trade_models.FitList})
@signed_in
def answers(path: trade_models.TechniquePath) -> Response:
    """Which defenses answer an attack, the usual ones first, each with its reason."""
    attack = _find(path.key)
    labels = club_catalogue.labels(db(), who().club_id)
    views = []
    for defense in [*TECHNIQUES.values(), *labels.own.values()]:
        if defense.use == "defense":
            judged = fit(attack, defense)
            name = labels.name(defense.key)
            views.append(
                trade_models.FitView(
                    technique=defense.key, name=name, verdict=judged.verdict, reason=judged.reason
                )
            )
    views.sort(key=lambda view: _VERDICTS.index(view.verdict))
    return reply(trade_models.FitList(fits=views))
