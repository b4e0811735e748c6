"""The techniques that come with the app: about thirty attacks, thirty defenses, and moves.

Names are plain words; other arts' words are in `labels`. Common practice of the trade, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from hastatus.core.trade.technique import Technique, Use

# key, name, family, line, reach, limb; "-" after the limb: lands on nothing; "=": has no side.
_ATTACKS = """
straight           straight              straight     head  punch   hand
body_straight      body straight         straight     body  punch   hand
finger_jab         finger jab            straight     head  punch   hand
palm_strike        palm strike           straight     head  punch   hand
hook               hook                  circular     head  punch   hand
body_hook          body hook             circular     body  punch   hand
wide_swing         wide swing            circular     head  punch   hand
back_fist          back fist             circular     head  punch   hand
spinning_back_fist spinning back fist    circular     head  punch   hand
open_slap          open-hand slap        circular     head  punch   hand
uppercut           uppercut              rising       head  punch   hand
body_uppercut      body uppercut         rising       body  punch   hand
overhand           overhand              falling      head  punch   hand
hammer_fist        hammer fist           falling      head  punch   hand
round_elbow        round elbow           circular     head  elbow   elbow
rising_elbow       rising elbow          rising       head  elbow   elbow
falling_elbow      falling elbow         falling      head  elbow   elbow
straight_knee      straight knee         linear_kick  body  clinch  knee
round_knee         round knee            round_kick   body  clinch  knee
front_kick         front kick            linear_kick  body  kick    foot
low_front_kick     low front kick        linear_kick  leg   kick    foot
side_kick          side kick             linear_kick  body  kick    foot
back_kick          back kick             linear_kick  body  kick    foot
low_kick           low kick              round_kick   leg   kick    shin
body_kick          body kick             round_kick   body  kick    shin
head_kick          head kick             round_kick   head  kick    shin
hook_kick          hook kick             round_kick   head  kick    foot
spinning_kick      spinning kick         round_kick   head  kick    foot
falling_kick       falling heel kick     falling      head  kick    foot
shove              two-hand shove        straight     body  elbow   hand     =
collar_grab        collar grab           grip         body  elbow   hand
wrist_grab         wrist grab            grip         body  elbow   hand
tackle             tackle                grip         leg   clinch  trunk    =
arm_press          arm pressure          grip         body  elbow   forearm
tag                tag                   straight     body  punch   hand
"""

_DEFENSES = """
high_block         high block            block        head  punch   forearm
outward_block      outward block         block        head  punch   forearm
inward_block       inward block          block        head  punch   forearm
low_block          low block             block        body  kick    forearm
forearm_block      forearm block         block        head  punch   forearm
calf_meet          forearm to the calf   block        body  kick    forearm
parry              parry                 parry        head  punch   hand
outward_parry      outward parry         parry        head  punch   hand
low_parry          low parry             parry        body  kick    hand
redirect           close redirect        parry        head  elbow   forearm
slap_down          parry down            parry        body  elbow   hand
glove_catch        palm catch            block        head  punch   hand
compact_guard      compact guard         cover        head  punch   forearm  - =
ear_cover          ear cover             cover        head  punch   forearm  -
head_cover         head cover            cover        head  elbow   forearm  - =
double_cover       double head cover     cover        head  elbow   forearm  - =
sweeping_guard     sweeping guard        parry        head  punch   forearm
double_forearm     double-forearm guard  cover        head  punch   forearm  - =
elbow_cover        elbow to the ribs     cover        body  punch   elbow    -
forearm_brace      forearm brace         brace        head  punch   forearm
arm_frame          arm frame             frame        head  elbow   forearm  - =
slip               slip                  slip         head  punch   trunk    -
roll_under         roll under            roll         head  punch   trunk    -
shoulder_roll      shoulder roll         cover        head  punch   trunk    -
side_roll          side roll             roll         head  clinch  trunk    -
duck               duck                  duck         head  punch   trunk    - =
lean_back          lean back             lean         head  punch   trunk    - =
step_back          step back             step         body  kick    feet     - =
step_off           step off the line     step         body  kick    feet     -
withdraw_leg       pull the leg back     step         leg   kick    feet     -
shin_check         shin check            check        leg   kick    shin     -
knee_shield        knee shield           check        body  kick    knee     -
stop_hit           stop hit              jam          head  punch   hand
stop_kick          stop kick             jam          body  kick    foot
drive_in           crash in              jam          head  elbow   forearm
zone_trace         zone trace            parry        head  punch   hand     -
grip_strip         strip the grip        parry        body  elbow   hand
hips_back          hips back             step         leg   clinch  trunk    - =
meet               meet                  block        head  elbow   forearm
carry_over         carry over            parry        head  elbow   forearm
pin                pin                   frame        body  elbow   hand
send_back          send back             frame        body  elbow   hand
pull_past          pull past             parry        body  elbow   hand
tie_up             tie up                frame        head  clinch  hand     =
"""

_MOVES = """
stay               stay                  step         body  punch   feet     - =
advance            advance               step         body  kick    feet     - =
retreat            retreat               step         body  kick    feet     - =
slide_step         slide-step            step         body  kick    feet     - =
cross_step         cross-step            step         body  kick    feet     - =
turn_out           pivot out             step         body  punch   feet     -
step_to_mark       step to the mark      step         body  punch   feet     -
angle_off          angle off             step         body  punch   feet     -
leave              exit                  step         body  kick    feet     - =
shove_off          shove off             jam          body  elbow   hand     =
wall_pressure      pressure on the wall  frame        body  clinch  trunk    -
hands_up           hands up              cover        head  punch   hand     - =
show_target        show the target       step         body  punch   feet     - =
tap_sound          tap the sound         step         body  punch   feet     - =
make_fists         make fists            step         body  punch   feet     - =
into_stance        step into stance      step         body  kick    feet     - =
"""


def _rows(use: Use, table: str) -> Iterable[Technique]:
    for line in table.strip().splitlines():
        key, rest = line.split(maxsplit=1)
        words = rest.split()
        flags = [word for word in words if word in ("-", "=")]
        words = [word for word in words if word not in flags]
        name, (family, target, reach, limb) = " ".join(words[:-4]), words[-4:]
        yield Technique.model_validate(
            {
                "key": key,
                "name": name,
                "use": use,
                "family": family,
                "line": target,
                "reach": reach,
                "limb": limb,
                "lands": "-" not in flags,
                "sided": "=" not in flags,
            }
        )


TECHNIQUES: Mapping[str, Technique] = MappingProxyType(
    {
        technique.key: technique
        for use, table in (("attack", _ATTACKS), ("defense", _DEFENSES), ("move", _MOVES))
        for technique in _rows(use, table)  # type: ignore[arg-type]
    }
)
"""Every technique that comes with the app, by key, attacks first."""
