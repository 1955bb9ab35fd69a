export * from './counterflashing.ts';
export * from './stepped.ts';
