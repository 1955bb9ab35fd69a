import {
  type Face,
  type FaceEdge,
  type JoinedFace,
  type Outline,
  type Point,
  type RoofPlace,
  type SlopeMeasure,
  axesOf,
  bounds,
  clipByLine,
  joinFaces,
  rectangle,
  slopeFactor,
  slopeLength,
  toPlan,
} from '../roof/index.ts';
import { NOISE, inches, isOver, pitchOf, printLength } from '../units/index.ts';
import { type Job, type Part, type PartOf, type PlaneRecord, isSlanted } from './schema.ts';

/** One slope of the roof put together: what the job tells of it, its measures, its shape and its place in plan. */
export type Plane = PlaneRecord & {
  readonly part: string;
  readonly pitch: number;
  readonly overhang: number;
  readonly wallThickness: number;
  /** Extent along the eave; the slope's left end is at 0. */
  readonly eaveLength: number;
  readonly slope: SlopeMeasure;
  /** On the slope's own chart. */
  readonly outline: Outline;
  readonly holes: readonly Outline[];
  readonly edges: readonly FaceEdge[];
  readonly joined: JoinedFace;
};

/** What keeps a part from being built, by its place in the document. */
export type PartProblem = { readonly part: number; readonly field: string; readonly message: string };

/** Slopes of one part, each with its record, before it meets the others. */
type Made = { record: PlaneRecord; face: Face };

const faceOf = (part: Part, record: PlaneRecord, place: RoofPlace, outline: Outline): Made => ({
  record,
  face: { id: record.id, part: part.id, place, pitch: pitchOf(part.pitch), ...endedAtWalls(record, outline) },
});

/** A slope ends at the walls at an angle to it: what lies behind them is no roof. Level measure. */
function endedAtWalls({ walls }: PlaneRecord, whole: Outline): Pick<Face, 'outline' | 'against'> {
  const slanted = walls.filter(isSlanted);
  if (slanted.length === 0) return { outline: whole };
  const run = bounds(whole).y1;
  const against = slanted.map(({ x, slant }): [Point, Point] => [
    [x, 0],
    [slant.topX, run],
  ]);
  const outline = slanted.reduce((left, { stands, x, slant }) => {
    const side = stands === 'left' ? 1 : -1;
    return clipByLine(left, ([u, v]) => side * (u - x - ((slant.topX - x) * v) / run));
  }, whole);
  // where nothing is left the check says so, and the slope is planned without
  return outline.length < 3 ? { outline: whole } : { outline, against };
}

const turned = (facing: number, by: number): number => (((facing + by) % 360) + 360) % 360;

/** Slopes in plan and level measure for every part; parts on a host come after it. */
export function layFaces(job: Job): { made: Made[]; problems: PartProblem[] } {
  const made: Made[] = [];
  const problems: PartProblem[] = [];
  const hosts = new Map<string, Made>();
  const waiting = job.parts.map((part, i) => ({ part, i }));
  // parts on a host wait until the host is there; a ring of hosts never is
  for (let round = 0; round <= job.parts.length && waiting.length > 0; round++) {
    for (const entry of waiting.slice()) {
      const { part, i } = entry;
      const host = 'host' in part ? hosts.get(part.host) : undefined;
      if ('host' in part && !host) continue;
      waiting.splice(waiting.indexOf(entry), 1);
      const faces = makeFaces(part, host);
      if ('message' in faces) problems.push({ part: i, ...faces });
      else
        for (const one of faces) {
          hosts.set(one.record.id, one);
          made.push(one);
        }
    }
  }
  for (const { part, i } of waiting)
    problems.push({
      part: i,
      field: 'host',
      message: `${part.name}, stands on: there is no slope "${'host' in part ? part.host : ''}".`,
    });
  const order = job.parts.flatMap(({ planes }) => planes.map(({ id }) => id));
  made.sort((a, b) => order.indexOf(a.record.id) - order.indexOf(b.record.id));
  return { made, problems };
}

/** What keeps a part from its host: the field to change, and a sentence. */
type Refused = { readonly field: string; readonly message: string };

function makeFaces(part: Part, host: Made | undefined): Made[] | Refused {
  switch (part.kind) {
    case 'slope':
    case 'gable': {
      const pitch = pitchOf(part.pitch);
      const run = slopeLength(part.slope, pitch) / slopeFactor(pitch);
      const place: RoofPlace = {
        origin: [part.place.east, part.place.north],
        facing: part.place.facing,
        height: part.place.height,
      };
      const outline = rectangle(0, 0, part.eaveLength, run);
      const front = faceOf(part, part.planes[0]!, place, outline);
      if (part.kind === 'slope') return [front];
      const origin = toPlan(front.face, [part.eaveLength, 2 * run]);
      return [front, faceOf(part, part.planes[1]!, { ...place, origin, facing: turned(place.facing, 180) }, outline)];
    }
    case 'hip':
      return hipFaces(part);
    case 'crossGable':
      return gableOn(part, host!, -part.projection, part.halfWidth, 0, host!.face.place.height + part.rise);
    case 'dormer': {
      const { pitch, place } = host!.face;
      const from = slopeLength(part.from, pitch) / slopeFactor(pitch);
      const ground = place.height + pitch * from;
      // its walls carry the roof at their faces; hanging over them it comes down by its own pitch
      const eave = ground + part.height - part.overhang * pitchOf(part.pitch);
      if (eave < ground + LEAST_UNDER_EAVE)
        return {
          field: 'overhang',
          message: `${part.name}, eave overhang: ${printLength(part.overhang, 'imperial')} (${printLength(part.overhang, 'metric')}) past its walls its eaves come down on to ${host!.record.name} at its front; make it less, or the front wall higher.`,
        };
      return gableOn(part, host!, from, part.width / 2 + part.overhang, part.overhang, eave);
    }
  }
}

/** Four slopes: the longer pair trapezoids that meet in a ridge, the shorter pair triangles. */
function hipFaces(part: PartOf<'hip'>): Made[] {
  const { eaveLength: length, width, place, planes } = part;
  const start: RoofPlace = { origin: [place.east, place.north], facing: place.facing, height: place.height };
  const run = Math.min(length, width) / 2;
  const side = (eave: number): Outline =>
    isOver(eave, 2 * run)
      ? [[0, 0], [eave, 0], [eave - run, run], [run, run]] // prettier-ignore
      : [[0, 0], [eave, 0], [eave / 2, eave / 2]]; // prettier-ignore
  const faces: Made[] = [];
  let at = start;
  [length, width, length, width].forEach((eave, i) => {
    const made = faceOf(part, planes[i]!, at, side(eave));
    faces.push(made);
    // walking the eaves with the roof on the left: the next slope starts where this one's eave ends
    at = { ...at, origin: toPlan(made.face, [eave, 0]), facing: turned(at.facing, -90) };
  });
  return faces;
}

/**
 * A ridge that meets the host's top ends this far short of it in plan, and is that much lower: less than a tape tells. The host's slope
 * stays in one piece, joined by so narrow a neck above the head of the valleys.
 */
const NECK = 0.5;

/** A dormer's eaves stand at least this far above the slope at its front: room for their own edge and what lies below. */
const LEAST_UNDER_EAVE = inches(2);

/**
 * Two slopes whose ridge runs up the host's slope, from `start` (level, along the host's fall) until the ridge meets the host. `half` is the
 * level run from eave edge to ridge, `free` the part of it that hangs over the walls below: there the host goes on beneath, as far up as the
 * eaves are clear of it.
 */
function gableOn(
  part: PartOf<'crossGable'> | PartOf<'dormer'>,
  { face: host, record }: Made,
  start: number,
  half: number,
  free: number,
  eave: number,
): Made[] | Refused {
  const ridge = eave + half * pitchOf(part.pitch);
  const run = Math.max(...host.outline.map(([, v]) => v));
  const meets = (ridge - host.place.height) / host.pitch;
  if (meets > run + NECK)
    return {
      field: 'pitch',
      message: `${part.name}, pitch: its ridge comes out above the top of ${record.name}; make it narrower, flatter or lower.`,
    };
  const end = Math.min(meets, run - NECK);
  const height = eave - (meets - end) * host.pitch;
  if (end <= start + 1) return { field: 'kind', message: `${part.name}: its ridge does not reach the slope it is to stand on.` };
  const length = end - start;
  const corner = (u: number, v: number): Point => toPlan(host, [u, v]);
  const { facing } = host.place;
  // seen from outside the left-hand slope (facing the host's left) has its upper end on the left, the right-hand one on the right
  const leftPlace: RoofPlace = { origin: corner(part.centre - half, end), facing: turned(facing, 90), height };
  const rightPlace: RoofPlace = { origin: corner(part.centre + half, start), facing: turned(facing, -90), height };
  const clear = Math.min(length, (height - host.place.height) / host.pitch - start);
  const over = (from: number, to: number): { over?: Outline } => (free > 0 ? { over: rectangle(from, 0, to, free) } : {});
  const [left, right] = [part.planes[0]!, part.planes[1]!].map((plane, i) =>
    faceOf(part, plane, i === 0 ? leftPlace : rightPlace, rectangle(0, 0, length, half)),
  );
  return [
    { ...left!, face: { ...left!.face, ...over(length - clear, length) } },
    { ...right!, face: { ...right!.face, ...over(0, clear) } },
  ];
}

/** The slopes of a job as the roof is put together, in the order of the document. */
export function planesOf(job: Job): { planes: Plane[]; problems: PartProblem[] } {
  const { made, problems } = layFaces(job);
  const joined = joinFaces(made.map(({ face }) => face));
  const partOf = new Map(job.parts.map((part) => [part.id, part]));
  const planes = made.flatMap(({ record, face }, i): Plane[] => {
    const part = partOf.get(face.part)!;
    const shape = joined[i]!;
    if (shape.outline.length < 3) return [];
    // what is told of walls at an angle is measured from where the slope's left end would be without them
    const moved = face.against ? shape : fromLeftEnd(shape);
    const box = bounds(moved.outline);
    return [
      {
        ...record,
        part: part.id,
        pitch: face.pitch,
        overhang: part.overhang,
        wallThickness: part.wallThickness,
        eaveLength: box.x1,
        slope: { kind: 'slope', length: box.y1 },
        outline: moved.outline,
        holes: moved.holes,
        edges: moved.edges,
        joined: moved,
      },
    ];
  });
  return { planes, problems };
}

/** A slope cut short at its left end is measured from where it now begins. */
function fromLeftEnd(shape: JoinedFace): JoinedFace {
  const { x0 } = bounds(shape.outline);
  if (Math.abs(x0) < NOISE) return shape;
  const shift = ([x, y]: Point): Point => [x - x0, y];
  const { right } = axesOf(shape.face.place);
  const { place } = shape.face;
  return {
    ...shape,
    face: {
      ...shape.face,
      place: { ...place, origin: [place.origin[0] + right[0] * x0, place.origin[1] + right[1] * x0] },
      outline: shape.face.outline.map(shift),
    },
    outline: shape.outline.map(shift),
    holes: shape.holes.map((hole) => hole.map(shift)),
    edges: shape.edges.map((edge) => ({ ...edge, from: shift(edge.from), to: shift(edge.to) })),
    sheltered: shape.sheltered.map((outline) => outline.map(shift)),
  };
}
