export * from './applies.ts';
export * from './library.ts';
export * from './newJob.ts';
export * from './planes.ts';
export * from './schema.ts';
export * from './summary.ts';
export * from './upgrade.ts';
export * from './versions.ts';
