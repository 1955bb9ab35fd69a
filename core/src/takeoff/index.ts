export * from './cutList.ts';
export * from './order.ts';
export * from './packCuts.ts';
export * from './packFlatStock.ts';
