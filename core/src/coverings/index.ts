export * from './strip/index.ts';
