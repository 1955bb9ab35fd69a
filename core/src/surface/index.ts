export * from './lines.ts';
export * from './marks.ts';
export * from './surface.ts';
