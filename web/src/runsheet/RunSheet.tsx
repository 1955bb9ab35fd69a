import { Checkbox, NativeSelect } from '@mantine/core';
import { IconAlertTriangle, IconClock, IconFlag3, IconUsers } from '@tabler/icons-react';
import { type Crew, type RunLine, barredLines, filterRunSheet, holdWords, usesWords } from '#core';
import { memo, useCallback, useEffect, useRef, useState } from 'react';
import { useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { AskWho } from '../rules/WhoSays.tsx';
import { CrewSelect, SlopeSelect } from './selects.tsx';
import css from './RunSheet.module.css';

/** The plan retold from the eave up; the marker stands after the last line laid. */
export function RunSheet() {
  const { job, units, change } = useEditing();
  const { plan } = usePlanned();
  const { plane, setPlane } = useSlope();
  const { marker, chosen } = useView();
  const [whole, setWhole] = useState(false);
  const [detail, setDetail] = useState('');
  const several = plan.planes.length > 1;
  const [crew, setCrew] = useState<Crew>();
  const sheet = whole ? plan.runSheet : plane.runSheet;
  const groups = filterRunSheet(sheet, { ...(detail && { detail }), ...(crew && { crew }) });
  const all = sheet.flatMap(({ lines }) => lines);
  const details = [...new Set(all.map((line) => line.detail))];
  const done = new Set(job.done);
  const barred = job.holdsBar ? barredLines(plan.runSheet, done) : undefined;
  const names = new Map(plan.planes.map(({ id, name }) => [id, name]));
  /** Puts the marker on a line, on the slope it is on. */
  const { setMarker } = useView();
  const mark = useCallback(
    (line: RunLine): void => {
      const on = plan.planes.find(({ id }) => id === (line.plane ?? plane.id))!;
      const own = on.runSheet.flatMap(({ lines }) => lines).find(({ id }) => id === line.id);
      if (on.id !== plane.id) setPlane(on.id);
      if (own) setMarker(own.line);
    },
    [plan, plane.id, setPlane, setMarker],
  );
  const list = useRef<HTMLDivElement>(null);
  const moved = useRef(false);

  useEffect(() => {
    // the sheet opens at its beginning; it follows the marker once that is moved
    if (!moved.current) {
      moved.current = true;
      return;
    }
    const line = list.current?.querySelector(`[data-line="${Math.max(1, marker)}"]`);
    line?.scrollIntoView({ block: 'center' });
  }, [marker]);

  return (
    <div className={css.runSheet} ref={list} role="region" aria-label="Run sheet" tabIndex={0}>
      <div className={css.runTools}>
        <SlopeSelect
          value={whole ? '' : plane.id}
          onChange={(value) => {
            setDetail('');
            setCrew(undefined);
            setWhole(value === '');
            if (value !== '' && value !== plane.id) setPlane(value);
          }}
        />
        <NativeSelect
          size="sm"
          aria-label="Which detail"
          value={detail}
          onChange={(event) => setDetail(event.currentTarget.value)}
          data={[{ value: '', label: 'Every detail' }, ...details]}
        />
        <CrewSelect sheet={sheet} value={crew} onChange={setCrew} />
        <Checkbox
          label="Stops bar what follows"
          checked={job.holdsBar === true}
          onChange={({ currentTarget: { checked } }) =>
            void change('holdsBar', (draft) => {
              if (checked) draft.holdsBar = true;
              else delete draft.holdsBar;
            })
          }
        />
        {job.done.length > 0 && <span className="small quiet">{job.done.length} done</span>}
      </div>
      {groups.map((group) => (
        <section key={`${group.id}-${group.lines[0]!.line}`} className={css.runGroup}>
          <h3>
            <span>{group.title}</span>
            {group.y !== undefined && (
              <span className="fig">
                {group.course === 0 ? `${units.length(group.y)}` : `butt line ${units.length(group.y)}`}
              </span>
            )}
          </h3>
          <ol>
            {group.lines.map((line) => (
              <Line
                key={line.line}
                line={line}
                onMark={mark}
                laid={whole ? false : line.line <= marker}
                current={!whole && line.line === marker}
                done={done.has(line.id)}
                barredBy={barred?.get(line.id)}
                on={whole && several && group.course === undefined ? names.get(line.plane ?? '') : undefined}
                chosen={chosen && line.pieces.includes(chosen.mark) ? chosen.mark : undefined}
              />
            ))}
          </ol>
        </section>
      ))}
      <p className={`quiet small ${css.runNote}`}>
        Local code, the maker’s current instructions and licensed practice govern. Ruvet computes; it does not approve.
      </p>
    </div>
  );
}

type LineProps = {
  line: RunLine;
  onMark: (line: RunLine) => void;
  laid: boolean;
  current: boolean;
  done: boolean;
  /** The stop that has to be ticked off first, by its number. */
  barredBy: number | undefined;
  /** The slope it is on, where the sheet is the whole roof's. */
  on: string | undefined;
  chosen: string | undefined;
};

const Line = memo(function Line({ line, onMark, laid, current, done, barredBy, on, chosen }: LineProps) {
  const { units, change } = useEditing();
  const { choose } = useView();
  const marks = line.pieces.length > 6 ? [line.pieces[0]!, line.pieces[1]!, '…', line.pieces.at(-1)!] : line.pieces;
  return (
    <li
      data-line={line.line}
      data-mark={line.pieces.join(' ')}
      className={`${css.runLine} ${laid ? 'laid' : ''} ${current ? css.current : ''} ${done ? css.done : ''}`}
    >
      <button
        type="button"
        className={`${css.lineNumber} fig`}
        aria-label={`Line ${line.whole}${laid ? ', laid' : ''}: move the marker here`}
        aria-current={current ? 'step' : undefined}
        onClick={() => onMark(line)}
      >
        {line.whole}
      </button>
      <Checkbox
        className={css.lineDone}
        aria-label={`Line ${line.whole} done`}
        checked={done}
        disabled={barredBy !== undefined && !done}
        onChange={() =>
          void change('done', (draft) => {
            draft.done = done ? draft.done.filter((id) => id !== line.id) : [...draft.done, line.id];
          })
        }
      />
      <div className={css.lineBody}>
        {on && <p className={css.linePlane}>{on}</p>}
        <p className={css.lineAction}>
          {units.words(line.action)}
          {line.keys[0] && <AskWho rule={line.keys[0]} about={`line ${line.whole}`} />}
        </p>
        {line.fasteners && <p className={css.lineFasteners}>{units.words(line.fasteners)}</p>}
        {line.uses && <p className={css.lineFasteners}>Takes {units.words(usesWords(line.uses))}</p>}
        {line.holdPoint && (
          <p className={css.lineHold}>
            <IconFlag3 size={15} aria-hidden /> {holdWords(line.holdPoint)}
          </p>
        )}
        {barredBy !== undefined && !done && (
          <p className={css.lineFasteners}>Not before the stop at line {barredBy} is ticked off.</p>
        )}
        {line.wait && (
          <p className={css.lineHold}>
            <IconClock size={15} aria-hidden /> <b>Wait:</b> {line.wait}
          </p>
        )}
        {line.caution && (
          <p className={css.lineCaution}>
            <IconAlertTriangle size={15} aria-hidden /> {line.caution}
          </p>
        )}
        <p className={css.lineMarks}>
          {marks.map((mark) =>
            mark === '…' ? (
              <span key={mark}>…</span>
            ) : (
              <button key={mark} type="button" className={`mark ${mark === chosen ? 'on' : ''}`} onClick={() => choose(mark)}>
                {mark}
              </button>
            ),
          )}
          {line.crew && <span className={css.people}>{line.crew}</span>}
          {line.people === 2 && (
            <span className={css.people}>
              <IconUsers size={15} aria-hidden /> two people
            </span>
          )}
        </p>
      </div>
    </li>
  );
});
