export * from './order.ts';
export * from './packCuts.ts';
export * from './runs.ts';
