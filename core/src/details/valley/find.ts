import { type CourseLayout, lastCourseBelow } from '../../covering/index.ts';
import type { Plane } from '../../job/planes.ts';
import type { Job, ValleyStyle } from '../../job/schema.ts';
import {
  type Point,
  type SharedLine,
  drainedInto,
  runoff,
  slopeFactor,
  toPlan,
  measureLine,
  valleySection,
} from '../../roof/index.ts';
import { type Requirements, leastOf } from '../../rules/index.ts';
import { inches } from '../../units/index.ts';
import type { ValleySide } from '../context.ts';
import type { VeeSection } from './water.ts';

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
  /** What the water asks for. */
  readonly asked: string;
  /** Half the open width at its lower and upper end; 0 where it is closed. */
  readonly openLow: number;
  readonly openHigh: number;
  readonly sides: readonly { readonly plane: string; readonly side: ValleySide }[];
};

/** Every valley of the roof, numbered from the west. */
export function findValleys(
  job: Job,
  planes: readonly Plane[],
  rulesOf: ReadonlyMap<string, Requirements>,
  layouts: ReadonlyMap<string, CourseLayout>,
): Valley[] {
  const found = planes.flatMap((a, i) =>
    a.edges.flatMap((edge) => {
      if (edge.kind !== 'valley') return [];
      const b = planes.find(({ id }) => id === edge.other);
      if (!b || planes.indexOf(b) <= i) return [];
      const back = b.edges.find(({ kind, other }) => kind === 'valley' && other === a.id);
      return back ? [{ a, b, edge, back }] : [];
    }),
  );
  const middle = ({ a, edge }: (typeof found)[number]): Point => {
    const k = slopeFactor(a.pitch);
    return toPlan(a.joined.face, [(edge.from[0] + edge.to[0]) / 2, (edge.from[1] + edge.to[1]) / 2 / k]);
  };
  return found
    .sort((p, q) => middle(p)[0] - middle(q)[0] || middle(p)[1] - middle(q)[1])
    .map(({ a, b, edge, back }, i): Valley => {
      const id = `V${i + 1}`;
      const key = `${a.id}+${b.id}`;
      const choice = job.valleys[key];
      const style = choice?.style ?? 'closed cut';
      const k = slopeFactor(a.pitch);
      const line = measureLine(a.joined.face, toPlan(a.joined.face, [edge.from[0], edge.from[1] / k]), toPlan(a.joined.face, [edge.to[0], edge.to[1] / k])); // prettier-ignore
      const areaA = drainedInto(a.joined, edge.from, edge.to);
      const areaB = drainedInto(b.joined, back.from, back.to);
      const [flowA, flowB] = [runoff(job.site.rainPerHour, areaA), runoff(job.site.rainPerHour, areaB)];
      const asked = lessWater(a, areaA, b, areaB);
      const through = style === 'open' ? undefined : (choice?.through?.plane ?? asked);
      const rules = rulesOf.get(a.id)!;
      const openHigh = style === 'open' ? leastOf(rules, 'valley.openTop') / 2 : 0;
      const openLow = style === 'open' ? openHigh + (leastOf(rules, 'valley.widening') * (line.trueLength / FOOT)) / 2 : 0;
      const trim = choice?.trim === 'on the centre' ? 0 : leastOf(rules, 'valley.trim');
      const lineOf = (edgeOf: typeof edge): [Point, Point] =>
        edgeOf.from[1] <= edgeOf.to[1] ? [edgeOf.from, edgeOf.to] : [edgeOf.to, edgeOf.from];
      const side = (plane: Plane, own: typeof edge, other: Plane, their: typeof edge): ValleySide => {
        const [low, high] = lineOf(own);
        const [otherLow, otherHigh] = lineOf(their);
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
          footOn: low[1] > FOOT_UP ? lastCourseBelow(layouts.get(plane.id)!, low[1]) : 0,
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
        ribbed: style === 'open' && choice?.lining === 'ribbed',
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

/** The slope that brings less water into a valley; at a tie the flatter one, then the lower one. */
function lessWater(a: Plane, areaA: number, b: Plane, areaB: number): string {
  const tie = Math.max(areaA, areaB) * 0.01;
  if (Math.abs(areaA - areaB) > tie) return areaA < areaB ? a.id : b.id;
  if (Math.abs(a.pitch - b.pitch) > 1e-6) return a.pitch < b.pitch ? a.id : b.id;
  const top = (plane: Plane): number =>
    plane.joined.face.place.height + plane.pitch * (plane.slope.length / slopeFactor(plane.pitch));
  return top(b) < top(a) ? b.id : a.id;
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
