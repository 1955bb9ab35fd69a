export * from './check.ts';
export * from './compare.ts';
export { type Section, type SectionLayer, type SectionSurface, sectionsOf } from './section.ts';
export { type Dimension, dimensionsOf, lengthOf } from './dimensions.ts';
export * from './kept.ts';
export * from './planJob.ts';
export * from './setAside.ts';
export * from './slopeContext.ts';
export * from './water.ts';
