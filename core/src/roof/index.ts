export * from './flow.ts';
export * from './plane.ts';
