"""Posting events while fifty runs go on at once, each with two thousand events behind it."""

from __future__ import annotations

import http.client
import json
import threading
import time
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from benchmarks.core_time import in_rounds
from benchmarks.figure import Figure, percentile
from hastatus.core.drill.solo import Drill
from hastatus.core.loop.live_run import RUN_STATE, begin, fold_batch
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.store import accounts, drills, runs, students
from hastatus.store.database import transaction
from hastatus.store.models import EventBatch, Run, RunFold
from tests.harness.club import Server
from tests.harness.database import temporary_database, url_of

RUNS = 50
STORED = 2_000
EVERY_S = 0.5
LOOSE_EVERY_S = 1.0
"""In the test suite: on a machine that is slow for a while, the full pace only measures a queue."""
WARM = 16
"""Posts of each run that are not timed: each process has to read the runs it does not know."""
AT_ONCE = 20
"""Posts of each run that are sent as fast as they are taken, from `CLIENTS` at a time."""
CLIENTS = 8
PASSWORD = "only for the bench"
LOGIN = "bench@lockside.example"


@dataclass
class Live:
    """A run that goes on: its id, its recorder, and the bodies it will post."""

    run_id: uuid.UUID
    recorder: uuid.UUID
    bodies: list[bytes]


def figures(loose: bool) -> Iterator[Figure]:
    """Post for a while and look at the slowest of twenty answers."""
    every_s = LOOSE_EVERY_S if loose else EVERY_S
    posts = (10 if loose else 60 + AT_ONCE) + WARM
    with temporary_database() as engine:
        server = Server(url_of(engine))
        try:
            live, stored = _prepare(engine, posts)
            server.start()
            paced = posts if loose else posts - AT_ONCE
            times, taken = _post_all(server, live, every_s, paced)
            each_ms = None if loose else _each_ms(server, live, paced)
            with transaction(engine) as db:
                kept = db.scalar(select(func.count()).select_from(EventBatch)) or 0
                behind = db.scalars(select(RunFold.state["next_batch"].as_integer())).all()
        finally:
            server.stop()
    taken += 0 if loose else RUNS * AT_ONCE
    lost = stored * RUNS + taken - kept + sum(stored + posts - count for count in behind)
    name = f"events request, {RUNS} runs at once, each every {every_s:g} s, p95"
    yield Figure(name, percentile(times, 0.95), "ms", 30, 10)
    if each_ms is not None:
        yield Figure("events requests as fast as they are taken, time of each", each_ms, "ms", 2.5)
    yield Figure("events requests lost", RUNS * posts - taken + lost, "", 0)


def _prepare(engine: Engine, posts: int) -> tuple[list[Live], int]:
    """Fifty runs of one long drill with their first two thousand events stored and folded."""
    drill = in_rounds(30, 60)
    plan = plan_run(drill, seed=5, rung=3)
    setup = Setup(drill, plan, Device())
    batches = simulate(setup, Habits(), 5)[0]
    stored, events = 0, 0
    while events < STORED:
        events += len(batches[stored].events)
        stored += 1
    state = begin(setup)
    for batch in batches[:stored]:
        fold_batch(setup, state, batch)
    with transaction(engine) as db:
        club = accounts.add_club(db, "Bench")
        coach = accounts.add_coach(
            db, club.id, login=LOGIN, name="Bench", password=PASSWORD, role="owner"
        )
        first = drills.newest(db, club.id)[0]
        drills.add_version(db, club.id, first.drill_id, 1, Drill.model_validate(drill))
        version = drills.newest(db, club.id)[0]
        live = []
        for number in range(RUNS):
            student = students.add(db, club.id, name=f"S {number}", stance="left_lead")
            recorder = uuid.uuid4()
            run = runs.add(
                db, club.id, uuid.uuid4(), student_id=student.id, coach_id=coach.id,
                version=version, recorder=recorder, plan=plan, device=Device(),
            )  # fmt: skip
            _store(db, run, batches[:stored], RUN_STATE.dump_python(state, mode="json"))
            following = batches[stored : stored + posts]
            bodies = [_body(batch, recorder) for batch in following]
            live.append(Live(run.id, recorder, bodies))
    return live, stored


def _store(db: Session, run: Run, batches: list[Batch], state: dict[str, Any]) -> None:
    """Store batches that have been folded already."""
    db.add_all(
        EventBatch(
            club_id=run.club_id, run_id=run.id, recorder=run.recorder, number=batch.number,
            payload_hash=b"-", event_version=1, body=batch.model_dump(mode="json"),
        )
        for batch in batches
    )  # fmt: skip
    fold = db.get_one(RunFold, (run.club_id, run.id))
    fold.state, fold.highest = state, len(batches) - 1


def _body(batch: Batch, recorder: uuid.UUID) -> bytes:
    return json.dumps({"recorder": str(recorder), **batch.model_dump(mode="json")}).encode()


def _each_ms(server: Server, live: list[Live], first: int) -> float:
    """Time for each request, over all, when each client posts as soon as its last is taken."""
    taken: list[int] = []
    send = sender(server, *sign_in(server), taken)

    def post(some: list[Live]) -> None:
        for number in range(first, first + AT_ONCE):
            for run in some:
                send(run, number)

    threads = [
        threading.Thread(target=post, args=(live[place::CLIENTS],)) for place in range(CLIENTS)
    ]
    began = time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(taken) == RUNS * AT_ONCE
    return (time.perf_counter() - began) * 1000 / len(taken)


def _post_all(
    server: Server, live: list[Live], every_s: float, posts: int
) -> tuple[list[float], int]:
    """Each run posts from a thread of its own; times in ms, and posts taken.

    The first posts go one at a time: what they leave waiting would be counted against the rest.
    """
    taken: list[int] = []
    signed = sign_in(server)
    times: list[float] = []
    for number in range(WARM):
        for run in live:
            sender(server, *signed, taken)(run, number)  # a connection each: to each process
    send = sender(server, *signed, taken)
    start = time.perf_counter() + 0.5

    def post(run: Live, phase: float) -> None:
        for number in range(WARM, posts):
            due = start + phase + (number - WARM) * every_s
            time.sleep(max(0.0, due - time.perf_counter()))
            times.append(send(run, number))

    threads = [
        threading.Thread(target=post, args=(run, every_s * number / len(live)))
        for number, run in enumerate(live)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return times, len(taken)


def sender(
    server: Server, cookie: str, csrf: str, taken: list[int]
) -> Callable[[Live, int], float]:
    """Posts a run's batch of a number, notes it in `taken`, and says how long it took in ms."""
    headers = {"Content-Type": "application/json", "Cookie": cookie, "X-CSRF-Token": csrf}
    kept = threading.local()

    def send(run: Live, number: int) -> float:
        if not hasattr(kept, "connection"):
            kept.connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=20)
        sent = time.perf_counter()
        address = f"/api/runs/{run.run_id}/batches"
        kept.connection.request("POST", address, run.bodies[number], headers)
        answer = kept.connection.getresponse()
        answer.read()
        if answer.status == 200:
            taken.append(number)
        return (time.perf_counter() - sent) * 1000

    return send


def sign_in(server: Server) -> tuple[str, str]:
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=20)
    body = json.dumps({"login": LOGIN, "password": PASSWORD})
    connection.request("POST", "/api/session", body, {"Content-Type": "application/json"})
    answer = connection.getresponse()
    cookie = str(answer.getheader("Set-Cookie")).split(";")[0]
    return cookie, json.loads(answer.read())["csrf"]
