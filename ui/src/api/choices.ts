/** What a coach chooses among, and names of things. Written by scripts/api-types from the core. */

export const SIDE = [
  ['lead', 'lead'],
  ['rear', 'rear'],
] as const

export const CONTACT = [
  ['none', 'none'],
  ['touch', 'touch'],
  ['light', 'light'],
  ['firm', 'firm'],
] as const

export const LEVEL = [
  ['new', 'beginner'],
  ['settled', 'intermediate'],
  ['advanced', 'advanced'],
] as const

export const PURPOSE = [
  ['practice', 'practice'],
  ['baseline', 'a repeated test'],
] as const

export const STIMULUS = [
  ['sound', 'a sound'],
  ['call', 'a spoken call'],
  ['recording', 'my own call'],
  ['light', 'a flash'],
  ['arrow', 'an arrow'],
  ['picture', 'a picture'],
] as const

export const SOUND = [
  ['low_knock', 'low knock'],
  ['high_knock', 'high knock'],
  ['bang', 'bang'],
  ['bell', 'bell'],
  ['high_bell', 'high bell'],
  ['low_tone', 'low tone'],
  ['tone', 'tone'],
  ['high_tone', 'high tone'],
] as const

export const LIGHT_PLACE = [
  ['lead', 'lead half'],
  ['rear', 'rear half'],
  ['middle', 'middle'],
  ['high', 'high'],
  ['low', 'low'],
  ['lead_high', 'lead, high'],
  ['lead_low', 'lead, low'],
  ['rear_high', 'rear, high'],
  ['rear_low', 'rear, low'],
] as const

export const DIRECTION = [
  ['lead', 'to the lead side'],
  ['rear', 'to the rear side'],
  ['up', 'up'],
  ['down', 'down'],
] as const

export const PICTURE = [
  ['head_target', 'target: head'],
  ['body_target', 'target: body'],
  ['leg_target', 'target: leg'],
  ['swing', 'a swing'],
  ['fists', 'fists'],
  ['raised_hands', 'raised hands'],
  ['into_stance', 'into stance'],
  ['open_hands', 'open hands'],
  ['turned_away', 'turned away'],
] as const

export const LANGUAGE = [
  ['en-gb', 'English, British'],
  ['en-us', 'English, American'],
  ['en-gb-scotland', 'English, Scottish'],
  ['de', 'German'],
  ['fr', 'French'],
  ['es', 'Spanish'],
  ['it', 'Italian'],
  ['nl', 'Dutch'],
] as const

export const DEPTH = [
  ['answer', 'answers only'],
  ['counter', 'answer and counter'],
  ['exit', 'answer, counter, exit'],
] as const

export const LIMIT_UNIT = [
  ['window', 'by the answer window'],
  ['s', 'seconds'],
  ['beat', 'beats'],
] as const

export const ORDER = [
  ['set', 'set, always the same'],
  ['rotating', 'rotating'],
  ['balanced', 'random, by weight'],
  ['first_order', 'random, each after each'],
] as const

export const WAITING = [
  ['fixed', 'always the same'],
  ['jittered', 'evenly from a range'],
  ['unguessable', 'unpredictable'],
] as const

export const PACE_RULE = [
  ['measured', 'adjusts to the measured times'],
  ['weighted', 'steps after each answer'],
  ['n_down', 'steps after a row of clean ones'],
  ['rounds', 'steps between rounds'],
  ['hold', 'stays as set'],
] as const

export const EARLY = [
  ['jumped', 'counts as jumped'],
  ['asked', 'is what is asked'],
] as const

export const LEAD_IN = [
  ['none', 'nothing'],
  ['warning', 'a warning signal'],
  ['announce', 'the answer, said'],
] as const

export const ROUND_END = [
  ['time', 'by time'],
  ['count', 'by count'],
  ['first', 'by whichever is first'],
] as const

export const ROUND_STANCES = [
  ['own', "the student's own"],
  ['in_turn', 'switch each round'],
] as const

export const ROUND_CALL = [
  ['switch', 'switch'],
  ['ten_seconds', 'ten seconds'],
  ['time', 'time'],
] as const

export const GUIDE = [
  ['count', 'a count'],
  ['hold', 'a hold'],
] as const

export const AGAINST = [
  ['air', 'the air'],
  ['ball', 'a swinging ball'],
  ['bag', 'the bag'],
  ['rope', 'a rope'],
  ['wall', 'the wall'],
] as const

export const PARTNER_CALL = [
  ['switch', 'switch'],
  ['ten_seconds', 'ten seconds'],
  ['time', 'time'],
  ['move_around', 'move around'],
  ['count', 'the count'],
  ['check_feet', 'check your feet'],
] as const

export const DEFENDER_PART = [
  ['answer', 'the defense only'],
  ['counter', 'up to the counter'],
  ['exit', 'all of it'],
] as const

export const FEED_ORDER = [
  ['set', 'known'],
  ['rotating', 'in turn, starting one later each time'],
  ['balanced', 'random'],
  ['free', 'the feeder chooses'],
  ['both', 'both hunt, both avoid'],
] as const

export const FEED_END = [
  ['time', 'by time'],
  ['count', 'by exchanges'],
  ['first', 'whichever is first'],
] as const

export const ROLE_SWITCH = [
  ['rounds', 'from round to round'],
  ['time', 'on the call'],
  ['count', 'after some exchanges'],
  ['score', 'set by the drill'],
  ['never', 'never'],
] as const

export const STANCES = [
  ['same', 'same stance'],
  ['mirrored', 'mirrored stances'],
] as const

export const START = [
  ['clinch', 'clinch'],
  ['elbow', 'elbow'],
  ['punch', 'punch'],
  ['kick', 'kick'],
  ['outside', 'out of reach'],
] as const

export const PERCEIVED = [
  ['seen', 'seen'],
  ['called', 'called'],
  ['felt', 'felt'],
  ['lost_contact', 'contact lost'],
] as const

export const TARGET = [
  ['head', 'head'],
  ['body', 'body'],
  ['leg', 'leg'],
] as const

export const SURFACE = [
  ['fist', 'fist'],
  ['palm', 'palm'],
  ['fingers', 'fingers'],
] as const

export const TELL = [
  ['big', 'big'],
  ['plain', 'plain'],
  ['trimmed', 'small'],
  ['mixed', 'now big, now small'],
] as const

export const STEP_CONTACT = [
  ['none', 'stops short'],
  ['touch', 'touch'],
  ['light', 'light'],
  ['firm', 'firm'],
] as const

export const RUNG_CONTACT = [
  ['none', 'stops short'],
  ['touch', 'touch'],
  ['light', 'light'],
  ['firm', 'as the steps say'],
] as const

export const USE = [
  ['defense', 'Defenses'],
  ['attack', 'Strikes, kicks and grips'],
  ['move', 'Moves'],
] as const

export const FOOTWORK = [
  ['hold', 'hold'],
  ['advance', 'advance'],
  ['retreat', 'retreat'],
  ['slide_step', 'slide-step'],
  ['cross_step', 'cross-step'],
  ['cross_back', 'cross-step back'],
  ['step_off_lead', 'step off, lead side'],
  ['step_off_rear', 'step off, rear side'],
  ['step_round', 'step round behind'],
  ['pivot', 'pivot'],
] as const

export const GIVES = [
  ['arm_light', 'the arm is light'],
  ['arm_neutral', 'the arm is neutral'],
  ['arm_heavy', 'the arm is heavy'],
  ['real', 'it is real'],
  ['feint', 'it is a feint'],
  ['follow_up', 'a follow-up comes'],
  ['no_follow_up', 'no follow-up'],
  ['comes_on', 'the partner comes on'],
  ['retreats', 'the partner retreats'],
  ['goes_on', 'it goes on'],
] as const

export const PAIR_FACT = [
  ['feeder_taller', 'the feeder is taller'],
  ['defender_taller', 'the defender is taller'],
  ['same_height', 'they are about as tall'],
  ['feeder_longer', 'the feeder reaches further'],
  ['defender_longer', 'the defender reaches further'],
  ['same_stance', 'same stance'],
  ['mirrored_stance', 'mirrored stances'],
  ['feeder_left_handed', 'the feeder is left-handed'],
  ['feeder_right_handed', 'the feeder is right-handed'],
  ['defender_left_handed', 'the defender is left-handed'],
  ['defender_right_handed', 'the defender is right-handed'],
] as const

export const GEAR = [
  ['gloves', 'gloves'],
  ['mouthguard', 'mouthguard'],
  ['head_guard', 'head guard'],
  ['chest_guard', 'chest guard'],
  ['belly_pad', 'belly pad'],
  ['groin_guard', 'groin guard'],
  ['shin_guards', 'shin guards'],
  ['focus_pads', 'focus pads'],
  ['kick_shield', 'kick shield'],
  ['paddles', 'paddles'],
] as const

export const WORN_GEAR = [
  ['gloves', 'gloves'],
  ['mouthguard', 'mouthguard'],
  ['head_guard', 'head guard'],
  ['chest_guard', 'chest guard'],
  ['belly_pad', 'belly pad'],
  ['groin_guard', 'groin guard'],
  ['shin_guards', 'shin guards'],
] as const

export const GRADE = [
  ['struck', 'got through'],
  ['covered', 'covered'],
  ['deflected', 'deflected'],
  ['evaded', 'evaded'],
  ['off_line', 'off the line'],
  ['countered', 'countered'],
  ['right', 'right'],
  ['late', 'late'],
  ['wrong', 'wrong'],
] as const

export const OWNER = [
  ['defender', 'the defender'],
  ['feeder', 'the feeder'],
] as const

export const BLOCK_KIND = [
  ['base', 'base and warm-up, all together'],
  ['solo', 'alone, all at once'],
  ['partner', 'in pairs'],
  ['free', 'free round'],
  ['break', 'break'],
  ['talk', 'talk'],
] as const

export const FEED_WAY = [
  ['paper', 'feed sheets on paper'],
  ['numbered', 'a number is called, cards'],
  ['phone', "feeder's phone"],
  ['ear', "in the feeder's ear"],
  ['own', 'feeders choose'],
] as const

export const WHO_WITH_WHOM = [
  ['fit', 'who fit best'],
  ['new', 'each with somebody new'],
  ['kept', 'as in the block before'],
  ['unequal', 'of two levels, on purpose'],
] as const

export const CONSENT = [
  ['not_needed', 'not needed'],
  ['needed', 'needed, not here yet'],
  ['given', 'given'],
] as const

export const READINESS = [
  ['distance', 'distance game'],
  ['on_guard', 'together, on the guard'],
  ['blocks', 'blocks only'],
  ['light', 'light and continuous'],
  ['free', 'free'],
] as const

export const BLOCK_WORD = [
  ['too_much', 'too much'],
  ['right', 'right'],
  ['too_easy', 'too easy'],
] as const

export const HOME_WORD = [
  ['too_easy', 'too easy'],
  ['right', 'right'],
  ['too_hard', 'too hard'],
] as const

export const BODY_PART = [
  ['head', 'head'],
  ['lead_hand', 'lead hand'],
  ['rear_hand', 'rear hand'],
  ['hips', 'hips'],
  ['feet', 'feet'],
] as const

export const FILM_REASON = [
  ['no_film', 'the film does not show it'],
  ['no_idle', 'there is no quiet moment in the film to compare with'],
  ['moving_before', 'it was moving already when the cue came'],
  ['camera_shook', 'the camera shook'],
  ['still', 'nothing moved'],
  ['said_wrong', 'what was read is wrong, the coach says'],
] as const

export const CONTRAST_NAMES = {
  side: 'rear side, against lead side',
  channel: 'light, against sound',
  overlap: 'second of a pair, against alone',
  switch: 'switching block and strike, against same again',
  half: 'second half, against first half',
} as const

export const LEFT_OUT_NAMES = {
  unconfirmed: 'whose moment the browser did not confirm',
  not_seen: 'that the camera cannot tell',
  moving_before: 'before which the student moved already',
  not_told_apart: 'in overlaps where a microphone cannot tell whose time is whose',
} as const

export const SOURCE_NAMES = {
  key: 'keys',
  touch: 'touch screen',
  microphone: 'microphone',
  midi: 'MIDI pads',
  pad: 'demo pads',
  clicker: 'clicker or gamepad',
  coach: "coach's tap",
  camera: 'camera',
} as const

export const STRAY_NAMES = {
  outside: 'with no cue on',
  second: 'after the answer',
  too_late: 'too late for a cue that had lapsed',
  between: 'between two cues, answering neither',
  unknown: 'on no key or pad of this drill',
  bounce: 'ringing on from the same hit',
  echo: 'from the cue itself',
  same_strike: 'heard of a hit that was felt',
  faint: 'from next door',
  left_home: 'leaving home with no cue on',
} as const

export const TIMED_TO = {
  key: 'hand to key',
  touch: 'hand to key',
  microphone: 'strike heard',
  midi: 'hit on a pad',
  pad: 'hit on a simulated pad',
  clicker: 'click',
  coach: "coach's tap",
  camera: 'movement seen',
  home: 'home left',
} as const

export const SHAPES = ['circle', 'triangle', 'square', 'diamond', 'ring', 'bar'] as const

export const COLOURS = ['blue', 'vermillion', 'orange', 'purple', 'green', 'sky'] as const

export const NEW_CUE_SOUNDS = [
  'low_knock',
  'bell',
  'high_knock',
  'tone',
  'bang',
  'high_bell',
] as const

export const NOT_CLEAN = ['late', 'struck', 'wrong'] as const

export const LEAST_CAMERA_RATE_HZ = 12

export const LIMITER_KNEE = 0.8

export const SLOWEST_BPM = 20

export const FASTEST_BPM = 300
