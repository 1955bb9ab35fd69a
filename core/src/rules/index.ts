export * from './keys.ts';
export * from './resolve.ts';
export * from './schema.ts';
