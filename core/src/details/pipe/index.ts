export * from './boot.ts';
export * from './legs.ts';
export * from './asks.ts';
export * from './pipe.ts';
