import fc from 'fast-check';
import { changed, demoLibrary } from './demo.fixture.ts';
import { checkJob } from './job/index.ts';
import { inches } from './units/index.ts';

const lengthOf = (from: number, to: number) => fc.double({ min: inches(from), max: inches(to), noNaN: true });

/** Jobs of every kind the schema allows and the checks accept. */
export const anyJob = fc
  .record({
    slope: lengthOf(40, 500),
    eave: lengthOf(60, 900),
    x12: fc.double({ min: 3, max: 18, noNaN: true }),
    exposure: fc.option(lengthOf(4, 5.625), { nil: null }),
    firstButt: lengthOf(0.25, 0.75),
    metal: fc.constantFrom('aluminium' as const, 'galvanised steel' as const, 'copper' as const),
    shingle: fc.constantFrom('marrowgate-laminated', 'thrupley-moorland'),
    barrier: fc.constantFrom('tollen-standard', 'quillhaven-hightemp'),
    eaveOrder: fc.constantFrom('metal-first' as const, 'barrier-first' as const),
    underlayment: fc.constantFrom('tollen-synthetic', 'quillhaven-felt'),
    iceDams: fc.boolean(),
    gutter: fc.boolean(),
    overhang: lengthOf(0, 30),
    longestStrip: fc.option(lengthOf(40, 400), { nil: null }),
    walls: fc.array(
      fc.record({
        stands: fc.constantFrom('left' as const, 'right' as const),
        x: fc.double({ min: 0, max: 1, noNaN: true }),
        from: fc.oneof(fc.constant(0), fc.double({ min: 0, max: 0.7, noNaN: true })),
        to: fc.option(fc.double({ min: 0.75, max: 1, noNaN: true }), { nil: null }),
        cladding: fc.constantFrom('boards' as const, 'render' as const, 'masonry' as const),
        nailSide: fc.constantFrom('deck' as const, 'wall' as const),
        fieldNails: fc.constantFrom('clear-of-wall' as const, 'in-headlap' as const),
        apronLeg: lengthOf(2, 8),
      }),
      { maxLength: 4 },
    ),
  })
  .map((draw) =>
    changed((job) => {
      Object.assign(job, { metal: draw.metal });
      Object.assign(job.site, { iceDams: draw.iceDams });
      Object.assign(job.covering, { shingle: draw.shingle, exposure: draw.exposure, firstButt: draw.firstButt });
      Object.assign(job.underlayers, {
        eaveOrder: draw.eaveOrder,
        gutter: draw.gutter,
        iceBarrier: draw.barrier,
        underlayment: draw.underlayment,
        longestStrip: draw.longestStrip,
      });
      const plane = job.planes[0]!;
      Object.assign(plane, {
        eaveLength: draw.eave,
        slope: { kind: 'slope', length: draw.slope },
        pitch: draw.x12 / 12,
        overhang: draw.overhang,
        left: 'rake',
      });
      const template = plane.walls[0]!;
      plane.walls = draw.walls.map((wall, i) => ({
        ...template,
        id: `SW${i + 1}`,
        ...wall,
        x: wall.x * draw.eave,
        from: wall.from * draw.slope,
        to: wall.to === null ? null : wall.to * draw.slope,
        foot: wall.from > 0 ? ('corner' as const) : ('kick-out' as const),
      }));
    }),
  )
  .filter((job) => checkJob(job, demoLibrary).length === 0);
