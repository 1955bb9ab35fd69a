export * from './flow.ts';
export * from './sheet.ts';
export * from './sidewall.ts';
