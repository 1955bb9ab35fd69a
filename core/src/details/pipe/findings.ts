import { type Finding, cut } from '../../assembly/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, fromValleyLine } from '../../slope/index.ts';
import { isAtLeast, isOver, isUnder } from '../../units/index.ts';
import { type Leg, bootNeeds } from './legs.ts';

export function legFindings(context: PlaneContext, leg: Leg): Finding[] {
  const { rules, plane, walls } = context;
  const { boot, place } = leg;
  if (!boot || !place) return [];
  const findings: Finding[] = [];
  const { cover } = bootNeeds(context, leg.hot);
  const piece = `${leg.id}-B`;
  if (leg.clearance === undefined)
    findings.push({
      id: `${leg.id}.clearance`,
      severity: 'breaks a rule',
      sentence: [
        `${leg.name} gets hot, and its clearance to what burns is not told: deck, sheets and courses are planned right up to it.`,
      ],
      fix: ['Read the clearance on the flue’s listing and enter it; where it cannot be read, stop and ask.'],
      piece,
      key: 'pipe.gap',
    });
  if (isUnder(place.flangeAbove, cover))
    findings.push({
      id: `${leg.id}.flange`,
      severity: 'leaks',
      sentence: [
        `${leg.name}: ${boot.name} ends `,
        cut(Math.max(0, place.flangeAbove)),
        ' above the cut-out, where ',
        cut(cover),
        ' is needed: wind drives water over its top.',
      ],
      fix: ['Choose a taller base.'],
      piece,
      key: 'pipe.cover',
    });
  if (leg.chosen && (isUnder(leg.diameter, boot.least) || isOver(leg.diameter, boot.most) || (leg.hot && !boot.hot)))
    findings.push({
      id: `${leg.id}.size`,
      severity: 'breaks a rule',
      sentence: [
        `${leg.name}: ${boot.name} takes `,
        cut(boot.least),
        ' to ',
        cut(boot.most),
        `${leg.hot && !boot.hot ? ' and is not for a hot flue' : ''}; this one is `,
        cut(leg.diameter),
        '.',
      ],
      fix: ['Let the plan choose, or pick a base that takes it.'],
      piece,
      key: 'pipe.showing',
    });
  const least = leastOf(rules, 'pipe.fromValley');
  const [left, right] = [leg.x - boot.baseWidth / 2, leg.x + boot.baseWidth / 2];
  const tooNear = (what: string, distance: number): void => {
    if (isAtLeast(distance, least)) return;
    findings.push({
      id: `${leg.id}.near.${what}`,
      severity: 'worth a look',
      sentence: [
        `${leg.name}: its flange comes within `,
        cut(Math.max(0, distance)),
        ` of ${what}, where `,
        cut(least),
        ' leaves both room for their own laps.',
      ],
      fix: ['Move the pipe with an offset below the deck, or lap the two by hand: lower one under the upper.'],
      piece,
      key: 'pipe.fromValley',
    });
  };
  for (const valley of context.valleys)
    tooNear(
      `the centre of ${valley.id}`,
      // from the flange's corners and sides to the line as far as it goes
      Math.min(
        ...[left, leg.x, right].flatMap((x) => [place.lower, leg.y, place.upper].map((y) => fromValleyLine(valley, [x, y]))),
      ),
    );
  for (const wall of walls)
    if (place.upper > wall.from && place.lower < wall.to)
      tooNear(wall.name, wall.side === 1 ? (right > wall.x ? left - wall.x : least) : left < wall.x ? wall.x - right : least);
  if (left < 0 || right > plane.eaveLength)
    findings.push({
      id: `${leg.id}.edge`,
      severity: 'breaks a rule',
      sentence: [`${leg.name}: its flange runs past the end of the slope.`],
      fix: ['Move the pipe, or choose a narrower base.'],
      piece,
    });
  return findings;
}
