import { isAtLeast, isFlatter, isUnder } from '../units/index.ts';
import { type KeyInfo, RULE_KEYS, type RuleKey, keyInfo } from './keys.ts';
import type { Pack, Rule, Sense, SourceKind } from './schema.ts';
import { toCore } from './values.ts';

/** One source's word on a key, as it was written. */
export type Statement = {
  readonly source: SourceKind;
  /** Pack or maker name, as printed. */
  readonly name: string;
  readonly edition: string;
  readonly section: string;
  readonly sense: Sense;
  readonly value: Rule['value'];
  readonly unit?: Rule['unit'];
  readonly why?: string;
  /** What became of this word: it governs, it agrees, it was outranked, or it may not loosen. */
  readonly standing: 'governs' | 'tightens' | 'heard' | 'outranked' | 'may not loosen' | 'conflicts' | 'deviates';
};

export type RequirementStatus = 'settled' | 'assumed' | 'conflict' | 'decided' | 'deviated';

/** A key with the value in use, who governs it, who else spoke, and why. */
export type Requirement = {
  readonly key: RuleKey;
  readonly meaning: string;
  readonly status: RequirementStatus;
  /** Least and greatest allowed (millimetres for lengths, rise over run for pitches), where someone set one. */
  readonly least?: number;
  readonly most?: number;
  /** For choices: what is allowed, preferred first. */
  readonly allowed?: readonly string[];
  readonly yes?: boolean;
  readonly statements: readonly Statement[];
  /** Why the governing value governs, or how to get out of a conflict. */
  readonly why: string;
};

/** What the rules say at one place. A key is resolved when it is first asked: what no family asks is neither resolved nor told. */
export type Requirements = {
  get(key: RuleKey): Requirement;
  /** The same without being told as asked. */
  peek(key: RuleKey): Requirement;
  /** What was asked so far, in the order of `KEYS`. */
  asked(): Requirement[];
};

/** What decides whether a rule's conditions hold. Pitch is rise over run; the exposure in millimetres, undefined until the covering is laid out. */
export type RuleContext = {
  readonly covering: string;
  readonly pitch: number;
  readonly iceDams: boolean;
  /** Ids of the products used there. */
  readonly products?: readonly string[];
  readonly exposure?: number;
};

/** A recorded way out of a conflict: the name of the source that governs from now on, and the reason. */
export type Decision = { readonly source: string; readonly reason: string };

/** A value set for this one job or on the roof: `job` (drawings), `house` (the company, tightening) or `field` (with its reason). */
export type LocalRule = { readonly source: 'job' | 'house' | 'field'; readonly name: string; readonly rule: Rule };

export type RuleSources = {
  readonly packs: readonly Pack[];
  readonly local?: readonly LocalRule[];
  readonly decisions?: Readonly<Record<string, Decision>>;
};

const FIRM: readonly SourceKind[] = ['code', 'maker', 'job'];

type Open = { -readonly [K in keyof Statement]: Statement[K] };
type Numeric = { statement: Open; value: number };

function applies(rule: Rule, context: RuleContext): boolean {
  const when = rule.when;
  if (!when) return true;
  if (when.coverings && !when.coverings.includes(context.covering)) return false;
  if (when.products && !when.products.some((product) => context.products?.includes(product))) return false;
  const { exposure } = context;
  if (when.exposureAtLeast && (exposure === undefined || isUnder(exposure, lengthIn(when.exposureAtLeast)))) return false;
  if (when.exposureBelow && (exposure === undefined || isAtLeast(exposure, lengthIn(when.exposureBelow)))) return false;
  if (when.pitchAtLeast !== undefined && isFlatter(context.pitch, when.pitchAtLeast / 12)) return false;
  if (when.pitchBelow !== undefined && !isFlatter(context.pitch, when.pitchBelow / 12)) return false;
  return when.iceDams === undefined || when.iceDams === context.iceDams;
}

const lengthIn = ({ value, unit }: { readonly value: number; readonly unit: 'in' | 'mm' }): number => toCore(value, unit);

type Word = { readonly source: SourceKind; readonly name: string; readonly edition: string; readonly rule: Rule };

const wordsOf = new WeakMap<RuleSources, ReadonlyMap<string, readonly Word[]>>();

/** All that some sources say, by key; the sources of a job are looked through once. */
function wordsBy(sources: RuleSources): ReadonlyMap<string, readonly Word[]> {
  const known = wordsOf.get(sources);
  if (known) return known;
  const words = new Map<string, Word[]>();
  const hear = (word: Word): void => {
    const list = words.get(word.rule.key);
    if (list) list.push(word);
    else words.set(word.rule.key, [word]);
  };
  for (const { rules, source, name, edition } of sources.packs) for (const rule of rules) hear({ source, name, edition, rule });
  for (const { source, name, rule } of sources.local ?? []) hear({ source, name, edition: 'this job', rule });
  wordsOf.set(sources, words);
  return words;
}

const heard = (words: readonly Word[], context: RuleContext): Open[] =>
  words
    .filter(({ rule }) => applies(rule, context))
    .map(({ source, name, edition, rule }) => ({
      source,
      name,
      edition,
      section: rule.section,
      sense: rule.sense,
      value: rule.value,
      standing: 'heard',
      ...(rule.unit === undefined ? {} : { unit: rule.unit }),
      ...(rule.why === undefined ? {} : { why: rule.why }),
    }));

/** Requirements that are found key by key when they are asked. */
function askedOf(find: (key: RuleKey) => Requirement): Requirements {
  const known = new Map<RuleKey, Requirement>();
  const heardOf = new Set<RuleKey>();
  const peek = (key: RuleKey): Requirement => {
    const before = known.get(key);
    if (before) return before;
    const found = find(key);
    known.set(key, found);
    return found;
  };
  return {
    peek,
    get: (key) => {
      heardOf.add(key);
      return peek(key);
    },
    asked: () => RULE_KEYS.filter((key) => heardOf.has(key)).map(peek),
  };
}

/** The same words, for somebody whose asking is not to be told. */
export const unheard = (requirements: Requirements): Requirements => ({
  get: requirements.peek,
  peek: requirements.peek,
  asked: () => [],
});

/**
 * Resolves the keys that are asked: among the sources that apply, the strictest of code, maker and job governs; trade practice only where those
 * three are silent; the house may tighten, never loosen; the field may deviate with a reason. A minimum above a maximum, two
 * different exact values, or choices with nothing in common are a conflict, which a recorded decision settles.
 * Keys nobody speaks on come out as assumed. Same input, same output, whatever the order of the packs.
 */
export function resolveRules(sources: RuleSources, context: RuleContext): Requirements {
  return askedOf((key) => {
    const statements = heard(wordsBy(sources).get(key) ?? [], context).sort(byRank);
    return resolveKey(key, keyInfo(key), statements, sources.decisions?.[key]);
  });
}

const RANK: Record<SourceKind, number> = { code: 0, maker: 1, job: 2, standard: 3, house: 4, field: 5 };

/** Plain code-point order, so that the result never depends on a locale. */
const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

const byRank = (a: Statement, b: Statement): number =>
  RANK[a.source] - RANK[b.source] ||
  byText(a.name, b.name) ||
  byText(a.section, b.section) ||
  byText(a.sense, b.sense) ||
  byText(String(a.value), String(b.value));

function resolveKey(key: RuleKey, info: KeyInfo, statements: Open[], decision: Decision | undefined): Requirement {
  const base = { key, meaning: info.meaning, statements };
  if (statements.length === 0)
    return { ...base, ...assume(info), status: 'assumed', why: 'No source in this job speaks on it; this is assumed.' };
  switch (info.kind) {
    case 'choice':
      return { ...base, ...resolveChoice(statements, decision) };
    case 'yesNo':
      return { ...base, ...resolveYesNo(statements, decision) };
    default:
      return { ...base, ...resolveNumber(info, statements, decision) };
  }
}

function assume(info: KeyInfo): Pick<Requirement, 'least' | 'most' | 'allowed' | 'yes'> {
  const { value, unit } = info.assumed;
  if (typeof value === 'boolean') return { yes: value };
  if (typeof value === 'string') return { allowed: [value] };
  return { [info.atMost ? 'most' : 'least']: toCore(value, unit, info.kind) };
}

type Outcome = Omit<Requirement, 'key' | 'meaning' | 'statements'>;

/** The sources that decide: the firm ones, or trade practice where those are silent, or the house where all are. */
function deciders<T extends { statement: Open }>(words: T[]): { deciding: T[]; rest: T[] } {
  for (const rank of [FIRM, ['standard'], ['house']] as const) {
    const deciding = words.filter(({ statement }) => (rank as readonly SourceKind[]).includes(statement.source));
    if (deciding.length > 0) return { deciding, rest: words.filter((word) => !deciding.includes(word)) };
  }
  return { deciding: [], rest: words };
}

const OUT_OF_CONFLICT =
  'The sources contradict each other. A maker’s instruction is part of its warranty and the code binds the job: ask the inspector which to follow, then record the choice here.';

function sideOf({ kind }: KeyInfo, statements: Open[], side: 'least' | 'most'): Numeric[] {
  const senses: readonly Sense[] = side === 'least' ? ['atLeast', 'exactly'] : ['atMost', 'exactly'];
  return statements
    .filter(({ sense, source }) => senses.includes(sense) && source !== 'field')
    .map((statement) => ({ statement, value: toCore(statement.value as number, statement.unit, kind) }));
}

/** Picks the governing bound of one side and marks what became of every word on it. */
function govern(words: Numeric[], side: 'least' | 'most'): number | undefined {
  if (words.length === 0) return undefined;
  const stricter = (a: number, b: number): boolean => (side === 'least' ? a > b : a < b);
  const { deciding, rest } = deciders(words);
  let governing = deciding[0]!;
  for (const word of deciding) if (stricter(word.value, governing.value)) governing = word;
  governing.statement.standing = 'governs';
  let bound = governing.value;
  for (const word of rest) {
    if (word.statement.source !== 'house') word.statement.standing = word.value === bound ? 'heard' : 'outranked';
    else if (stricter(word.value, bound)) {
      word.statement.standing = 'tightens';
      bound = word.value;
    } else if (word.value !== bound) word.statement.standing = 'may not loosen';
  }
  return bound;
}

function resolveNumber(info: KeyInfo, statements: Open[], decision: Decision | undefined): Outcome {
  let least = govern(sideOf(info, statements, 'least'), 'least');
  let most = govern(sideOf(info, statements, 'most'), 'most');
  let status: RequirementStatus = 'settled';
  let why = whyOf(statements);
  if (least !== undefined && most !== undefined && least > most) {
    const chosen = decision && statements.filter(({ name }) => name === decision.source);
    for (const statement of statements)
      if (statement.standing === 'governs' || statement.standing === 'tightens') statement.standing = 'conflicts';
    if (chosen && chosen.length > 0) {
      status = 'decided';
      why = decidedWhy(decision);
      for (const statement of statements) statement.standing = chosen.includes(statement) ? 'governs' : 'outranked';
      least = govern(sideOf(info, chosen, 'least'), 'least');
      most = govern(sideOf(info, chosen, 'most'), 'most');
    } else {
      status = 'conflict';
      why = OUT_OF_CONFLICT;
    }
  }
  const field = statements.find(({ source }) => source === 'field');
  if (field) {
    field.standing = 'deviates';
    const value = toCore(field.value as number, field.unit, info.kind);
    const below = (least !== undefined && value < least) || (most !== undefined && value > most);
    if (field.sense !== 'atMost') least = value;
    if (field.sense !== 'atLeast') most = value;
    if (below) status = 'deviated';
    why = `Decided on the roof: ${field.why ?? field.section}.${below ? ' This is outside what governs, and stays a finding.' : ''}`;
  }
  const assumed = least === undefined && most === undefined ? assume(info) : {};
  return { ...assumed, ...(least === undefined ? {} : { least }), ...(most === undefined ? {} : { most }), status, why };
}

function resolveChoice(statements: Open[], decision: Decision | undefined): Outcome {
  const words = statements
    .filter(({ source }) => source !== 'field')
    .map((statement) => ({ statement, allowed: statement.value as string[] }));
  const { deciding, rest } = deciders(words);
  let allowed =
    deciding.length > 0 ? deciding[0]!.allowed.filter((option) => deciding.every((word) => word.allowed.includes(option))) : [];
  let status: RequirementStatus = 'settled';
  for (const word of deciding) word.statement.standing = 'governs';
  if (allowed.length === 0) {
    const chosen = decision && deciding.find(({ statement }) => statement.name === decision.source);
    for (const word of deciding) word.statement.standing = chosen ? 'outranked' : 'conflicts';
    if (chosen) chosen.statement.standing = 'governs';
    status = chosen ? 'decided' : 'conflict';
    allowed = chosen ? chosen.allowed : [...new Set(deciding.flatMap((word) => word.allowed))];
  }
  for (const word of rest) {
    const narrowed = allowed.filter((option) => word.allowed.includes(option));
    if (word.statement.source !== 'house') word.statement.standing = 'outranked';
    else if (narrowed.length === 0) word.statement.standing = 'may not loosen';
    else {
      // the house's own order of preference counts within what is allowed
      allowed = word.allowed.filter((option) => narrowed.includes(option));
      word.statement.standing = 'tightens';
    }
  }
  const why = status === 'conflict' ? OUT_OF_CONFLICT : status === 'decided' ? decidedWhy(decision) : whyOf(statements);
  return { allowed, status, why };
}

function resolveYesNo(statements: Open[], decision: Decision | undefined): Outcome {
  const words = statements
    .filter(({ source }) => source !== 'field')
    .map((statement) => ({ statement, yes: statement.value === true }));
  const { deciding, rest } = deciders(words);
  let yes = deciding.some((word) => word.yes);
  let status: RequirementStatus = 'settled';
  for (const word of deciding) word.statement.standing = 'governs';
  if (yes && deciding.some((word) => !word.yes)) {
    const chosen = decision && deciding.find(({ statement }) => statement.name === decision.source);
    for (const word of deciding) word.statement.standing = chosen ? 'outranked' : 'conflicts';
    if (chosen) chosen.statement.standing = 'governs';
    status = chosen ? 'decided' : 'conflict';
    yes = chosen ? chosen.yes : true;
  }
  for (const word of rest) {
    if (word.statement.source !== 'house') word.statement.standing = 'outranked';
    else if (word.yes && !yes) {
      yes = true;
      word.statement.standing = 'tightens';
    } else if (word.yes !== yes) word.statement.standing = 'may not loosen';
  }
  const why = status === 'conflict' ? OUT_OF_CONFLICT : status === 'decided' ? decidedWhy(decision) : whyOf(statements);
  return { yes, status, why };
}

const decidedWhy = (decision: Decision | undefined): string =>
  `The sources contradict each other; recorded choice: ${decision?.source} (${decision?.reason}).`;

function whyOf(statements: readonly Statement[]): string {
  const tightens = statements.find(({ standing }) => standing === 'tightens');
  if (tightens) return `${tightens.name} asks more than what governs, and a house standard may tighten.`;
  const governing = statements.filter(({ standing }) => standing === 'governs');
  const firm = governing.some(({ source }) => FIRM.includes(source));
  if (firm)
    return statements.filter(({ source }) => FIRM.includes(source)).length > 1
      ? 'The strictest of code, maker and job governs.'
      : 'Code, maker and job outrank trade practice.';
  return governing.some(({ source }) => source === 'standard')
    ? 'Code, maker and job are silent, so trade practice governs.'
    : 'Only the house standard speaks.';
}

/** Least allowed value in the core's units; where only a maximum was set, 0. */
export const leastOf = (requirements: Requirements, key: RuleKey): number => requirements.get(key).least ?? 0;

/** Greatest allowed value in the core's units; where nobody set one, Infinity. */
export const mostOf = (requirements: Requirements, key: RuleKey): number =>
  requirements.get(key).most ?? Number.POSITIVE_INFINITY;

/**
 * What holds where two slopes meet, each with its own pitch and covering: of every key the stricter of the two (the larger least, the smaller
 * most, a yes before a no). Where they agree the first one's word stands.
 */
export function strictestOf(a: Requirements, b: Requirements): Requirements {
  const stricter = (one: Requirement, other: Requirement): boolean =>
    (other.least ?? Number.NEGATIVE_INFINITY) > (one.least ?? Number.NEGATIVE_INFINITY) ||
    (other.most ?? Number.POSITIVE_INFINITY) < (one.most ?? Number.POSITIVE_INFINITY) ||
    (other.yes === true && one.yes !== true);
  return askedOf((key) => {
    const [one, other] = [a.get(key), b.get(key)];
    return stricter(one, other) ? other : one;
  });
}

export const isRequired = (requirements: Requirements, key: RuleKey): boolean => requirements.get(key).yes === true;
