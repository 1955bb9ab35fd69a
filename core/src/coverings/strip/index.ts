export * from './covering.ts';
export * from './findings.ts';
