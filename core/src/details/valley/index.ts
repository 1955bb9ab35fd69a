export * from './find.ts';
export * from './valley.ts';
export * from './water.ts';
