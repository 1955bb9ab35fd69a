import {
  type EaveLayer,
  type Fastener,
  type Finding,
  type Piece,
  type Role,
  type RowLine,
  type Stretch,
  alongEave,
  alongRake,
  cutRun,
  evenlyOn,
  rakeOverLining,
} from '../assembly/index.ts';
import { type LengthMetal, chooseNail } from '../catalog/index.ts';
import type { Outline } from '../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../rules/index.ts';
import { type PlaneContext, type ValleySide, onPlane } from '../slope/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';

export type EdgeMetal = {
  role: Role;
  mark: string;
  product: LengthMetal;
  rank: number;
  layer: EaveLayer | 'rake';
  overLining?: ValleySide;
};

/** An edge that metal runs along: from where to where, what a piece covers, and the line of its fasteners on the chart. */
type MetalEdge = {
  readonly run: Stretch;
  at(from: number, to: number, flange: number): Outline;
  /** Along the eave at this height, or up the slope at this distance from its left end. */
  readonly line: RowLine;
};

/** Edge metal cut from stock along an eave or rake; fasteners at most the ruled spacing apart, half an inch in from the flange's edge. */
export function edgePieces(context: PlaneContext, metal: EdgeMetal, { run, at, line }: MetalEdge, liesOn: readonly string[]) {
  const { rules, catalog, covering } = context;
  const lap = leastOf(rules, 'edgeMetal.lap');
  const spacing = mostOf(rules, 'edgeMetal.fastenerSpacing');
  const nail = chooseNail(catalog, 'roofing', leastOf(rules, 'nail.embedment'), covering.metal);
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  cutRun(run.to - run.from, metal.product.length, lap).forEach((stretch, i) => {
    const mark = `${metal.mark}-${i + 1}`;
    pieces.push({
      mark,
      detail: 'underlayers',
      role: metal.role,
      product: metal.product.id,
      covers: onPlane(context.plane, at(run.from + stretch.from, run.from + stretch.to, metal.product.first)).map((outline) => ({
        facet: context.facet,
        outline,
        holds: ['open'],
        ...(metal.overLining
          ? { lay: rakeOverLining(context, metal.overLining.acrossLow > LINE_TOLERANCE, run.from + stretch.from) }
          : {}),
      })),
      lay:
        metal.layer === 'rake'
          ? alongRake(context, metal.rank, run.from + stretch.from)
          : alongEave(context, metal.layer, metal.rank, run.from + stretch.from),
      liesOn: i === 0 ? liesOn : [`${metal.mark}-${i}`],
      cutLength: stretch.to - stretch.from,
      keys: ['edgeMetal.lap', 'edgeMetal.onDeck', 'edgeMetal.belowSheathing', 'edgeMetal.fastenerSpacing', 'flashing.thickness'],
    });
    if (!nail) return;
    // where a mitre or a valley cuts the piece back, its nails keep to what is left
    for (const place of evenlyOn(
      pieces.at(-1)!.covers.map(({ outline }) => outline),
      line,
      spacing,
    ))
      fasteners.push({
        piece: mark,
        facet: context.facet,
        at: place,
        product: nail.id,
        // its flat heads hold the metal down on the sheet: for the days before the covering they count like caps
        keptDry: 'cap',
      });
  });
  return { pieces, fasteners };
}

export const EDGE_KEYS: RuleKey[] = ['edgeMetal.lap', 'edgeMetal.fastenerSpacing', 'edgeMetal.dripGap', 'eave.order'];

export const noStock = (what: string, metal: string): Finding => ({
  id: `stock.${what}`,
  severity: 'breaks a rule',
  sentence: [`The catalog has no ${what} in ${metal} that meets the rules for edge metal.`],
  fix: ['Choose another metal, or add the item to the catalog.'],
  key: 'edgeMetal.onDeck',
});
