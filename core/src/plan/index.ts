export * from './check.ts';
export * from './compare.ts';
export * from './kept.ts';
export * from './planJob.ts';
export * from './setAside.ts';
export * from './slopeContext.ts';
export * from './water.ts';
