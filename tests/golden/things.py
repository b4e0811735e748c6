"""What is hashed: every starter drill planned and played, and what goes over the wire."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Any

import numpy as np
from sqlalchemy import Engine, text

from hastatus.api.app import create_app
from hastatus.core.drill.file import json_schema
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.loop.live_run import RUN_STATE
from hastatus.core.loop.partner_fold import MARK_STATE, fold_again
from hastatus.core.loop.partner_results import PARTNER_RESULT, partner_result
from hastatus.core.loop.results import RESULTS, read
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.gap_sheet import gap_sheet
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.core.score.scorer import score
from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.pair import USUAL_PAIR
from hastatus.demo import club, pairs
from hastatus.demo.student import Habits, simulate
from hastatus.store.database import make_engine
from tests.golden.canon import golden_hash, structure
from tests.golden.messy_runs import KINDS, messy_batches

SEED = 11
TODAY = datetime(2026, 10, 1, 12, tzinfo=UTC)
WEEKS = 1


def solo(pattern: str) -> Iterator[tuple[str, str]]:
    """A starter's plan on each rung; a run of its first, scored, and its state at the end."""
    drill = STARTERS[pattern]()
    yield "drill", golden_hash(drill)
    for rung in range(1, len(drill.rungs) + 1):
        yield f"plan {rung}", golden_hash(plan_run(drill, seed=SEED, rung=rung))
    setup = Setup(drill, plan_run(drill, seed=SEED, rung=1), Device())
    batches, state = simulate(setup, Habits(), SEED)
    yield "batches", golden_hash(batches)
    yield "state", golden_hash(RUN_STATE.dump_python(state, mode="json"))
    yield "score", golden_hash(RESULTS.dump_python(read(setup, batches), mode="json"))


def messy(pattern: str) -> Iterator[tuple[str, str]]:
    """A starter's hardest rung where much goes wrong, by device; cut off before its end, too."""
    for kind in KINDS:
        setup, batches = messy_batches(pattern, kind, SEED)
        responses, scorer = score(setup.drill, setup.plan, setup.device, batches)
        yield f"{kind}: responses", golden_hash(responses)
        yield f"{kind}: state", golden_hash(scorer.state)
        yield f"{kind}: strays", golden_hash(scorer.strays)
        _, scorer = score(setup.drill, setup.plan, setup.device, batches[: len(batches) * 2 // 3])
        yield f"{kind}: stopped", golden_hash([scorer.stop(), scorer.state])


def partner(pattern: str) -> Iterator[tuple[str, str]]:
    """A partner starter's sheets on each rung; a run of its first, read, and its state."""
    drill = PARTNER_STARTERS[pattern]()
    yield "drill", golden_hash(drill)
    for number, rung in enumerate(drill.rungs, start=1):
        yield f"gap {number}", golden_hash(gap_sheet(drill, rung, USUAL_PAIR))
        yield f"sheet {number}", golden_hash(feed_sheet(drill, seed=SEED, rung=number))
    yield from _pair(drill, feed_sheet(drill, seed=SEED, rung=1))


def _pair(drill: PartnerDrill, sheet: FeedSheet) -> Iterator[tuple[str, str]]:
    rng = np.random.default_rng(SEED)
    batches = pairs.batches(drill, sheet, pairs.Pair(clean=0.8, need_s=0.45), rng)
    yield "marks", golden_hash(batches)
    yield "state", golden_hash(MARK_STATE.dump_python(fold_again(batches), mode="json"))
    result = partner_result(drill, sheet, batches)
    yield "result", golden_hash(PARTNER_RESULT.dump_python(result, mode="json"))


def documents() -> Iterator[tuple[str, str]]:
    """The API document and the schema of drills, as far as they are on the wire."""
    document: Any = create_app(make_engine("postgresql://nobody@127.0.0.1/none")).api_doc
    paths = {"paths": document["paths"]}
    parts = document["components"]
    named = {name: each for part in ("schemas", "responses") for name, each in parts[part].items()}
    yield "API", golden_hash(structure(paths, named))
    schema: Any = json_schema()
    yield "drill schema", golden_hash(structure(schema, schema["$defs"]))


def tables(engine: Engine) -> Iterator[tuple[str, str]]:
    """Each table: its columns, constraints and indexes, as the database tells them."""
    with engine.connect() as connection:
        columns = connection.execute(
            text(
                "SELECT table_name, column_name, data_type, is_nullable, column_default"
                " FROM information_schema.columns WHERE table_schema = 'public' ORDER BY 1, 2"
            )
        ).all()
        constraints = connection.execute(
            text(
                "SELECT conrelid::regclass::text, conname, pg_get_constraintdef(oid)"
                " FROM pg_constraint WHERE connamespace = 'public'::regnamespace ORDER BY 1, 2"
            )
        ).all()
        indexes = connection.execute(
            text(
                "SELECT tablename, indexdef FROM pg_indexes WHERE schemaname = 'public' ORDER BY 2"
            )
        ).all()
    rows = [tuple(row) for row in (*columns, *constraints, *indexes)]
    for table in sorted({row[0] for row in rows}):
        yield table, golden_hash([list(row) for row in rows if row[0] == table])


def readouts(engine: Engine) -> Iterator[tuple[str, str]]:
    """What a coach reads of the demo club's runs. engine: of an empty database."""
    club.fill(engine, today=TODAY, say=lambda _: None, weeks=WEEKS)
    client = create_app(engine).test_client()
    login = {"login": club.LOGIN, "password": club.PASSWORD}
    assert client.post("/api/session", json=login).status_code == 200
    for kind in ("runs", "partner-runs"):
        rows: Any = client.get(f"/api/{kind}").get_json()
        found = [each["id"] for each in rows["runs"]]
        for number, run in enumerate(sorted(found)):
            body: Any = client.get(f"/api/{kind}/{run}/readout").get_json()
            yield f"{kind} {number}", golden_hash(body)
