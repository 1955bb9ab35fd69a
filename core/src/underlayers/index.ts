export * from './extent.ts';
export * from './underlayers.ts';
