import { pitchSaidAs } from '../units/index.ts';
import { dropHidden } from './applies.ts';
import { jobSchema } from './schema.ts';
import type { Shelf } from './versions.ts';

/**
 * Turns an older document into the newest version: 1 held a list of single slopes with their own measures, 2 a pitch as a bare number and choices
 * that no longer applied, 3 no version of the catalog and versions of packs that changed later: it means the oldest that are at hand, 4 one
 * covering with its metal, deck and underlayers beside it, 5 no walls but square ones, 6 no battens but those straight on rafters. Anything else is handed back as it is: the schema says what is
 * wrong with it.
 */
export const upgradeJob = (data: unknown, shelf: Shelf): unknown =>
  fromVersion6(fromVersion5(fromVersion4(fromVersion3(fromVersion2(fromVersion1(data), shelf), shelf))));

type Loose = Record<string, unknown>;
const isObject = (value: unknown): value is Loose => typeof value === 'object' && value !== null;
const listOf = (value: unknown): Loose[] => (Array.isArray(value) ? value.filter(isObject) : []);

function fromVersion1(data: unknown): unknown {
  if (!isObject(data) || data.version !== 1 || !Array.isArray(data.planes)) return data;
  const { planes, ...rest } = data;
  return { ...rest, version: 2, parts: (planes as unknown[]).map(partOf) };
}

function partOf(plane: unknown): unknown {
  if (!isObject(plane)) return plane;
  const { id, name, pitch, overhang, wallThickness, eaveLength, slope, ...record } = plane;
  return {
    kind: 'slope',
    id,
    name,
    pitch,
    overhang,
    wallThickness,
    eaveLength,
    slope,
    place: { east: 0, north: 0, facing: 180, height: 0 },
    planes: [{ id, name, ...record }],
  };
}

function fromVersion2(data: unknown, shelf: Shelf): unknown {
  if (!isObject(data) || data.version !== 2) return data;
  const job = structuredClone(data);
  for (const part of listOf(job.parts)) if (typeof part.pitch === 'number') part.pitch = pitchSaidAs(part.pitch);
  const upgraded = fromVersion6(fromVersion5(fromVersion4(fromVersion3({ ...job, version: 3 }, shelf))));
  // forms used to leave choices set that no longer applied; what is no job yet the schema refuses
  const read = jobSchema.safeParse(upgraded);
  if (!read.success) return upgraded;
  dropHidden(read.data);
  return read.data;
}

function fromVersion3(data: unknown, { packs, catalogs }: Shelf): unknown {
  if (!isObject(data) || data.version !== 3) return data;
  const oldest = (versions: readonly { readonly version: number }[]): number | undefined =>
    versions.map(({ version }) => version).sort((a, b) => a - b)[0];
  const packRef = (ref: Loose): Loose => {
    const known = packs.filter(({ id }) => id === ref.id);
    return known.some(({ version }) => version === ref.version) ? ref : { ...ref, version: oldest(known) ?? ref.version };
  };
  // where the other entries of the head of a job stand, so that it is written as a new one is
  return Object.fromEntries(
    Object.entries({ ...data, version: 4 }).flatMap(
      ([key, value]) =>
      key === 'packs' ? [['catalog', oldest(catalogs) ?? 1], [key, listOf(value).map(packRef)]] : [[key, value]], // prettier-ignore
    ),
  );
}

/** The one covering's name in a version 4 file that had none. */
const ONLY = { id: 'shingles', name: 'Shingles' };

function fromVersion4(data: unknown): unknown {
  if (!isObject(data) || data.version !== 4 || !isObject(data.covering)) return data;
  const { deckThickness, metal, underlayers, covering } = data;
  return Object.fromEntries(
    Object.entries({ ...data, version: 5 }).flatMap(([key, value]): [string, unknown][] => {
      if (key === 'covering')
        return [['coverings', [{ kind: 'strip', ...ONLY, ...covering, metal, deckThickness, underlayers }]]];
      if (key === 'deckThickness' || key === 'metal' || key === 'underlayers') return [];
      if (key === 'parts') return [[key, Array.isArray(value) ? value.map(coveredPart) : value]];
      return [[key, value]];
    }),
  );
}

/** All its walls are square to the eave, as they are where nothing else is said. */
const fromVersion5 = (data: unknown): unknown => (isObject(data) && data.version === 5 ? { ...data, version: 6 } : data);

/** What it did not ask of tiles is as it was then, which is what the schema fills in. */
const fromVersion6 = (data: unknown): unknown => (isObject(data) && data.version === 6 ? { ...data, version: 7 } : data);

function coveredPart(part: unknown): unknown {
  if (!isObject(part) || !Array.isArray(part.planes)) return part;
  const planes = (part.planes as unknown[]).map((plane) => (isObject(plane) ? { ...plane, covering: ONLY.id } : plane));
  return { ...part, planes };
}
