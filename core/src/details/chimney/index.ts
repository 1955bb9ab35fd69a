export * from './chimney.ts';
export * from './cricket.ts';
export * from './openings.ts';
