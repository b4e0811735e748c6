"""Techniques, their words, and which defense answers which attack. Common practice, no source."""

import pytest

from hastatus.core.starter import STARTERS
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.label_packs import PACKS, Labels
from hastatus.core.trade.matchups import fit


def by_use(use: str) -> list[str]:
    return [key for key, technique in TECHNIQUES.items() if technique.use == use]


def test_there_are_about_thirty_of_each_and_every_attack_has_usual_answers() -> None:
    assert len(by_use("attack")) >= 30
    assert len(by_use("defense")) >= 30
    for attack in by_use("attack"):
        verdicts = {key: fit(TECHNIQUES[attack], TECHNIQUES[key]) for key in by_use("defense")}
        assert sum(verdict.verdict == "usual" for verdict in verdicts.values()) >= 2, attack
        assert all(verdict.reason for verdict in verdicts.values())


@pytest.mark.parametrize(
    ("attack", "defense", "verdict"),
    [
        ("straight", "slip", "usual"),  # straights: slip
        ("hook", "roll_under", "usual"),  # hooks: roll
        ("hook", "slip", "poor"),  # a slip moves into a hook
        ("hook", "low_block", "poor"),
        ("straight", "roll_under", "poor"),
        ("low_kick", "shin_check", "usual"),
        ("low_kick", "withdraw_leg", "usual"),  # withdraw the foot the kick approaches
        ("low_kick", "high_block", "poor"),
        ("body_hook", "slip", "poor"),
        ("body_hook", "elbow_cover", "usual"),
        ("wide_swing", "forearm_block", "usual"),
        ("wide_swing", "duck", "usual"),
        ("wide_swing", "double_cover", "usual"),
        ("tackle", "hips_back", "usual"),
    ],
)
def test_which_defense_answers_which_attack(attack: str, defense: str, verdict: str) -> None:
    assert fit(TECHNIQUES[attack], TECHNIQUES[defense]).verdict == verdict


@pytest.mark.parametrize("pack", PACKS)
def test_packs_name_what_there_is(pack: str) -> None:
    labels = Labels(pack)  # type: ignore[arg-type]
    assert set(PACKS[pack]) <= set(TECHNIQUES)  # type: ignore[index]
    assert all(labels.name(key) and labels.sided(key, "rear") for key in TECHNIQUES)


def test_a_club_renames_over_its_pack_and_sides_have_their_words() -> None:
    labels = Labels("boxing", {"slip": "slide"})
    assert (labels.sided("straight", "lead"), labels.sided("straight", "rear")) == ("jab", "cross")
    assert labels.sided("slip", "rear") == "rear slide"
    assert labels.sided("duck", "lead") == "duck"
    assert Labels().sided("high_block", "lead") == "lead high block"


def test_what_lands_on_nothing_says_so() -> None:
    for key in ("slip", "roll_under", "duck", "step_back", "arm_frame"):
        assert not TECHNIQUES[key].lands
    for key in ("high_block", "parry", "straight", "low_kick", "stop_hit"):
        assert TECHNIQUES[key].lands


def test_a_leg_that_is_pulled_back_answers_no_blow_to_the_head() -> None:
    """Withdraw the foot that the kick approaches (common practice, no source), not another."""
    pulled = TECHNIQUES["withdraw_leg"]
    assert fit(TECHNIQUES["hook"], pulled).verdict == "poor"
    assert fit(TECHNIQUES["low_kick"], pulled).verdict != "poor"


def test_the_length_of_a_rung_has_its_holds_in_it() -> None:
    """Four frames of thirty seconds take at least two minutes."""
    frame = STARTERS["frame and step"]()
    assert frame.lengths_s[0] >= 4 * 30
