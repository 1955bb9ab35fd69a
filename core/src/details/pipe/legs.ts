import { type ItemOf, findItem, itemsOf, smallest } from '../../catalog/index.ts';
import { slopeFactor } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type BaseContext, featurePoint, isOnTiles } from '../../slope/index.ts';
import { isAtLeast, isAtMost } from '../../units/index.ts';
import { type BootPlace, type Lies, layBase, placeBoot, placeOnTile } from './boot.ts';
import { type Reach, reachOn } from './tileBase.ts';

/** Everything round that goes through the slope: pipes, flues and the legs of standoff grids. */
export type Leg = {
  readonly id: string;
  readonly feature: string;
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
  readonly hot: boolean;
  /** What is left open round it: a hot flue's clearance, by its listing. Undefined: hot, and not yet asked. */
  readonly clearance: number | undefined;
  readonly standoff: boolean;
  /** One soft base formed to a tile, and none at the sheet. */
  readonly formed: boolean;
  /** Half the length of the hole round it along the slope: it stands plumb. */
  readonly half: number;
  readonly boot: ItemOf<'boot'> | undefined;
  /** How that base lies. */
  readonly lies: Lies | undefined;
  readonly chosen: boolean;
  readonly place: BootPlace | undefined;
  /** On tiles: how far its base must reach to either side. */
  readonly reach: Reach | undefined;
};

/** A leg as the job tells it, before a base is chosen for it; `chosen`: the base the crew named. */
type Told = Omit<Leg, 'half' | 'boot' | 'lies' | 'chosen' | 'place' | 'reach'> & { readonly chosen: string | null };

export const legsOf = (context: BaseContext): Leg[] => toldIn(context).map((told) => withBase(context, told));

const toldIn = (context: BaseContext): Told[] =>
  context.features.flatMap((feature): Told[] => {
    if (feature.kind === 'pipe') {
      const { id, name, diameter, hot, clearance, boot, bases } = feature;
      return [
        {
          id,
          feature: id,
          name,
          ...featurePoint(feature, context.plane, 0),
          diameter,
          hot,
          clearance: hot ? (clearance ?? undefined) : 0,
          standoff: false,
          formed: bases === 'formed base' && isOnTiles(context),
          chosen: boot,
        },
      ];
    }
    if (feature.kind !== 'standoffs') return [];
    const { x, y } = featurePoint(feature, context.plane, (feature.columns - 1) * feature.spacingAcross);
    return Array.from({ length: feature.rows * feature.columns }, (_, i) => {
      const [row, column] = [Math.floor(i / feature.columns), i % feature.columns];
      return {
        id: `${feature.id}-${row + 1}.${column + 1}`,
        feature: feature.id,
        name: `${feature.name}, row ${row + 1} leg ${column + 1}`,
        x: x + column * feature.spacingAcross,
        y: y + row * feature.spacingUp,
        diameter: feature.diameter,
        hot: false,
        clearance: 0,
        standoff: true,
        formed: false,
        chosen: null,
      };
    });
  });

function withBase(context: BaseContext, { chosen, ...told }: Told): Leg {
  const { clearance, y, diameter, formed } = told;
  const reach = reachOn(context, told);
  const half = (diameter / 2 + (clearance ?? 0)) * slopeFactor(context.plane.pitch);
  const place = (lies: Lies): BootPlace =>
    (formed ? placeOnTile : placeBoot)(context.lines, lies, y, half, bootNeeds(context, told));
  const own = chosen === null ? undefined : findItem(context.catalog, 'boot', chosen);
  const based = chosen === null ? chooseBoot(context, { ...told, reach }, place) : own && layFor(own, reach);
  const placed = based && place(based.lies);
  return { ...told, half, boot: based?.boot, lies: based?.lies, chosen: chosen !== null, place: placed, reach };
}

/** A pipe as it would be with another base. */
export const withBoot = (context: BaseContext, leg: Leg, { id }: ItemOf<'boot'>): Leg =>
  withBase(context, { ...leg, chosen: id });

/** The hole through a tile under a base that is formed to it is drilled tight, so much wider all round than the pipe, millimetres (trade practice). */
const TIGHT = 2;

/** What the rules ask of a boot. */
export const bootNeeds = (
  { rules }: Pick<BaseContext, 'rules'>,
  { hot, formed }: Pick<Leg, 'hot' | 'formed'>,
): { showing: number; gap: number; cover: number } => ({
  showing: leastOf(rules, hot ? 'pipe.flueShowing' : 'pipe.showing'),
  gap: formed ? TIGHT : leastOf(rules, 'pipe.gap'),
  cover: formed ? 0 : leastOf(rules, 'pipe.cover'),
});

/** Is a base made for such a pipe? */
export const takes = (
  boot: ItemOf<'boot'>,
  { diameter, hot, standoff, formed }: Pick<Leg, 'diameter' | 'hot' | 'standoff' | 'formed'>,
): boolean =>
  boot.hot === hot &&
  boot.standoff === standoff &&
  boot.formed === formed &&
  isAtLeast(diameter, boot.least) &&
  isAtMost(diameter, boot.most);

/** Does a base reach far enough to either side of what stands on tiles? On other coverings each does. */
export const reachesBeside = ({ left, right }: Lies, reach: Reach | undefined): boolean =>
  reach === undefined || (isAtLeast(left, reach.left) && isAtLeast(right, reach.right));

type Based = { readonly boot: ItemOf<'boot'>; readonly lies: Lies };

/** A base as it is laid beside what it must reach: as it is made, or where that is too narrow turned a quarter, if its collar is soft and stands upright either way. */
function layFor(boot: ItemOf<'boot'>, reach: Reach | undefined): Based {
  const made = layBase(boot);
  const ways = boot.material === 'plastic' ? [made, layBase(boot, 'left'), layBase(boot, 'right')] : [made];
  return { boot, lies: ways.find((lies) => reachesBeside(lies, reach)) ?? made };
}

/** The smallest base that takes the pipe, reaches far enough above its cut-out and, on tiles, beside it; else the largest that takes the pipe. */
function chooseBoot(
  context: BaseContext,
  leg: Pick<Leg, 'diameter' | 'hot' | 'standoff' | 'formed' | 'reach'>,
  place: (lies: Lies) => BootPlace,
): Based | undefined {
  const { hot, standoff, formed } = leg;
  const reach = formed ? undefined : leg.reach;
  const { cover } = bootNeeds(context, leg);
  const taking = itemsOf(context.catalog, 'boot').filter((boot) => takes(boot, leg));
  // a hot flue's and a standoff's base, and what is dressed to tiles, is metal of the job's own kind where there is one
  const ownMetal = taking.filter(({ metal }) => !(hot || standoff || reach) || metal === context.covering.metal);
  const candidates = ownMetal.length > 0 ? ownMetal : taking;
  const laid = (boot: ItemOf<'boot'>): Lies => layFor(boot, reach).lies;
  const good = candidates.filter((boot) => isAtLeast(place(laid(boot)).flangeAbove, cover) && reachesBeside(laid(boot), reach));
  const chosen =
    smallest(
      good,
      (boot) => boot.baseWidth * boot.baseLength,
      // of two alike the one that is not turned
      (boot) => (laid(boot).turned ? 1 : 0),
    ) ?? smallest(candidates, (boot) => -boot.baseWidth * boot.baseLength);
  return chosen && layFor(chosen, reach);
}
