/** Names for the API's own models, generated from its description. */
import type { components } from './schema'

type Models = components['schemas']

export type Ack = Models['Ack']
export type Batch = Models['BatchRequest']
export type Cue = Models['Cue']
export type Device = Models['DeviceView']
export type Drill = Models['Drill']
export type PartnerDrill = Models['PartnerDrill']
export type AnyDrill = Drill | PartnerDrill
/** A version of a drill, solo or partner. */
export type AnyView = Models['DrillView']
export type ViewOf<D extends AnyDrill> = Omit<AnyView, 'document'> & { document: D }
export type DrillView = ViewOf<Drill>
export type PartnerDrillView = ViewOf<PartnerDrill>
export type Evening = Models['EveningView']
export type EveningPlan = Evening['plan']
export type Block = EveningPlan['blocks'][number]
export type BlockView = Models['BlockView']
export type PersonTonight = Models['PersonTonight']
export type Presence = Partial<Models['Presence']>
export type NumberedCalls = Models['NumberedCalls']
export type ClassAct = Models['ClassActs']['acts'][number]
export type ClassMark = Models['ClassMarks']['marks'][number]
export type ClassClock = Models['ClockView']
export type ClassSounds = Models['ClassSounds']
export type ClassSound = ClassSounds['sounds'][number]
export type Stretch = Models['StretchView']
export type LiveEvening = Models['LiveEvening']
export type Tile = Models['TileView']
export type PhoneView = Models['PhoneView']
export type PhoneCode = Models['CodeView']
export type EveningReview = Models['EveningReview']
export type CoachList = Models['CoachList']
export type LinkMade = Models['LinkMade']
export type PairSheets = Models['PairSheets']
export type ClassLog = Models['ClassLog']
export type PeopleTable = Models['PeopleTableView']
export type Incident = Models['IncidentView']
export type IncidentEntry = Models['IncidentEntry']
export type CameraPlace = Models['CameraPlaceView']['place']
export type CameraZone = CameraPlace['zones'][number]
export type FilmView = Models['FilmView']
export type FilmReading = NonNullable<Models['FilmReadView']['reading']>
export type OnsetCorrection = Models['OnsetCorrection']
export type FilmRead = Models['FilmReadView']
export type PairFilmReading = NonNullable<Models['FilmReadView']['pair']>
export type Event = NonNullable<Batch['events']>[number]
export type GroupView = Models['GroupView']
export type LadderView = Models['LadderView']
export type Mark = Models['Mark']
export type PlacedCue = Models['PlacedCue']
export type PlanView = Models['PlanView']
export type Problem = Models['ProblemDocument']
export type Readout = Models['ReadoutView']
export type Response = Models['Response']
export type RunLine = Models['RunLine']
export type RunView = Models['RunView']
/** An input that a run may listen to. */
export type SourceName = NonNullable<RunView['device']['inputs']>[number]
export type Student = Models['StudentView']
export type StudentDetail = Models['StudentDetail']
export type Tail = Models['Tail']

export type Catalogue = Models['CatalogueView']
export type Chain = Models['Chain']
export type CueWords = Models['CueWords']
export type DrawnRound = Models['DrawnRound']
export type DrillFault = Models['Fault']
export type LibraryEntry = Models['LibraryEntry']
export type OfferedDrill = Models['OfferedDrill']
export type Rung = Models['Rung']
export type Step = Models['Step']
export type Side = Figure['side']
export type Stance = Student['stance']
export type Stimulus = Cue['stimulus']
export type Order = Rung['order']
export type Waiting = Rung['waiting']
export type LeadIn = NonNullable<Rung['lead_in']>
export type Mend = Models['Mend']
export type SchoolLine = Models['SchoolLine']
export type Fact = Models['Fact']
export type FeederCard = Models['FeederCard']
export type Guide = NonNullable<Rung['guide']>
export type FeedOrder = PartnerRung['order']
export type MidChoice = Models['Choice']
export type OwnedFault = Models['OwnedFault']
export type Technique = Models['TechniqueView']

export type Branch = Models['Branch']
export type Contact = PartnerStep['contact']
export type FeedSheet = Models['FeedSheet']
export type Finding = Models['Finding']
export type Gear = Student['gear'][number]
export type HeadKnock = Models['HeadKnockLine']
export type MedicalHold = NonNullable<Student['hold']>
export type Away = RunLine['away']
export type Comparison = Models['ComparisonView']
export type Figure = Models['Figure']
export type FigureFrame = Models['FigureFrame']
export type GapSheet = Models['GapSheet']
export type Passage = Models['Passage']
export type TempoSuggestion = Models['TempoSuggestion']
export type Grade = Models['Graded']['grade']
export type MarksAck = Models['MarksAck']
export type SecondFactorBegun = Models['SecondFactorBegun']
export type HomeView = Models['HomeView']
export type HomePlanned = Models['HomePlanned']
export type HomeWord = NonNullable<Models['HomeRunView']['said']>
export type PracticeList = Models['PracticeList']
export type HeldAnswer = Models['HeldView']
export type PairAsk = Models['PairRequest']
export type PairLine = Models['PartnerRunLine']
export type PairMark = NonNullable<Models['MarksRequest']['marks']>[number]
export type PairReadout = Models['PartnerReadout']
export type PairRun = Models['PartnerRunView']
export type RoundPosition = NonNullable<Models['StandsView']['stands']>
export type PairStart = Models['StartView']
export type PairShare = PairReadout['reading']['overall']
export type PartnerRung = Models['PartnerRung']
export type PartnerAsk = Models['PartnerBenchRequest']
export type PartnerDrawn = Models['PartnerBenchView']
export type PartnerStep = Models['PartnerStep']
export type StudentBody = Models['StudentRequest']
export type Way = Models['Way']

/** Whether a version is one of a solo drill. */
export function isSolo(view: AnyView): view is DrillView {
  return view.document.form === 'solo'
}

/** Whether a version is one of a partner drill. */
export function isPartner(view: AnyView): view is PartnerDrillView {
  return view.document.form === 'partner'
}
