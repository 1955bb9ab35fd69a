export * from './size.ts';
export * from './throughWall.ts';
