"""How techniques are done, and what usually goes wrong, until the club says it in its own words.

Common practice of the trade, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True, slots=True)
class UsualNote:
    """The right way of a technique, and the usual fault, in a sentence each."""

    right_way: str
    usual_fault: str


# A key with the right way; below it the usual fault.
_NOTES = """
straight: Straight there and straight back, the other hand at the face.
    Cocked first, so it is seen coming; the hand comes home low.
body_straight: Bend the knees to the height of the target, then hit straight.
    Leans down from the waist, and the head is left out in front.
hook: The elbow lifts with the fist, the body turns it in, short.
    Reaches: the arm opens, and the wrist takes it.
body_hook: Knees bend, the elbow stays close, the hip brings it.
    Drops the other hand to reach low.
uppercut: From bent knees upward, close, the palm towards you.
    Drops the hand far down first.
overhand: Over the top in an arc, the head off the line with it.
    Thrown from too far, with the chin up.
wide_swing: As an untrained person throws it: wide and from behind, at true distance.
    Aimed to miss, or stopped before anything has to be done.
palm_strike: Heel of the hand, fingers back, the elbow behind it.
    Fingers forward; the arm does it alone.
round_elbow: Fist to the chest, elbow fully bent, the last few centimetres land.
    Lands with the forearm; the shoulder stays down.
front_kick: Knee up first, then the foot straight out and back the same way.
    A small step before it tells; the leg falls down after it.
side_kick: Knee up across, heel out in a line with the hip, look over the shoulder.
    Toes or edge land; the standing heel does not turn.
back_kick: Turn, look over the shoulder, the heel straight back.
    Swings round like a hook; the target is lost from sight.
hook_kick: Out beside the target, then pulled across with the heel or sole.
    Swung from the knee alone; the standing heel stays.
body_kick: The standing heel turns, the hip goes through, the top of the foot or shin lands.
    Toes land; the hand on that side drops far.
low_kick: A step out, the shin through the loaded leg, the hand guards.
    Kicks from too near and with a straight standing foot.
straight_knee: Hips forward, toes down, on the pad only.
    Leans back; lifts the leg without the hip.
shove: Both palms on the chest, from the legs.
    Arms alone, with the head in front.
collar_grab: Take hold and keep a steady pull, as agreed.
    Lets go before there is anything to do.
tackle: Lower the level and step in, at drill speed.
    Dives head first.
arm_press: Forearm on forearm, a steady pressure that the other can read.
    Pushes through, or gives nothing.
tag: Fingers out and back, with a step, guard up.
    Lunges and stays there.
high_block: Hand from brow to crown, elbow up.
    The elbow drops; the hand is late to come home.
low_block: The forearm sweeps down and out, the body stays up.
    Bends down to meet it; the hand does not come home.
forearm_block: Forearm up as a shield, more than a right angle at the elbow, tight to the head.
    Reaches out to meet it, and the elbow flares.
calf_meet: The arm drops to the back of the calf as the feet give way.
    Meets the shin, and the kicker stays turned towards you.
parry: A small push from the wrist, past the head, then home.
    Reaches for it, far from the body.
outward_parry: Turned outward with the forearm while the feet take the angle.
    The elbow lifts, and the line is open.
redirect: Stay on the arm and turn it past, outward or across.
    Slaps at it and loses the touch.
slap_down: Tap it down just enough to pass over it.
    Hits it to the floor, and the own hand is gone too.
glove_catch: The open palm meets the last few centimetres.
    Reaches out to stop it early.
ear_cover: Hand to the back of the ear, elbow in front, the head tucked in.
    The hand floats off the head.
head_cover: Both forearms tight to the head, chin down, elbows in front, and in.
    Hands spread; stands and waits inside.
double_cover: Both arms round the head, driving forward behind them.
    Eyes shut; the weight stays back.
double_forearm: Two forearms up, a gap of less than a fist, look through it.
    The gap opens; the guard stands still.
sweeping_guard: Shoulder rounded forward, the near forearm sweeps the blow along.
    Stops the blow instead of letting it pass.
forearm_brace: Forearm on the line, loaded, ready to hit from there.
    Goes soft after contact.
arm_frame: Both arms as a frame, shoulders down, let go of what is not needed.
    Leans in; the elbows fold.
slip: A glove's width, eyes stay on.
    Bends at the waist, looks down.
roll_under: Bend the knees, upper body rounded, hands at the head, out on the other side.
    Stands upright too early; straight-backed in front of the hands.
side_roll: The whole trunk turns round its pivot, spine long.
    Leans instead of turning.
duck: Bend the knees straight down, eyes up, hands high.
    Bows forward, looks at the floor.
step_back: The rear foot first, the guard stays up.
    Leans back and leaves the feet.
step_off: One foot leaves the line, the other follows, the guard stays.
    Steps straight back; the feet cross.
withdraw_leg: The leg that is attacked comes back, the weight is behind.
    Leg left where it is.
drive_in: Step through behind both forearms, until there is no room to swing.
    Stops half way, at the worst distance.
zone_trace: The hand goes along the zones from crown to hip, unhurried.
    Reaches out; the other hand wanders.
hips_back: Hips back and down on the shoulders, arms in front.
    Bends over and hugs.
meet: The palm of the same side meets the last few centimetres of the elbow.
    Goes to meet it early, far from the body.
carry_over: The other hand comes under to the upper arm and carries it across.
    Pushes at the forearm, and the elbow comes back.
pin: The first hand pins it past the centre, close.
    Lets go to look for the next thing.
send_back: Let it go with a light push, and give your own elbow.
    Rushes ahead of the rhythm.
pull_past: Take the arm along its own way, and step aside.
    Pulls it into oneself.
tie_up: Step in, head close, both arms inside, weight on.
    Waits outside with long arms.
advance: The front foot goes, the rear foot follows, hands come to the face.
    The feet come together; a hop tells.
retreat: The rear foot goes, the front foot follows.
    Leans back first.
slide_step: The rear foot slides up, then the front foot goes.
    The head rises with it.
turn_out: On the ball of the foot, heel out, hip with it.
    Turns on a flat foot, and the knee takes it.
step_to_mark: One step, weight over the mark, the frame as before.
    Two small steps; the frame is lost.
angle_off: Step off and turn in, so that they must turn first.
    Steps off and stands still there.
leave: Look, turn, and go: further than one step.
    Stops after one step and looks back.
shove_off: Both palms, from the legs, to make room.
    Arms alone; stays where it was.
wall_pressure: Weight through the arm into the wall, no leaning.
    Leans, and falls in when it gives.
hands_up: Open hands up and in front, early, and talk.
    Fists, or hands up too late.
stay: Stand as a person stands, and give what was agreed.
    Helps along, or braces against it.
cross_step: The rear foot passes, then the front one; the hips stay low.
    Feet cross and stand there, easy to push over.
show_target: Show it clearly, at true height and distance, and hold it.
    Moves it to meet the hit.
tap_sound: One clear tap, and the same each time.
    A movement tells before the sound.
make_fists: Close the hands, and nothing else.
    Steps in with it.
into_stance: One foot goes back, hands come up.
    Does it too slowly to be believed.
"""


def _notes() -> dict[str, UsualNote]:
    lines = _NOTES.strip().splitlines()
    rows = (line.split(": ", 1) for line in lines[::2])
    return {
        key: UsualNote(right_way, fault.strip())
        for (key, right_way), fault in zip(rows, lines[1::2], strict=True)
    }


TECHNIQUE_NOTES: Mapping[str, UsualNote] = MappingProxyType(_notes())
"""By technique; every technique of a starter has one."""
