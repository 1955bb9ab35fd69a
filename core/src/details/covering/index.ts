export * from './covering.ts';
export * from './spans.ts';
