import { IconAlertTriangle, IconCircleCheck, IconDroplet, IconEye, IconGavel } from '@tabler/icons-react';
import { Button, TextInput } from '@mantine/core';
import {
  type Finding,
  HOUSE_MUTED,
  type Severity,
  SIDE_WORDS,
  type Shelf,
  applyRemedy,
  canBeMuted,
  groupFindings,
  groupWords,
  houseMuted,
  kindOf,
  mutedKinds,
  remediesOf,
  remedyWords,
  told,
} from '#core';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ApiProblem, muteInHouse } from '../api.ts';
import { useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import css from './Findings.module.css';

const ICON: Record<Severity, typeof IconEye> = {
  leaks: IconDroplet,
  'breaks a rule': IconGavel,
  'relies on sealant': IconAlertTriangle,
  'worth a look': IconEye,
};

/** What is wrong, worst first; a tap shows the piece. */
export function Findings() {
  const { units, change } = useEditing();
  const { findings: all, planned, judged, sound, openList } = usePlanned();
  const findings = told(all);
  const muted = mutedKinds(all);
  const { plane } = useSlope();
  const { goTo, chosen } = useView();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    openList(open);
    return () => openList(false);
  }, [open, openList]);
  const groups = groupFindings(findings);
  const summary = `${plane.lines.count} courses at ${units.cut(plane.lines.gauge)}${plane.walls.map((wall) => ` · ${wall.id} ${wall.pieces} ${SIDE_WORDS[wall.sides]}`).join('')}${plane.barrier ? ` · ice barrier ${units.cut(plane.barrier.needed)}, ${plane.barrier.rows.length} rows` : ''}`;
  return (
    <div className={css.findings} aria-busy={!judged}>
      <p className={`${css.planSummary} fig`}>{summary}</p>
      <div className={css.findingsState}>
        {findings.length > 0 && (
          <button
            type="button"
            className={`${css.findingsCount} ${findings[0]!.severity.replaceAll(' ', '-')}`}
            aria-expanded={open}
            onPointerEnter={() => openList(true)}
            onClick={() => setOpen(!open)}
          >
            {groups.length} {groups.length === 1 ? 'finding' : 'findings'}
          </button>
        )}
        {findings.length === 0 && muted.length > 0 && (
          <button type="button" className={css.findingsCount} aria-expanded={open} onClick={() => setOpen(!open)}>
            {muted.length} muted
          </button>
        )}
        {!judged ? (
          <p className="quiet">{planned ? 'The water is running…' : 'Planning…'}</p>
        ) : (
          findings.length === 0 && (
            <p className={css.findingsNone}>
              <IconCircleCheck size={16} aria-hidden /> Sheds, and keeps the rules
            </p>
          )
        )}
      </div>
      {(open || (findings[0] && findings[0].severity !== 'worth a look')) && all.length > 0 && (
        <ol className={css.findingsList} aria-label="Findings">
          {(open ? groups : groups.slice(0, 1)).map((group) => {
            const [finding] = group.findings;
            const remedies = sound.includes(finding.id) ? remediesOf(group) : [];
            const Icon = ICON[finding.severity];
            return (
              <li key={finding.id}>
                <button
                  type="button"
                  className={`${css.finding} ${finding.severity.replaceAll(' ', '-')} ${chosen && chosen.mark === finding.piece ? 'on' : ''}`}
                  onClick={() => goTo(finding)}
                >
                  <span className={css.findingSeverity}>
                    <Icon size={15} aria-hidden /> {finding.severity}
                  </span>
                  <span>
                    {units.words(groupWords(group))} <em>{units.words(finding.fix)}</em>
                  </span>
                </button>
                {(remedies[0] || (open && canBeMuted(finding))) && (
                  <div className={css.actions}>
                    {/* it stands first: what comes once it is tried moves nothing */}
                    {open && canBeMuted(finding) && <Mute finding={finding} />}
                    {remedies[0] && (
                      <Button
                        size="compact-sm"
                        onClick={() => change(finding.id, (draft) => remedies.forEach((one) => applyRemedy(draft, one)))}
                      >
                        {units.words(remedyWords(remedies[0]))}
                        {remedies.length > 1 && ` and ${remedies.length - 1} more`}
                      </Button>
                    )}
                  </div>
                )}
              </li>
            );
          })}
          {open && muted.map((one) => <MutedKind key={one.kind} {...one} />)}
        </ol>
      )}
    </div>
  );
}

type House = {
  /** What it mutes by the newest version there is, and whether this job goes by it. */
  readonly muted: Readonly<Record<string, string>>;
  readonly isNamed: boolean;
  /** Changes that; the job goes over to the version that says so. Answers what went wrong. */
  mute(muted: Readonly<Record<string, string>>): Promise<string | undefined>;
};

function useHouse(): House {
  const { change, job, library } = useEditing();
  const queries = useQueryClient();
  const house = houseMuted(library.packs);
  return {
    muted: house.muted,
    isNamed: job.packs.some(({ id }) => id === HOUSE_MUTED),
    mute: async (muted) => {
      try {
        const pack = await muteInHouse(house.version, muted);
        queries.setQueryData<Shelf>(['shelf'], (shelf) => shelf && { ...shelf, packs: [...shelf.packs, pack] });
        change('muted in the house', (draft) => {
          draft.packs = [...draft.packs.filter(({ id }) => id !== pack.id), { id: pack.id, version: pack.version }];
        });
        return undefined;
      } catch (error) {
        if (!(error instanceof ApiProblem)) throw error;
        if (error.status === 409) void queries.invalidateQueries({ queryKey: ['shelf'] });
        return error.message;
      }
    },
  };
}

/** Findings of a kind are no longer told, on this job or in the whole house, once it is said why. */
function Mute({ finding }: { finding: Finding }) {
  const { change } = useEditing();
  const house = useHouse();
  const [reason, setReason] = useState<string>();
  const [error, setError] = useState<string>();
  const kind = kindOf(finding);
  const why = 'Why it is muted: say it in a few words.';
  if (reason === undefined)
    return (
      <Button size="compact-sm" variant="subtle" onClick={() => setReason('')}>
        Mute
      </Button>
    );
  return (
    <form
      className={css.mute}
      onSubmit={(event) => {
        event.preventDefault();
        const [issue] = change(`mute ${kind}`, (draft) => void (draft.muted[kind] = reason));
        setError(issue && why);
      }}
    >
      <TextInput
        size="xs"
        aria-label={`Why ${kind} is muted`}
        placeholder="Why it need not be told"
        value={reason}
        error={error}
        autoFocus
        onChange={(event) => setReason(event.currentTarget.value)}
      />
      <Button type="submit" size="compact-sm">
        Mute on this job
      </Button>
      <Button
        size="compact-sm"
        onClick={() =>
          void (reason.trim().length < 3 ? setError(why) : house.mute({ ...house.muted, [kind]: reason.trim() }).then(setError))
        }
      >
        Mute in all jobs
      </Button>
      <Button size="compact-sm" variant="default" onClick={() => setReason(undefined)}>
        Leave it
      </Button>
    </form>
  );
}

/** A kind that is muted, and how to have it told again. */
function MutedKind({ kind, count, reason }: ReturnType<typeof mutedKinds>[number]) {
  const { change, job } = useEditing();
  const house = useHouse();
  const [error, setError] = useState<string>();
  const isInHouse = house.muted[kind] !== undefined;
  const others = (): typeof house.muted => Object.fromEntries(Object.entries(house.muted).filter(([one]) => one !== kind));
  return (
    <li className={css.muted}>
      Muted: {kind}, {count}. {reason} {error}
      {kind in job.muted && (
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => change(`tell ${kind} again`, (draft) => void delete draft.muted[kind])}
        >
          Tell it again
        </Button>
      )}
      {!(kind in job.muted) && isInHouse && house.isNamed && (
        <Button size="compact-sm" variant="default" onClick={() => void house.mute(others()).then(setError)}>
          Tell it again in all jobs
        </Button>
      )}
    </li>
  );
}
