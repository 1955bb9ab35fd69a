// The folders of core show which way knowledge flows; an import against it fails, of types too. Fails as well when it has looked at nothing.
import { cruise } from 'dependency-cruiser';

/** Each folder of core imports only from those above it. */
const ORDER = [
  'units',
  'roof',
  'rules',
  'catalog',
  'assembly',
  'surface',
  'document',
  'slope',
  'coverings',
  'underlayers',
  'details',
  'drainage',
  'sequence',
  'takeoff',
  'plan',
  'exchange',
];

const TEST = '\\.test\\.ts$';
const within = (folders) => `^core/src/(${folders.join('|')})/`;

const forbidden = [
  { name: 'no-circles', from: {}, to: { circular: true } },
  ...ORDER.slice(0, -1).map((folder, i) => ({
    name: `${folder}-knows-only-what-is-above-it`,
    from: { path: within([folder]), pathNot: TEST },
    to: { path: within(ORDER.slice(i + 1)) },
  })),
  {
    name: 'folders-have-a-place-in-the-order',
    from: { path: '^core/src/[^/]+/', pathNot: `${within(ORDER)}|${TEST}` },
    to: {},
  },
  {
    name: 'families-know-no-other-family',
    from: { path: '^core/src/(details|coverings)/([^/]+)/', pathNot: TEST },
    to: { path: '^core/src/$1/[^/]+/', pathNot: '^core/src/$1/$2/' },
  },
  {
    name: 'another-folder-by-its-front-door',
    from: { path: '^core/src/([^/]+)/', pathNot: TEST },
    to: { path: '^core/src/[^/]+/(?!index\\.ts$)', pathNot: '^core/src/$1/' },
  },
  {
    name: 'core-stands-alone',
    from: { path: '^core/src', pathNot: TEST },
    to: { path: '^(server|web|e2e|scripts)/|^node:', pathNot: '^core/' },
  },
  { name: 'core-without-the-outside', from: { path: '^core/src', pathNot: TEST }, to: { dependencyTypes: ['core'] } },
  { name: 'through-the-front-door', from: { path: '^(server|web)/' }, to: { path: '^core/src/.+/(?!index\\.ts)' } },
].map((rule) => ({ severity: 'error', ...rule }));

const { output } = await cruise(['core/src', 'server/src', 'web/src'], {
  validate: true,
  ruleSet: { forbidden },
  tsPreCompilationDeps: true,
  doNotFollow: { path: 'node_modules|/dist/' },
  exclude: { path: '/dist/' },
  tsConfig: { fileName: 'tsconfig.tests.json' },
  enhancedResolveOptions: { conditionNames: ['@ruvet/source', 'import', 'types', 'default'] },
});
const { summary, modules } = output;
for (const { rule, from, to } of summary.violations) console.log(`${rule.name}: ${from} → ${to}`);
// an import that is not found, or folders that are no longer there, would let everything pass
const lost = modules.flatMap(({ source, dependencies }) =>
  dependencies
    .filter(({ couldNotResolve, module }) => couldNotResolve && module.startsWith('.'))
    .map(({ module }) => `${source} → ${module}`),
);
for (const one of lost) console.log(`not found: ${one}`);
const unseen = ORDER.filter((folder) => !modules.some(({ source }) => source.startsWith(`core/src/${folder}/`)));
for (const folder of unseen) console.log(`nothing seen in core/src/${folder}`);
console.log(`${summary.totalCruised} modules, ${summary.violations.length} violations`);
process.exitCode = unseen.length + lost.length + summary.violations.length === 0 ? 0 : 1;
