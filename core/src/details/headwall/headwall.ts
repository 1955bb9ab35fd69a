import { type Assembly, acrossAt, assemble, doneBy, emptyAssembly, standUp } from '../../assembly/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type Front, type PlaneContext, frontFacet } from '../../slope/index.ts';
import { planApron } from './apron.ts';
import { planCladding } from './cladding.ts';
import { dormerPanel } from './dormer.ts';
import { apronFindings, shortLegs } from './findings.ts';
import { ownerOf, planMembrane } from './membrane.ts';
import { panelOf } from './panel.ts';

/** Every face that looks down the slope: membrane, apron on the last course, and the cladding over it where it is not masonry. */
export const planHeadwalls = (context: PlaneContext): Assembly =>
  assemble([
    ...context.fronts.map((front) => planFront(context, front)),
    { ...emptyAssembly, findings: [...context.fronts.flatMap((front) => apronFindings(context, front)), ...shortLegs(context)] },
  ]);

function planFront(context: PlaneContext, front: Front): Assembly {
  const atTop = front.y > context.lines.end - 1;
  // only a dormer's roof goes back into the slope; chimneys and frames have a back of their own, and a wall is told on its own sheet
  const owner = ownerOf(front);
  const frame = context.found.frame(owner);
  const dormer = frame && !frame.hasBack && !context.found.wall(owner) ? frame : undefined;
  return assemble([
    facetAndJoint(context, front),
    planMembrane(context, front),
    planApron(context, front),
    front.cladding === 'masonry' ? emptyAssembly : doneBy('cladders', planCladding(context, front)),
    { ...emptyAssembly, panels: atTop ? [panelOf(context, front)] : dormer ? [dormerPanel(context, front, dormer)] : [] },
  ]);
}

function facetAndJoint(context: PlaneContext, front: Front): Assembly {
  const id = frontFacet(context, front);
  const outline = rectangle(front.x0, 0, front.x1, front.height);
  return {
    ...emptyAssembly,
    facets: [standUp(context.facet, { id, detail: ownerOf(front), name: front.name, outline })],
    joints: [acrossAt('front', context.facet, id, front)],
  };
}
