import { familyOf } from '../coverings/index.ts';
import { type Covering, type Job, type Library, type Plane, coveringOf, productsNamedBy, sourcesOf } from '../document/index.ts';
import { type Requirements, type RuleSources, resolveRules } from '../rules/index.ts';
import { type ToLayOut, apronLegFor } from '../slope/index.ts';
import type { Surface } from '../surface/index.ts';

/** A slope with its covering laid out, and what the rules say there. */
export type LaidOut = { readonly covering: Covering; readonly rules: Requirements; readonly surface: Surface };

/** Asks the rules slope by slope; what the sources say of one covering is looked up once. */
export function rulesIn(job: Job, library: Library): (plane: Plane, exposure?: number) => Requirements {
  const sources = new Map<string, RuleSources>();
  return (plane, exposure) => {
    const covering = coveringOf(job, plane);
    const own = sources.get(covering.id) ?? sourcesOf(job, library, covering);
    sources.set(covering.id, own);
    return resolveRules(own, {
      covering: familyOf(covering).word(covering, library.catalog),
      pitch: plane.pitch,
      iceDams: job.site.iceDams,
      products: productsNamedBy(covering).flatMap(({ id }) => id ?? []),
      ...(exposure === undefined ? {} : { exposure }),
    });
  };
}

/** Every slope laid out: first by the rules that decide the exposure, then asked again with that exposure known. */
export function layOutSlopes(job: Job, planes: readonly Plane[], library: Library): Map<string, LaidOut> {
  const rulesAt = rulesIn(job, library);
  return new Map(
    planes.map((plane) => {
      const covering = coveringOf(job, plane);
      const { layOut } = familyOf(covering);
      const wall = job.features.find((one) => one.kind === 'headwall' && one.plane === plane.id);
      const asked = (rules: Requirements): ToLayOut => ({
        covering,
        plane,
        catalog: library.catalog,
        rules,
        ...(wall?.kind === 'headwall' && wall.apron !== 'left out' ? { topApron: apronLegFor({ rules }, wall.apronLeg) } : {}),
      });
      const first = layOut(asked(rulesAt(plane)));
      const rules = rulesAt(plane, first.lines.gauge);
      return [plane.id, { covering, rules, surface: layOut(asked(rules)) }];
    }),
  );
}
