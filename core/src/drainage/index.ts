export * from './check.ts';
export { CAUSES, type Cause, MOVES, type Move } from './flow.ts';
export { TooFine, type SheetRequest } from './sheet.ts';
export * from './whatIf.ts';
