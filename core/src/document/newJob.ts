import { type Catalog, itemsOf } from '../catalog/index.ts';
import { spaceEvenly } from '../roof/index.ts';
import { inches, onTwelve, printLength } from '../units/index.ts';
import { COVERING_NAMES, type Covering, type CoveringKind, FRESH_COVERINGS, coveringSchema } from './choices/index.ts';
import { type Library, coveringOf } from './library.ts';
import {
  type Feature,
  type FeatureOf,
  type Job,
  JOB_FORMAT_VERSION,
  type Part,
  type PlaneRecord,
  USUAL_SPARE,
  USUAL_WALL,
  type Wall,
} from './schema.ts';

/**
 * A fresh job to fill in: one slope without walls, the newest version of every code, trade-practice and house pack, and the first item
 * of each kind the catalog lists. Undefined when the catalog lacks a kind a job needs.
 */
export function newJob(library: Library, name: string, units: Job['units']): Job | undefined {
  const covering = newCovering('strip', library.catalog, []);
  if (!covering) return undefined;
  const newest = new Map<string, number>();
  for (const pack of library.packs)
    if (pack.source !== 'maker') newest.set(pack.id, Math.max(pack.version, newest.get(pack.id) ?? 0));
  return {
    format: 'ruvet-job',
    version: JOB_FORMAT_VERSION,
    name,
    work: { kind: 'new' },
    note: '',
    units,
    site: { iceDams: true, rainPerHour: inches(5), drivenRainShare: 0.5, wind: null },
    ventilation: null,
    catalog: library.catalog.version,
    packs: [...newest].map(([id, version]) => ({ id, version })),
    coverings: [covering],
    parts: [newPart('slope', [], covering.id)!],
    features: [],
    valleys: {},
    done: [],
    spare: USUAL_SPARE,
    muted: {},
    decisions: {},
    deviations: [],
  };
}

/** A covering to fill in, beside those there are, with the first item of each kind the catalog lists; undefined where it lacks one. */
export function newCovering(kind: CoveringKind, catalog: Catalog, others: readonly Covering[]): Covering | undefined {
  const own = FRESH_COVERINGS[kind](catalog);
  const iceBarrier = itemsOf(catalog, 'iceBarrier')[0];
  const underlayment = itemsOf(catalog, 'underlayment')[0];
  if (!own || !iceBarrier || !underlayment) return undefined;
  const name = COVERING_NAMES[kind];
  const id = freeId(
    name.toLowerCase(),
    others.map((one) => one.id),
  );
  return coveringSchema.parse({
    ...own,
    id,
    name,
    metal: 'aluminium',
    deckThickness: inches(0.625),
    underlayers: {
      eaveOrder: 'metal-first',
      gutter: true,
      iceBarrier: iceBarrier.id,
      insideWall: null,
      longestStrip: null,
      underlayment: underlayment.id,
    },
  });
}

const record = (id: string, name: string, covering: string): PlaneRecord => ({
  id,
  name,
  left: 'rake',
  right: 'rake',
  top: 'ridge',
  covering,
  walls: [],
  exposure: null,
  rafters: null,
});

/** One leaf of modular brick and an inch of cavity, the flashing as far up the backup wall as is usual. */
const CAVITY_WALL = { veneer: inches(3.625), cavity: inches(1), rise: inches(8), pointing: 'sound' } as const;

const COMMON = { pitch: onTwelve(6), overhang: inches(12), wallThickness: inches(6) };

/** The first free id of a kind, `base`, `base-2` and so on. */
const freeId = (base: string, used: readonly string[]): string => {
  if (!used.includes(base)) return base;
  let i = 2;
  while (used.includes(`${base}-${i}`)) i++;
  return `${base}-${i}`;
};

/** A part of a roof to fill in, beside those there are; a part on a host stands on the first slope. Undefined without a host to stand on. */
export function newPart(kind: Part['kind'], parts: readonly Part[], covering: string): Part | undefined {
  const used = parts.flatMap((part) => [part.id, ...part.planes.map(({ id }) => id)]);
  const names = { slope: 'slope', gable: 'gable', hip: 'hip', crossGable: 'cross', dormer: 'dormer' } as const;
  const id = freeId(names[kind], used);
  const count = parts.filter((part) => part.kind === kind).length;
  const label = { slope: 'Slope', gable: 'Main gable', hip: 'Hip roof', crossGable: 'Cross gable', dormer: 'Dormer' }[kind];
  const name = count === 0 ? label : `${label} ${count + 1}`;
  const slopes = (suffixes: readonly string[], names: readonly string[]): PlaneRecord[] =>
    suffixes.map((suffix, i) => record(freeId(`${id}-${suffix}`, used), `${name}, ${names[i]}`, covering));
  // clear of what stands there already, to be put in its place by its measures
  const clear = Math.max(
    0,
    ...parts.flatMap((part) => ('place' in part ? [part.place.east + part.eaveLength + inches(120)] : [])),
  );
  const place = { east: clear, north: 0, facing: 180, height: 0 };
  const stand = parts.find((part): part is Extract<Part, { place: unknown }> => 'place' in part);
  const host = stand?.planes[0]?.id;
  const centre = stand ? stand.eaveLength / 2 : 0;
  const named = { id, name, ...COMMON };
  const standing = { ...named, place };
  switch (kind) {
    case 'slope':
      return {
        kind,
        ...standing,
        eaveLength: inches(240),
        slope: { kind: 'level', length: inches(120) },
        planes: [record(id, name, covering)],
      };
    case 'gable':
      return {
        kind,
        ...standing,
        eaveLength: inches(480),
        slope: { kind: 'level', length: inches(180) },
        planes: slopes(['front', 'back'], ['front', 'back']),
      };
    case 'hip':
      return {
        kind,
        ...standing,
        eaveLength: inches(480),
        width: inches(300),
        planes: slopes(['front', 'right', 'back', 'left'], ['front', 'right', 'back', 'left']),
      };
    case 'crossGable':
      return host === undefined
        ? undefined
        : {
            kind,
            ...named,
            host,
            centre,
            halfWidth: inches(72),
            projection: 0,
            rise: 0,
            cladding: 'boards',
            planes: slopes(['left', 'right'], ['left slope', 'right slope']),
          };
    case 'dormer':
      return host === undefined
        ? undefined
        : {
            kind,
            ...named,
            overhang: 0,
            host,
            centre,
            width: inches(48),
            from: { kind: 'slope', length: inches(48) },
            height: inches(30),
            cladding: 'boards',
            planes: slopes(['left', 'right'], ['left slope', 'right slope']),
          };
  }
}

/** The first free mark with a prefix, such as SK2. */
function freeMark(prefix: string, features: readonly Feature[]): string {
  let number = 1;
  while (features.some(({ id }) => id === `${prefix}${number}`)) number++;
  return `${prefix}${number}`;
}

/** The frame a deck-mounted skylight begins with: the first the catalog has a flashing kit for on the covering of its slope, or else one of a usual size. */
function usualFrame(job: Job, plane: string, catalog: Catalog | undefined): { width: number; height: number } {
  const record = job.parts.flatMap(({ planes }) => planes).find(({ id }) => id === plane);
  const onTiles = record !== undefined && coveringOf(job, record).kind === 'singleLap';
  const kit = catalog && itemsOf(catalog, 'skylightKit').find((one) => one.mount === 'deck' && (one.for === 'tile') === onTiles);
  return { width: kit?.width ?? inches(30.5), height: kit?.height ?? inches(46.5) };
}

/** A feature to fill in on a slope, marked with the next free number, in the slope's middle; with a catalog a skylight begins as one it has a kit for. */
export function newFeature(
  kind: Feature['kind'],
  job: Job,
  plane: { readonly id: string; readonly eaveLength: number; readonly slope: { readonly length: number } },
  catalog?: Catalog,
): Feature {
  const prefix = { chimney: 'CH', skylight: 'SK', pipe: 'P', standoffs: 'ST', tileFault: 'TF', headwall: 'HW' }[kind];
  const id = freeMark(prefix, job.features);
  const number = id.slice(prefix.length);
  const label = {
    chimney: 'Chimney',
    skylight: 'Skylight',
    pipe: 'Pipe',
    standoffs: 'Standoff grid',
    tileFault: 'Tile',
    headwall: 'Headwall',
  }[kind];
  const at = (width: number, up: number) => ({
    across: { from: 'left' as const, distance: Math.max(0, (plane.eaveLength - width) / 2) },
    up: { kind: 'slope' as const, length: Math.max(inches(12), Math.min(up, plane.slope.length / 2)) },
  });
  const common = { id, plane: plane.id, name: `${label} ${number}` };
  const jointSpacing = inches(8 / 3);
  switch (kind) {
    case 'chimney':
      return {
        kind,
        ...common,
        ...at(inches(24), inches(60)),
        width: inches(24),
        depth: inches(24),
        height: inches(48),
        masonry: true,
        jointSpacing,
        apronLeg: inches(4),
        back: 'by the rules',
        cricketHeight: null,
        counter: 'stepped',
        stepFlashing: null,
      };
    case 'skylight': {
      const frame = usualFrame(job, plane.id, catalog);
      return {
        kind,
        ...common,
        ...at(frame.width, inches(70)),
        ...frame,
        mount: 'deck',
        upstand: inches(4),
        flashing: 'kit',
        bedding: 'dry',
        headCourse: 'one layer',
        work: 'new opening',
        strip: 'renewing',
        age: 0,
      };
    }
    case 'pipe':
      return {
        kind,
        ...common,
        ...at(0, inches(72)),
        diameter: inches(3.5),
        material: 'plastic',
        hot: false,
        clearance: null,
        boot: null,
        bases: 'two levels',
      };
    case 'standoffs':
      return {
        kind,
        ...common,
        ...at(inches(96), inches(48)),
        rows: 2,
        columns: 3,
        spacingAcross: inches(48),
        spacingUp: inches(48),
        diameter: inches(1.5),
      };
    case 'tileFault':
      return { kind, ...common, ...at(0, inches(72)), fault: 'tile cracked', crossedBy: null };
    case 'headwall':
      return {
        kind,
        ...common,
        height: inches(96),
        cladding: 'boards',
        jointSpacing,
        apronLeg: inches(4),
        apron: 'exposed',
        counter: 'reglet',
        throughWall: { ...CAVITY_WALL, pieceLength: inches(60) },
      };
  }
}

/**
 * The features of a job with `count` skylights like one of them, spread with equal gaps between two references (a window's jambs, walls)
 * measured from the slope's left end; those that are there move, the others are added beside it. A sentence when they do not fit.
 */
export function spreadSkylights(job: Job, id: string, from: number, to: number, count: number): Feature[] | string {
  const pattern = job.features.find((one): one is FeatureOf<'skylight'> => one.id === id && one.kind === 'skylight');
  if (!pattern) return `There is no skylight marked ${id}.`;
  const places = spaceEvenly(from, to, count, pattern.width);
  if (places.length === 0)
    return `${pattern.name}, between the references: ${count} units ${printLength(pattern.width, job.units)} wide do not fit in ${printLength(Math.max(0, to - from), job.units)}.`;
  const features = [...job.features];
  places.forEach((distance, i) => {
    const across = { from: 'left', distance } as const;
    if (i === 0) features[features.indexOf(pattern)] = { ...pattern, across };
    else {
      const mark = freeMark('SK', features);
      features.push({ ...pattern, id: mark, name: `Skylight ${mark.slice(2)}`, across });
    }
  });
  return features;
}

/** A wall at the slope's free end, from the eave to the top; marked with the next free number. */
export function newWall(plane: { readonly walls: readonly Wall[]; readonly eaveLength: number }): Wall {
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
    ...USUAL_WALL,
    cavityWall: CAVITY_WALL,
  };
}
