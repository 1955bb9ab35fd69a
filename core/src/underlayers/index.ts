export { extentFor } from './barrier.ts';
export * from './extent.ts';
export * from './underlayers.ts';
