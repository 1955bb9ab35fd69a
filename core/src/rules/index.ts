export * from './keys.ts';
export * from './resolve.ts';
export * from './schema.ts';
export * from './values.ts';
