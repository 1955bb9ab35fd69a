export * from './choose.ts';
export * from './schema.ts';
