export * from './check.ts';
export { CAUSES, type Cause, MOVES, type Move } from './flow.ts';
export { MEMORY_LIMIT_MB, TooFine, type SheetRequest } from './sheet.ts';
export * from './whatIf.ts';
