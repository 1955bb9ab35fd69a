export * from './csv.ts';
export * from './jobFile.ts';
export * from './orderWords.ts';
