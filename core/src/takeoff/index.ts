export * from './order.ts';
export * from './packCuts.ts';
export * from './packSheets.ts';
