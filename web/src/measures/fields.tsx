import { NativeSelect, NumberInput, Switch, TextInput } from '@mantine/core';
import {
  type AreaSize,
  type Job,
  type Pitch,
  type RuleKey,
  parseArea,
  parseLength,
  parseMass,
  parsePitch,
  printArea,
  printLength,
  printMass,
  printSaidPitch,
} from '#core';
import { type ReactNode, useId, useRef, useState } from 'react';
import { Choice } from '../Choice.tsx';
import { useEditing, usePlanned } from '../editor/context.ts';
import type { Change, Told } from '../editor/useJobEditor.ts';
import { type Options, listed } from '../options.ts';
import { AskWho } from '../rules/WhoSays.tsx';
import css from './fields.module.css';

type Common = { label: string; hint?: string; rule?: RuleKey };

const labelWith = (label: string, rule?: RuleKey): ReactNode => (
  <span className="field-label">
    {label}
    {rule && <AskWho rule={rule} about={label} />}
  </span>
);

/** What a field says of what was put into it; `kept`: the finding that tells it too, where the job has it all the same. */
type Said = { readonly sentence: string; readonly kept?: string };

/** What a field says, until it is put right: in the field itself, or by a change elsewhere. */
function useSaid(): [error: string | undefined, say: (said: Said | undefined) => void] {
  const { findings, planned } = usePlanned();
  const [said, say] = useState<Said>();
  const isOver = said?.kept !== undefined && planned && !findings.some(({ sentence: [first] }) => first === said.kept);
  return [isOver ? undefined : said?.sentence, say];
}

/**
 * A text that is parsed as it is typed: what can be read is taken at once, and says so where it cannot be planned; anything else says why and changes
 * nothing. Escape brings back what was there before.
 */
function ParsedField({
  label,
  hint,
  rule,
  shown,
  parse,
  keep,
  wide = false,
}: Common & {
  shown: string;
  wide?: boolean;
  parse: (text: string) => Said | undefined;
  /** Keeps the value as it is now; called later, it brings it back. */
  keep: () => () => void;
}) {
  const [text, setText] = useState<string>();
  const [error, say] = useSaid();
  const before = useRef<() => void>(undefined);
  const id = useId();
  return (
    <TextInput
      id={id}
      className={wide ? '' : 'measure'}
      size="sm"
      label={labelWith(label, rule)}
      aria-label={label}
      description={hint}
      value={text ?? shown}
      error={error}
      onChange={(event) => {
        const typed = event.currentTarget.value;
        before.current = before.current ?? keep();
        setText(typed);
        say(parse(typed));
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          before.current?.();
          before.current = undefined;
          setText(undefined);
          say(undefined);
        }
      }}
      onBlur={() => {
        if (error) return;
        before.current = undefined;
        setText(undefined);
      }}
    />
  );
}

/** A sentence that begins with the field's name exactly once. */
const sentence = (label: string, message: string): string =>
  /^[^:]+: /.test(message) ? message : `${label}: ${message[0]!.toLowerCase()}${message.slice(1)}`;

const saidOf = (label: string, issue: Told | undefined): Said | undefined =>
  issue && { sentence: sentence(label, issue.message), ...(issue.kept ? { kept: issue.message } : {}) };

/** Takes what was read into the job; a sentence where it could not be read, or be planned. */
function taken<T>(
  change: Change,
  { label, set }: { label: string; set: (draft: Job, value: T) => void },
  parsed: { ok: true; value: T } | { ok: false; reason: string },
): Said | undefined {
  if (!parsed.ok) return { sentence: `${label}: ${parsed.reason}.` };
  const [issue] = change(label, (draft) => set(draft, parsed.value));
  return saidOf(label, issue);
}

/** Brings a field's value of now back later. */
const keeping =
  <T,>(change: Change, { label, value, set }: { label: string; value: T; set: (draft: Job, value: T) => void }) =>
  (): (() => void) =>
  () =>
    void change(label, (draft) => set(draft, value));

/** A length in either unit system. `optional` takes an empty field as "by the rules". */
export function LengthField(
  props: Common & { value: number | null; set: (draft: Job, value: number | null) => void; optional?: string },
) {
  const { change, units } = useEditing();
  return (
    <ParsedField
      {...props}
      keep={keeping(change, props)}
      hint={props.value === null ? props.optional : props.hint}
      shown={props.value === null ? '' : printLength(props.value, units.system)}
      parse={(typed) => {
        const parsed =
          props.optional !== undefined && typed.trim() === ''
            ? { ok: true as const, value: null }
            : parseLength(typed, units.system);
        return taken(change, props, parsed);
      }}
    />
  );
}

/** An area in either unit system: a floor, or an opening for air. */
export function AreaField(props: Common & { value: number; size: AreaSize; set: (draft: Job, value: number) => void }) {
  const { change, units } = useEditing();
  return (
    <ParsedField
      {...props}
      keep={keeping(change, props)}
      shown={printArea(props.value, units.system, props.size)}
      parse={(typed) => taken(change, props, parseArea(typed, units.system, props.size))}
    />
  );
}

/** A weight in either unit system. */
export function MassField(props: Common & { value: number; set: (draft: Job, value: number) => void }) {
  const { change, units } = useEditing();
  return (
    <ParsedField
      {...props}
      keep={keeping(change, props)}
      shown={printMass(props.value, units.system)}
      parse={(typed) => taken(change, props, parseMass(typed, units.system))}
    />
  );
}

/** A pitch, kept and shown the way it was typed. */
export function PitchField(props: Common & { value: Pitch; set: (draft: Job, value: Pitch) => void }) {
  const { change, units } = useEditing();
  return (
    <ParsedField
      {...props}
      keep={keeping(change, props)}
      shown={printSaidPitch(props.value)}
      parse={(typed) => taken(change, props, parsePitch(typed, units.system))}
    />
  );
}

export function TextField(props: Common & { value: string; set: (draft: Job, value: string) => void }) {
  const { change } = useEditing();
  return (
    <ParsedField
      {...props}
      keep={keeping(change, props)}
      wide
      shown={props.value}
      parse={(typed) => {
        const [issue] = change(props.label, (draft) => props.set(draft, typed));
        return saidOf(props.label, issue);
      }}
    />
  );
}

/** A share of one, shown in percent. */
export function PercentField(props: Common & { value: number; set: (draft: Job, value: number) => void }) {
  const { change } = useEditing();
  const [error, say] = useSaid();
  return (
    <NumberInput
      size="sm"
      label={labelWith(props.label, props.rule)}
      aria-label={props.label}
      description={props.hint}
      value={Math.round(props.value * 1000) / 10}
      suffix=" %"
      error={error}
      onChange={(typed) => {
        if (typeof typed !== 'number') return say({ sentence: `${props.label}: write a number from 0 to 100.` });
        const [issue] = change(props.label, (draft) => props.set(draft, typed / 100));
        say(saidOf(props.label, issue));
      }}
    />
  );
}

/** What can be chosen: a label for every value, or items in a list. */
/** A choice among items or schools; one that cannot be planned says so. */
export function ChoiceField<T extends string>(
  props: Common & { value: T; options: Options<T>; set: (draft: Job, value: T) => void },
) {
  const { change } = useEditing();
  const [error, say] = useSaid();
  return (
    <NativeSelect
      size="sm"
      label={labelWith(props.label, props.rule)}
      aria-label={props.label}
      description={props.hint}
      value={props.value}
      error={error}
      data={listed(props.options)}
      onChange={(event) => {
        const value = event.currentTarget.value as T;
        const [issue] = change(props.label, (draft) => props.set(draft, value));
        say(saidOf(props.label, issue));
      }}
    />
  );
}

/** What is wrong with what was typed or tried, in a sentence; nothing while there is nothing wrong. */
export const FieldError = ({ children }: { children: string | undefined }) =>
  children ? (
    <p className="field-error" role="alert">
      {children}
    </p>
  ) : null;

/** Two ways side by side. */
export function EitherField<T extends string>(
  props: Common & { value: T; options: Options<T>; set: (draft: Job, value: T) => void },
) {
  const { change } = useEditing();
  const [error, say] = useSaid();
  return (
    <div className="either">
      <div className={css.eitherLabel}>{labelWith(props.label, props.rule)}</div>
      <Choice
        label={props.label}
        value={props.value}
        options={props.options}
        onChange={(value) => {
          const [issue] = change(props.label, (draft) => props.set(draft, value));
          say(saidOf(props.label, issue));
        }}
      />
      <FieldError>{error}</FieldError>
    </div>
  );
}

export function SwitchField(props: Common & { value: boolean; set: (draft: Job, value: boolean) => void }) {
  const { change } = useEditing();
  const [error, say] = useSaid();
  return (
    <Switch
      size="sm"
      label={labelWith(props.label, props.rule)}
      aria-label={props.label}
      checked={props.value}
      error={error}
      onChange={(event) => {
        const on = event.currentTarget.checked;
        const [issue] = change(props.label, (draft) => props.set(draft, on));
        say(saidOf(props.label, issue));
      }}
    />
  );
}

/** A titled group of fields, with room for a button beside its title. */
export function Section({ title, children, aside }: { title: string; children: ReactNode; aside?: ReactNode }) {
  return (
    <fieldset className="section">
      <legend>
        {title}
        {aside}
      </legend>
      <div className="section-fields">{children}</div>
    </fieldset>
  );
}

type NumberProps = Common & { value: number; set: (draft: Job, value: number) => void };

/** A number in a text field, told in words when it is not one. */
function NumberField(props: NumberProps & { takes: (value: number) => boolean; wanted: string }) {
  const { change } = useEditing();
  return (
    <ParsedField
      {...props}
      keep={keeping(change, props)}
      shown={String(props.value)}
      parse={(typed) => {
        const value = Number(typed.trim().replace(/°$/, ''));
        if (typed.trim() === '' || !props.takes(value)) return { sentence: `${props.label}: write ${props.wanted}.` };
        const [issue] = change(props.label, (draft) => props.set(draft, value));
        return saidOf(props.label, issue);
      }}
    />
  );
}

export const CountField = (props: NumberProps & { most: number }) => (
  <NumberField
    {...props}
    takes={(value) => Number.isInteger(value) && value >= 0 && value <= props.most}
    wanted={`a whole number up to ${props.most}`}
  />
);

/** A direction on the compass. */
export const DegreesField = (props: NumberProps) => (
  <NumberField {...props} takes={(value) => value >= 0 && value <= 360} wanted="degrees from 0 to 360" />
);

/** Properties of an object that hold a kind of value. */
type KeysFor<T, V> = { [K in keyof T]-?: T[K] extends V ? K : never }[keyof T];
type More = Omit<Common, 'label'>;

/**
 * Fields for the properties of one object of the job, `at` telling where it is in a draft; `of` comes before every label. A field whose
 * change touches more than its own property is written out.
 */
export function fieldsOf<T>(value: T, at: (draft: Job) => T, of = '') {
  const bind = <V,>(key: keyof T, label: string) => ({
    label: of + label,
    value: value[key] as V,
    set: (draft: Job, to: V) => void ((at(draft)[key] as V) = to),
  });
  return {
    text: (key: KeysFor<T, string>, label: string) => <TextField {...bind<string>(key, label)} />,
    length: (key: KeysFor<T, number | null>, label: string, more?: More & { optional?: string }) => (
      <LengthField {...bind<number | null>(key, label)} {...more} />
    ),
    area: (key: KeysFor<T, number>, label: string, size: AreaSize, more?: More) => (
      <AreaField {...bind<number>(key, label)} size={size} {...more} />
    ),
    pitch: (key: KeysFor<T, Pitch>, label: string, more?: More) => <PitchField {...bind<Pitch>(key, label)} {...more} />,
    percent: (key: KeysFor<T, number>, label: string) => <PercentField {...bind<number>(key, label)} />,
    count: (key: KeysFor<T, number>, label: string, most: number) => <CountField {...bind<number>(key, label)} most={most} />,
    onOff: (key: KeysFor<T, boolean>, label: string, more?: More) => <SwitchField {...bind<boolean>(key, label)} {...more} />,
    either: <K extends KeysFor<T, string>>(key: K, label: string, options: Options<T[K] & string>, more?: More) => (
      <EitherField {...bind<T[K] & string>(key, label)} options={options} {...more} />
    ),
    choice: <K extends KeysFor<T, string>>(key: K, label: string, options: Options<T[K] & string>, more?: More) => (
      <ChoiceField {...bind<T[K] & string>(key, label)} options={options} {...more} />
    ),
    /** A choice that may be left open: `none` says what that means. */
    openChoice: (key: KeysFor<T, string | null>, label: string, options: { value: string; label: string }[], none: string) => {
      const { value, set, ...rest } = bind<string | null>(key, label);
      return (
        <ChoiceField
          {...rest}
          value={value ?? ''}
          options={[{ value: '', label: none }, ...options]}
          set={(draft, chosen) => set(draft, chosen === '' ? null : chosen)}
        />
      );
    },
  };
}

export type FieldsOf<T> = ReturnType<typeof fieldsOf<T>>;
