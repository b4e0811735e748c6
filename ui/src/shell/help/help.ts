/** What each sheet is for, what comes next on it, and its keys. */
type Help = {
  title: string
  what: string
  next: string
  keys: readonly (readonly [string, string])[]
}

const BENCH_KEYS = [
  ['ctrl S', 'save'],
  ['ctrl Z, ctrl shift Z', 'undo, redo'],
  ['1 to 9', 'choose a rung'],
  ['R', 'add a rung'],
] as const

/** By the first words of an address; the longest that fits is shown. */
const HELP: Readonly<Record<string, Help>> = {
  '/tonight': {
    title: 'Tonight',
    what: 'Your class: who is here, what is done when, and who works with whom. The times add up by themselves, with rests, both stances and waves where the floor is small.',
    next: 'Tap who is here, then put them together. Two names that are tapped change places.',
    keys: [],
  },
  '/tonight/after': {
    title: 'What was seen',
    what: 'The evening afterwards: what you watched, what got through, the faults, and what each one said. What nobody watched says so.',
    next: 'Leave out what you do not agree with, then plan the next evening like this.',
    keys: [],
  },
  '/log/classes': {
    title: 'Classes',
    what: 'What you marked in classes: faults, notes, what got through, and what each one said.',
    next: 'Choose a person for their faults by frequency, partners met, and how ready they felt.',
    keys: [],
  },
  '/log/incidents': {
    title: 'Book of incidents',
    what: 'What happened, to whom, what was done, and who cleared them. Head knocks come in by themselves.',
    next: 'Write it down the same evening. Nothing is deleted: what turns out otherwise is added.',
    keys: [],
  },
  '/build': {
    title: 'Drills',
    what: 'Every drill of the club, solo and with a partner. Open one to change it, copy it, or begin a new one.',
    next: 'Find a drill by its focus, look at it, then run it.',
    keys: [],
  },
  '/build?': {
    title: 'The bench',
    what: 'A drill is made here: its cues or exchanges, what each asks for, and a ladder of rungs that get harder. The picture shows what will come; the checks say what cannot be done and how to mend it.',
    next: 'Save it, then press Run.',
    keys: [
      ...BENCH_KEYS,
      ['N', 'shuffle the order'],
      ['C', 'add a cue (solo)'],
      ['F, D', 'add a step of the feeder, of the defender (partner)'],
      ['E', 'add an exchange (partner)'],
      ['del, esc', 'remove the step, close it (partner)'],
      ['space', 'listen, pause (solo)'],
    ],
  },
  '/build/words': {
    title: 'Words and techniques',
    what: 'The club’s own names for techniques, the right way and the usual mistake of each, and pictures or clips of your own.',
    next: 'Choose a technique on the left and edit it.',
    keys: [],
  },
  '/run': {
    title: 'Run',
    what: 'Choose who trains and what. You see where the student stands and what is suggested next; you decide.',
    next: 'Press Start. The floor opens; cues begin when you press Begin.',
    keys: [],
  },
  '/pair': {
    title: 'Before a partner run',
    what: 'Both agree on contact and on a word at which everybody stops. What is worn tonight lowers the drill to what it allows.',
    next: 'Check the gear, then press Agree and start.',
    keys: [],
  },
  '/device': {
    title: 'This device',
    what: 'Measures how late this screen and loudspeaker are, and how strikes are heard. Optional: without it times are right among themselves.',
    next: 'Measure the screen, then the sound.',
    keys: [],
  },
  '/compare': {
    title: 'Compare two runs',
    what: 'Two runs of one student, or of two, kind of answer by kind of answer.',
    next: 'Choose a student and a run on each side; filled marks are clear differences.',
    keys: [],
  },
  '/read': {
    title: 'Results',
    what: 'Every run. One run opens as its strip: each answer over its cue, at the height of its time.',
    next: 'Open the newest run, or compare the student’s weeks under People.',
    keys: [],
  },
  '/pairs': {
    title: 'A partner run',
    what: 'What was fed, what was kept out and what got through, and what comes next for each defender.',
    next: 'Use the suggestion, or set the rung yourself.',
    keys: [],
  },
  '/people': {
    title: 'People',
    what: 'Your students. Who needs a look comes first: a hold after a head knock, then what the figures say.',
    next: 'Open a student to see the weeks, or start a run from there.',
    keys: [],
  },
  '/people/home': {
    title: 'Home practice',
    what: 'What is practised at home, by whom, on how many days, and what they said of it.',
    next: 'Assign drills, then make a link on the student’s page and have their phone’s camera look at its code.',
    keys: [],
  },
  '/log/audit': {
    title: 'Who did what',
    what: 'What each coach did, and to whom, for two years. What was written in a form is not in it.',
    next: 'Choose a coach, or look for a request by its number.',
    keys: [],
  },
  '/log': {
    title: 'Log',
    what: 'Who did what on which evening, head knocks and clearances, and what you decided.',
    next: 'Open a run from its evening.',
    keys: [],
  },
  '/account': {
    title: 'Your account',
    what: 'Your password, every browser in which you are signed in, and the coaches of the club.',
    next: 'End a sign-in that you do not know.',
    keys: [],
  },
}

/** On the floor and at the mat the keys stand on the buttons; they are listed here, too. */
export const AWAY_KEYS = [
  ['enter', 'floor: begin, skip the walk-through or the rest'],
  ['space', 'floor: pause, resume; mat: begin, pause'],
  ['S, S', 'floor: stop'],
  ['letter on the button', 'mat: grade the exchange'],
  ['1 to 9', 'mat: tag a fault'],
  ['enter', 'mat: watch, end watching'],
  ['U', 'mat: undo'],
  ['↑ ↓', 'mat: tempo'],
] as const

/** The help of an address. */
export function helpOf(path: string, search: string): Help {
  const bench = path === '/build' && /[?&]drill=/.test(search)
  const plain = path.replace(/\/[0-9a-f-]{36}/, '')
  const keys = Object.keys(HELP).filter((key) => plain.startsWith(key))
  const longest = keys.sort((one, other) => other.length - one.length)[0] ?? '/build'
  const page = bench ? HELP['/build?'] : HELP[longest]
  if (!page) throw new Error(`No help for ${path}`)
  return page
}
