export * from './flow.ts';
export * from './sidewall.ts';
