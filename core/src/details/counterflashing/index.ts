export * from './counterflashing.ts';
