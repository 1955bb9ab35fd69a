import {
  type Assembly,
  type Finding,
  type Piece,
  type Step,
  alongEave,
  cut,
  emptyAssembly,
  laid,
  inLengths,
} from '../assembly/index.ts';
import { type LengthMetal, chooseLengthMetal, chooseTape } from '../catalog/index.ts';
import { type Outline, rectangle } from '../roof/index.ts';
import { isRequired, leastOf, mostOf } from '../rules/index.ts';
import { type PlaneContext, onPlane } from '../slope/index.ts';
import { inches } from '../units/index.ts';
import { overBarrier } from './barrier.ts';
import { EDGE_KEYS, type EdgeMetal, edgePieces, noStock } from './edgeMetal.ts';

/** Narrowest strip that seals the back edge of metal laid over a barrier: 2 in on each. */
const EDGE_SEAL = inches(4);

/** Eave metal past the corner where a valley comes down. */
const PAST_CORNER = inches(4);

export function planEaveMetal(context: PlaneContext): Assembly & { first: Piece[] } {
  const { covering, plane, catalog, rules } = context;
  if (!isRequired(rules, 'edgeMetal.required')) return { ...emptyAssembly, first: [] };
  const least = {
    first: leastOf(rules, 'edgeMetal.onDeck'),
    second: leastOf(rules, 'edgeMetal.belowSheathing'),
    thickness: leastOf(rules, 'flashing.thickness'),
  };
  const barrierFirst = covering.underlayers.eaveOrder === 'barrier-first' && isRequired(rules, 'iceBarrier.required');
  const gutter = covering.underlayers.gutter ? chooseLengthMetal(catalog, 'gutterApron', covering.metal, least) : undefined;
  const drip =
    !covering.underlayers.gutter || barrierFirst ? chooseLengthMetal(catalog, 'dripEdge', covering.metal, least) : undefined;
  const findings: Finding[] = [];
  if (covering.underlayers.gutter && !gutter) findings.push(noStock('gutter apron', covering.metal));
  if ((!covering.underlayers.gutter || barrierFirst) && !drip) findings.push(noStock('drip edge', covering.metal));
  // into the corner of a valley the metal runs on, cut to the slope
  const intoValley = (x: number): number =>
    context.valleys.some(({ low }) => Math.abs(low[0] - x) < 1 && Math.abs(low[1]) < 1) ? PAST_CORNER : 0;
  const eaves = plane.edges
    .filter(({ kind }) => kind === 'eave')
    .map(({ from, to }) => ({ from: from[0] - intoValley(from[0]), to: to[0] + intoValley(to[0]) }));
  if (eaves.length === 0) return { ...emptyAssembly, first: [] };
  const at = (a: number, b: number, flange: number): Outline => rectangle(a, 0, b, flange);
  const along = (metal: Omit<EdgeMetal, 'rank'>, liesOn: readonly string[]) => {
    const made = eaves.map((run, i) =>
      edgePieces(
        context,
        { ...metal, mark: `${metal.mark}${i === 0 ? '' : String.fromCharCode(97 + i)}`, rank: i },
        { run, at, line: { y: metal.product.first - inches(0.5) } },
        liesOn,
      ),
    );
    return { pieces: made.flatMap(({ pieces }) => pieces), fasteners: made.flatMap(({ fasteners }) => fasteners) };
  };
  const none = { pieces: [], fasteners: [] };
  const first = gutter
    ? along({ role: 'gutterApron', mark: 'GA', product: gutter, layer: 'on deck' }, [])
    : drip && !barrierFirst
      ? along({ role: 'dripEdge', mark: 'DE', product: drip, layer: 'on deck' }, [])
      : none;
  const over =
    barrierFirst && drip ? along({ role: 'dripEdge', mark: 'DE', product: drip, layer: overBarrier(context) }, ['IB1-1']) : none;
  const seal = drip && over.pieces.length > 0 ? edgeSeal(context, drip, over.pieces) : [];
  const steps: Step[] = [];
  if (first.pieces.length > 0) {
    const name = gutter ? 'the gutter apron' : 'the drip edge';
    steps.push(
      laid(first.pieces, {
        stage: 'dry-in',
        action: [
          `Nail ${name} along the eave, `,
          ...inLengths(first.pieces.length, leastOf(rules, 'edgeMetal.lap')),
          gutter ? ': flange tight to the back of the gutter, brackets flush to it, not draped across them.' : '; its drip ',
          ...(gutter ? [] : [cut(leastOf(rules, 'edgeMetal.dripGap')), ' clear of the fascia.']),
        ],
        fasteners: [
          `${first.fasteners.length} nails, at most `,
          cut(mostOf(rules, 'edgeMetal.fastenerSpacing')),
          ' apart, high on the flange',
        ],
        people: 1,
        caution: 'Cut edges: gloves. Ladder tied.',
        keys: EDGE_KEYS,
      }),
    );
  }
  if (over.pieces.length > 0) {
    steps.push(
      laid([...over.pieces, ...seal], {
        stage: 'dry-in',
        action: [
          'Nail the drip edge over the barrier, ',
          ...inLengths(over.pieces.length, leastOf(rules, 'edgeMetal.lap')),
          '; the sheet heals round its nails. Seal its back edge with a narrow strip.',
        ],
        fasteners: [
          `${over.fasteners.length} nails, at most `,
          cut(mostOf(rules, 'edgeMetal.fastenerSpacing')),
          ' apart, high on the flange',
        ],
        people: 1,
        caution: 'Cut edges: gloves.',
        keys: EDGE_KEYS,
      }),
    );
  }
  return {
    ...emptyAssembly,
    pieces: [...first.pieces, ...over.pieces, ...seal],
    fasteners: [...first.fasteners, ...over.fasteners],
    steps,
    findings,
    first: first.pieces,
  };
}

function edgeSeal(context: PlaneContext, drip: LengthMetal, under: readonly Piece[]): Piece[] {
  const tape = chooseTape(context.catalog, EDGE_SEAL);
  if (!tape) return [];
  const y0 = drip.first - tape.width / 2;
  return [
    {
      mark: 'ES',
      detail: 'underlayers',
      role: 'edgeSeal',
      product: tape.id,
      covers: onPlane(context.plane, rectangle(0, y0, context.plane.eaveLength, y0 + tape.width)).map((outline) => ({
        facet: context.facet,
        outline,
        holds: ['bonded'],
      })),
      lay: alongEave(context, overBarrier(context), 1),
      liesOn: under.map(({ mark }) => mark),
      cutLength: context.plane.eaveLength,
      keys: ['eave.order'],
    },
  ];
}
