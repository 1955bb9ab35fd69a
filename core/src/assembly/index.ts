export * from './assemble.ts';
export * from './lay.ts';
export * from './build.ts';
export * from './model.ts';
export * from './roles.ts';
export { band, bead, coat, lengths, pieces as piecesOf, usesWords, withUses } from './uses.ts';
export * from './cement.ts';
export * from './flatStock.ts';
export * from './runs.ts';
