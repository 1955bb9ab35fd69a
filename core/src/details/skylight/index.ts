export * from './opening.ts';
export * from './asks.ts';
export * from './skylight.ts';
