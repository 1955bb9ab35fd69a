import { type Assembly, type Joint, assemble, emptyAssembly } from '../../assembly/index.ts';
import { strictestOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import type { Valley } from './find.ts';
import { type One, type ValleyInput, sideOf, stationsOf, waterAt } from './one.ts';
import { planSheet } from './sheet.ts';
import { planFoot } from './foot.ts';
import { planLining } from './lining.ts';
import { planEdge } from './edge.ts';
import { styleFindings, widthFindings } from './findings.ts';
import { panelOf } from './panel.ts';

/** Every valley of the roof: sheet, lining, edge shingles, chalk lines, and what the water in it looks like. */
export const planValleys = (input: ValleyInput): Assembly => assemble(input.valleys.map((valley) => planValley(input, valley)));

function planValley(input: ValleyInput, valley: Valley): Assembly {
  const contextOf = (id: string): PlaneContext => input.contexts.find(({ plane }) => plane.id === id)!;
  const rules = strictestOf(input.rulesOf.get(valley.a)!, input.rulesOf.get(valley.b)!);
  const [a, b] = [contextOf(valley.a), contextOf(valley.b)];
  const one: One = { ...input, valley, rules, a, b, covering: a.covering };
  const sheet = planSheet(one);
  const metal = valley.style === 'open' ? planLining(one) : valley.style === 'long-edge cut' ? planEdge(one) : emptyAssembly;
  const foot = valley.style === 'open' ? planFoot(one) : emptyAssembly;
  return {
    ...assemble([sheet, foot, metal]),
    joints: [jointOf(one)],
    findings: [...metal.findings, ...styleFindings(one), ...widthFindings(one)],
    panels: [panelOf(one)],
  };
}

function jointOf(one: One): Joint {
  const { valley } = one;
  const [a, b] = [sideOf(valley, valley.a), sideOf(valley, valley.b)];
  // at its head there is none yet
  const water = [...stationsOf(valley), valley.line.trueLength].map((at) => {
    const { spreadA, spreadB } = waterAt(one, at);
    return { share: at / valley.line.trueLength, onA: spreadA, onB: spreadB };
  });
  return {
    kind: 'valley',
    side: a.side,
    runsOn: false,
    a: valley.a,
    b: valley.b,
    onA: [a.low, a.high],
    onB: [b.low, b.high],
    water,
  };
}
