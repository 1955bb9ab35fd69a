export * from './csv.ts';
export * from './jobFile.ts';
