import { IconAlertTriangle, IconCircleCheck, IconDroplet, IconEye, IconGavel } from '@tabler/icons-react';
import { Button, TextInput } from '@mantine/core';
import {
  type Finding,
  type Severity,
  applyRemedy,
  canBeMuted,
  groupFindings,
  groupWords,
  kindOf,
  mutedKinds,
  remedyWords,
  told,
} from '#core';
import { useState } from 'react';
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
  const { units, editor, job } = useEditing();
  const { findings: all, planned, judged } = usePlanned();
  const findings = told(all);
  const muted = mutedKinds(all);
  const { plane } = useSlope();
  const { goTo, chosen } = useView();
  const [open, setOpen] = useState(false);
  const groups = groupFindings(findings);
  const summary = `${plane.lines.count} courses at ${units.cut(plane.lines.gauge)}${plane.walls.map((wall) => ` · ${wall.id} ${wall.pieces} ${wall.sides}`).join('')}${plane.barrier ? ` · ice barrier ${units.cut(plane.barrier.needed)}, ${plane.barrier.rows.length} rows` : ''}`;
  return (
    <div className={css.findings} aria-busy={!judged}>
      <p className={`${css.planSummary} fig`}>{summary}</p>
      <div className={css.findingsState}>
        {findings.length > 0 && (
          <button
            type="button"
            className={`${css.findingsCount} ${findings[0]!.severity.replaceAll(' ', '-')}`}
            aria-expanded={open}
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
            const remedies = group.findings.flatMap(({ remedy }) => remedy ?? []);
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
                    {remedies[0] && (
                      <Button
                        size="compact-sm"
                        onClick={() => editor.change(finding.id, (draft) => remedies.forEach((one) => applyRemedy(draft, one)))}
                      >
                        {units.words(remedyWords(remedies[0]))}
                        {remedies.length > 1 && ` and ${remedies.length - 1} more`}
                      </Button>
                    )}
                    {open && canBeMuted(finding) && <Mute finding={finding} />}
                  </div>
                )}
              </li>
            );
          })}
          {open &&
            muted.map(({ kind, count, reason }) => (
              <li key={kind} className={css.muted}>
                Muted: {kind}, {count}. {reason}
                {kind in job.muted && (
                  <Button
                    size="compact-sm"
                    variant="default"
                    onClick={() => editor.change(`tell ${kind} again`, (draft) => void delete draft.muted[kind])}
                  >
                    Tell it again
                  </Button>
                )}
              </li>
            ))}
        </ol>
      )}
    </div>
  );
}

/** Findings of a kind are no longer told on this job, once it is said why. */
function Mute({ finding }: { finding: Finding }) {
  const { editor } = useEditing();
  const [reason, setReason] = useState<string>();
  const [error, setError] = useState<string>();
  const kind = kindOf(finding);
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
        const [issue] = editor.change(`mute ${kind}`, (draft) => void (draft.muted[kind] = reason));
        setError(issue && 'Why it is muted: say it in a few words.');
      }}
    >
      <TextInput
        size="xs"
        aria-label={`Why ${kind} is muted`}
        placeholder="Why it need not be told on this job"
        value={reason}
        error={error}
        autoFocus
        onChange={(event) => setReason(event.currentTarget.value)}
      />
      <Button type="submit" size="compact-sm">
        Mute
      </Button>
      <Button size="compact-sm" variant="default" onClick={() => setReason(undefined)}>
        Leave it
      </Button>
    </form>
  );
}
