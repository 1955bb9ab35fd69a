export * from './courses.ts';
export * from './marks.ts';
