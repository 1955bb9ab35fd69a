export * from './check.ts';
export { MEMORY_LIMIT_MB, TooFine, type MeshRequest } from './cut.ts';
export { CAUSES, type Cause, MOVES, type Move } from './water.ts';
export * from './whatIf.ts';
