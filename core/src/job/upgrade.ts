/**
 * Turns a version 1 document (a list of single slopes with their own measures) into version 2 (parts of a roof). Anything else is handed
 * back as it is: the schema says what is wrong with it.
 */
export function upgradeJob(data: unknown): unknown {
  const job = data as { version?: unknown; planes?: unknown };
  if (job?.version !== 1 || !Array.isArray(job.planes)) return data;
  const { planes, ...rest } = job as { planes: unknown[] };
  return { ...rest, version: 2, parts: planes.map(partOf) };
}

function partOf(plane: unknown): unknown {
  if (typeof plane !== 'object' || plane === null) return plane;
  const { id, name, pitch, overhang, wallThickness, eaveLength, slope, ...record } = plane as Record<string, unknown>;
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
