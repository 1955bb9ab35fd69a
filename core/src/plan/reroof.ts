import { type Step, type Words, afterDecks, cut, listed, mm, piecesOf, stripOff } from '../assembly/index.ts';
import { sheathingFor } from '../catalog/index.ts';
import { type Job, type Library, OLD_COVERINGS } from '../document/index.ts';
import { type Outline, bounds, intersectOutlines, outlineArea, rectangle } from '../roof/index.ts';
import type { PlaneContext } from '../slope/index.ts';
import { NOISE, inches } from '../units/index.ts';
import { areaOf, roofLine } from './roofLine.ts';

/** Boards with wider gaps than this get sheathing (trade practice). */
const WIDE_GAP = inches(1 / 4);
/** One deck sheet in so many is allowed for until the deck is seen (trade practice). */
const ALLOWED_IN = 20;

/** A stretch of a slope that is stripped and closed again in one day. */
export type StripLot = {
  readonly plane: string;
  readonly day: number;
  readonly x0: number;
  readonly x1: number;
  readonly area: number;
};

/** How far along the eave so much of a slope's area lies to the left, whatever is cut out of it: to a thousandth of a millimetre, by halving. */
function placeOf({ plane: { outline, holes } }: PlaneContext, area: number): number {
  const { x0, x1, y0, y1 } = bounds(outline);
  const leftOf = (x: number): number => {
    const strip = rectangle(x0, y0, x, y1);
    const inside = (one: Outline): number =>
      intersectOutlines(one, strip).reduce((sum, part) => sum + Math.abs(outlineArea(part)), 0);
    return inside(outline) - holes.reduce((sum, hole) => sum + inside(hole.toReversed()), 0);
  };
  let [low, high] = [x0, x1];
  while (high - low > 0.001) {
    const middle = (low + high) / 2;
    if (leftOf(middle) < area) low = middle;
    else high = middle;
  }
  return high;
}

/**
 * Slopes in the order they are laid, each in stretches of equal area from eave to ridge, none more than a day's work; small ones share a day. A slope of 800 ft² at 500 ft² a
 * day is two stretches of 400 ft², on two days.
 */
export function stripLots(contexts: readonly PlaneContext[], perDay: number): StripLot[] {
  const lots: StripLot[] = [];
  let day = 0;
  let left = 0;
  for (const context of contexts) {
    const { x0, x1 } = bounds(context.plane.outline);
    const area = areaOf(context);
    const count = perDay > 0 ? Math.max(1, Math.ceil(area / perDay - NOISE)) : 1;
    for (let i = 0; i < count; i++) {
      if (day === 0 || left < area / count - NOISE) {
        day++;
        left = perDay;
      }
      left -= area / count;
      const at = (part: number): number => (part === 0 ? x0 : part === count ? x1 : placeOf(context, (area * part) / count));
      lots.push({ plane: context.plane.id, day, x0: at(i), x1: at(i + 1), area: area / count });
    }
  }
  return lots;
}

/** The old covering off: boards and old counterflashing first, then lot by lot from the ridge down, with what it weighs. */
export function stripSteps(job: Job, contexts: readonly PlaneContext[], ordered: readonly PlaneContext[]): Step[] {
  const { work } = job;
  if (work.kind !== 're-roof') return [];
  const weighs = (area: number): number => (area / 1e6) * OLD_COVERINGS[work.old].weighs * work.layers;
  const lots = stripLots(ordered, work.perDay);
  const whole = weighs(lots.reduce((sum, { area }) => sum + area, 0));
  const loads = Math.max(1, Math.ceil(whole / work.load - NOISE));
  const layers = `${work.layers} ${work.layers === 1 ? 'layer' : 'layers'}`;
  let line = 0;
  const step = (own: Pick<Step, 'action'> & Partial<Step>): Step =>
    roofLine({ lay: stripOff(line++), stage: 'dry-in', people: 2, ...own });
  const boards = contexts.flatMap(({ walls, fronts }) =>
    [...walls.filter(({ face }) => !face), ...fronts].filter(({ cladding }) => cladding === 'boards').map(({ id }) => id),
  );
  const masonry = job.features.flatMap((one) =>
    ('masonry' in one && one.masonry) || ('cladding' in one && one.cladding === 'masonry') ? [one.id] : [],
  );
  return [
    step({
      action: [
        'Have skips for ', { kg: whole }, `: ${loads} ${loads === 1 ? 'load' : 'loads'} of at most `, { kg: work.load }, '. Cover plants, paths and gutters below.',
      ], // prettier-ignore
      people: 1,
    }),
    ...(boards.length > 0
      ? [
          step({
            action: [
              `Take the boards off over the flashing at ${listed(boards)}: number them, store them flat; they go back last.`,
            ],
          }),
        ]
      : []),
    ...(masonry.length > 0
      ? [
          step({
            action: [`Cut the old counterflashing and base metal off at ${listed(masonry)}; leave the masonry whole.`],
            caution: 'Silica dust: wet cutting or extraction, mask; eyes and ears.',
          }),
        ]
      : []),
    step({
      action: [
        'Work lot by lot: strip one, then its deck, eave, barrier and sheets the same day, before the next is begun. No rain forecast for the day, or do not begin.',
      ],
    }),
    ...lots.map(({ plane, day, x0, x1, area }) => {
      const wholeSlope = lots.filter((one) => one.plane === plane).length === 1;
      const where: Words = wholeSlope ? [] : [' from ', mm(x0), ' to ', mm(x1), ' along the eave'];
      return step({
        plane,
        action: [
          `Strip on day ${day}`, ...where, ', ridge down, what lies above first: ', { area }, `, ${layers}, `, { kg: weighs(area) }, '. Close it the same day, sheet and all.',
        ],
        caution: 'Nobody below. Eyes, gloves, boots; sweep the deck of nails as you go.',
        holdPoint: 'this lot bare, swept and photographed, and dry again by evening',
      }); // prettier-ignore
    }),
  ];
}

/** What is done to an old deck, and what is allowed for it until it is seen. */
export function oldDeckSteps(job: Job, contexts: readonly PlaneContext[], { catalog }: Library): Step[] {
  if (job.work.kind !== 're-roof') return [];
  const decked = contexts.filter(({ surface }) => surface.bearing === 'deck');
  if (decked.length === 0) return [];
  const sheet = sheathingFor(catalog, Math.max(...decked.map(({ covering }) => covering.deckThickness)));
  const area = decked.reduce((sum, context) => sum + areaOf(context), 0);
  const count = sheet ? Math.ceil(area / (sheet.length * sheet.width) / ALLOWED_IN - NOISE) : 1;
  return [
    roofLine({
      lay: afterDecks(),
      stage: 'dry-in',
      action: [
        'Cut soft sheets out to the rafter centres; sheet over boards with gaps over ', cut(WIDE_GAP), `. Allowed for: ${count} ${count === 1 ? 'sheet' : 'sheets'}, 1 in ${ALLOWED_IN}; settle more on the spot, with photo and price.`,
      ], // prettier-ignore
      uses: [piecesOf(sheet, 'deck sheet', count)],
      people: 2,
    }),
  ];
}
