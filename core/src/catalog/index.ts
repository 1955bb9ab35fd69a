export * from './choose.ts';
export * from './schema.ts';
export * from './seams.ts';
