import { Button, Modal, TextInput } from '@mantine/core';
import { IconHelpCircle } from '@tabler/icons-react';
import {
  type Job,
  type Library,
  type Requirement,
  type RuleKey,
  type RuleUnit,
  type Statement,
  findPack,
  makerPacks,
  keyInfo,
  printBound,
  printRuleValue,
} from '#core';
import { useState } from 'react';
import { type Units, useEditing, useSlope, useView } from '../editor/context.ts';
import css from './WhoSays.module.css';

const SOURCE_WORDS: Record<Statement['source'], string> = {
  code: 'Code',
  maker: 'Maker',
  job: 'This job',
  standard: 'Trade practice',
  house: 'House',
  field: 'On the roof',
};

const SENSE_WORDS: Record<Statement['sense'], string> = {
  atLeast: 'at least',
  atMost: 'at most',
  exactly: 'exactly',
  oneOf: '',
  yesNo: '',
};

const STANDING_WORDS: Record<Statement['standing'], string> = {
  governs: 'governs',
  tightens: 'tightens',
  heard: 'agrees',
  outranked: 'outranked',
  'may not loosen': 'may not loosen',
  conflicts: 'contradicts',
  deviates: 'decided on the roof',
};

/** The little question mark beside a governed number. */
export function AskWho({ rule, about }: { rule: RuleKey; about?: string }) {
  const { whoSays } = useView();
  return (
    <button
      type="button"
      className={css.askWho}
      aria-label={`Who says? ${about ?? ''}`.trim()}
      title="Who says?"
      onClick={(event) => {
        event.preventDefault();
        event.stopPropagation();
        whoSays(rule);
      }}
    >
      <IconHelpCircle size={15} aria-hidden />
    </button>
  );
}

const written = (statement: Statement, units: Units): string => {
  const value = printRuleValue(statement, units.system);
  return `${SENSE_WORDS[statement.sense]} ${value}`.trim().replaceAll('-', ' ');
};

const UNIT_WORD: Record<RuleUnit, string> = {
  in: ' (in)',
  mm: ' (mm)',
  x12: ' (in 12)',
  deg: ' (°)',
  count: '',
  '%': ' (%)',
  ratio: ' (0 to 1)',
  min: ' (minutes)',
  h: ' (hours)',
  days: ' (days)',
  C: ' (°C)',
  F: ' (°F)',
};

/** The value in use, for a heading. */
export function valueInUse(requirement: Requirement, units: Units): string {
  const { key, least, most, allowed, yes } = requirement;
  if (yes !== undefined) return yes ? 'required' : 'not required';
  if (allowed) return allowed.join(' or ').replaceAll('-', ' ');
  const governing = (bound: number | undefined, sense: 'atLeast' | 'atMost'): string | undefined => {
    if (bound === undefined) return undefined;
    // printed as its source wrote it, where one did
    const source = requirement.statements.find(
      (statement) =>
        (statement.sense === sense || statement.sense === 'exactly') &&
        ['tightens', 'governs', 'deviates'].includes(statement.standing),
    );
    const own = printBound(keyInfo(key).kind, bound, units.system);
    return source
      ? printRuleValue(
          requirement.statements.find((other) => other.sense === source.sense && other.standing === 'tightens') ?? source,
          units.system,
        )
      : own;
  };
  const low = governing(least, 'atLeast');
  const high = governing(most, 'atMost');
  if (low !== undefined && high !== undefined) return least === most ? low : `${low} to ${high}`;
  return low !== undefined ? `at least ${low}` : `at most ${high ?? ''}`;
}

/** Why a number is what it is: who governs, who else spoke, and the way out where they contradict each other. */
export function WhoSays() {
  const { units, job, library } = useEditing();
  const { plane } = useSlope();
  const { asked, whoSays } = useView();
  const requirement = asked && plane.requirements.find(({ key }) => key === asked);
  if (!requirement) return null;
  return (
    <Modal opened onClose={() => whoSays(undefined)} title="Who says?" size="lg" centered>
      <p className={css.whoMeaning}>{requirement.meaning[0]!.toUpperCase() + requirement.meaning.slice(1)}</p>
      <p className={`${css.whoValue} fig`}>{valueInUse(requirement, units)}</p>
      <p>{requirement.why}</p>
      {requirement.statements.length > 0 && (
        <ol className={css.whoList}>
          {requirement.statements.map((statement) => (
            <li
              key={`${statement.name} ${statement.section} ${statement.sense} ${String(statement.value)}`}
              className={`${css.whoSaid} ${statement.standing.replaceAll(' ', '-')}`}
            >
              <span className={css.whoSource}>{SOURCE_WORDS[statement.source]}</span>
              <span className="who-figure fig">{written(statement, units)}</span>
              <span className={css.whoName}>
                {statement.name}, {statement.section} <span className="quiet">({statement.edition})</span>
                {statement.why && <span className="quiet"> · {statement.why}</span>}
              </span>
              <span className={css.whoStanding}>{STANDING_WORDS[statement.standing]}</span>
            </li>
          ))}
        </ol>
      )}
      {(requirement.status === 'conflict' || requirement.status === 'decided') && <WayOut requirement={requirement} />}
      <Deviate key={requirement.key} requirement={requirement} />
      <p className="quiet small">
        {noticeFor(job, library, requirement)}Local code, the maker’s current instructions and licensed practice govern. Ruvet
        computes; it does not approve.
      </p>
    </Modal>
  );
}

function noticeFor(job: Job, library: Library, requirement: Requirement): string {
  const names = new Set(requirement.statements.map(({ name }) => name));
  const notices = [...job.packs, ...makerPacks(job, library.catalog)].flatMap((ref) => {
    const pack = findPack(library.packs, ref);
    return pack?.notice && names.has(pack.name) ? [`${pack.name}: ${pack.notice} `] : [];
  });
  return notices.join('');
}

/** Records which of two contradicting sources to follow, with the reason. */
function WayOut({ requirement }: { requirement: Requirement }) {
  const { change, job } = useEditing();
  const recorded = job.decisions[requirement.key];
  const [reason, setReason] = useState(recorded?.reason ?? '');
  const [error, setError] = useState<string>();
  const names = [
    ...new Set(
      requirement.statements
        .filter(({ source }) => source === 'code' || source === 'maker' || source === 'job')
        .map(({ name }) => name),
    ),
  ];
  return (
    <div className={css.wayOut}>
      <TextInput
        label="Reason for the choice"
        placeholder="For example: inspector agreed on site"
        value={reason}
        error={error}
        onChange={(event) => setReason(event.currentTarget.value)}
      />
      <div className="choices">
        {names.map((name) => (
          <Button
            key={name}
            size="compact-md"
            variant={recorded?.source === name ? 'filled' : 'default'}
            onClick={() => {
              const [issue] = change(
                `decide ${requirement.key}`,
                (draft) => void (draft.decisions[requirement.key] = { source: name, reason }),
              );
              setError(issue && !issue.kept ? 'Reason: say why, in a few words.' : undefined);
            }}
          >
            Follow {name}
          </Button>
        ))}
      </div>
    </div>
  );
}

/** Decides a value on the roof, with its reason; it stays a finding where it is outside what governs. */
function Deviate({ requirement }: { requirement: Requirement }) {
  const { change, job } = useEditing();
  const [open, setOpen] = useState(false);
  const [value, setValue] = useState('');
  const [reason, setReason] = useState('');
  const [error, setError] = useState<string>();
  const recorded = job.deviations.find(({ key }) => key === requirement.key);
  const numeric = requirement.statements.find(({ value: said }) => typeof said === 'number');
  if (!numeric) return null;
  if (recorded) {
    return (
      <p>
        Decided on the roof: {recorded.reason}{' '}
        <button
          type="button"
          className="link"
          onClick={() =>
            void change(
              `deviate ${requirement.key}`,
              (draft) => void (draft.deviations = draft.deviations.filter(({ key }) => key !== requirement.key)),
            )
          }
        >
          Take it back
        </button>
      </p>
    );
  }
  if (!open) {
    return (
      <button type="button" className="link" onClick={() => setOpen(true)}>
        Decide otherwise on the roof…
      </button>
    );
  }
  const unit = numeric.unit ?? 'count';
  const unitWord = UNIT_WORD[unit];
  const isCold = unit === 'C' || unit === 'F';
  return (
    <div className={css.wayOut}>
      <TextInput
        label={`Value${unitWord}`}
        value={value}
        onChange={(event) => setValue(event.currentTarget.value)}
        error={error}
        inputMode="decimal"
      />
      <TextInput label="Reason" value={reason} onChange={(event) => setReason(event.currentTarget.value)} />
      <Button
        size="compact-md"
        variant="default"
        onClick={() => {
          const number = Number(value.replace(',', '.'));
          if (value.trim() === '' || !Number.isFinite(number) || (number < 0 && !isCold))
            return setError(`Value: write a number${unitWord}.`);
          if (reason.trim().length < 3) return setError('Reason: say why, in a few words.');
          const [issue] = change(
            `deviate ${requirement.key}`,
            (draft) =>
              void draft.deviations.push({
                key: requirement.key,
                sense: numeric.sense === 'atMost' ? 'atMost' : 'atLeast',
                value: number,
                unit,
                reason,
              }),
          );
          setError(issue?.kept ? undefined : issue?.message);
        }}
      >
        Record it; outside the rule it stays a finding
      </Button>
    </div>
  );
}
