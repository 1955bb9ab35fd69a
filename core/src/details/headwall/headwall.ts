import { type Assembly, assemble, doneBy, emptyAssembly } from '../../assembly/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type Front, type PlaneContext, frontFacet } from '../../slope/index.ts';
import { dormerPanel } from './dormer.ts';
import { ownerOf, planMembrane } from './membrane.ts';
import { planApron } from './apron.ts';
import { apronFindings, shortLegs } from './findings.ts';
import { panelOf } from './panel.ts';
import { planCladding } from './cladding.ts';

/** Every face that looks down the slope: membrane, apron on the last course, and the cladding over it where it is not masonry. */
export const planHeadwalls = (context: PlaneContext): Assembly =>
  assemble([
    ...context.fronts.map((front) => planFront(context, front)),
    { ...emptyAssembly, findings: [...context.fronts.flatMap((front) => apronFindings(context, front)), ...shortLegs(context)] },
  ]);

function planFront(context: PlaneContext, front: Front): Assembly {
  const atTop = front.y > context.lines.end - 1;
  // only a dormer's roof goes back into the slope; chimneys and frames have a back of their own, and a wall is told on its own sheet
  const walls = new Set(context.walls.map(({ id }) => id));
  const dormer = context.frames.find(({ id, hasBack }) => !hasBack && id === ownerOf(front) && !walls.has(id));
  return assemble([
    facetAndJoint(context, front),
    planMembrane(context, front),
    planApron(context, front),
    front.cladding === 'masonry' ? emptyAssembly : doneBy('cladders', planCladding(context, front)),
    { ...emptyAssembly, panels: atTop ? [panelOf(context, front)] : dormer ? [dormerPanel(context, front, dormer)] : [] },
  ]);
}

function facetAndJoint(context: PlaneContext, front: Front): Assembly {
  const b = frontFacet(context, front);
  return {
    ...emptyAssembly,
    facets: [
      {
        id: b,
        kind: 'wall',
        on: context.facet,
        detail: ownerOf(front),
        name: front.name,
        outline: rectangle(front.x0, 0, front.x1, front.height),
        fall: [0, -1],
        angle: Math.PI / 2,
      },
    ],
    joints: [
      {
        kind: 'front',
        side: 1,
        runsOn: false,
        a: context.facet,
        b,
        onA: [[front.x0, front.y], [front.x1, front.y]], // prettier-ignore
        onB: [[front.x0, 0], [front.x1, 0]], // prettier-ignore
      },
    ],
  };
}
