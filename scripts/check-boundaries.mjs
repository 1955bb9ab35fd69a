// The folders show which way knowledge flows; an import against it fails. Says so when nothing was looked at.
import { cruise } from 'dependency-cruiser';

const forbidden = [
  { name: 'no-cycles', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
  {
    name: 'core-stands-alone',
    from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
    to: { path: '^(server|web|e2e|scripts)/|^node:', pathNot: '^core/' },
  },
  {
    name: 'core-without-the-outside',
    from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
    to: { dependencyTypes: ['core'] },
  },
  {
    name: 'units-import-nothing',
    from: { path: '^core/src/units', pathNot: '\\.test\\.ts$' },
    to: { pathNot: '^core/src/units' },
  },
  {
    name: 'details-by-the-table-only',
    from: { path: '^core/src/(assembly|covering|roof|rules|catalog|sequence|takeoff|units)/', pathNot: '\\.test\\.ts$' },
    to: { path: '^core/src/(details|job|exchange)/' },
  },
  { name: 'through-the-front-door', from: { path: '^(server|web)/' }, to: { path: '^core/src/.+/(?!index\\.ts)' } },
].map((rule) => ({ severity: 'error', ...rule }));

const { output } = await cruise(['core/src', 'server/src', 'web/src'], {
  ruleSet: { forbidden },
  tsPreCompilationDeps: true,
  doNotFollow: { path: 'node_modules|/dist/' },
  exclude: { path: '/dist/' },
  tsConfig: { fileName: 'tsconfig.tests.json' },
  enhancedResolveOptions: { conditionNames: ['@ruvet/source', 'import', 'types', 'default'] },
});
const { summary } = output;
for (const { rule, from, to } of summary.violations) console.log(`${rule.name}: ${from} → ${to}`);
console.log(`${summary.totalCruised} modules, ${summary.violations.length} violations`);
process.exitCode = summary.totalCruised > 50 && summary.violations.length === 0 ? 0 : 1;
