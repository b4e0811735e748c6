"""Facts of a pair that a branch may depend on: resolved when the pair is known, never drawn.

Other size, other follow-up (common practice, no source).
"""

from __future__ import annotations

from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.passage import Branch, PairFact

PAIR_FACT_NAMES: dict[PairFact, str] = {
    "feeder_taller": "the feeder is taller",
    "defender_taller": "the defender is taller",
    "same_height": "they are about as tall",
    "feeder_longer": "the feeder reaches further",
    "defender_longer": "the defender reaches further",
    "same_stance": "same stance",
    "mirrored_stance": "mirrored stances",
    "feeder_left_handed": "the feeder is left-handed",
    "feeder_right_handed": "the feeder is right-handed",
    "defender_left_handed": "the defender is left-handed",
    "defender_right_handed": "the defender is right-handed",
}
_ABOUT: tuple[frozenset[PairFact], ...] = (
    frozenset(("feeder_taller", "defender_taller", "same_height")),
    frozenset(("feeder_longer", "defender_longer")),
    frozenset(("same_stance", "mirrored_stance")),
    frozenset(("feeder_left_handed", "feeder_right_handed")),
    frozenset(("defender_left_handed", "defender_right_handed")),
)
"""Facts of which only one can hold."""
_TURNED: dict[PairFact, PairFact] = {
    "feeder_taller": "defender_taller",
    "defender_taller": "feeder_taller",
    "feeder_longer": "defender_longer",
    "defender_longer": "feeder_longer",
    "feeder_left_handed": "defender_left_handed",
    "feeder_right_handed": "defender_right_handed",
    "defender_left_handed": "feeder_left_handed",
    "defender_right_handed": "feeder_right_handed",
}


@dataclass(frozen=True, slots=True)
class PairFacts:
    """What is known of a feeder and a defender; None: not known.

    taller_m, longer_m: how much taller the feeder is, and how much longer their arm; below zero
    where the defender is. mirrored: whether they have opposite feet in front. feeder_left,
    defender_left: whether they are left-handed, with the stronger hand behind.
    """

    taller_m: float | None = None
    longer_m: float | None = None
    mirrored: bool | None = None
    feeder_left: bool | None = None
    defender_left: bool | None = None

    def turned(self) -> PairFacts:
        """The same two with the roles changed over."""
        return PairFacts(
            None if self.taller_m is None else -self.taller_m,
            None if self.longer_m is None else -self.longer_m,
            self.mirrored,
            self.defender_left,
            self.feeder_left,
        )

    def holds(self, fact: PairFact, by_m: float) -> bool | None:
        """Whether a fact holds, differences of less than `by_m` being none; None: not known."""
        if fact in ("same_stance", "mirrored_stance"):
            return None if self.mirrored is None else self.mirrored == (fact == "mirrored_stance")
        if fact.endswith("handed"):
            left = self.feeder_left if fact.startswith("feeder") else self.defender_left
            return None if left is None else left == fact.endswith("left_handed")
        more_m = self.taller_m if fact.endswith(("taller", "height")) else self.longer_m
        if more_m is None:
            return None
        if fact == "same_height":
            return abs(more_m) < by_m
        return more_m >= by_m if fact.startswith("feeder") else more_m <= -by_m


NOTHING_KNOWN = PairFacts()


def resolved(drill: PartnerDrill, facts: PairFacts) -> PartnerDrill:
    """The drill without the branches whose fact does not hold; what is not known stays open.

    Where none is left the exchange is over.
    """
    passages = tuple(
        passage.model_copy(
            update={"then": tuple(branch for branch in passage.then if _open(branch, facts))}
        )
        for passage in drill.passages
    )
    return drill.model_copy(update={"passages": passages})


def _open(branch: Branch, facts: PairFacts) -> bool:
    return branch.fact is None or facts.holds(branch.fact, branch.by_m) is not False


def depends_on_pair(drill: PartnerDrill) -> bool:
    """Whether any branch depends on a fact of the pair."""
    return any(branch.fact for passage in drill.passages for branch in passage.then)


def contradict(one: PairFact, other: PairFact) -> bool:
    """Whether two facts can never hold together."""
    return one != other and any({one, other} <= about for about in _ABOUT)


def turned_fact(fact: PairFact) -> PairFact:
    """The fact as it is said once feeder and defender have changed roles."""
    return _TURNED.get(fact, fact)
