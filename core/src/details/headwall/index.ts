export * from './headwall.ts';
export * from './fit.ts';
