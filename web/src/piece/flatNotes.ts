/** About as wide and high as a bend's note is, pixels. */
const NOTE = { width: 52, height: 12 };

/** Notes that would lie on one before go under it. */
export function clear<T extends { readonly x: number; readonly y: number }>(notes: readonly T[]): T[] {
  const placed: T[] = [];
  for (const note of notes) {
    let { y } = note;
    while (placed.some((other) => Math.abs(other.x - note.x) < NOTE.width && Math.abs(other.y - y) < NOTE.height)) y += 1;
    placed.push({ ...note, y });
  }
  return placed;
}
