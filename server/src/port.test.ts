import { expect, it } from 'vitest';
import { readPort } from './port.ts';

it.each(['0', '-1', '65536', '80.5', 'http', '0x50', '9'.repeat(50)])('PORT=%s is refused with a sentence', (wanted) => {
  expect(() => readPort(wanted)).toThrow(`PORT must be a whole number from 1 to 65535; it is "${wanted.slice(0, 40)}".`);
});

it('is Ruvet’s own where none is named, and the one that is', () => {
  expect([undefined, '', '1', '8080', '65535'].map((wanted) => readPort(wanted))).toEqual([4170, 4170, 1, 8080, 65_535]);
});
