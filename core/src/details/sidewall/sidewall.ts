import { type Assembly, type FigurePanel, type Finding, assemble, emptyAssembly, mm, standUp } from '../../assembly/index.ts';
import { type Outline, slopeToWall } from '../../roof/index.ts';
import { isRequired } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  detailOf,
  endsUnderValley,
  BESIDE_NAMES,
  besideWallOf,
  faceAt,
  pickStep,
  stepMark,
  wallFacetId,
} from '../../slope/index.ts';
import { planChannels } from './channel/channel.ts';
import { planCovers } from './covers.ts';
import { planFinish, planTopSeal } from './finish.ts';
import { kickOutFor, kickOutNeed, planFoot } from './foot.ts';
import { planMembrane } from './membrane.ts';
import { sidewallPanel } from './panel.ts';
import { planPans } from './pans.ts';
import { planSoakers } from './soakers.ts';
import { planSteps } from './steps.ts';

/** Every sidewall of a plane: membrane, steps, foot, strip over the steps, counterflashing or cladding; the channel along one at an angle. */
export const planSidewalls = (context: PlaneContext): Assembly =>
  assemble([...context.walls.map((wall) => planSidewall(context, wall)), planChannels(context)]);

function planSidewall(context: PlaneContext, wall: PlacedWall): Assembly {
  const { item, findings } = pickStep(context, wall);
  const facet = wallFacet(context, wall);
  const base: Assembly = { ...emptyAssembly, ...facet, findings: [...findings, ...placeFindings(context, wall)] };
  if (!item) return assemble([base, planMembrane(context, wall)]);
  const foot = planFoot(context, wall, item);
  const planSide = { steps: planSteps, soakers: planSoakers, covers: planCovers, pans: planPans }[besideWallOf(context, wall)];
  const side = planSide(context, wall, item, foot.pieces.at(-1)?.mark ?? (wall.partOf && `${wall.partOf}F-A1`));
  return assemble([
    base,
    planMembrane(context, wall),
    foot,
    side,
    planTopSeal(context, wall, item),
    planFinish(context, wall, item),
    // a face of a chimney, dormer or frame is told on its own sheet
    wall.face ? emptyAssembly : { ...emptyAssembly, panels: [tellOf(context, wall, item)] },
  ]);
}

function tellOf(context: PlaneContext, wall: PlacedWall, item: SidePiece): FigurePanel {
  const kickOut = wall.from === 0 && wall.foot === 'kick-out' ? kickOutFor(context, wall, item) : undefined;
  return sidewallPanel(context, wall, item, kickOut && kickOutNeed(context, wall, item.roofLeg));
}

function wallFacet(context: PlaneContext, wall: PlacedWall): Pick<Assembly, 'facets' | 'joints'> {
  const pitch = context.plane.pitch;
  const id = wallFacetId(context, wall);
  return {
    facets: [standUp(context.facet, { id, detail: detailOf(wall), name: wall.name, outline: plumbOutline(context, wall) })],
    joints: [
      {
        kind: 'side',
        a: context.facet,
        b: id,
        side: wall.side,
        runsOn: wall.from === 0 && wall.runsPastEave,
        onA: [
          [faceAt(wall, wall.from), wall.from],
          [faceAt(wall, wall.to), wall.to],
        ],
        onB: [slopeToWall(wall.from, 0, pitch), slopeToWall(wall.to, 0, pitch)],
      },
    ],
  };
}

/** A wall as it stands: plumb ends on the raking roof line. */
function plumbOutline({ plane, slopeFactor: k }: PlaneContext, { from, to, height }: PlacedWall): Outline {
  const [x0, x1] = [from / k, to / k];
  const at = (x: number, up: number): readonly [number, number] => [x, x * plane.pitch + up];
  return [at(x0, 0), at(x1, 0), at(x1, height), at(x0, height)];
}

/** What the wall's place on the slope leaves open. */
function placeFindings(context: PlaneContext, wall: PlacedWall): Finding[] {
  const findings: Finding[] = [];
  const { rules, lines } = context;
  const first = stepMark(wall, 1);
  if (wall.from === 0 && wall.runsPastEave && wall.foot !== 'kick-out' && isRequired(rules, 'kickOut.required')) {
    findings.push({
      id: `${wall.id}.kick-out`,
      severity: 'leaks',
      sentence: [
        `${wall.name} runs on past the eave without a kick-out: what runs down the ${BESIDE_NAMES[besideWallOf(context, wall)]} goes behind the cladding at the foot.`,
      ],
      fix: ['Set the foot of the wall to a kick-out.'],
      piece: first,
      key: 'kickOut.required',
    });
  }
  if (wall.face) return findings;
  if (wall.to < lines.end - 1 && !endsUnderValley(context, wall)) {
    findings.push({
      id: `${wall.id}.head`,
      severity: 'worth a look',
      sentence: [
        `${wall.name} ends `,
        mm(wall.to),
        ' up the slope: what turns the water round its upper end is not in this plan.',
      ],
      fix: ['Enter what stands there as a chimney, framed or masonry, or as a dormer: they bring their own back and front.'],
      piece: first,
    });
  }
  return findings;
}
