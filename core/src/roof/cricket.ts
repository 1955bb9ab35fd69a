import { type Outline, slopeFactor } from './plane.ts';

/** A cricket behind something W wide across a slope of pitch m. Lengths millimetres, areas square millimetres, angles radians. */
export type Cricket = {
  readonly width: number;
  readonly height: number;
  /** Level ridge, from the back face until it meets the slope. */
  readonly ridge: number;
  /** The same along the slope. */
  readonly up: number;
  /** True length of each valley. */
  readonly valley: number;
  /** Rise over run of each side, across the slope. */
  readonly sidePitch: number;
  /** Area of one side. */
  readonly sideArea: number;
  /** Slant of a side along the back face, from the corner up to the ridge. */
  readonly slant: number;
  /** Between a side and the slope at the valley: how far the metal is bent from flat. */
  readonly valleyBend: number;
  /** Between the two sides at the ridge, bent from flat. */
  readonly ridgeBend: number;
};

/** Height by the code's table: W/2 at 12/12, W/3 at 8/12, W/4 at 6/12, W/6 at 4/12, W/8 at 3/12; that is m·W/2. */
export const tableHeight = (width: number, pitch: number): number => (pitch * width) / 2;

/**
 * The true geometry: ridge L = H/m, side pitch H/(W/2), valley √((W/2)² + L² + H²), a side ½·L·√((W/2)² + H²).
 * W 42 in at 6/12: H 10 1/2, L 21, valley 31 1/2, 246.5 in² a side.
 */
export function cricketOf(width: number, pitch: number, height = tableHeight(width, pitch)): Cricket {
  const half = width / 2;
  const ridge = height / pitch;
  const slant = Math.hypot(half, height);
  // normals: the slope rises along the ridge's direction with `pitch`, a side rises towards the middle with H/(W/2)
  const sidePitch = height / half;
  const dot = 1 / (Math.hypot(1, pitch) * Math.hypot(1, sidePitch));
  return {
    width,
    height,
    ridge,
    up: ridge * slopeFactor(pitch),
    valley: Math.hypot(half, ridge, height),
    sidePitch,
    sideArea: (ridge * slant) / 2,
    slant,
    valleyBend: Math.acos(dot),
    ridgeBend: 2 * Math.atan(sidePitch),
  };
}

/** The cricket's outline on the slope's chart, its apex up the slope, spread by `out` square to its valleys. */
export function cricketOutline({ width, up }: Pick<Cricket, 'width' | 'up'>, x0: number, y: number, out = 0): Outline {
  const half = width / 2;
  const centre = x0 + half;
  const length = Math.hypot(half, up);
  // moved out square to the valley, a line from (half, 0) to (0, up) meets y = 0 farther out and x = 0 farther up
  const [wider, higher] = [(out * length) / up, (out * length) / half];
  return [
    [centre - half - wider, y],
    [centre + half + wider, y],
    [centre, y + up + higher],
  ];
}
