export * from './area.ts';
export * from './inOrder.ts';
export * from './kept.ts';
export * from './length.ts';
export * from './mass.ts';
export * from './pitch.ts';
export * from './tolerances.ts';
