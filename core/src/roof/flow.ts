const LITRES_PER_CUBIC_MM = 1e-6;

/**
 * Runoff in litres a minute from rain (millimetres an hour) on a plan area (square millimetres).
 * 6 in/h on 400 ft² is 24.9 US gal/min; 150 mm/h on 40 m² is 100 L/min.
 */
export const runoff = (rainMmPerHour: number, planArea: number): number => (rainMmPerHour * planArea * LITRES_PER_CUBIC_MM) / 60;
