import type { Lines } from './lines.ts';

/** What the covering of a slope is to all that is flashed against it. Lengths millimetres. */
export type Surface = {
  /** Its product, as the order has it, and who makes it. */
  readonly product: string;
  readonly name: string;
  readonly maker: string;
  readonly lines: Lines;
  /** One whole unit: along the eave, and up the slope. */
  readonly unit: { readonly width: number; readonly height: number };
  /** How far one layer of it stands above what it lies on. */
  readonly thickness: number;
  /** How far down the slope what covers the ridge reaches. */
  readonly underRidge: number;
};
