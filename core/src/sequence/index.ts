export * from './runSheet.ts';
