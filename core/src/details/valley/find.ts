import type { Job, Plane, ValleyStyle } from '../../document/index.ts';
import {
  type FaceEdge,
  type Point,
  type SharedLine,
  type VeeSection,
  drainedInto,
  measureLine,
  runoff,
  slopeFactor,
  toPlan,
  valleySection,
} from '../../roof/index.ts';
import { type Requirements, leastOf, strictestOf } from '../../rules/index.ts';
import { type ValleySide, isOnTiles } from '../../slope/index.ts';
import { type Surface, lastCourseBelow } from '../../surface/index.ts';
import { inches, isFlatter } from '../../units/index.ts';

const FOOT = inches(12);

/** A valley that begins higher than this up a slope does not empty over its eave. */
const FOOT_UP = inches(1);

/** A valley of the roof with what was decided for it. `a` and `b` are its two slopes. */
export type Valley = {
  readonly id: string;
  /** Names it in the job: its slopes in the order of the document. */
  readonly key: string;
  readonly name: string;
  readonly a: string;
  readonly b: string;
  readonly line: SharedLine;
  readonly section: VeeSection;
  readonly style: ValleyStyle;
  readonly ribbed: boolean;
  /** Plan area and water draining into it from each slope: square millimetres and litres a minute. */
  readonly areaA: number;
  readonly areaB: number;
  readonly flowA: number;
  readonly flowB: number;
  /** The slope whose shingles run through, by the water or as decided; undefined for an open valley. */
  readonly through: string | undefined;
  /** The slope that would run through by the water, and why that one. */
  readonly asked: { readonly plane: string; readonly because: string };
  /** Half the open width at its lower and upper end; 0 where it is closed. */
  readonly openLow: number;
  readonly openHigh: number;
  readonly sides: readonly { readonly plane: string; readonly side: ValleySide }[];
};

/** Two slopes that meet in a valley: its edge on either, plan area draining into it from either, and its upper end in plan. */
type Met = {
  readonly a: Plane;
  readonly b: Plane;
  readonly edge: FaceEdge;
  readonly back: FaceEdge;
  readonly areaA: number;
  readonly areaB: number;
  readonly head: Point;
};

/** A valley that falls less than 1/8 in a foot is a level gutter: water stands in it. */
const LEVEL = 1 / 96;

function lineOf({ joined, pitch }: Plane, { from, to }: FaceEdge): SharedLine {
  const k = slopeFactor(pitch);
  const plan = ([x, y]: Point): Point => toPlan(joined.face, [x, y / k]);
  return measureLine(joined.face, plan(from), plan(to));
}

const isLevel = (a: Plane, edge: FaceEdge): boolean => lineOf(a, edge).slope < LEVEL;

/** Where slopes run down on to one another along a level line: no valley carries water there. Each pair once. */
export const levelGutters = (planes: readonly Plane[]): { readonly a: Plane; readonly b: Plane }[] =>
  planes.flatMap((a, i) =>
    a.edges.flatMap((edge) => {
      const b = edge.kind === 'valley' ? planes.find(({ id }) => id === edge.other) : undefined;
      return b && planes.indexOf(b) > i && isLevel(a, edge) ? [{ a, b }] : [];
    }),
  );

const distance = (p: Point, q: Point): number => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** Every valley of the roof, numbered from the west. */
export function findValleys(
  job: Job,
  planes: readonly Plane[],
  rulesOf: ReadonlyMap<string, Requirements>,
  surfaces: ReadonlyMap<string, Surface>,
): Valley[] {
  const found = planes.flatMap((a, i) =>
    a.edges.flatMap((edge): Met[] => {
      if (edge.kind !== 'valley') return [];
      const b = planes.find(({ id }) => id === edge.other);
      if (!b || planes.indexOf(b) <= i) return [];
      const back = b.edges.find(({ kind, other }) => kind === 'valley' && other === a.id);
      if (!back) return [];
      const [x, y] = edge.from[1] > edge.to[1] ? edge.from : edge.to;
      return [
        {
          a,
          b,
          edge,
          back,
          areaA: drainedInto(a.joined, edge.from, edge.to),
          areaB: drainedInto(b.joined, back.from, back.to),
          head: toPlan(a.joined.face, [x, y / slopeFactor(a.pitch)]),
        },
      ];
    }),
  );
  const sloping = found.filter(({ a, edge }) => !isLevel(a, edge));
  const middle = ({ a, edge }: Met): Point => {
    const k = slopeFactor(a.pitch);
    return toPlan(a.joined.face, [(edge.from[0] + edge.to[0]) / 2, (edge.from[1] + edge.to[1]) / 2 / k]);
  };
  return sloping
    .sort((p, q) => middle(p)[0] - middle(q)[0] || middle(p)[1] - middle(q)[1])
    .map((met, i): Valley => {
      const { a, b, edge, back, areaA, areaB } = met;
      const id = `V${i + 1}`;
      const key = `${a.id}+${b.id}`;
      const choice = job.valleys[key];
      const openOnly = [a, b].some((plane) => surfaces.get(plane.id)!.valleys === 'open');
      // between tiles a rib keeps the water of one side from driving under the other's cut edge (trade practice)
      const usual = [a, b].some((plane) => isOnTiles({ surface: surfaces.get(plane.id)! })) ? 'ribbed' : 'plain';
      const style = openOnly ? 'open' : (choice?.style ?? 'closed cut');
      const line = lineOf(a, edge);
      const [flowA, flowB] = [runoff(job.site.rainPerHour, areaA), runoff(job.site.rainPerHour, areaB)];
      const asked = lessWater(sloping, met);
      const through = style === 'open' ? undefined : (choice?.through?.plane ?? asked.plane);
      const rules = strictestOf(rulesOf.get(a.id)!, rulesOf.get(b.id)!);
      const openHigh = style === 'open' ? leastOf(rules, 'valley.openTop') / 2 : 0;
      const openLow = style === 'open' ? openHigh + (leastOf(rules, 'valley.widening') * (line.trueLength / FOOT)) / 2 : 0;
      const trim = style === 'open' || choice?.trim === 'on the centre' ? 0 : leastOf(rules, 'valley.trim');
      const upwards = (edgeOf: typeof edge): [Point, Point] =>
        edgeOf.from[1] <= edgeOf.to[1] ? [edgeOf.from, edgeOf.to] : [edgeOf.to, edgeOf.from];
      const side = (plane: Plane, own: typeof edge, other: Plane, their: typeof edge): ValleySide => {
        const [low, high] = upwards(own);
        const [otherLow, otherHigh] = upwards(their);
        const role = style === 'open' ? 'open' : style === 'woven' ? 'woven' : plane.id === through ? 'through' : 'cut';
        // with a long edge row the courses stop at its edge, 2 in off the line
        const cutBack = style === 'long-edge cut' ? trim + inches(2) : trim;
        return {
          id,
          other: other.id,
          low,
          high,
          // the surface is on the left of every edge of the outline
          side: own.to[1] > own.from[1] ? -1 : 1,
          role,
          clearLow: role === 'open' ? openLow : role === 'cut' ? cutBack : 0,
          clearHigh: role === 'open' ? openHigh : role === 'cut' ? cutBack : 0,
          cross: style === 'open' ? 0 : leastOf(rules, 'valley.cross'),
          noNail: leastOf(rules, 'valley.noNail'),
          footOn: low[1] > FOOT_UP ? lastCourseBelow(surfaces.get(plane.id)!.lines, low[1]) : 0,
          across: turnedOver(low, high, otherLow, otherHigh),
          acrossLow: otherLow[1],
        };
      };
      return {
        id,
        key,
        name: `Valley ${a.name} / ${b.name}`,
        a: a.id,
        b: b.id,
        line,
        section: valleySection(a.joined.face, b.joined.face, line),
        style,
        ribbed: style === 'open' && (choice?.lining ?? usual) === 'ribbed',
        areaA,
        areaB,
        flowA,
        flowB,
        through,
        asked,
        openLow,
        openHigh,
        sides: [
          { plane: a.id, side: side(a, edge, b, back) },
          { plane: b.id, side: side(b, back, a, edge) },
        ],
      };
    });
}

/**
 * The slope that brings less water into a valley; at a tie the flatter one, then the lower one. The two valleys either side of a gable,
 * which meet at the end of its ridge, are asked together, so that both run the same way: run opposite ways, the shingles of the one end
 * at the head just where those of the other begin, with less than 2 in of cover over the lining.
 */
function lessWater(found: readonly Met[], met: Met): Valley['asked'] {
  const { a, b } = met;
  const beside = found.find((one) => one !== met && distance(one.head, met.head) < 1 && [one.a, one.b].some((own) => own === a || own === b)); // prettier-ignore
  const shared = beside && [a, b].find((own) => own === beside.a || own === beside.b);
  // what the valley beside it takes from the slope they share, and from the gable's other slope
  const [fromShared, fromOther] = !beside
    ? [0, 0]
    : beside.a === shared
      ? [beside.areaA, beside.areaB]
      : [beside.areaB, beside.areaA];
  const areaA = met.areaA + (a === shared ? fromShared : fromOther);
  const areaB = met.areaB + (b === shared ? fromShared : fromOther);
  const even = (p: number, q: number): boolean => Math.abs(p - q) <= Math.max(p, q) * 0.01;
  if (!even(areaA, areaB)) {
    const [plane, own] = areaA < areaB ? [a.id, met.areaA < met.areaB] : [b.id, met.areaB < met.areaA];
    return { plane, because: own ? 'it brings less water' : 'counted with the valley beside, it brings less water' };
  }
  if (isFlatter(a.pitch, b.pitch) || isFlatter(b.pitch, a.pitch))
    return { plane: a.pitch < b.pitch ? a.id : b.id, because: 'both bring the same water, and it is the flatter' };
  const top = (plane: Plane): number =>
    plane.joined.face.place.height + plane.pitch * (plane.slope.length / slopeFactor(plane.pitch));
  const because = 'both bring the same water as steeply';
  return top(b) < top(a) ? { plane: b.id, because: `${because}, and it ends lower` } : { plane: a.id, because };
}

/** Unfolds what lies beyond a line on one chart on to the chart across it: lengths stay, the line stays. */
function turnedOver(low: Point, high: Point, otherLow: Point, otherHigh: Point): (point: Point) => Point {
  const from = Math.atan2(high[1] - low[1], high[0] - low[0]);
  const to = Math.atan2(otherHigh[1] - otherLow[1], otherHigh[0] - otherLow[0]);
  const [cos, sin] = [Math.cos(to - from), Math.sin(to - from)];
  return ([x, y]) => {
    const [dx, dy] = [x - low[0], y - low[1]];
    return [otherLow[0] + dx * cos - dy * sin, otherLow[1] + dx * sin + dy * cos];
  };
}

export type ValleySummary = Pick<
  Valley,
  | 'id'
  | 'key'
  | 'name'
  | 'a'
  | 'b'
  | 'style'
  | 'ribbed'
  | 'section'
  | 'through'
  | 'asked'
  | 'flowA'
  | 'flowB'
  | 'areaA'
  | 'areaB'
  | 'line'
  | 'openLow'
  | 'openHigh'
>;

export const summariseValley = (valley: Valley): ValleySummary => {
  const { id, key, name, a, b, style, ribbed, section, through, asked, flowA, flowB, areaA, areaB, line, openLow, openHigh } =
    valley;
  return { id, key, name, a, b, style, ribbed, section, through, asked, flowA, flowB, areaA, areaB, line, openLow, openHigh };
};
