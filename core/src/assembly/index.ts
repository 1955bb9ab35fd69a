export * from './assemble.ts';
export * from './model.ts';
