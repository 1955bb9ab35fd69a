import { type Job, type Plane, pitchOf, printPitch, printSaidPitch } from '#core';

/** A slope's pitch as it was told, where its part has but one. */
export function pitchSaid({ parts }: Job, { part, pitch }: Plane): string {
  const said = parts.find(({ id }) => id === part)?.pitch;
  return said && Math.abs(pitchOf(said) - pitch) < 1e-9 ? printSaidPitch(said) : printPitch(pitch, 'x12');
}
