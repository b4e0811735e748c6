"""The facts of each pattern that its starter holds: common practice of the trade, no source."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import pytest

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import Lane, PartnerStep
from hastatus.core.drill.paths import follow
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.technique import Technique


def steps(drill: PartnerDrill, lane: Lane, key: str | None = None) -> list[PartnerStep]:
    passages = [drill.written(key)] if key else drill.passages
    return [step for passage in passages for step in passage.steps if step.lane == lane]


def does(drill: PartnerDrill, lane: Lane, key: str | None = None) -> set[str]:
    return {step.technique for step in steps(drill, lane, key)}


def known(drill: PartnerDrill, step: PartnerStep) -> Technique:
    technique = drill.technique(step.technique)
    assert technique is not None
    return technique


def attacks(drill: PartnerDrill, lane: Lane, key: str | None = None) -> list[PartnerStep]:
    return [step for step in steps(drill, lane, key) if known(drill, step).use == "attack"]


def beats(drill: PartnerDrill, lane: Lane, key: str, *techniques: str) -> list[float]:
    return [step.beat for step in steps(drill, lane, key) if step.technique in techniques]


def sides(of: Iterable[PartnerStep]) -> set[str]:
    return {step.side for step in of}


def first(drill: PartnerDrill) -> PartnerRung:
    return drill.rungs[0]


def last(drill: PartnerDrill) -> PartnerRung:
    return drill.rungs[-1]


def same_beat(drill: PartnerDrill, key: str, answer: str, hit: str) -> bool:
    return beats(drill, "defender", key, answer) == beats(drill, "defender", key, hit)


Fact = Callable[[PartnerDrill], bool]
FACTS: dict[str, dict[str, Fact]] = {
    "touch and away": {
        "one side only touches": lambda d: not attacks(d, "feeder"),
        "nobody parries": lambda d: {known(d, s).use for s in steps(d, "defender")}
        == {"attack", "defense"} and does(d, "defender") >= {"step_back"},
        "no gear": lambda d: d.gear_throughout == (),
    },
    "turn about": {
        "several attacks to choose from": lambda d: len({s.technique for s in attacks(d, "feeder")}
                                                        | sides(attacks(d, "feeder"))) > 2,
        "one attack each": lambda d: all(p.swap for p in d.passages),
        "feints are there": lambda d: any(b.gives == "feint" for b in d.passages[0].then),
        "the tempo changes together": lambda d: d.rungs[1].climb.rule == "by_rule",
    },
    "return above the arm": {
        "over the arm": lambda d: all("above the arm" in (s.spot or "")
                                      for s in attacks(d, "defender", "lead_in")),
        "the attacking hand comes back": lambda d: "ear_cover" in does(d, "feeder", "lead_in"),
        "singles first, the finish last": lambda d: "heavy" not in first(d).passages
        and last(d).passages == (),
    },
    "stop and hit": {
        "on the same beat": lambda d: same_beat(d, "lead_in", "glove_catch", "straight"),
        "both hands": lambda d: sides(steps(d, "defender", "lead_in")) == {"lead", "rear"},
    },
    "angled deflection": {
        "one arm": lambda d: all(len(sides(steps(d, "defender", p.key))) == 1 for p in d.passages),
        "off the line": lambda d: all(steps(d, "defender", p.key)[0].footwork.startswith("step_off")
                                      for p in d.passages),
        "the weight shift is seen": lambda d: "weight shift" in d.notes
        and "no visible weight shift" in d.watch,
        "later a stream": lambda d: last(d).pause.kind == "stream"
        and first(d).pause.kind != "stream",
    },
    "third-beat answer": {
        "three, and the answer on the third": lambda d: beats(d, "defender", "three", "slip")
        == [3.0],
        "a fourth by surprise": lambda d: d.written("three").then[1].to == "fourth"
        and not first(d).branches and last(d).branches,
    },
    "compact guard": {
        "one only attacks, one only defends": lambda d: not attacks(d, "defender"),
        "a stream": lambda d: all(r.pause.kind == "stream" for r in d.rungs),
        "switch every 15 to 30 s": lambda d: all(r.turns.switch == "time"
                                                 and 15 <= r.turns.every_s <= 30 for r in d.rungs),
        "it climbs while it is clean": lambda d: last(d).climb.rule == "by_rule",
    },
    "kick pairs with footwork": {
        "three pairs of different kicks": lambda d: len({p.key.rsplit("_", 1)[0]
                                                         for p in d.passages}) == 3
        and all(len({s.technique for s in attacks(d, "defender", p.key)}) == 2
                for p in d.passages),
        "thrust, then hook or side": lambda d: steps(d, "defender", "thrust_chase")[-1].also
        == ("hook_kick",),
        "thrown back: side-step in again": lambda d: last(d).branches and all(
            "step_off" in does(d, "defender", p.key) for p in d.passages
            if p.key.endswith("_in")),
        "in and stay, stay and chase": lambda d: all(
            [s.footwork for s in attacks(d, "defender", p.key)]
            == (["advance", "hold"] if p.key.endswith("_in") else ["hold", "advance"])
            for p in d.passages),
        "the partner runs": lambda d: "retreat" in does(d, "feeder", "front_hook_chase"),
        "on pads": lambda d: all(s.pad for s in attacks(d, "defender")),
    },
    "contact loop": {
        "felt, or lost": lambda d: {s.perceived for s in steps(d, "feeder")}
        == {"felt", "lost_contact"},
        "five ways in": lambda d: len([b for b in d.written("loop").then if b.to != "loop"]) == 5,
        "right or wrong": lambda d: d.grading == "answer",
        "eyes closed as an option": lambda d: last(d).eyes_closed and not first(d).eyes_closed,
    },
    "high and low targets": {
        "lead hand high, rear hand low": lambda d: [(s.technique, s.side) for p in ("high", "low")
                                                    for s in attacks(d, "defender", p)]
        == [("straight", "lead"), ("body_straight", "rear")],
        "one delivery at a time": lambda d: [r.passages for r in d.rungs]
        == [("high", "low"), ("high", "low"), ("high_in", "low_in"), ("high_back", "low_back"),
            ("high_back", "low_back")],
        "later only shown": lambda d: first(d).announced and not last(d).announced,
        "about 3 m of floor": lambda d: d.place.floor_m <= 4,
    },
    "guard at the wall": {
        "a stream that is caught": lambda d: all(r.pause.kind == "stream" for r in d.rungs[:-1]),
        "sweep, then forearms, then apart": lambda d: [r.passages[:2] for r in d.rungs[:3]]
        == [("lead_in", "rear_in"), ("lead_hook", "rear_hook"), ("lead_in", "rear_in")],
        "tied up at one, two, three": lambda d: [
            beats(d, "defender", key, "tie_up") for key in ("one", "two", "three")]
        == [[2.0], [3.0], [4.0]],
        "left on a rear straight or a lead hook": lambda d: all(
            "leave" in does(d, "defender", key) and "duck" in does(d, "defender", key)
            for key in ("leave_rear", "leave_hook")),
        "takedowns have answers": lambda d: all(does(d, "defender", key)
                                                for key in ("body", "legs")),
        "too near is shoved off": lambda d: does(d, "defender", "near") == {"shove_off"},
    },
    "low kick against the lead straight": {
        "three defenses alone first": lambda d: first(d).answers == "answer"
        and does(d, "defender") >= {"parry", "forearm_brace", "step_off"},
        "with it, just after, after": lambda d: [
            beats(d, "defender", key, "low_kick")[0] for key in ("parry", "brace", "off")]
        == [1.0, 1.5, 2.0],
        "before, as the front foot lifts": lambda d: beats(d, "defender", "before", "straight")
        == [1.0] and [s.foot for s in steps(d, "feeder", "before") if s.technique == "advance"]
        == ["lead"] and beats(d, "defender", "before", "low_kick") == [2.0],
        "the brace stays loaded": lambda d: any(
            s.until for s in steps(d, "defender") if s.technique == "forearm_brace"),
        "the side that defends does not kick": lambda d: {
            s.side for p in ("parry", "brace") for s in steps(d, "defender", p)
            if s.technique != "low_kick"} == {"lead"} and {
            s.side for s in steps(d, "defender") if s.technique == "low_kick"} == {"rear"},
        "then it changes its height": lambda d: {"elbow_out", "elbow_in", "low_or_long"}
        <= set(last(d).passages) and does(d, "defender", "elbow_out") >= {"body_kick"},
        "only some are answered": lambda d: last(d).counter_share < 1,
        "the rear hand now and then": lambda d: last(d).branches,
    },
    "close redirect": {
        "three leads, three rears": lambda d: [len(attacks(d, "feeder", key))
                                               for key in ("leads", "rears")] == [3, 3],
        "the counter at the same time": lambda d: beats(d, "defender", "leads", "palm_strike")
        == [1.0, 2.0, 3.0],
        "the defender chooses, across or outward": lambda d: all(
            s.also == ("outward_parry",) for s in steps(d, "defender", "leads")
            if s.technique == "redirect"),
        "then big ones of any kind": lambda d: len({(s.technique, s.side) for p in d.passages
                                                    if p.key.startswith("big")
                                                    for s in attacks(d, "feeder", p.key)}) == 5
        and d.rungs[2].order.kind == "balanced",
        "a counter at the latest after four blocks": lambda d: d.blocks == 4
        and 0 < last(d).counter_share < 0.5,
        "a stream, then faster": lambda d: last(d).pause.kind == "stream"
        and last(d).fastest_bpm > d.rungs[2].fastest_bpm,
    },
    "wide swing": {
        "four answers": lambda d: {p.key for p in d.passages}
        >= {"block", "duck", "drive", "first"},
        "a second swing": lambda d: last(d).branches
        and does(d, "feeder", "second") == {"wide_swing"},
        "both stances": lambda d: last(d).rounds.stances == "in_turn",
    },
    "read the entry": {
        "one entry": lambda d: [(s.technique, s.side) for s in attacks(d, "feeder", "duck")]
        == [(s.technique, s.side) for s in attacks(d, "feeder", "slip")],
        "two whole chains": lambda d: [len(attacks(d, "defender", key))
                                       for key in ("duck", "slip")] == [3, 3],
        "learned apart": lambda d: [r.passages for r in d.rungs[:2]] == [("duck",), ("slip",)],
    },
    "frame and step": {
        "held up to five minutes": lambda d: first(d).rounds.duration_s == 300,
        "then a step, then with a punch": lambda d: [r.passages for r in d.rungs]
        == [("hold",), ("hold", "step"), ()],
    },
    "swing out of the loop": {
        "a swing at a random moment": lambda d: {b.to for b in d.written("loop").then}
        == {"loop", "swing", "push"},
        "block and hit on one beat": lambda d: same_beat(d, "swing", "forearm_block",
                                                         "palm_strike"),
        "elbow and knee chained": lambda d: does(d, "defender", "swing")
        >= {"round_elbow", "straight_knee"},
        "the follow-up is a fact of the pair": lambda d: {b.fact for b in d.written("swing").then}
        == {"feeder_taller", "defender_taller", "same_height"},
    },
    "pressure branch, ring of three": {
        "soft, neutral, heavy": lambda d: [b.gives for b in d.written("press").then]
        == ["arm_light", "arm_neutral", "arm_heavy"],
        "the whole chain": lambda d: [s.technique for s in attacks(d, "defender", "light")][:4]
        == ["straight", "hook", "straight", "round_elbow"],
        "the partner hits back": lambda d: all(d.written(key).choices[0].key == "back"
                                               for key in ("light", "neutral", "heavy")),
        "a knee on the pad": lambda d: all(s.pad for s in steps(d, "defender")
                                           if s.technique == "straight_knee"),
        "nobody idles": lambda d: d.place.people == 3 and d.third != "",
        "the tell is trimmed": lambda d: (first(d).tell, last(d).tell) == ("big", "trimmed"),
    },
    "roll under": {
        "to both sides": lambda d: sides(s for s in steps(d, "defender")
                                         if s.technique == "roll_under") == {"lead", "rear"},
        "two, and stop": lambda d: len(beats(d, "defender", "two", "roll_under")) == 2,
    },
    "three kicks back": {
        "in place, stepping in, spinning": lambda d: [p.key for p in d.passages]
        == ["in_place", "stepping", "spinning"],
        "nobody kicks back": lambda d: not attacks(d, "defender"),
        "the same arm twice, then the other": lambda d: [
            step.first_side for p in d.passages for step in follow(d, [p.key]).steps
            if step.step.technique == "calf_meet"] == ["rear", "rear", "lead"],
        "the first and the third change the stance": lambda d: [
            any(step.turned for step in follow(d, [p.key]).steps) for p in d.passages]
        == [True, False, True],
        "the front foot gives way first": lambda d: [
            next(s.foot for s in steps(d, "defender", p.key)) for p in d.passages] == ["lead"] * 3,
        "sport only, no touch without gear": lambda d: "Sport only" in d.notes
        and first(d).contact == "none",
    },
    "tag": {
        "both hunt, nobody feeds": lambda d: all(r.order.kind == "both" for r in d.rungs),
        "shoulder or foot": lambda d: {s.spot for s in attacks(d, "feeder")}
        == {"shoulder", "foot"},
        "longer reach with paddles": lambda d: "paddles" in d.gear_on(last(d)),
        "a forfeit": lambda d: d.forfeit == "a push-up",
    },
    "together on ten": {
        "both at once": lambda d: all(
            [s.beat for s in steps(d, "feeder", p.key)]
            == [s.beat for s in steps(d, "defender", p.key)] for p in d.passages),
        "ten, then the other leg": lambda d: first(d).order.sequence  # type: ignore[union-attr]
        == ("rear_leg",) * 10 + ("lead_leg",) * 10,
        "a steady count, aloud": lambda d: first(d).pause.kind == "stream"
        and "count" in first(d).rounds.calls,
        "the top of the foot": lambda d: "side or toes of the foot land" in d.watch,
    },
    "blocks only": {
        "back and forth": lambda d: all(r.alternates for r in d.rungs),
        "front, front, back, back": lambda d: first(d).order.sequence  # type: ignore[union-attr]
        == ("front_same", "front_same", "back_same", "back_same"),
        "same side, then across": lambda d: "across" in d.rungs[1].passages[0],
        "no chest guard": lambda d: "chest_guard" not in d.place.gear,
        "only blocks": lambda d: not attacks(d, "defender"),
    },
    "two-beat counter": {
        "parry and body shot on one beat": lambda d: beats(d, "defender", "pair", "body_straight")
        == [2.0] and 2.0 in beats(d, "defender", "pair", "parry"),
        "with an angle step": lambda d: any(s.beat == 2 and s.footwork == "step_off_lead"
                                            for s in steps(d, "defender", "pair")),
        "low hook, high hook": lambda d: [s.technique for s in attacks(d, "defender", "pair")][1:]
        == ["body_hook", "hook"],
        "the overhand comes or not": lambda d: 0 < d.written("pair").choices[0].share < 1,
        "attack by attack": lambda d: last(d).alternates,
        "20 to 30, or 3 to 4 minutes": lambda d: 20 <= last(d).rounds.exchanges <= 30
        and 180 <= last(d).rounds.duration_s <= 240,
    },
    "elbow loop": {
        "four steps that swap the roles": lambda d: all(
            p.swap and [(s.technique, s.side) for s in steps(d, "defender", p.key)]
            == [("meet", "rear"), ("carry_over", "lead"), ("pin", "rear")]
            and p.then[0].to == p.key for p in d.passages)
        and does(d, "feeder") == {"round_elbow"},
        "stopped first, later let through": lambda d: [r.passages for r in d.rungs]
        == [("loop",), ("loop",), ("through",)]
        and steps(d, "defender", "through")[0].footwork == "step_off_rear",
        "elbows stop short": lambda d: all(r.contact == "none" for r in d.rungs),
        "both sides": lambda d: first(d).rounds.stances == "in_turn",
    },
    "one thing more": {
        "one thing more each time": lambda d: [len(steps(d, "defender", p.key))
                                               for p in d.passages] == [1, 2, 2, 3],
        "five of each": lambda d: first(d).order.sequence.count("slip") == 5,  # type: ignore[union-attr]
        "counted aloud to five, feet rechecked": lambda d: all(
            r.rounds.count_to == 5 and {"count", "check_feet"} <= set(r.rounds.calls)
            for r in d.rungs),
    },
    "bare hands, gloves": {
        "bare, then gloved": lambda d: d.gear_on(first(d)) == ()
        and "gloves" in d.gear_on(last(d)),
        "slower with bare hands": lambda d: first(d).fastest_bpm < last(d).fastest_bpm,
        "the forearm is the shield": lambda d: does(d, "defender") == {"forearm_block", "straight"},
    },
    "head cover": {
        "cover, drive, leave": lambda d: all(
            does(d, "defender", p.key) == {"hands_up", "head_cover", "round_elbow", "leave"}
            for p in d.passages),
        "hands up early": lambda d: all(
            steps(d, "defender", p.key)[0].technique == "hands_up"
            and steps(d, "defender", p.key)[0].beat < attacks(d, "feeder", p.key)[0].beat
            for p in d.passages),
        "in, or back": lambda d: {steps(d, "defender", key)[1].footwork
                                  for key in ("stepping_in", "stepping_back")}
        == {"advance", "retreat"},
    },
    "sound blocks, light strikes": {
        "two sounds for two blocks": lambda d: {s.perceived for key in ("sound_lead", "sound_rear")
                                                for s in steps(d, "feeder", key)} == {"called"},
        "apart, then at once": lambda d: "both" not in first(d).passages and last(d).passages == (),
    },
    "side roll": {
        "being held is the cue": lambda d: all(s.perceived == "felt" for s in steps(d, "feeder")),
        "on a pivot, to both sides": lambda d: all(
            s.footwork == "pivot" for s in steps(d, "defender") if s.technique == "side_roll"),
    },
    "forearm touch and cover": {
        "a touch starts the cover": lambda d: steps(d, "feeder", "touch")[0].perceived == "felt",
        "the head leaves the line": lambda d: "slip" in does(d, "defender", "touch"),
        "never cocked": lambda d: "never cocked" in d.notes,
        "against the return": lambda d: [
            (s.beat, s.technique) for s in steps(d, "feeder", "returned")][1:]
        == [(1.5, "ear_cover"), (2.5, "straight")]
        and [s.technique for s in steps(d, "defender", "returned")]
        == ["straight", "redirect", "hook"],
        "a low kick first, from outside": lambda d: steps(d, "feeder", "far")[0].technique
        == "low_kick",
    },
    "zone tracing": {
        "one hand traces first": lambda d: all(steps(d, "defender", p.key)[0].technique
                                               == "zone_trace" for p in d.passages),
        "big attacks of any height": lambda d: {known(d, s).line for s in attacks(d, "feeder")}
        == {"head", "body"},
    },
    "keep the distance": {
        "nobody touches anybody": lambda d: not attacks(d, "feeder") and not attacks(d, "defender"),
        "signs of trouble": lambda d: does(d, "feeder") >= {"make_fists", "hands_up",
                                                            "into_stance"},
        "time is for leaving": lambda d: "leave" in does(d, "defender"),
    },
    "base by count": {
        "pivots, four directions, strikes, step and strike": lambda d: [len(r.passages)
                                                                        for r in d.rungs]
        == [3, 4, 3, 2, 12],
        "ten of each, counted, the feet checked": lambda d: all(
            r.rounds.exchanges == 10 * len(r.passages)
            and {"count", "check_feet"} <= set(r.rounds.calls) for r in d.rungs),
        "followed along": lambda d: all(
            [(s.technique, s.side, s.beat) for s in steps(d, "feeder", p.key)]
            == [(s.technique, s.side, s.beat) for s in steps(d, "defender", p.key)]
            for p in d.passages),
        "a warm-up first": lambda d: "Joints" in d.warm_up,
    },
}  # fmt: skip
EACH = [(pattern, fact) for pattern, facts in FACTS.items() for fact in facts]


@pytest.mark.parametrize(("pattern", "fact"), EACH)
def test_a_starter_is_the_practitioners_drill(pattern: str, fact: str) -> None:
    assert FACTS[pattern][fact](PARTNER_STARTERS[pattern]())


def test_each_partner_starter_has_its_facts() -> None:
    assert set(FACTS) == set(PARTNER_STARTERS)


STEPS = {
    step.what(): drill.technique(step.technique)
    for make in PARTNER_STARTERS.values()
    for drill in [make()]
    for passage in drill.passages
    for step in passage.steps
    if step.spot
}


def test_a_spot_is_said_as_a_coach_says_it() -> None:
    """A strike goes "to the ribs"; a move that lands nowhere is done "so"."""
    for words, technique in STEPS.items():
        lands = technique is not None and technique.strikes
        assert (" to the " in words, ": " in words) == (lands, not lands), words
        assert not any(f" to the {word} " in words for word in ("the", "from", "high", "past"))
