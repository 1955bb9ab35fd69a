export * from './check.ts';
export * from './library.ts';
export * from './planJob.ts';
export * from './schema.ts';
