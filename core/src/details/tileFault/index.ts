export * from './tileFault.ts';
