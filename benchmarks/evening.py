"""A class that runs: twenty devices that ask every second, and a server that is killed meanwhile.

Devices ask as the screens do: with the tag of the answer that they have, so that most answers are
empty. A coach does something with the clock every few seconds, and marks pairs.
"""

from __future__ import annotations

import http.client
import json
import threading
import time
import uuid
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import Engine, func, select

from benchmarks.figure import Figure, percentile
from benchmarks.load import LOGIN, PASSWORD, sign_in
from hastatus.core.hall.evening import Evening
from hastatus.store import accounts, class_runs, drills, evenings, students
from hastatus.store import models as rows
from hastatus.store.database import transaction
from tests.harness.club import Server
from tests.harness.database import temporary_database, url_of

COACHES, PHONES = 5, 15
ASKED_FOR_S, LOOSE_ASKED_FOR_S = 60, 12
EVERY_S = 1.0
ACT_EVERY_S = 3.3
KILLS, LOOSE_KILLS = 20, 2
MARK_EVERY_S = 0.1


@dataclass
class Seen:
    """What devices saw. times_ms: of each answer. shown: when a device first had a change, by its
    number."""

    times_ms: list[float] = field(default_factory=list)
    shown: list[tuple[int, float]] = field(default_factory=list)
    over: bool = False


def figures(loose: bool) -> Iterator[Figure]:
    """Ask for a while, then kill the server again and again."""
    asked_for_s = LOOSE_ASKED_FOR_S if loose else ASKED_FOR_S
    with temporary_database() as engine:
        evening, codes = _prepare(engine)
        server = Server(url_of(engine))
        server.start()
        try:
            cookie, csrf = sign_in(server)
            headers = {"Cookie": cookie, "X-CSRF-Token": csrf}
            seen, late_s = _ask(server, headers, evening, codes, asked_for_s)
            kills = LOOSE_KILLS if loose else KILLS
            lost, off_s = _kill(engine, server, headers, evening, kills)
        finally:
            server.stop()
    yield Figure(f"{COACHES + PHONES} devices of a class ask every second: p95",
                 percentile(seen.times_ms, 0.95), "ms", 30, 120)  # fmt: skip
    yield Figure("a change of the clock seen by all, most", max(late_s), "s", 1.5, 2.5)
    yield Figure(f"server killed {kills} times in an evening: marks lost", lost, "", 0)
    yield Figure("by how much the clock is off afterwards", off_s, "s", 0.05)


def _prepare(engine: Engine) -> tuple[str, list[str]]:
    """A class of twenty with a block in pairs that has begun; its id and codes for the phones."""
    now = datetime.now(UTC)
    with transaction(engine) as db:
        club = accounts.add_club(db, "Bench")
        accounts.add_coach(db, club.id, login=LOGIN, name="Bench", password=PASSWORD, role="owner")
        drill = next(
            one for one in drills.shelf(db, club.id) if one.title == "One hits, one guards"
        )
        block = {"key": "pairs", "kind": "partner", "name": "In pairs", "feeds": "phone",
                 "drill_id": drill.id, "minutes": 60}  # fmt: skip
        plan = Evening.model_validate(
            {"title": "Class", "starts_at": now, "ends_at": now + timedelta(hours=2),
             "blocks": [block]}
        )  # fmt: skip
        row = evenings.add(db, club.id, uuid.uuid4(), plan)
        people = [
            students.add(db, club.id, name=f"Student {number}", stance="left_lead").id
            for number in range(COACHES + PHONES)
        ]
        for one in people:
            evenings.be_here(evenings.attend(db, row, one), True)
        pairs = list(zip(people[::2], people[1::2], strict=True))
        evenings.keep_groups(db, row, "pairs", pairs, None)
        db.flush()
        codes = list(class_runs.codes(db, row).values())
    return str(row.id), codes[:PHONES]


def _ask(
    server: Server, headers: dict[str, str], evening: str, codes: list[str], seconds: float
) -> tuple[Seen, list[float]]:
    """Every device asks for a while. From each act to the last device that shows it, s."""
    seen = Seen()
    live = f"/api/evenings/{evening}/live"
    paths = [live] * COACHES + [f"/api/phones/{code}" for code in codes]
    threads = [
        threading.Thread(target=_device, args=(server, headers, path, seen, place / len(paths)))
        for place, path in enumerate(paths)
    ]
    for thread in threads:
        thread.start()
    time.sleep(2 * EVERY_S)
    began, done = time.monotonic(), list[tuple[int, float]]()
    kinds = ["begin", "pause", "go_on"]
    while time.monotonic() - began < seconds:
        kind = kinds[min(len(done), 1 + len(done) % 2)]
        act = {"id": str(uuid.uuid4()), "at": _now(), "kind": kind, "block": "pairs"}
        answer = _post(server, headers, f"/api/evenings/{evening}/acts", {"acts": [act]})
        done.append((answer["changes"], time.monotonic()))
        time.sleep(ACT_EVERY_S)
    seen.over = True
    for thread in threads:
        thread.join()
    late = []
    for changes, at in done:
        shown = [when - at for number, when in seen.shown if number == changes]
        assert len(shown) == len(paths), f"{len(shown)} of {len(paths)} devices saw it"
        late.append(max(shown))
    return seen, late


def _device(server: Server, headers: dict[str, str], path: str, seen: Seen, offset: float) -> None:
    """Asks every second, with the tag of what it has."""
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=10)
    own = {"Cookie": headers["Cookie"]} if "evenings" in path else {}
    time.sleep(offset * EVERY_S)
    tag, had = "", -1
    while not seen.over:
        began = time.monotonic()
        connection.request("GET", path, headers={**own, "If-None-Match": tag} if tag else own)
        answer = connection.getresponse()
        body = answer.read()
        now = time.monotonic()
        seen.times_ms.append(1000 * (now - began))
        if answer.status == 200:
            tag, changes = answer.headers["ETag"], json.loads(body)["changes"]
            if changes != had:
                had = changes
                seen.shown.append((changes, now))
        time.sleep(max(0.0, EVERY_S - (time.monotonic() - began)))
    connection.close()


def _post(
    server: Server, headers: dict[str, str], path: str, body: dict[str, Any]
) -> dict[str, Any]:
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=10)
    try:
        connection.request(
            "POST", path, json.dumps(body), {**headers, "Content-Type": "application/json"}
        )
        answer = connection.getresponse()
        told: dict[str, Any] = json.loads(answer.read())
        assert answer.status == 200, told
        return told
    finally:
        connection.close()


def _now() -> str:
    return datetime.now(UTC).isoformat()


def _kill(
    engine: Engine, server: Server, headers: dict[str, str], evening: str, kills: int
) -> tuple[int, float]:
    """Kill the server while a device marks pairs, each mark again until it is taken. Marks lost,
    and by how much the clock is off what it should show."""
    path = f"/api/evenings/{evening}"
    told = _post(server, headers, f"{path}/acts", {"acts": [
        {"id": str(uuid.uuid4()), "at": _now(), "kind": "go_on"},
    ]})  # fmt: skip
    expected = told["clock"]["elapsed_s"], datetime.fromisoformat(told["clock"]["at"])
    pair = [one["student_id"] for one in told["tiles"][0]["members"]]
    sent, over = list[str](), threading.Event()

    def device() -> None:
        while not over.is_set():
            mark = {"id": str(uuid.uuid4()), "at": _now(), "block": "pairs", "kind": "through",
                    "members": pair}  # fmt: skip
            while True:
                with suppress(OSError, http.client.HTTPException, AssertionError, ValueError):
                    _post(server, headers, f"{path}/marks", {"marks": [mark]})
                    sent.append(mark["id"])  # type: ignore[arg-type]
                    break
                time.sleep(MARK_EVERY_S)
            time.sleep(MARK_EVERY_S)

    thread = threading.Thread(target=device)
    thread.start()
    for _ in range(kills):
        time.sleep(0.5)
        server.kill()
        server.start()
    time.sleep(0.5)
    over.set()
    thread.join()
    with transaction(engine) as db:
        kept = set(map(str, db.scalars(select(rows.PairMark.id))))
        assert db.scalar(select(func.count()).select_from(rows.PairMark)) == len(kept)
    told = _post(server, headers, f"{path}/acts", {"acts": [
        {"id": str(uuid.uuid4()), "at": _now(), "kind": "go_on"},
    ]})  # fmt: skip
    passed_s = (datetime.fromisoformat(told["clock"]["at"]) - expected[1]).total_seconds()
    off_s = abs(told["clock"]["elapsed_s"] - expected[0] - passed_s)
    return len(set(sent) - kept), off_s
