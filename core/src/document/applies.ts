import type { Feature, Job, ValleyChoice, Wall } from './schema.ts';

/** A choice that only makes sense beside another one, as it stands in a job. */
type Setting = {
  readonly path: string;
  /** The sentence that refuses it where it is set all the same. */
  readonly message: string;
  readonly isStray: boolean;
  reset(): void;
};

/** Binds settings to one object of the job: a field, whether it applies, what it is set to where it does not, and why it does not. */
const settingsOf =
  <T extends object>(of: T, path: string, name: string) =>
  <K extends keyof T & string>(field: K, label: string, applies: boolean, neutral: T[K], because: string): Setting => ({
    path: `${path}.${field}`,
    message: `${name}, ${label}: ${because}.`,
    isStray: !applies && of[field] !== undefined && of[field] !== neutral,
    reset: () => void (of[field] = neutral),
  });

const ONLY_MASONRY = 'that is let into masonry, and this is not masonry';

function wallSettings(wall: Wall, path: string): Setting[] {
  const set = settingsOf(wall, path, wall.name);
  const atEave = wall.from === 0;
  return [
    set('counter', 'counterflashing', wall.cladding === 'masonry', 'reglet', ONLY_MASONRY),
    set('foot', 'foot', atEave, 'corner', 'a kick-out belongs at the eave, and this wall starts up the slope; choose the corner'),
    set(
      'besideTiles',
      'beside the tiles',
      atEave && wall.slant === null,
      'cover flashing',
      'a pan empties over the eave and runs straight up, and this wall starts up the slope or stands at an angle',
    ),
    set('runsPastEave', 'runs on past the eave', atEave, false, 'it starts up the slope'),
  ];
}

function featureSettings(feature: Feature, path: string): Setting[] {
  switch (feature.kind) {
    case 'headwall': {
      const set = settingsOf(feature, path, feature.name);
      return [set('counter', 'in the masonry', feature.cladding === 'masonry', 'reglet', ONLY_MASONRY)];
    }
    case 'chimney': {
      const set = settingsOf(feature, path, feature.name);
      return [
        set('counter', 'counterflashing', feature.masonry, 'stepped', ONLY_MASONRY),
        set('cricketHeight', 'cricket height', feature.back !== 'pan', null, 'a pan is to lie behind it'),
      ];
    }
    case 'skylight': {
      const set = settingsOf(feature, path, feature.name);
      const replaced = feature.work === 'replacement';
      return [
        set('strip', 'covering round it', replaced, 'renewing', 'it is a new opening'),
        set('age', 'years the old unit has been in', replaced, 0, 'it is a new opening'),
      ];
    }
    case 'pipe': {
      const set = settingsOf(feature, path, feature.name);
      return [
        set('bases', 'bases', !feature.hot, 'two levels', 'a hot flue’s base is never one that is only stuck down'),
        set('clearance', 'clearance', feature.hot, null, 'it is not a hot flue'),
        set('material', 'material', !feature.hot, 'metal', 'a hot flue is metal'),
      ];
    }
    case 'standoffs':
      return [];
    case 'tileFault': {
      const set = settingsOf(feature, path, feature.name);
      return [
        set(
          'crossedBy',
          'what lies in the channel',
          feature.fault !== 'tile cracked',
          null,
          'the tile is cracked, not its channel',
        ),
      ];
    }
  }
}

function valleySettings(valley: ValleyChoice, key: string): Setting[] {
  const set = settingsOf(valley, `valleys.${key}`, `Valley ${key}`);
  const isCut = valley.style === 'closed cut' || valley.style === 'long-edge cut';
  return [
    set('lining', 'lining', valley.style === 'open', 'plain', 'only an open valley has a lining in sight'),
    set('through', 'runs through', isCut, null, 'in this style no one side runs through'),
    set('trim', 'trimmed', isCut, 'back from the centre', 'in this style nothing is trimmed to the centre'),
  ];
}

const allSettings = (job: Job): Setting[] => [
  ...job.parts.flatMap((part, i) =>
    part.planes.flatMap((plane, j) => plane.walls.flatMap((wall, w) => wallSettings(wall, `parts.${i}.planes.${j}.walls.${w}`))),
  ),
  ...job.features.flatMap((feature, i) => featureSettings(feature, `features.${i}`)),
  ...Object.entries(job.valleys).flatMap(([key, valley]) => valleySettings(valley, key)),
];

/** Sets every choice of a draft that does not apply to its neutral value: a form shows it no longer, so it must not stay. */
export function dropHidden(draft: Job): void {
  for (const setting of allSettings(draft)) if (setting.isStray) setting.reset();
  const slopes = new Set(draft.parts.flatMap(({ planes }) => planes.map(({ id }) => id)));
  for (const key of Object.keys(draft.valleys)) if (!key.split('+').every((id) => slopes.has(id))) delete draft.valleys[key];
}

/** Choices that contradict others, each with a sentence that names the field. */
export const contradictions = (job: Job): { path: string; message: string }[] =>
  allSettings(job).flatMap(({ isStray, path, message }) => (isStray ? [{ path, message }] : []));
