export * from './find.ts';
export * from './valley.ts';
