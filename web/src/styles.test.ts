import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import { ROLES } from '#core';

const source = fileURLToPath(new URL('.', import.meta.url));
const files = readdirSync(source, { recursive: true, encoding: 'utf8' });
const text = (file: string): string => readFileSync(`${source}${file}`, 'utf8');
const camel = (name: string): string => name.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

/** The classes a style sheet has of its own: those it names without `:global`. */
const classesOf = (css: string): Set<string> =>
  new Set(
    [...css.replace(/\/\*.*?\*\//gs, '').matchAll(/([^{}]+)\{/g)].flatMap(([, selector]) =>
      [...selector!.replace(/:global\([^)]*\)/g, '').matchAll(/\.([a-z][\w-]*)/gi)].map(([, name]) => camel(name!)),
    ),
  );

const sheets = files.filter((file) => file.endsWith('.module.css'));

it('there are style sheets to look at', () => expect(sheets.length).toBeGreaterThan(20));

// a class without a rule is drawn with nothing, and a rule without a class is dead: neither is an error to the compiler
it.each(sheets)('%s: its component uses every class it has, and no other', (sheet) => {
  const component = text(sheet.replace('.module.css', '.tsx'));
  expect(component).toContain(`from './${sheet.split('/').at(-1)!}'`);
  const used = new Set([...component.matchAll(/\bcss\.(\w+)/g)].map(([, name]) => name!));
  expect([...classesOf(text(sheet))].toSorted()).toEqual([...used].toSorted());
});

it('no colour is written outside the tokens and the drawing but the paper’s black and white', () => {
  const colours = sheets.flatMap((sheet) =>
    [...text(sheet).matchAll(/#[0-9a-f]{3,8}\b/gi)].map(([colour]) => `${sheet} ${colour.toLowerCase()}`),
  );
  expect(colours.filter((one) => !/#(fff|000|999)$/.test(one))).toEqual([]);
});

it('every role has its colour on drawings, and nothing that is none', () => {
  const drawn = new Set([...text('drawing.css').matchAll(/\.piece\.(\w+)/g)].map(([, role]) => role!));
  expect([...drawn].toSorted()).toEqual(Object.keys(ROLES).toSorted());
});
