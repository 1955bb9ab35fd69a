export * from './fit.ts';
export * from './headwall.ts';
