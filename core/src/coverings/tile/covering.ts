import {
  type Assembly,
  type Fastener,
  type Finding,
  type Piece,
  type Step,
  type Words,
  cut,
  emptyAssembly,
  inCourse,
  mm,
  piecesOf,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, itemById, itemsOf } from '../../catalog/index.ts';
import { coveringOfKind, isSlanted } from '../../document/index.ts';
import { type Span, bounds, spanNear, subtractSpans } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, channelAt, faceAt, liningStock, rakeStretches, tileFaultsOn } from '../../slope/index.ts';
import { buttLine, chalkLine, columnStart, widestGauge } from '../../surface/index.ts';
import { LINE_TOLERANCE, isAtLeast, isOver } from '../../units/index.ts';
import { courseOutlines, slopeFacet } from '../courses.ts';
import { ridgePieces, ridgeSteps } from '../ridge.ts';
import {
  type Course,
  FROM_JOINT_ABOVE,
  type Row,
  courseOf,
  coursePiece,
  headlapFindings,
  looseFindings,
  markOf,
  meetsCaps,
  nailGroundAt,
  nailsIn,
  noNailFinding,
  overhangFindings,
  rowOf,
  unitsOf,
  widthFinding,
} from '../rows.ts';
import { battensOf, damFindings } from './battens.ts';
import { everyAlong, lockedColumns, pitchOf } from './columns.ts';
import { battenAbove, tilesOf } from './tiles.ts';

/** What is left over at a verge is less than a saw's width. */
const SAW = 1;
/** A nail goes through the hole beside the nib into the batten, this far below its upper edge (trade practice). */
const BELOW_BATTEN_EDGE = 10;
/** And this far in from a tile's edges. */
const FROM_EDGE = 30;

/** The covering of one plane in tiles: battens, a piece a course in its columns, nails by the maker's zones, and the ridge. */
export function planTiles(context: PlaneContext): Assembly {
  const { catalog, rules, covering } = context;
  const { tile } = tilesOf(context);
  const long = tile.thickness + leastOf(rules, 'nail.embedment');
  const nail = chooseNail(catalog, 'roofing', long, covering.metal);
  const ridge = itemById(catalog, 'ridgeCap', coveringOfKind(context, 'singleLap').ridge);
  const all = coursesOf(context);
  const [clip] = itemsOf(catalog, 'tileClip');
  const held = all.map((course) => heldIn(context, course, nail));
  return {
    ...emptyAssembly,
    facets: [slopeFacet(context)],
    pieces: [...all.map((course) => pieceOf(context, course)), ...ridgePieces(context, ridge)],
    fasteners: held.flatMap(({ fasteners }) => fasteners),
    steps: [...battensOf(context), ...held.map((one) => stepOf(context, one, clip)), ...ridgeSteps(context, ridge)],
    findings: [
      ...(nail ? [] : [noNailFinding(context, long)]),
      ...(clip
        ? []
        : looseFindings(context, held, {
            one: 'tile',
            many: 'tiles',
            nails: 'a nail',
            severity: 'worth a look',
            fix: 'Hold each with a clip or a wire, and add the clip to the catalog.',
          })),
    ],
  };
}

const coursesOf = (context: PlaneContext): Course[] =>
  Array.from({ length: context.lines.count }, (_, i) => {
    const n = i + 1;
    return courseOf(n, courseOutlines(context, n), (span) => columnsIn(context, n, upToSlant(context, n, span)));
  }).filter(({ outlines }) => outlines.length > 0);

/** A stretch that runs up against a wall at an angle, as wide as it is where it is narrowest: there its last tile is measured. */
function upToSlant({ walls, lines }: PlaneContext, n: number, [from, to]: Span): Span {
  let span: Span = [from, to];
  for (const wall of walls.filter(isSlanted)) {
    const at = [buttLine(lines, n), Math.min(chalkLine(lines, n), lines.end)].map((y) => faceAt(wall, y));
    if (wall.stands === 'right' && Math.max(...at) >= to - SAW) span = [span[0], Math.min(to, ...at)];
    if (wall.stands === 'left' && Math.min(...at) <= from + SAW) span = [Math.max(from, ...at), span[1]];
  }
  return span;
}

/**
 * A stretch of a course in its columns, which run up the whole slope from the end they are laid from, the one away from the open side channel; in broken bond
 * every other course is moved by half a tile. What would be under half a tile at an end is one with its neighbour, cut from a tile and a half.
 */
function columnsIn(context: PlaneContext, n: number, span: Span): Row {
  const { tile } = tilesOf(context);
  const columns = lockedColumns(context);
  const joints = everyAlong(span, columnStart(columns, n), columns.width);
  return rowOf(span, joints, (from, to) => isAtLeast(to - from + LINE_TOLERANCE, columns.width / 2), 1.5 * tile.cover + SAW);
}

type Counted = { readonly whole: number; readonly parts: number[]; readonly wide: number[] };

/** How many tiles of each kind a course takes: whole ones, cut ones, and those from one half as wide again. */
function countIn(context: PlaneContext, course: Course): Counted {
  const { tile } = tilesOf(context);
  const { cover, play } = tile;
  const widths = unitsOf(course).map(([from, to]) => to - from);
  const wide = widths.filter((width) => isOver(width, cover + play + LINE_TOLERANCE));
  const parts = widths.filter((width) => width < cover - play - LINE_TOLERANCE);
  return { whole: widths.length - wide.length - parts.length, parts, wide };
}

function pieceOf(context: PlaneContext, course: Course): Piece {
  const { whole, parts } = countIn(context, course);
  const { joints = [], ...piece } = coursePiece(context, course, {
    product: tilesOf(context).tile.id,
    units: { whole, parts },
    keys: ['covering.pitch', 'tile.headlap', 'covering.nails', 'covering.gapAtWall'],
  });
  const crowns = context.surface.crowns?.filter((x) => course.rows.some(({ span: [from, to] }) => x > from && x < to));
  const drips = tileFaultsOn(context)
    .filter((fault) => fault.course === course.n && fault.feature.fault !== 'tile cracked')
    .map((fault) => [channelAt(context, fault), fault.y] as const);
  return { ...piece, locks: joints, ...(crowns ? { crowns } : {}), ...(drips.length > 0 ? { drips } : {}) };
}

/** Is a tile fixed, the `i`th of so many in its stretch? All from the maker's pitch on; those near an edge; between them every so many courses. */
const isFixed = ({ lines, angle }: PlaneContext, { fixing }: ItemOf<'tile'>, n: number, i: number, of: number): boolean =>
  angle >= (fixing.allFromDegrees * Math.PI) / 180 || fromEdge(lines, n, i, of) < fixing.edge || n % fixing.every === 0;

/** How many tiles stand between one, the `i`th of so many in its stretch, and the nearest edge. */
const fromEdge = ({ count }: PlaneContext['lines'], n: number, i: number, of: number): number =>
  Math.min(n - 1, count - n, i, of - 1 - i);

/** How the tiles of a course are held: their nails, those that have no room or cover for one, and how many have a clip, these among them (trade practice). */
type Held = { readonly course: Course; readonly fasteners: Fastener[]; readonly loose: Span[]; readonly clips: number };

function heldIn(context: PlaneContext, course: Course, nail: ItemOf<'nail'> | undefined): Held {
  const { lines, facet, rules } = context;
  const { tile } = tilesOf(context);
  const { n, outlines } = course;
  if (!nail) return { course, fasteners: [], loose: [], clips: 0 };
  const y = Math.min(battenAbove(buttLine(lines, n), tile) - BELOW_BATTEN_EDGE, lines.end - BELOW_BATTEN_EDGE);
  // what begins above its tails lies over this course, and its nails under it
  const under = context.metalAt(y, y).filter((outline) => bounds(outline).y0 <= buttLine(lines, n) + LINE_TOLERANCE);
  const ground = subtractSpans(nailGroundAt({ ...context, metalAt: () => under }, outlines, y), overLinings(context, y));
  const wet = alongRakes(context, y);
  const dry = subtractSpans(ground, wet);
  const each = leastOf(rules, 'covering.nails');
  // a nail that nothing is to lie over lets water in
  const isBare = n === lines.count && context.fronts.some((front) => front.apron === 'left out' && front.y > lines.end - 1);
  const fasteners: Fastener[] = [];
  const loose: Span[] = [];
  let clips = 0;
  for (const row of course.rows)
    for (const [i, unit] of unitsOf({ rows: [row] }).entries()) {
      const of = row.joints.length + 1;
      const isClipped = fromEdge(lines, n, i, of) < tile.fixing.clipped;
      if (isClipped) clips++;
      if (!isFixed(context, tile, n, i, of)) continue;
      const apart = each > 1 ? FROM_EDGE : Number.POSITIVE_INFINITY;
      const usual = isBare ? [] : nailsIn(unit, ground, FROM_EDGE, apart);
      const spots = usual.some((x) => wet.some(([a, b]) => x > a && x < b)) ? nailsIn(unit, dry, FROM_EDGE, apart) : usual;
      // what a hip or ridge unit lies over is clamped with it
      if (spots.length === 0 && !meetsCaps(context, unit, y)) {
        loose.push(unit);
        if (!isClipped) clips++;
      }
      for (const x of spots)
        fasteners.push({ piece: markOf(n), facet, at: [x, y], product: nail.id, keptDry: 'covered', into: 'batten' });
    }
  return { course, fasteners, loose, clips };
}

/** At a height, where an open valley's lining lies: it must move, so nothing is driven through it (trade practice). */
function overLinings(context: PlaneContext, y: number): Span[] {
  const open = context.valleys.filter(({ role }) => role === 'open');
  if (open.length === 0) return [];
  const half = Math.max(...[true, false].map((ribbed) => liningStock(context, ribbed)?.first ?? 0));
  return open.flatMap(({ low, high }): Span[] => {
    const near = spanNear(low, high, half, y);
    return near ? [near] : [];
  });
}

/** At a height, what lies so near a rake that water which hangs at the tiles' ends there creeps in as far. */
const alongRakes = (context: PlaneContext, y: number): Span[] =>
  (['left', 'right'] as const).flatMap((side) =>
    rakeStretches(context, side)
      .filter(({ from, to }) => y > from && y < to)
      .map(({ x }): Span => (side === 'left' ? [x, x + FROM_JOINT_ABOVE] : [x - FROM_JOINT_ABOVE, x])),
  );

/** Tiles are set out by tens: their play is too small for a tape. */
const TEN = 10;

function stepOf(context: PlaneContext, { course, fasteners, loose, clips }: Held, clip: ItemOf<'tileClip'> | undefined): Step {
  const { lines } = context;
  const { n } = course;
  const { tile, wide } = tilesOf(context);
  const count = countIn(context, course);
  const pitch = pitchOf(context);
  const opened: Words =
    Math.abs(pitch - tile.cover) > 0.05
      ? [`, ${pitch > tile.cover ? 'opened' : 'closed'} so that ${TEN} measure `, cut(TEN * pitch)]
      : [];
  const parts = count.parts.flatMap((width, i): Words => [i > 0 ? ', ' : ', cut ones ', cut(width)]);
  const tops: Words = chalkLine(lines, n) > lines.end + LINE_TOLERANCE ? ['; heads cut off at the top, ', mm(lines.end)] : [];
  return {
    lay: inCourse(context, n, 'shingles'),
    detail: 'covering',
    course: n,
    stage: 'covering',
    action: [
      `Lay course ${n} from the ${tile.channel === 'left' ? 'right' : 'left'}, tails `,
      ...(n === 1 ? [mm(-lines.first), ' past the eave'] : ['on ', mm(buttLine(lines, n))]),
      `: ${count.whole} whole`,
      ...opened,
      ...parts,
      ...(count.wide.length > 0
        ? [
            `, ${count.wide.length} from a tile and a half, `,
            ...count.wide.flatMap((width, i): Words => [i > 0 ? ' and ' : '', cut(width)]),
          ]
        : []),
      ...tops,
      '.',
    ],
    pieces: [markOf(n)],
    fasteners: [
      ...nailsWords(fasteners.length, unitsOf(course).length, tile),
      ...(clips > 0 ? clipsWords(clips, loose.length, tile) : []),
    ],
    uses: [
      ...(count.wide.length > 0 && wide ? [piecesOf(wide, wide.name, count.wide.length)] : []),
      ...(clips > 0 ? [piecesOf(clip, 'tile clip', clips)] : []),
    ],
    people: 1,
    ...(n === 1
      ? {
          holdPoint: 'first tails in line and lifted by the fillet, columns square to the eave',
          caution: 'Tie off; cutting makes silica dust: wet cutting or extraction, mask.',
        }
      : {}),
    keys: ['tile.headlap', 'covering.nails'],
  };
}

/** Which tiles of a course are nailed, and where. */
const nailsWords = (nails: number, tiles: number, { fixing }: ItemOf<'tile'>): Words =>
  nails === 0
    ? ['0 nails: this course hangs on its batten']
    : [
        `${nails} ${nails === 1 ? 'nail' : 'nails'}, ${nails >= tiles ? 'one to a tile' : `${fixing.edge} tiles at each end`}, through the hole beside the nib into the batten`,
      ];

/** Which of them are clipped: by the maker's zone, and those that have no room or cover for their nail. */
const clipsWords = (clips: number, loose: number, { fixing: { clipped } }: ItemOf<'tile'>): Words => [
  `; ${clips} ${clips === 1 ? 'clip' : 'clips'} on the batten: ${[
    ...(clipped > 0 ? [`${clipped === 1 ? 'the outermost tile' : `${clipped} tiles`} along every edge`] : []),
    ...(loose > 0 ? [`${loose} ${loose === 1 ? 'tile' : 'tiles'} without room or cover for a nail`] : []),
  ].join(', ')}`,
];

/** What is to be said of the tiles of a slope as they are laid out: overhang, the lap where courses were measured, tiles under half a one wide. */
export function tileFindings(context: PlaneContext): Finding[] {
  const { lines } = context;
  const { tile, wide } = tilesOf(context);
  const lap = lines.count > 1 ? tile.height - widestGauge(lines) : tile.height;
  const odd = coursesOf(context).find(
    (course) =>
      unitsOf(course).some(([from, to]) => to - from < tile.cover / 2 - tile.play - LINE_TOLERANCE) ||
      (!wide && countIn(context, course).wide.length > 0),
  );
  return [
    ...overhangFindings(context),
    ...headlapFindings(context, lap, 'tile.headlap', 'Lay them closer.'),
    ...damFindings(context),
    ...(odd
      ? [
          widthFinding(
            context,
            odd.n,
            `a tile ${wide ? 'narrower than half a one' : 'wider than there is'}`,
            wide ? 'Move the verge, or what stands beside it.' : 'Choose a tile and a half under Covering.',
          ),
        ]
      : []),
  ];
}
