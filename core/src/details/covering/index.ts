export * from './covering.ts';
export * from './spans.ts';
export * from './marks.ts';
