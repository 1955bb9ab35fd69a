// The rules of React, as its compiler reads every component: none breaks one, and none is left out of what the compiler keeps from one drawing to the next.
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { transformSync } from 'oxc-transform-react';

const reactCompiler = {
  outputMode: 'lint',
  panicThreshold: 'all_errors',
  reportDiagnostics: true,
  environment: {
    validateRefAccessDuringRender: true,
    validateNoSetStateInRender: true,
    validateNoSetStateInEffects: true,
    validateNoDerivedComputationsInEffects: true,
    validateNoJsxInTryStatements: true,
    validateNoImpureFunctionsInRender: true,
    validateNoFreezingKnownMutableFunctions: true,
    validateStaticComponents: true,
    validateNoVoidUseMemo: true,
    validateHooksUsage: true,
  },
};

const said = (file, source) =>
  transformSync(file, source, { reactCompiler }).errors.map(
    ({ message, codeframe }) => `${file}: ${message}\n${codeframe ?? ''}`,
  );

// it is asked of one that is wrong first: a compiler that says nothing of it has not read the others either
if (said('wrong.tsx', 'export function Wrong(props) { props.one.n = 3; return <p>{props.one.n}</p>; }').length === 0)
  throw new Error('The compiler finds nothing wrong with a component that changes its props.');

const root = join(import.meta.dirname, '../web/src');
const files = readdirSync(root, { recursive: true }).filter((file) => /\.tsx?$/.test(file));
const faults = files.flatMap((file) => said(join('web/src', file), readFileSync(join(root, file), 'utf8')));
for (const fault of faults) console.error(fault);
console.log(`${files.length} files of the interface, ${faults.length} faults`);
process.exitCode = faults.length === 0 && files.length > 0 ? 0 : 1;
