export * from './sidewall.ts';
