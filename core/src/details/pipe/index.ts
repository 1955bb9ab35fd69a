export * from './boot.ts';
export * from './legs.ts';
export * from './openings.ts';
export * from './pipe.ts';
