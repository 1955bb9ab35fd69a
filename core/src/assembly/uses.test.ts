import { describe, expect, it } from 'vitest';
import { inches } from '../units/index.ts';
import { type Assembly, type Piece, type Step, band, bead, coat, emptyAssembly, lengths, piecesOf, printWords, usesWords, withKnownMarks, withUses } from './index.ts'; // prettier-ignore

const product = { id: 'p', name: 'Thing' };
const words = (...uses: Parameters<typeof usesWords>[0]): string => printWords(usesWords(uses), 'imperial');

describe('what a step takes, in words', () => {
  it('counts, cuts, beads, bands and areas, each in the reader’s units', () => {
    expect(words(piecesOf(product, 'thing', 6))).toBe('6 × Thing');
    expect(words(lengths(product, 'thing', [inches(38.5), inches(54.5)]))).toBe('Thing: 38 1/2", 54 1/2"');
    expect(words(lengths(product, 'thing', [100, 100, 30, 100].map(inches)))).toBe('Thing: 2 × 100", 30", 100"');
    expect(words(bead(product, 'thing', inches(37), inches(3 / 8)))).toBe('Thing, 37" of 3/8" bead');
    expect(words(band(product, 'thing', inches(7), inches(3), inches(1 / 8)))).toBe('Thing, 7" of 3" × 1/8" band');
    expect(words(coat(product, 'thing', 304.8 * 304.8 * 12))).toBe('Thing, 12 ft²');
    expect(printWords(usesWords([coat(product, 'thing', 2e6)]), 'metric')).toBe('Thing, 2 m²');
    expect(words(piecesOf(product, '', 1), piecesOf(undefined, 'valley cleat', 2))).toBe('1 × Thing; 2 × valley cleat');
  });
});

const piece = (mark: string): Piece => ({
  mark,
  detail: 'd',
  role: 'step',
  covers: [],
  lay: [0, 0, 0, 0, 0],
  liesOn: [],
  keys: [],
});
const step = (pieces: string[], uses: Step['uses'] = []): Step => ({
  lay: [0, 0, 0, 0, 0],
  detail: 'd',
  stage: 'finish',
  action: ['x'],
  pieces,
  uses,
  people: 1,
  keys: [],
});
const nail = (mark: string, id = 'n') => ({
  piece: mark,
  facet: 'f',
  at: [0, 0] as const,
  product: id,
  keptDry: 'covered' as const,
});

describe('steps and their fasteners', () => {
  const made: Assembly = {
    ...emptyAssembly,
    pieces: ['A', 'B', 'C'].map(piece),
    fasteners: [nail('A'), nail('A'), nail('B'), nail('B', 'm'), nail('C')],
    steps: [
      step(['A', 'B'], [piecesOf(product, 'thing', 3)]),
      step(['C']),
      step([]),
      step(['A'], [piecesOf(product, 'thing', 0)]),
    ],
  };

  it('a step takes the fasteners of what it lays, by product, and what it was said to take; nothing of nothing', () => {
    const { steps } = withUses(made, (id) => `name of ${id}`);
    expect(steps[0]!.uses!.map(({ name, amount }) => `${amount} ${name}`)).toEqual(['3 name of n', '1 name of m', '3 Thing']);
    expect(steps[1]!.uses).toHaveLength(1);
    expect(steps[2]).not.toHaveProperty('uses');
    expect(steps[3]!.uses!.map(({ amount }) => amount)).toEqual([2]);
  });

  it('marks of pieces that were not made are named nowhere', () => {
    const odd: Assembly = {
      ...made,
      pieces: [
        { ...piece('A'), liesOn: ['Z'] },
        { ...piece('B'), liesOn: ['A', 'Z'] },
      ],
      steps: [step(['A', 'Z'])],
      findings: [{ id: 'f', severity: 'leaks', sentence: [], fix: [], piece: 'Z' }, { id: 'g', severity: 'leaks', sentence: [], fix: [], piece: 'A' }], // prettier-ignore
    };
    const known = withKnownMarks(odd);
    expect(known.pieces.map(({ liesOn }) => liesOn)).toEqual([[], ['A']]);
    expect(known.steps[0]!.pieces).toEqual(['A']);
    expect(known.findings.map(({ piece: mark }) => mark)).toEqual([undefined, 'A']);
  });
});
