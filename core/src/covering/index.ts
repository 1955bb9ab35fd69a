export * from './courses.ts';
