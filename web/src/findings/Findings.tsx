import { IconAlertTriangle, IconCircleCheck, IconDroplet, IconEye, IconGavel } from '@tabler/icons-react';
import { Button } from '@mantine/core';
import { type Severity, applyRemedy, groupFindings, groupWords, remedyWords } from '#core';
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
  const { units, editor } = useEditing();
  const { findings, planned, judged } = usePlanned();
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
      {(open || (findings[0] && findings[0].severity !== 'worth a look')) && findings.length > 0 && (
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
                {remedies[0] && (
                  <Button
                    size="compact-sm"
                    className={css.remedy}
                    onClick={() => editor.change(finding.id, (draft) => remedies.forEach((one) => applyRemedy(draft, one)))}
                  >
                    {units.words(remedyWords(remedies[0]))}
                    {remedies.length > 1 && ` and ${remedies.length - 1} more`}
                  </Button>
                )}
              </li>
            );
          })}
        </ol>
      )}
    </div>
  );
}
