export * from './faces.ts';
export * from './flow.ts';
export * from './extents.ts';
export * from './plane.ts';
export * from './polygon.ts';
export * from './spans.ts';
export * from './cricket.ts';
export * from './valleyWater.ts';
