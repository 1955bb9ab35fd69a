import { type Assembly, type Piece, cut, emptyAssembly, laid, inLengths } from '../assembly/index.ts';
import { chooseLengthMetal } from '../catalog/index.ts';
import { rectangle } from '../roof/index.ts';
import { isRequired, leastOf, mostOf } from '../rules/index.ts';
import { type PlaneContext, liningUnderRake, rakeStretches } from '../slope/index.ts';
import { inches } from '../units/index.ts';
import { EDGE_KEYS, edgePieces, noStock } from './edgeMetal.ts';

export function planRakeMetal(context: PlaneContext, under: readonly Piece[]): Assembly {
  const { covering, catalog, rules } = context;
  if (!isRequired(rules, 'edgeMetal.required')) return emptyAssembly;
  const product = chooseLengthMetal(catalog, 'dripEdge', covering.metal, {
    first: leastOf(rules, 'edgeMetal.onDeck'),
    second: leastOf(rules, 'edgeMetal.belowSheathing'),
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  const sides = (['left', 'right'] as const).flatMap((side) =>
    rakeStretches(context, side).map((stretch, i) => ({ side, ...stretch, i })),
  );
  if (sides.length === 0) return emptyAssembly;
  if (!product) return { ...emptyAssembly, findings: [noStock('drip edge', covering.metal)] };
  const linings = sides.map((stretch) => liningUnderRake(context, stretch));
  const made = sides.map(({ side, x: edge, from, to, i }, n) => {
    const inward = side === 'left' ? 1 : -1;
    return edgePieces(
      context,
      {
        role: 'rakeMetal',
        mark: `RM${side === 'left' ? 'L' : 'R'}${i === 0 ? '' : i + 1}`,
        product,
        rank: side === 'left' ? 0 : 1,
        layer: 'rake',
        ...(linings[n] ? { overLining: linings[n] } : {}),
      },
      {
        run: { from, to },
        at: (a, b, flange) => rectangle(Math.min(edge, edge + inward * flange), a, Math.max(edge, edge + inward * flange), b),
        line: { x: edge + inward * (product.first - inches(0.5)) },
      },
      under.map(({ mark }) => mark),
    );
  });
  const pieces = made.flatMap((part) => part.pieces);
  const fasteners = made.flatMap((part) => part.fasteners);
  return {
    ...emptyAssembly,
    pieces,
    fasteners,
    steps: [
      laid(pieces, {
        stage: 'dry-in',
        action: [
          'Nail the rake metal over the underlayment, from the eave up, ',
          ...inLengths(pieces.length, leastOf(rules, 'edgeMetal.lap')),
          pieces.length > 1 ? ', upper over lower' : '',
          linings.some((lining) => lining) ? '; leave it loose at the valley’s foot until the lining is slid under it.' : '.',
        ],
        fasteners: [
          `${fasteners.length} nails, at most `,
          cut(mostOf(rules, 'edgeMetal.fastenerSpacing')),
          ' apart, along the flange on the deck',
        ],
        people: 1,
        caution: 'Rake edge: tie off.',
        keys: EDGE_KEYS,
      }),
    ],
  };
}
