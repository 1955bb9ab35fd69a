export * from './applies.ts';
export * from './check.ts';
export * from './library.ts';
export * from './newJob.ts';
export * from './planJob.ts';
export * from './schema.ts';
export * from './planes.ts';
export * from './upgrade.ts';
