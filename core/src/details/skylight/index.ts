export * from './opening.ts';
export * from './openings.ts';
export * from './skylight.ts';
