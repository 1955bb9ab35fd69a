import fc from 'fast-check';
import { expect, it } from 'vitest';
import { demoFile, demoLibrary } from '../../../core/fixtures/demo.ts';
import { planFor } from '../../../core/fixtures/planned.ts';
import { anyDormered } from '../../../core/fixtures/roofs.ts';
import { cases } from '../../../core/fixtures/seeds.ts';
import { type Plan, newCovering, sectionsOf } from '#core';
import { layOut, touching } from './sectionLayout.ts';

/** As wide as a sheet prints it. */
const WIDTH = 470;

/** Numbers that stand far from what they are of, or over each other, pixels. */
function unreadable(plan: Plan): string[] {
  const pieces = new Map(plan.pieces.map((piece) => [piece.mark, piece]));
  return plan.panels.flatMap((panel) =>
    sectionsOf(plan, panel).flatMap((section) => {
      const { scale, numbers } = layOut(section, WIDTH, touching(section, panel.detail, pieces));
      return section.surfaces.flatMap((surface) => {
        const own = numbers.filter((one) => one.surface === surface).sort((a, b) => a.at - b.at);
        const said = `${panel.family} ${panel.detail}, ${section.title}, on ${surface.facet}`;
        return own.flatMap(({ number, at, along, row }, i) => [
          ...(Math.abs(at - along) * scale > 80 ? [`${said}: ${number} stands far off`] : []),
          ...own
            .slice(0, i)
            .filter((other) => other.row === row && (at - other.at) * scale < 13)
            .map((other) => `${said}: ${number} stands over ${other.number}`),
        ]);
      });
    }),
  );
}

it.each(['ringing-house', 'keepers-cottage-front', 'keepers-cottage-porch', 'peat-shed-shakes'])(
  'the numbers of every section stand by what they are of: %s',
  (file) => {
    expect(unreadable(planFor(demoFile(file)))).toEqual([]);
  },
);

it('so they do over and under any dormer, in shingles and in tiles', () => {
  fc.assert(
    fc.property(anyDormered, fc.boolean(), (roof, onTiles) => {
      const job = structuredClone(roof);
      if (onTiles) {
        const tiles = newCovering('singleLap', demoLibrary.catalog, job.coverings)!;
        job.coverings.push(tiles);
        for (const { planes } of job.parts) for (const plane of planes) plane.covering = tiles.id;
      }
      expect(unreadable(planFor(job))).toEqual([]);
    }),
    cases(6),
  );
});
