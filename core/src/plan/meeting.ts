import { type Finding, cut, mm } from '../assembly/index.ts';
import { type Valley, levelGutters } from '../details/index.ts';
import type { PlaneContext } from '../slope/index.ts';
import { inches } from '../units/index.ts';

/** Creep that every default plan has in hand. */
const COVER = inches(2);

/** How near two slopes of one part may miss each other before it is said. */
const MISS = 13;

/** What no single detail sees: something standing in the path of a valley, a roof that splits a slope. */
export function meetingFindings(contexts: readonly PlaneContext[], valleys: readonly Valley[]): Finding[] {
  const findings: Finding[] = [...oppositeWays(valleys), ...gutterFindings(contexts)];
  for (const context of contexts) {
    if (context.plane.joined.parts > 1)
      findings.push({
        id: `${context.plane.id}.split`,
        severity: 'worth a look',
        sentence: [`${context.plane.name} is cut in two by what stands on it; only its larger part is planned.`],
        fix: ['Enter the smaller part as a slope of its own.'],
      });
    for (const frame of context.frames) {
      // what stands below a valley's lower end, or uphill in its line, gets its water
      const below = valleys.flatMap((valley) =>
        valley.sides
          .filter(({ plane }) => plane === context.plane.id)
          // a dormer's own valleys begin where its walls end
          .filter(({ side }) => side.footOn === 0 || Math.abs(side.low[1] - frame.to) > MISS)
          .filter(({ side }) => side.low[1] > frame.to - MISS && side.low[0] > frame.x0 - 300 && side.low[0] < frame.x1 + 300)
          .map(() => valley),
      );
      for (const valley of below)
        findings.push({
          id: `${frame.id}.valley.${valley.id}`,
          severity: 'worth a look',
          sentence: [`${valley.id} empties on to what stands below it, ${frame.id}, `, mm(frame.to), ' up the slope.'],
          fix: ['Make its back a cricket wide enough for the valley’s water, or lead the valley past it.'],
        });
    }
  }
  return findings;
}

/** Two slopes that run down to a level line: nothing on this roof leads the water away. */
const gutterFindings = (contexts: readonly PlaneContext[]): Finding[] =>
  levelGutters(contexts.map(({ plane }) => plane)).map(({ a, b }) => ({
    id: `${a.id}.${b.id}.gutter`,
    severity: 'leaks',
    sentence: [
      `${a.name} and ${b.name} meet in a level gutter: it needs a tapered saddle or a lined gutter, not a valley; none is planned there.`,
    ],
    fix: ['Frame a saddle that falls to one end and enter it as slopes of its own, or have the gutter lined by its own trade.'],
  }));

/** The two valleys of one gable, decided to run opposite ways: at the head, where they meet, the cover is short. */
function oppositeWays(valleys: readonly Valley[]): Finding[] {
  return valleys.flatMap((one, i) =>
    valleys.slice(i + 1).flatMap((other): Finding[] => {
      const shared = [one.a, one.b].find((plane) => plane === other.a || plane === other.b);
      const highOf = ({ sides }: Valley) => sides.find(({ plane }) => plane === shared)?.side.high;
      const [p, q] = [highOf(one), highOf(other)];
      if (!p || !q || Math.hypot(p[0] - q[0], p[1] - q[1]) > 1) return [];
      if (!one.through || !other.through || (one.through === shared) === (other.through === shared)) return [];
      return [
        {
          id: `${one.id}.${other.id}.opposite`,
          severity: 'worth a look',
          sentence: [`${one.id} and ${other.id} end at the same ridge and run opposite ways: there the cover over the lining is under `, cut(COVER), '.'], // prettier-ignore
          fix: ['Run both the same way.'],
        },
      ];
    }),
  );
}
