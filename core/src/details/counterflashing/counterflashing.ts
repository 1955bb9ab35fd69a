import {
  type Assembly,
  type Cover,
  type DetailSheet,
  type Finding,
  type Piece,
  type Step,
  type Use,
  type Words,
  assemble,
  bead,
  beforeAll,
  coat,
  cut,
  cutRun,
  doneBy,
  emptyAssembly,
  lengths,
  mm,
  rightAfter,
  wallFinish,
} from '../../assembly/index.ts';
import { chooseLengthMetal, coatingFor, itemsOf, sealantFor } from '../../catalog/index.ts';
import { type Outline, type Point, rectangle, slopeFactor } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import {
  type Front,
  type PlacedWall,
  type PlaneContext,
  backFacet,
  behind,
  counterSteps,
  cricketBehind,
  cutFromSheet,
  detailOf,
  foldedInside,
  foldedOnto,
  foldedRound,
  footprint,
  lowestJoint,
  onWall,
  pickStep,
  stepMark,
  stepsOf,
  wallFacetId,
} from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { steppedFlat } from './stepped.ts';

const KEYS: RuleKey[] = [
  'counterflashing.cover',
  'counterflashing.clearance',
  'counterflashing.endLap',
  'counterflashing.reglet',
  'counterflashing.wedges',
  'flashing.thickness',
];
const STEPPED_KEYS: RuleKey[] = [...KEYS, 'counterflashing.stepSpacing', 'counterflashing.aboveBase'];

/** What is let into masonry over base flashing, wall by wall: stepped in the joints, in a straight reglet, or the old one made good. */
export const planCounterflashing = (context: PlaneContext): Assembly =>
  doneBy(
    'masons',
    assemble([
      ...context.walls
        .filter(({ cladding }) => cladding === 'masonry')
        .map((wall) =>
          wall.counter === 'stepped' || wall.counter === 'trays' ? planStepped(context, wall) : planReglet(context, wall),
        ),
      ...context.fronts
        .filter(({ cladding, counter }) => cladding === 'masonry' && counter !== 'through-wall')
        .map((front) => planFront(context, front)),
      ...context.features.flatMap((feature) =>
        feature.kind === 'chimney' && feature.masonry ? [planChimneyBack(context, feature.id)] : [],
      ),
    ]),
  );

const lowEdge = ({ rules, surface }: PlaneContext): number => leastOf(rules, 'counterflashing.clearance') + surface.thickness;

/** The masonry's own face: there before the job, it sheds on to the counterflashing. */
const face = (facet: string, detail: string, mark: string, outline: Outline): Piece => ({
  mark,
  detail,
  role: 'cladding',
  covers: [{ facet, outline, holds: ['open'] }],
  lay: beforeAll(),
  liesOn: [],
  keys: [],
});

const noStock = (id: string, name: string, metal: string, depth: number, drop: number, piece: string): Finding => ({
  id: `${id}.counter`,
  severity: 'leaks',
  sentence: [`${name}: the catalog has no ${metal} counterflashing that goes `, cut(depth), ' into the reglet and down ', cut(drop), ', so nothing covers the base flashing’s top edge.'], // prettier-ignore
  fix: ['Add the stock to the catalog, or choose another metal.'],
  piece,
  key: 'counterflashing.cover',
});

/** Sealant along what is let into masonry. */
function jointSealant({ catalog }: PlaneContext, run: number): Use {
  const sealant = sealantFor(catalog, 'joint');
  return bead(sealant, 'polyurethane sealant', run, sealant?.bead ?? inches(0.25));
}

const MASONRY_CAUTION = 'Silica dust: wet cutting or extraction, mask; eyes and ears.';

/** Stepped in the joints: every piece by itself, from the downhill end up. */
function planStepped(context: PlaneContext, wall: PlacedWall): Assembly {
  const { rules, plane } = context;
  const { item } = pickStep(context, wall);
  if (!item) return emptyAssembly;
  const k = slopeFactor(plane.pitch);
  const m = plane.pitch;
  const [start, end] = [wall.from / k, wall.to / k];
  const steps = stepsOf(context, wall, item.wallLeg);
  const low = lowEdge(context);
  const depth = leastOf(rules, 'counterflashing.reglet');
  const facet = wallFacetId(context, wall);
  const detail = detailOf(wall);
  const pieces = Array.from({ length: steps.pieces }, (_, i): Piece => {
    const a = start + i * steps.spacing - (i === 0 ? 0 : steps.lap);
    const b = Math.min(start + (i + 1) * steps.spacing, end);
    const top = m * (start + (i + 1) * steps.spacing) + steps.lowest;
    const at = (x: number): Point => [x, m * x + low * k];
    // the lowest and the uppermost are turned round the corners
    const turned = (end: 'front' | 'back', foot: number): Cover[] =>
      foldedOnto(context, wall, {
        end,
        reach: steps.lap,
        low: low * k,
        high: top - m * foot,
        holds: ['open', 'open', 'letIn', 'open'],
      });
    const inside = (): Cover[] =>
      foldedInside(context, wall, {
        reach: steps.lap,
        low: low * k,
        high: top - m * end,
        holds: ['open', 'open', 'letIn', 'open'],
      });
    const corners = [
      ...(i === 0 ? turned('front', start) : []),
      ...(i === steps.pieces - 1 ? [...turned('back', end), ...inside()] : []),
    ];
    const flat = steppedFlat(b - a + corners.length * steps.lap, top - m * a, m, low, depth);
    return {
      mark: `${wall.id}-R${String(i + 1).padStart(2, '0')}`,
      detail,
      role: 'counter',
      ...cutFromSheet(context, flat),
      covers: [{ facet, outline: [at(a), at(b), [b, top], [a, top]], holds: ['open', 'open', 'letIn', 'open'] }, ...corners],
      lay: wallFinish(context, 'stepped', wall.x, wall.from + i),
      liesOn: [i === 0 ? stepMark(wall, 1) : `${wall.id}-R${String(i).padStart(2, '0')}`],
      flat,
      keys: STEPPED_KEYS,
    };
  });
  const lowestAlong = steps.lowest / k;
  const shown = face(
    facet,
    detail,
    `${wall.id}-CL`,
    onWall(context, wall, wall.from, wall.to, lowestAlong, Math.max(wall.height, lowestAlong + 1)),
  );
  return {
    ...emptyAssembly,
    pieces: [shown, ...pieces],
    steps: [
      {
        lay: wallFinish(context, 'stepped', wall.x, 0),
        detail,
        stage: 'finish',
        action: [
          `${wall.name}: rake the joints `,
          cut(depth),
          ` deep; ${pieces.length} pieces of counterflashing stepped ${steps.joints === 1 ? 'a joint' : `${steps.joints} joints`} at a time, `,
          cut(steps.spacing),
          ' level apart, from the downhill end, each ',
          cut(steps.lap),
          ' over the piece below; lower edges ',
          cut(leastOf(rules, 'counterflashing.clearance')),
          ' clear of the covering. Wedges, then sealant or mortar that suits the metal; to the masonry only.',
        ],
        pieces: pieces.map(({ mark }) => mark),
        uses: [jointSealant(context, pieces.length * steps.length)],
        people: 2,
        caution: MASONRY_CAUTION,
        holdPoint: 'Joints raked deep and clean, seen before they are closed',
        keys: STEPPED_KEYS,
      },
    ],
    sheets: wall.face || wall.counter === 'trays' ? [] : [steppedSheet(context, wall, steps, end - start)],
  };
}

function steppedSheet(context: PlaneContext, wall: PlacedWall, steps: ReturnType<typeof counterSteps>, run: number): DetailSheet {
  return {
    detail: wall.id,
    title: `${wall.id} · ${wall.name}`,
    family: 'counterflashing',
    plane: context.facet,
    window: { x0: wall.x - inches(24), x1: wall.x + inches(24), y0: wall.from - inches(6), y1: wall.to },
    figures: [
      { label: 'Level run', value: [mm(run)] },
      {
        label: 'Joints a step',
        value: [`${steps.joints}, `, cut(steps.spacing), ' level apart'],
        key: 'counterflashing.stepSpacing',
      },
      { label: 'Pieces', value: [`${steps.pieces} of `, cut(steps.length)] },
      lowestJoint(context, wall, steps.lowest),
      { label: 'Tall end', value: [cut(steps.tallEnd)] },
      { label: 'Lap, downhill', value: [cut(steps.lap)], key: 'counterflashing.endLap' },
    ],
  };
}

/** A straight reglet parallel to the slope, cut from stock, upper over lower; or the old counterflashing there made good. */
function planReglet(context: PlaneContext, wall: PlacedWall): Assembly {
  const { rules, catalog, covering } = context;
  const { item } = pickStep(context, wall);
  if (!item) return emptyAssembly;
  const low = lowEdge(context);
  const drop = behind(context, item.wallLeg) + leastOf(rules, 'counterflashing.aboveBase') - low;
  const depth = leastOf(rules, 'counterflashing.reglet');
  const stock = chooseLengthMetal(catalog, 'reglet', covering.metal, {
    first: depth,
    second: drop,
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  if (!stock)
    return { ...emptyAssembly, findings: [noStock(wall.id, wall.name, covering.metal, depth, drop, stepMark(wall, 1))] };
  const lap = leastOf(rules, 'counterflashing.endLap');
  const cover = item.wallLeg - low;
  const facet = wallFacetId(context, wall);
  const detail = detailOf(wall);
  const repair = wall.counter === 'repair';
  const k = context.slopeFactor;
  const { pitch } = context.plane;
  // it goes on round the corner as straight as it runs: in front it comes down, but not on to the roof
  const forward = Math.min(lap, ((low * k - inches(0.25)) / pitch) * k);
  const turned = (end: 'front' | 'back', length: number): Cover[] =>
    foldedOnto(context, wall, {
      end,
      reach: length / k,
      low: low * k,
      high: (low + stock.second) * k,
      rise: (end === 'front' ? -pitch : pitch) * (length / k),
      holds: ['open', 'open', 'letIn', 'open'],
    });
  const atFront = turned('front', forward);
  const atBack = [
    ...turned('back', lap),
    ...foldedInside(context, wall, {
      reach: lap,
      low: low * k,
      high: (low + stock.second) * k,
      holds: ['open', 'open', 'letIn', 'open'],
    }),
  ];
  const run = wall.to - wall.from;
  const [before, after] = [atFront.length * forward, atBack.length * lap];
  const pieces = cutRun(before + run + after, stock.length, lap).map((stretch, i, all): Piece => ({
    mark: `${wall.id}-R${i + 1}`,
    detail,
    role: 'counter',
    // an old piece that is refixed is not ordered
    ...(repair ? {} : { product: stock.id }),
    covers: [
      {
        facet,
        outline: onWall(
          context,
          wall,
          wall.from + Math.max(0, stretch.from - before),
          wall.from + Math.min(run, stretch.to - before),
          low,
          low + stock.second,
        ),
        holds: ['open', 'open', 'letIn', 'open'],
      },
      ...(i === 0 ? atFront : []),
      ...(i === all.length - 1 ? atBack : []),
    ],
    lay: wallFinish(context, 'face', wall.x, wall.from + stretch.from - before),
    liesOn: i === 0 ? [stepMark(wall, 1)] : [`${wall.id}-R${i}`],
    cutLength: stretch.to - stretch.from,
    ...(repair ? {} : { flat: regletFlat(stretch.to - stretch.from, stock.first, stock.second) }),
    keys: KEYS,
  }));
  const shown = face(facet, detail, `${wall.id}-CL`, onWall(context, wall, wall.from, wall.to, low + stock.second, wall.height));
  const marks = pieces.map(({ mark }) => mark);
  return {
    ...emptyAssembly,
    pieces: wall.height > low + stock.second ? [shown, ...pieces] : pieces,
    steps: repair
      ? repairSteps(context, wall.name, detail, marks, wall.to - wall.from, wallFinish(context, 'face', wall.x, 0))
      : [
          {
            lay: wallFinish(context, 'face', wall.x, 0),
            detail,
            stage: 'finish',
            action: [
              `${wall.name}: saw the reglet parallel to the slope, `,
              ...regletWords(context, depth, pieces.length, lap),
              cut(cover),
              ' over the steps; ',
              ...wedgeWords(context),
            ],
            pieces: marks,
            uses: [jointSealant(context, wall.to - wall.from)],
            people: 2,
            caution: MASONRY_CAUTION,
            holdPoint: 'Reglet clean and deep enough, seen before the sealant',
            keys: KEYS,
          },
        ],
  };
}

const regletFlat = (length: number, depth: number, drop: number) => ({
  outline: rectangle(0, 0, length, depth + drop),
  bends: [{ from: [0, drop] as const, to: [length, drop] as const, direction: 'down' as const, degrees: 90 }],
});

const regletWords = ({ rules }: PlaneContext, depth: number, count: number, lap: number): Words => [
  cut(depth),
  ` deep; ${count} ${count === 1 ? 'length' : 'lengths'} of counterflashing, upper over lower, laps `,
  cut(lap),
  ', lower edge ',
  cut(leastOf(rules, 'counterflashing.clearance')),
  ' clear of the covering, ',
];

const wedgeWords = ({ rules }: PlaneContext): Words => [
  'wedges at most ',
  cut(mostOf(rules, 'counterflashing.wedges')),
  ' apart, then sealant. To the masonry only, never to the steps.',
];

/** An existing loose counterflashing: bare mineral surface, refixed, sealant kept off the band the coating must grip, coated twice. */
function repairSteps(
  context: PlaneContext,
  name: string,
  detail: string,
  marks: readonly string[],
  run: number,
  lay: Step['lay'],
): Step[] {
  const cloth = itemsOf(context.catalog, 'fabric')[0];
  const width = cloth?.width ?? inches(6);
  const at = (rank: number): Step['lay'] => [lay[0], lay[1], lay[2], lay[3], lay[4] + rank / 100];
  return [
    {
      lay: at(0),
      detail,
      stage: 'finish',
      action: [
        `${name}: paint and old silicone off the existing counterflashing and the wall above it, ground to bare mineral surface; nothing holds over paint or silicone.`,
      ],
      pieces: marks,
      people: 1,
      caution: MASONRY_CAUTION,
      holdPoint: 'Bare, clean mineral surface seen',
      keys: ['counterflashing.cover'],
    },
    {
      lay: at(1),
      detail,
      stage: 'finish',
      action: [
        `${name}: refix it with masonry fasteners at intervals; polyurethane worked into the joint with a gloved finger, kept off the band the coating must grip.`,
      ],
      pieces: [],
      uses: [jointSealant(context, run)],
      people: 1,
      holdPoint: 'Joint filled, the band above it clean',
      keys: ['counterflashing.wedges'],
    },
    {
      lay: at(2),
      detail,
      stage: 'finish',
      action: [
        `${name}: liquid membrane brushed on, fabric bedded wet, coated again; paint only when cured. A damp wall needs a coating rated for damp: try a short strip first.`,
      ],
      pieces: [],
      // two coats
      uses: [
        coat(coatingFor(context.catalog, 'liquid membrane'), 'liquid membrane', 2 * run * width),
        lengths(cloth, 'membrane fabric', [run]),
      ],
      wait: 'membrane cured before it is painted',
      people: 1,
      caution: 'Solvent: gloves, air, no flame. If the wall above is wet, this will not cure the leak.',
      keys: [],
    },
  ];
}

/** Level counterflashing over an apron, from the front of a chimney or along a headwall. */
function planFront(context: PlaneContext, front: Front): Assembly {
  const { catalog, covering, rules, facet } = context;
  const low = lowEdge(context);
  const drop = behind(context, leastOf(rules, 'apron.wallLeg')) + leastOf(rules, 'counterflashing.aboveBase') - low;
  return planLevel(context, {
    id: front.id,
    name: front.name,
    detail: front.id.replace(/F$/, ''),
    end: 'front',
    facet: `${facet}/${front.id}`,
    x0: front.x0,
    x1: front.x1,
    low,
    drop,
    height: front.height,
    repair: front.counter === 'repair',
    on: `${front.id}-A1`,
    lay: wallFinish(context, 'face', front.x0, front.y),
    stock: chooseLengthMetal(catalog, 'reglet', covering.metal, { first: leastOf(rules, 'counterflashing.reglet'), second: drop, thickness: leastOf(rules, 'flashing.thickness') }), // prettier-ignore
  });
}

type Level = {
  id: string;
  name: string;
  detail: string;
  /** The face looks down the slope or up it. */
  end: 'front' | 'back';
  facet: string;
  x0: number;
  x1: number;
  low: number;
  drop: number;
  height: number;
  repair: boolean;
  on: string;
  lay: Step['lay'];
  stock: ReturnType<typeof chooseLengthMetal>;
};

/** Round the outside corners, under the side's first step or over its last. */
const ears = (
  context: PlaneContext,
  { detail, end, low }: Pick<Level, 'detail' | 'end' | 'low'>,
  sides: readonly (1 | -1)[],
  reach: number,
  high: number,
): Cover[] => foldedRound(context, { owner: detail, end, sides, reach, low, high, holds: ['open', 'open', 'letIn', 'open'] });

function planLevel(context: PlaneContext, level: Level): Assembly {
  const { rules, covering } = context;
  const { stock } = level;
  const depth = leastOf(rules, 'counterflashing.reglet');
  if (!stock) return { ...emptyAssembly, findings: [noStock(level.id, level.name, covering.metal, depth, level.drop, level.on)] };
  const lap = leastOf(rules, 'counterflashing.endLap');
  // round each outside corner on to the side, where the pieces there lap it or are lapped by it
  const ear = (side: 1 | -1): number =>
    context.walls.some((wall) => wall.partOf === level.detail && wall.side === side) ? lap : 0;
  const [from, to] = [level.x0 - ear(-1), level.x1 + ear(1)];
  const pieces = cutRun(to - from, stock.length, lap).map((stretch, i, all): Piece => ({
    mark: `${level.id}-R${i + 1}`,
    detail: level.detail,
    role: 'counter',
    ...(level.repair ? {} : { product: stock.id }),
    covers: [
      {
        facet: level.facet,
        outline: rectangle(
          Math.max(level.x0, from + stretch.from),
          level.low,
          Math.min(level.x1, from + stretch.to),
          level.low + stock.second,
        ),
        holds: ['open', 'open', 'letIn', 'open'],
      },
      ...ears(context, level, [...(i === 0 ? ([-1] as const) : []), ...(i === all.length - 1 ? ([1] as const) : [])], lap, level.low + stock.second), // prettier-ignore
    ],
    lay: rightAfter(level.lay, i / 1000),
    liesOn: [i === 0 ? level.on : `${level.id}-R${i}`],
    cutLength: stretch.to - stretch.from,
    ...(level.repair ? {} : { flat: regletFlat(stretch.to - stretch.from, stock.first, stock.second) }),
    keys: KEYS,
  }));
  const top = level.low + stock.second;
  const shown =
    level.height > top
      ? [face(level.facet, level.detail, `${level.id}-CL`, rectangle(level.x0, top, level.x1, level.height))]
      : [];
  const marks = pieces.map(({ mark }) => mark);
  return {
    ...emptyAssembly,
    pieces: [...shown, ...pieces],
    steps: level.repair
      ? repairSteps(context, level.name, level.detail, marks, level.x1 - level.x0, level.lay)
      : [
          {
            lay: level.lay,
            detail: level.detail,
            stage: 'finish',
            action: [
              `${level.name}: in a level joint or reglet, `,
              ...regletWords(context, depth, pieces.length, lap),
              ...wedgeWords(context),
            ],
            pieces: marks,
            uses: [jointSealant(context, level.x1 - level.x0)],
            people: 2,
            caution: MASONRY_CAUTION,
            holdPoint: 'Joint clean and deep enough, seen before the sealant',
            keys: KEYS,
          },
        ],
  };
}

/** Over the back pan level; behind a cricket stepped up each half to a ridge piece. */
function planChimneyBack(context: PlaneContext, id: string): Assembly {
  const { covering, catalog, rules, plane } = context;
  const feature = context.features.find((one) => one.id === id);
  if (feature?.kind !== 'chimney') return emptyAssembly;
  const foot = footprint(feature, plane);
  const facet = backFacet(context.facet, id);
  const cricket = cricketBehind(context, feature);
  const upstand = behind(context, leastOf(rules, cricket ? 'cricket.upstand' : 'pan.upstand'));
  const lay = wallFinish(context, 'back', foot.x0, foot.to);
  const low = leastOf(rules, 'counterflashing.clearance');
  const name = `${feature.name}, back`;
  if (!cricket) {
    const drop = upstand + leastOf(rules, 'counterflashing.aboveBase') - low;
    const stock = chooseLengthMetal(catalog, 'reglet', covering.metal, { first: leastOf(rules, 'counterflashing.reglet'), second: drop, thickness: leastOf(rules, 'flashing.thickness') }); // prettier-ignore
    return planLevel(context, { id: `${id}B`, name, detail: id, end: 'back', facet, x0: foot.x0, x1: foot.x1, low, drop, height: feature.height, repair: feature.counter === 'repair', on: `${id}-P`, lay, stock }); // prettier-ignore
  }
  const half = feature.width / 2;
  const m = cricket.sidePitch;
  const steps = counterSteps({ pitch: m, joint: feature.jointSpacing, baseLeg: upstand / slopeFactor(m), run: half, rules });
  const depth = leastOf(rules, 'counterflashing.reglet');
  const mirror = (outline: readonly Point[]): Outline => outline.map(([x, y]): Point => [foot.x0 + foot.x1 - x, y]).toReversed();
  const made = (['L', 'R'] as const).flatMap((side) =>
    Array.from({ length: steps.pieces }, (_, i): Piece => {
      const a = i * steps.spacing - (i === 0 ? 0 : steps.lap);
      const b = Math.min((i + 1) * steps.spacing, half);
      const top = m * (i + 1) * steps.spacing + steps.lowest;
      // the lowest goes on round the corner
      const flat = steppedFlat(b - a + (i === 0 ? steps.lap : 0), top - m * a, m, low / slopeFactor(m), depth);
      const left: Outline = [[foot.x0 + a, m * a + low], [foot.x0 + b, m * b + low], [foot.x0 + b, top], [foot.x0 + a, top]]; // prettier-ignore
      return {
        mark: `${id}B-${side}${i + 1}`,
        detail: id,
        role: 'counter',
        ...cutFromSheet(context, flat),
        covers: [
          { facet, outline: side === 'L' ? left : rotated(mirror(left)), holds: ['open', 'open', 'letIn', 'open'] },
          ...(i === 0 ? ears(context, { detail: id, end: 'back', low }, [side === 'L' ? -1 : 1], steps.lap, top) : []),
        ],
        lay: [lay[0], lay[1], lay[2], lay[3], lay[4] + i / 1000],
        liesOn: [i === 0 ? `${id}-CK` : `${id}B-${side}${i}`],
        flat,
        keys: STEPPED_KEYS,
      };
    }),
  );
  const centre = foot.x0 + half;
  const peak = cricket.height + steps.lowest + steps.joints * feature.jointSpacing;
  const ridge: Piece = {
    mark: `${id}B-T`,
    detail: id,
    role: 'counter',
    ...cutFromSheet(context, regletFlat(2 * steps.lap, depth, peak - cricket.height - low)),
    covers: [
      {
        facet,
        outline: rectangle(centre - steps.lap, cricket.height + low, centre + steps.lap, peak),
        holds: ['open', 'open', 'letIn', 'open'],
      },
    ],
    lay: [lay[0], lay[1], lay[2], lay[3], lay[4] + 0.9],
    liesOn: [`${id}B-L${steps.pieces}`, `${id}B-R${steps.pieces}`],
    flat: regletFlat(2 * steps.lap, depth, peak - cricket.height - low),
    keys: STEPPED_KEYS,
  };
  const lowest = steps.lowest;
  const shown = face(facet, id, `${id}B-CL`, [[foot.x0, lowest], [foot.x1, lowest], [foot.x1, Math.max(feature.height, peak)], [foot.x0, Math.max(feature.height, peak)]]); // prettier-ignore
  const pieces = [...made, ridge];
  return {
    ...emptyAssembly,
    pieces: [shown, ...pieces],
    steps: [
      {
        lay,
        detail: id,
        stage: 'finish',
        action: [
          `${name}: ${steps.pieces} pieces stepped up each half of the cricket, then the ridge piece over both; after the sides.`,
        ],
        pieces: pieces.map(({ mark }) => mark),
        uses: [jointSealant(context, pieces.length * steps.length)],
        people: 2,
        caution: MASONRY_CAUTION,
        keys: STEPPED_KEYS,
      },
    ],
  };
}

/** A mirrored outline starts at its lower left corner again, so that its edges keep their order. */
const rotated = (outline: Outline): Outline => [outline[2]!, outline[3]!, outline[0]!, outline[1]!];
