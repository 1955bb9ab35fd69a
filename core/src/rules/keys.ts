import type { KeyKind, RuleUnit } from './values.ts';

export type KeyInfo = {
  readonly meaning: string;
  readonly kind: KeyKind;
  /** Used, and reported as assumed, when no source of the job speaks on the key. Written like a rule value. */
  readonly assumed: { readonly value: number | string | boolean; readonly unit?: RuleUnit };
  /** What is assumed bounds it from above: a spacing, the longest piece. Else from below. */
  readonly atMost?: true;
};

const length = (meaning: string, value: number): KeyInfo => ({ meaning, kind: 'length', assumed: { value, unit: 'in' } });
const count = (meaning: string, value: number): KeyInfo => ({ meaning, kind: 'count', assumed: { value, unit: 'count' } });
const ratio = (meaning: string, value: number): KeyInfo => ({ meaning, kind: 'ratio', assumed: { value, unit: 'ratio' } });
const atMost = (info: KeyInfo): KeyInfo => ({ ...info, atMost: true });
const yesNo = (meaning: string, value: boolean): KeyInfo => ({ meaning, kind: 'yesNo', assumed: { value } });
const choice = (meaning: string, value: string): KeyInfo => ({ meaning, kind: 'choice', assumed: { value } });

/** Every requirement the planner asks about. A pack may speak only on these keys. */
export const KEYS = {
  'covering.pitch': { meaning: 'pitch of the slope under this covering', kind: 'pitch', assumed: { value: 2, unit: 'x12' } },
  'covering.exposure': atMost(length('exposure of a course', 5)),
  'covering.headlap': length('headlap of a slate or plain tile over the course after next', 3),
  'tile.headlap': length('headlap of a single-lap tile over the course below', 3),
  'covering.firstButt': length('first butt past the deck’s eave edge', 0.25),
  'covering.gapAtWall': length('covering cut short of a wall, left open as a water channel', 0.375),
  'covering.jointOffset': length('joint of a course from the joints of the course below', 4),
  'covering.nails': count('nails in each shingle, slate or shake', 4),
  'covering.leastNails': count('nails in the smallest piece of the covering', 2),
  'covering.leastPiece': length('narrowest piece of the covering', 8),
  'starter.nails': count('nails in each starter', 4),
  'shake.gap': length('gap between shakes', 0.375),
  'ventilation.balanced': atMost(count('attic floor for each part of net free area, vents at eaves and ridge balanced', 300)),
  'ventilation.other': atMost(count('attic floor for each part of net free area, not balanced', 150)),
  'ridgeCap.nails': count('nails in each ridge cap', 2),
  'nail.embedment': length('nail into the deck (or through it)', 0.75),
  'fieldNails.fromWall': length('field nail from a wall', 6),
  'sidewall.nailSchool': choice('how the covering is nailed beside a wall', 'clear-of-wall'),
  'flashing.thickness': length('thickness of flashing metal', 0.019),
  'stepFlashing.perCourse': yesNo('one flashing piece a course along a sidewall, not one long piece', true),
  'stepFlashing.headlap': length('step flashing lapped under the next piece', 2),
  'stepFlashing.roofLeg': length('step flashing leg on the roof', 4),
  'stepFlashing.wallLeg': length('step flashing leg up the wall', 4),
  'stepFlashing.nails': count('nails in a step flashing', 1),
  'stepFlashing.nailSide': choice('a step flashing is nailed to the deck or to the wall, never both', 'deck'),
  'stepFlashing.topSealed': yesNo('self-adhered strip over the steps’ top edges', true),
  'kickOut.required': yesNo('kick-out where an eave ends against a wall that runs on', true),
  'kickOut.height': length('height of the kick-out', 4),
  'kickOut.angle': {
    meaning: 'angle of the kick-out’s diverter with the wall',
    kind: 'angle',
    assumed: { value: 100, unit: 'deg' },
  },
  'apron.end': length('apron carried past an outside corner', 4),
  'cladding.clearance': length('gap between cladding and covering', 1),
  'apron.roofLeg': length('apron’s leg on the roof', 4),
  'apron.wallLeg': length('apron’s leg up the wall', 4),
  'apron.lap': length('end laps of aprons, pans and valley edges', 4),
  'headwall.lastCourse': length('last course under an apron, butt to wall', 8),
  'chimney.cricketOver': atMost(length('widest chimney or penetration without a cricket', 30)),
  'chimney.clearance': length('wood framing from a masonry chimney', 2),
  'cricket.upstand': length('cricket’s upstand on the chimney', 6),
  'cricket.flange': length('cricket’s flange on the roof past the valley line', 6),
  'pan.up': length('back pan up the roof under the courses', 12),
  'pan.upstand': length('back pan up the chimney', 6),
  'pan.past': length('back pan past the sides', 6),
  'counterflashing.stepSpacing': length('level spacing of stepped counterflashing', 4),
  'soaker.under': length('soaker under the covering', 4),
  'soaker.up': length('soaker up the wall', 3),
  'soaker.turned': length('soaker longer than the course, turned down over its head', 1),
  'soaker.thickness': length('thickness of a soaker', 0.05),
  'cover.roofLeg': length('cover flashing’s leg on tiles', 6),
  'cover.pastCrown': length('flashing on profiled tiles past the crown it reaches', 1),
  'cover.up': length('cover flashing up the wall', 3),
  'cover.lap': length('end laps of a cover flashing', 4),
  'cover.longest': atMost(length('longest piece of a cover flashing', 59)),
  'cover.clips': atMost(length('clips along the free edge of a cover flashing', 18)),
  'channel.lap': length('laps of a channel under tiles, the upper length over the lower', 6),
  'channel.free': length('room left beside a channel for it to move', 0.1),
  'channel.freeboard': length('a channel’s side above the water in it', 1),
  'counterflashing.aboveBase': length('joint or reglet above the base flashing’s top', 0.5),
  'throughWall.rise': length('through-wall flashing up the backup wall', 8),
  'throughWall.endLap': length('end laps of through-wall flashing', 6),
  'throughWall.endDam': length('end dams of through-wall flashing', 2),
  'throughWall.inflowSound': ratio('share of the rain on a face that sound, pointed masonry lets into the cavity', 0.1),
  'throughWall.inflowOpen': ratio('share of the rain on a face that open joints let into the cavity', 0.3),
  'throughWall.weeps': atMost(length('spacing of weeps', 33)),
  'skylight.headCourse': length('head course unbroken past each side of a skylight', 8),
  'skylight.tape': length('frame tape on to the deck', 4),
  'pipe.showing': length('flange showing below the first course over it', 2),
  'pipe.flueShowing': length('metal flue base showing below the first course over it', 5),
  'pipe.cover': length('flange and covering above the cut-out round a pipe', 2),
  'pipe.besideOnTile': length('base past the pipe on each side, on flat tiles', 4),
  'pipe.gap': length('gap round a pipe', 0.25),
  'pipe.fromValley': length('pipe’s flange from a valley’s centre or a wall', 12),
  'valley.sheet': length('width of the self-adhered sheet in a valley', 36),
  'valley.lining': length('width of metal lining in an open valley', 24),
  'valley.liningLap': length('laps of valley lining', 12),
  'valley.cross': length('shingles cross a valley’s centre by', 12),
  'valley.noNail': length('nails from a valley’s centre', 6),
  'valley.openTop': length('open valley between the chalk lines at its top', 6),
  'valley.widening': length('open valley widening for each foot downward', 0.125),
  'valley.trim': length('cut side trimmed back from a valley’s centre', 2),
  'valley.cleats': atMost(length('spacing of valley cleats', 12)),
  'valley.longEdge': yesNo('long-edge cut valley within the covering’s warranty', false),
  'valley.woven': yesNo('this covering may be woven in a valley', false),
  'counterflashing.cover': length('counterflashing over the base flashing’s leg', 2),
  'counterflashing.endLap': length('end lap of counterflashing', 3),
  'counterflashing.reglet': length('depth of the reglet or raked joint', 1),
  'counterflashing.clearance': length('counterflashing’s lower edge clear of the covering', 1),
  'counterflashing.wedges': atMost(length('spacing of the wedges in a reglet', 18)),
  'eave.order': choice('ice barrier and eave metal: which goes first', 'metal-first'),
  'edgeMetal.required': yesNo('edge metal at eaves and rakes', true),
  'edgeMetal.lap': length('end lap of edge metal', 2),
  'edgeMetal.onDeck': length('edge metal’s flange on the deck', 2),
  'edgeMetal.belowSheathing': length('edge metal below the sheathing', 0.25),
  'edgeMetal.fastenerSpacing': atMost(length('spacing of edge metal’s fasteners', 12)),
  'edgeMetal.dripGap': length('drip of the edge metal clear of the fascia', 0.5),
  'iceBarrier.required': yesNo('ice barrier along the eaves', false),
  'iceBarrier.insideWall': length('ice barrier inside the exterior wall line, measured level', 24),
  'iceBarrier.alongSlope': length('ice barrier along the slope from the eave edge', 0),
  'iceBarrier.laying': {
    meaning: 'air and deck no colder when self-adhered sheet is laid',
    kind: 'temperature',
    assumed: { value: 4, unit: 'C' },
  },
  'iceBarrier.uncovered': atMost({
    meaning: 'self-adhered sheet left uncovered',
    kind: 'time',
    assumed: { value: 30, unit: 'days' },
  }),
  'iceBarrier.sideLap': length('side lap of ice barrier rows', 3),
  'iceBarrier.endLap': length('end lap of ice barrier strips', 6),
  'iceBarrier.fold': length('ice barrier folded down over the deck edge (barrier first)', 1),
  'wallMembrane.up': length('membrane up a wall', 6),
  'wallMembrane.deck': length('wall membrane on to the deck', 6),
  'sheet.isRoof': yesNo('the sheet under tiles is the roof and sheds what they let through', false),
  'underlayment.layers': count('layers of underlayment', 1),
  'underlayment.sideLap': length('side lap of underlayment', 2),
  'underlayment.endLap': length('end lap of underlayment', 4),
  'underlayment.endLapStagger': length('end laps of neighbouring underlayment rows apart', 72),
} as const satisfies Record<string, KeyInfo>;

export type RuleKey = keyof typeof KEYS;

/** All of them, in the order they are told. */
export const RULE_KEYS = Object.keys(KEYS) as RuleKey[];

export const isRuleKey = (key: string): key is RuleKey => Object.hasOwn(KEYS, key);

export const keyInfo = (key: RuleKey): KeyInfo => KEYS[key];
