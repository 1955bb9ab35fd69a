/**
 * What the water makes of a role: a `sheet` is an underlayer that should stay dry once the covering is on; `flat metal` has neither hem nor rib
 * nor cross-fall, `shaped metal` a hem or rib, `channel metal` falls to its middle from both sides; water leaves the roof well over `eave metal` and `edge metal`; a `wall finish` sheds on a wall.
 */
export type RoleSurface =
  | 'sheet'
  | 'covering'
  | 'flat metal'
  | 'shaped metal'
  | 'channel metal'
  | 'eave metal'
  | 'edge metal'
  | 'wall finish';

type RoleOf = {
  readonly name: string;
  readonly surface: RoleSurface;
  /** `through`: its hidden edges show through what is laid over it, dashed. */
  readonly drawn: 'laid' | 'through';
  /** On which drawing of a detail its mark is written on it. */
  readonly lettered: 'slope' | 'wall' | 'nowhere';
};

/** The one place that says what a role is. */
export const ROLES = {
  gutterApron: { name: 'gutter apron', surface: 'eave metal', drawn: 'laid', lettered: 'nowhere' },
  dripEdge: { name: 'drip edge', surface: 'eave metal', drawn: 'laid', lettered: 'nowhere' },
  iceBarrier: { name: 'ice barrier', surface: 'sheet', drawn: 'laid', lettered: 'nowhere' },
  wallMembrane: { name: 'wall membrane', surface: 'sheet', drawn: 'laid', lettered: 'nowhere' },
  edgeSeal: { name: 'edge-sealing strip', surface: 'sheet', drawn: 'laid', lettered: 'nowhere' },
  underlayment: { name: 'underlayment', surface: 'sheet', drawn: 'laid', lettered: 'nowhere' },
  rakeMetal: { name: 'rake metal', surface: 'edge metal', drawn: 'laid', lettered: 'nowhere' },
  starter: { name: 'starter', surface: 'covering', drawn: 'laid', lettered: 'nowhere' },
  course: { name: 'course', surface: 'covering', drawn: 'laid', lettered: 'nowhere' },
  dummyCourse: { name: 'dummy course', surface: 'covering', drawn: 'through', lettered: 'slope' },
  kickOut: { name: 'kick-out', surface: 'flat metal', drawn: 'through', lettered: 'nowhere' },
  apronEnd: { name: 'apron end', surface: 'flat metal', drawn: 'through', lettered: 'nowhere' },
  apron: { name: 'apron', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  cornerPan: { name: 'inside-corner pan', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  capStrip: { name: 'cap strip', surface: 'flat metal', drawn: 'laid', lettered: 'wall' },
  step: { name: 'step flashing', surface: 'flat metal', drawn: 'through', lettered: 'nowhere' },
  soaker: { name: 'soaker', surface: 'flat metal', drawn: 'through', lettered: 'nowhere' },
  coverFlashing: { name: 'cover flashing', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  channel: { name: 'channel', surface: 'channel metal', drawn: 'through', lettered: 'slope' },
  panFlashing: { name: 'pan flashing', surface: 'channel metal', drawn: 'through', lettered: 'slope' },
  channelFoot: { name: 'channel foot', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  channelPatch: { name: 'side-channel flashing', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  interlay: { name: 'felt interlay', surface: 'covering', drawn: 'laid', lettered: 'nowhere' },
  pan: { name: 'back pan', surface: 'shaped metal', drawn: 'through', lettered: 'slope' },
  cricket: { name: 'cricket', surface: 'channel metal', drawn: 'through', lettered: 'slope' },
  valleySheet: { name: 'valley sheet', surface: 'sheet', drawn: 'laid', lettered: 'nowhere' },
  valleyFoot: { name: 'valley foot', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  valleyLining: { name: 'valley lining', surface: 'channel metal', drawn: 'through', lettered: 'slope' },
  valleyEdge: { name: 'long edge shingles', surface: 'covering', drawn: 'laid', lettered: 'slope' },
  boot: { name: 'boot', surface: 'shaped metal', drawn: 'through', lettered: 'slope' },
  collar: { name: 'membrane collar', surface: 'sheet', drawn: 'laid', lettered: 'nowhere' },
  sill: { name: 'sill flashing', surface: 'flat metal', drawn: 'through', lettered: 'slope' },
  head: { name: 'head flashing', surface: 'shaped metal', drawn: 'through', lettered: 'slope' },
  frameBand: { name: 'frame band', surface: 'sheet', drawn: 'laid', lettered: 'wall' },
  frame: { name: 'frame', surface: 'wall finish', drawn: 'laid', lettered: 'nowhere' },
  throughWall: { name: 'through-wall flashing', surface: 'wall finish', drawn: 'laid', lettered: 'wall' },
  ledge: { name: 'ledge metal', surface: 'wall finish', drawn: 'laid', lettered: 'wall' },
  ridgeCap: { name: 'ridge cap', surface: 'covering', drawn: 'laid', lettered: 'nowhere' },
  topSeal: { name: 'top-edge strip', surface: 'wall finish', drawn: 'laid', lettered: 'nowhere' },
  counter: { name: 'counterflashing', surface: 'wall finish', drawn: 'laid', lettered: 'wall' },
  cladding: { name: 'cladding', surface: 'wall finish', drawn: 'laid', lettered: 'nowhere' },
} as const satisfies Record<string, RoleOf>;
export type Role = keyof typeof ROLES;

/** What is turned up a pipe and closes round it. */
export const closesRoundPipe = (role: Role): boolean => role === 'boot' || role === 'collar';

/** One piece a course beside a wall: a step flashing, or a soaker under a cover flashing. */
export const isSidePiece = (role: Role): boolean => role === 'step' || role === 'soaker';

/** In lengths beside a wall: over tiles, or under them. */
export const isSideLength = (role: Role): boolean => role === 'coverFlashing' || role === 'panFlashing';

/** What stands beside a wall: one piece a course, or a length of metal over or under tiles. */
export const isBesideWall = (role: Role): boolean => isSidePiece(role) || isSideLength(role);

/** Metal that sheds water on the slope, as against what edges it or stands on a wall. */
export const isSheddingMetal = (role: Role): boolean => {
  const { surface } = ROLES[role];
  return surface === 'flat metal' || surface === 'shaped metal' || surface === 'channel metal';
};
