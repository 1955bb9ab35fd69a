const SHEET_METAL_ROUGHNESS = 0.012;

/** The V between two slopes, square to the valley line: run over rise on each side, and the sine of the line's angle. */
export type VeeSection = { readonly zA: number; readonly zB: number; readonly sine: number };

export type ValleyWater = { readonly depth: number; readonly spreadA: number; readonly spreadB: number };

/**
 * Water in a valley as a V channel at normal depth, by Manning with n = 0.012 for metal: depth square to the bed and spread along the
 * metal on each side, millimetres. 6/12 with 6/12: 25 L/min gives 10.1 deep and 32 a side, 100 gives 17.0 and 54, 400 gives 28.5 and 90.
 * A steady-flow estimate.
 */
export function valleyWater(litresPerMinute: number, { zA, zB, sine }: VeeSection): ValleyWater {
  const flow = Math.max(0, litresPerMinute) / 60_000;
  const [slantA, slantB] = [Math.hypot(1, zA), Math.hypot(1, zB)];
  const width = zA + zB;
  const conveyance = (width / 2) * (width / (2 * (slantA + slantB))) ** (2 / 3) * Math.sqrt(sine);
  const depth = 1000 * ((flow * SHEET_METAL_ROUGHNESS) / conveyance) ** (3 / 8);
  return { depth, spreadA: depth * slantA, spreadB: depth * slantB };
}

/**
 * The same in a lining with a rib along its middle: the rib stands as a wall between two half channels, and each side's water keeps to its
 * own. Depth is the deeper one.
 */
export function ribbedWater(litresA: number, litresB: number, { zA, zB, sine }: VeeSection): ValleyWater {
  const depth = (litres: number, z: number): number => {
    const conveyance = (z / 2) * (z / (2 * (Math.hypot(1, z) + 1))) ** (2 / 3) * Math.sqrt(sine);
    return 1000 * (((Math.max(0, litres) / 60_000) * SHEET_METAL_ROUGHNESS) / conveyance) ** (3 / 8);
  };
  const [a, b] = [depth(litresA, zA), depth(litresB, zB)];
  return { depth: Math.max(a, b), spreadA: a * Math.hypot(1, zA), spreadB: b * Math.hypot(1, zB) };
}
