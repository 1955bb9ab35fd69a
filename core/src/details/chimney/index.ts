export * from './chimney.ts';
export * from './asks.ts';
export * from './cricket.ts';
