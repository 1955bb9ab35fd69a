import { type Catalog, sealantFor } from '../catalog/index.ts';
import { inches } from '../units/index.ts';
import type { Use } from './model.ts';
import { band } from './uses.ts';

/** Width of a band of cement (trade practice). */
export const CEMENT_BAND = inches(3);

/** Asphalt cement in a band, 1/8 in thick (trade practice), under what is cut along a valley and under the edges of its lining. */
export const cementBand = (catalog: Catalog, length: number): Use =>
  band(sealantFor(catalog, 'cement'), 'asphalt cement', length, CEMENT_BAND, inches(1 / 8));
