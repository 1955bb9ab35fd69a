import { itemsOf } from '../catalog/index.ts';
import { inches } from '../units/index.ts';
import type { Library } from './library.ts';
import { JOB_FORMAT_VERSION, type Job, type Plane, type Wall } from './schema.ts';

/**
 * A fresh job to fill in: one slope without walls, the newest version of every code, trade-practice and house pack, and the first item
 * of each kind the catalog lists. Undefined when the catalog lacks a kind a job needs.
 */
export function newJob(library: Library, name: string, units: Job['units']): Job | undefined {
  const shingle = itemsOf(library.catalog, 'shingle')[0];
  const starter = itemsOf(library.catalog, 'starter')[0];
  const ridgeCap = itemsOf(library.catalog, 'ridgeCap')[0];
  const iceBarrier = itemsOf(library.catalog, 'iceBarrier')[0];
  const underlayment = itemsOf(library.catalog, 'underlayment')[0];
  if (!shingle || !starter || !ridgeCap || !iceBarrier || !underlayment) return undefined;
  const newest = new Map<string, number>();
  for (const pack of library.packs)
    if (pack.source !== 'maker') newest.set(pack.id, Math.max(pack.version, newest.get(pack.id) ?? 0));
  return {
    format: 'ruvet-job',
    version: JOB_FORMAT_VERSION,
    name,
    note: '',
    units,
    site: { iceDams: true, rainPerHour: inches(5), drivenRainShare: 0.5 },
    deckThickness: inches(0.625),
    packs: [...newest].map(([id, version]) => ({ id, version })),
    metal: 'aluminium',
    covering: { shingle: shingle.id, starter: starter.id, ridgeCap: ridgeCap.id, exposure: null, firstButt: inches(0.5) },
    underlayers: {
      eaveOrder: 'metal-first',
      gutter: true,
      iceBarrier: iceBarrier.id,
      insideWall: null,
      longestStrip: null,
      underlayment: underlayment.id,
    },
    planes: [newPlane()],
    decisions: {},
    deviations: [],
  };
}

const newPlane = (): Plane => ({
  id: 'slope',
  name: 'Slope',
  eaveLength: inches(240),
  slope: { kind: 'level', length: inches(120) },
  pitch: 0.5,
  overhang: inches(12),
  wallThickness: inches(6),
  left: 'rake',
  right: 'rake',
  top: 'ridge',
  walls: [],
});

/** A wall at the slope's free end, from the eave to the top; marked with the next free number. */
export function newWall(plane: Plane): Wall {
  const used = new Set(plane.walls.map(({ id }) => id));
  let number = 1;
  while (used.has(`SW${number}`)) number++;
  const atLeft = !plane.walls.some(({ stands }) => stands === 'left');
  return {
    id: `SW${number}`,
    name: `Wall ${number}`,
    stands: atLeft ? 'left' : 'right',
    x: atLeft ? 0 : plane.eaveLength,
    from: 0,
    to: null,
    height: inches(96),
    cladding: 'boards',
    runsPastEave: true,
    foot: 'kick-out',
    apronLeg: inches(5),
    nailSide: 'deck',
    fieldNails: 'clear-of-wall',
    stepFlashing: null,
  };
}
