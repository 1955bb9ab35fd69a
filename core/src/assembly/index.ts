export * from './assemble.ts';
export * from './model.ts';
export * from './roles.ts';
export { band, bead, coat, lengths, pieces as piecesOf, usesWords, withUses } from './uses.ts';
