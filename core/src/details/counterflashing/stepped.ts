import { letIn } from './masonry.ts';
import {
  type Assembly,
  type Cover,
  type FigurePanel,
  type FlatPattern,
  HUNG_IN_WALL,
  type Piece,
  cut,
  emptyAssembly,
  mm,
  wallFinish,
} from '../../assembly/index.ts';
import { type Point, slopeFactor } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type counterSteps,
  cutFromStock,
  detailOf,
  foldedInside,
  foldedOnto,
  lowestJoint,
  onWall,
  pickStep,
  stepMark,
  stepsOf,
  wallFacetId,
} from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { STEPPED_KEYS, face, lowEdge } from './masonry.ts';

/** A stepped piece as cut: level on top with the depth that goes into the joint, its lower edge along the slope. */
export function steppedFlat(length: number, tall: number, pitch: number, clear: number, depth: number): FlatPattern {
  const low = clear * slopeFactor(pitch);
  return {
    outline: [
      [0, low],
      [length, low + length * pitch],
      [length, tall + depth],
      [0, tall + depth],
    ],
    bends: [{ from: [0, tall], to: [length, tall], direction: 'down', degrees: 90 }],
  };
}

/** Stepped in the joints: every piece by itself, from the downhill end up. */
export function planStepped(context: PlaneContext, wall: PlacedWall): Assembly {
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
        holds: HUNG_IN_WALL,
      });
    const inside = (): Cover[] =>
      foldedInside(context, wall, {
        reach: steps.lap,
        low: low * k,
        high: top - m * end,
        holds: HUNG_IN_WALL,
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
      ...cutFromStock(context, flat),
      covers: [{ facet, outline: [at(a), at(b), [b, top], [a, top]], holds: HUNG_IN_WALL }, ...corners],
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
      ...letIn(context, pieces, pieces.length * steps.length, {
        name: wall.name,
        cutting: [
          'rake the joints ',
          cut(depth),
          ' deep, the lowest ',
          cut(steps.lowest),
          ` above the roof at its uphill end, then ${steps.joints === 1 ? 'every joint' : `every ${steps.joints} joints`}, `,
          cut(steps.spacing),
          ' level apart.',
        ],
        hanging: [
          `hang ${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces'} `,
          cut(steps.length),
          ' long, ',
          cut(steps.tallEnd - low),
          ' at the tall end, from the downhill end up, each ',
          cut(steps.lap),
          ' over the piece below; lower edges ',
          cut(leastOf(rules, 'counterflashing.clearance')),
          ' clear of the covering.',
        ],
      }),
    ],
    panels: wall.face || wall.counter === 'trays' ? [] : [steppedPanel(context, wall, steps, end - start)],
  };
}

function steppedPanel(context: PlaneContext, wall: PlacedWall, steps: ReturnType<typeof counterSteps>, run: number): FigurePanel {
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
