import { Button, NumberInput } from '@mantine/core';
import { IconDroplet, IconX } from '@tabler/icons-react';
import {
  type Plan,
  type PlanePlan,
  type CheckRequest,
  type Hose,
  type Problem,
  type WhatIf,
  applyWhatIfs,
  byLay,
  dryInMarks,
  isSidePiece,
  reserveWords,
  slopeOf,
  type PlacedWall,
  faceAt,
  placeWalls,
} from '#core';
import { useMemo, useState } from 'react';
import { type Planned, type Units, useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { useDrawingGestures } from '../slope/gestures.ts';
import { LaidPieces } from '../slope/LaidPieces.tsx';
import { Choice } from '../Choice.tsx';
import { MarkerSlider } from '../slope/SlopeView.tsx';
import { type Chart, UNFOLDED, developPlane, middleOnChart, placeOnChart } from '../slope/develop.ts';
import { POLE, type Viewport, pan, useSize, zoomAt } from '../slope/viewport.ts';
import { useWater } from '../water/useWater.ts';
import { Section } from './Section.tsx';
import css from './LapBench.module.css';

type Stage = 'finished' | 'dry-in' | 'now';
type Tool = 'choose' | 'nail' | 'hose';

const INCH = 25.4;

/** Water let run over the plan and over what-ifs of it, drawn to scale, with the stack in section and a sentence that says what happens. */
export function LapBench() {
  const { units } = useEditing();
  const { plan, pieces } = usePlanned();
  const { plane, roof, lineOf, lines, setPlane } = useSlope();
  const { marker, chosen, choose } = useView();
  const atLine = lines[marker - 1]?.whole ?? 0;
  const [whatIfs, setWhatIfs] = useState<readonly WhatIf[]>([]);
  const [stage, setStage] = useState<Stage>('finished');
  const [tool, setTool] = useState<Tool>('choose');
  const [hose, setHose] = useState<Hose>();
  const [picked, setPicked] = useState(0);
  const [sectionX, setSectionX] = useState<number>();
  const [daysOpen, setDaysOpen] = useState<number>();

  const edited = useMemo(() => applyWhatIfs(plan, whatIfs), [plan, whatIfs]);
  const onSlope = plan.pieces.filter(({ covers }) => covers[0]?.facet === plane.id);
  const focus =
    chosen ??
    onSlope.find(({ role, course }) => isSidePiece(role) && course === 12) ??
    onSlope.find(({ role }) => isSidePiece(role)) ??
    onSlope[0] ??
    plan.pieces[0]!;
  const added = useMemo(
    () => edited.assembly.pieces.filter(({ mark }) => !pieces.has(mark)).map(({ mark }) => mark),
    [edited, pieces],
  );
  const laid = useMemo(() => {
    if (stage === 'finished') return undefined;
    const marks =
      stage === 'dry-in'
        ? [...dryInMarks(plan)]
        : plan.pieces.filter(({ mark }) => (lineOf.get(mark) ?? 0) <= marker).map(({ mark }) => mark);
    return new Set([...marks, ...added]);
  }, [stage, plan, lineOf, marker, added]);
  const request: CheckRequest = {
    plane: plane.id,
    stage:
      stage === 'finished' || (stage === 'now' && marker >= plane.runSheet.at(-1)!.lines.at(-1)!.line) ? 'finished' : 'dry-in',
    ...(laid ? { laid } : {}),
    ...(stage !== 'finished' && daysOpen !== undefined ? { daysOpen } : {}),
  };
  const key = `${plane.id} ${stage} ${stage === 'now' ? marker : ''} ${request.daysOpen ?? ''}`;
  const check = useWater<'check'>({ what: 'check', assembly: edited.assembly, requests: [request] }, key);
  const reserve = useWater<'reserve'>(
    check.answer?.results[0]?.verdict === 'clean' ? { what: 'reserve', assembly: edited.assembly, request } : undefined,
    `${key} ${check.answer?.results[0]?.verdict}`,
  );
  const sprayed = useWater<'hose'>(
    hose && { what: 'hose', assembly: edited.assembly, request, hose },
    `${key} ${JSON.stringify(hose)}`,
  );

  const result = check.answer?.results[0];
  const problem = result?.problems[Math.min(picked, result.problems.length - 1)];
  const shownPath = hose ? sprayed.answer?.result?.path : problem?.path;
  const wall = roof.walls.find(({ id }) => id === focus.detail);
  const chart = useMemo(() => developPlane(plan, roof), [plan, roof]);
  const middle = middleOnChart(chart, plan, focus) ?? [roof.eaveLength / 2, 0];
  const at = problem && placeOnChart(chart, plan, problem.at);
  const x = sectionX ?? at?.[0] ?? (wall ? wall.x + (wall.stands === 'left' ? 1 : -1) * 2 * INCH : middle[0]);
  const elsewhere = problem && !at && plan.planes.find(({ id }) => id === slopeOf(plan, problem.at.facet));
  const tryOut = (whatIf: WhatIf): void => {
    setWhatIfs([...whatIfs, whatIf]);
    setPicked(0);
  };

  return (
    <main className={css.lapBench}>
      <aside className={css.tray} aria-label="What if">
        <Choice
          label="Stage"
          value={stage}
          onChange={setStage}
          options={[
            { value: 'finished', label: 'finished' },
            { value: 'dry-in', label: 'dry-in' },
            { value: 'now', label: `line ${atLine}` },
          ]}
        />
        <p className="quiet small">
          {stage === 'now'
            ? `If it rains after line ${atLine}: what lies open then.`
            : stage === 'dry-in'
              ? 'Membrane and metal before the covering.'
              : 'Everything laid.'}
        </p>
        {stage === 'now' && <MarkerSlider />}
        {stage !== 'finished' && (
          <NumberInput
            label="Sheets lie open, days"
            description="Cap nails seal no longer than their sheet may lie open."
            size="xs"
            min={0}
            max={365}
            allowDecimal={false}
            clampBehavior="strict"
            value={daysOpen ?? ''}
            placeholder="not long"
            onChange={(value) => setDaysOpen(typeof value === 'number' ? value : undefined)}
          />
        )}
        <h2>What if…</h2>
        <p>
          <b className="fig">{focus.mark}</b> is on the bench. Tap another piece to take it.
        </p>
        <div className={css.trayButtons}>
          <Button variant="default" size="sm" onClick={() => tryOut({ kind: 'leave-out', piece: focus.mark })}>
            leave it out
          </Button>
          <Button
            variant="default"
            size="sm"
            onClick={() => tryOut({ kind: 'swap', piece: focus.mark, other: nextOf(plan, pieces, focus.mark) })}
          >
            swap with {nextOf(plan, pieces, focus.mark)}
          </Button>
          <Button
            variant="default"
            size="sm"
            onClick={() => tryOut({ kind: 'shift', piece: focus.mark, across: 0, up: 3 * INCH })}
          >
            shift up {units.cut(3 * INCH)}
          </Button>
          <Button
            variant="default"
            size="sm"
            onClick={() => tryOut({ kind: 'shift', piece: focus.mark, across: 0, up: -3 * INCH })}
          >
            shift down {units.cut(3 * INCH)}
          </Button>
          {isSidePiece(focus.role) && (
            <Button variant="default" size="sm" onClick={() => tryOut(lowNail(pieces, plane, focus.mark))}>
              nail it low
            </Button>
          )}
          {(focus.role === 'apron' || focus.role === 'apronEnd') && (
            <Button variant="default" size="sm" onClick={() => tryOut({ kind: 'nailed-cover-strip', piece: focus.mark })}>
              nail a strip over it
            </Button>
          )}
          <Button
            variant={tool === 'nail' ? 'filled' : 'default'}
            size="sm"
            aria-pressed={tool === 'nail'}
            onClick={() => setTool(tool === 'nail' ? 'choose' : 'nail')}
          >
            drop a nail…
          </Button>
          {roof.walls.map(({ id }) => (
            <span key={id} className={css.trayWall}>
              <Button variant="default" size="sm" onClick={() => tryOut({ kind: 'one-long-piece', wall: id })}>
                {id}: one long piece
              </Button>
              <Button
                variant="default"
                size="sm"
                onClick={() => {
                  tryOut({ kind: 'membrane-flush', wall: id });
                  setStage('dry-in');
                }}
              >
                {id}: membrane flush
              </Button>
              <Button
                variant="default"
                size="sm"
                onClick={() => {
                  tryOut({ kind: 'membrane-on-felt', wall: id });
                  setStage('dry-in');
                }}
              >
                {id}: membrane on felt
              </Button>
            </span>
          ))}
          <Button
            variant="default"
            size="sm"
            onClick={() => {
              tryOut({ kind: 'strips-top-first' });
              setStage('dry-in');
            }}
          >
            strips top first
          </Button>
        </div>
        {whatIfs.length > 0 && (
          <>
            <h2>Tried out, not in the job</h2>
            <ol className={css.tried}>
              {whatIfs.map((whatIf, i) => (
                <li key={i}>
                  {wordsOf(whatIf)}
                  <button
                    type="button"
                    aria-label={`Put back: ${wordsOf(whatIf)}`}
                    onClick={() => setWhatIfs(whatIfs.filter((_, other) => other !== i))}
                  >
                    <IconX size={16} aria-hidden />
                  </button>
                </li>
              ))}
            </ol>
            <Button size="sm" onClick={() => setWhatIfs([])}>
              Put everything back
            </Button>
          </>
        )}
        {edited.ignored.map((sentence) => (
          <p key={sentence} className="field-error" role="alert">
            {sentence}
          </p>
        ))}
        <h2>Hose</h2>
        <div className={css.trayButtons}>
          <Button
            variant={tool === 'hose' ? 'filled' : 'default'}
            size="sm"
            aria-pressed={tool === 'hose'}
            leftSection={<IconDroplet size={16} />}
            onClick={() => setTool(tool === 'hose' ? 'choose' : 'hose')}
          >
            hold it where you tap
          </Button>
          {hose && (
            <Button variant="default" size="sm" onClick={() => setHose(undefined)}>
              rain again
            </Button>
          )}
        </div>
      </aside>
      <section className={css.benchMiddle} aria-label="Water over the roof">
        <div className={css.verdict} role="status">
          {result ? (
            <>
              <p
                className={`${css.verdictWord} ${(hose ? (sprayed.answer?.result?.verdict ?? 'clean') : result.verdict).replaceAll(' ', '-')}`}
              >
                {verdictWords(hose ? sprayed.answer?.result?.verdict : result.verdict)}
              </p>
              {hose ? (
                <p>
                  {sprayed.answer?.result?.problem
                    ? units.words(sprayed.answer.result.problem.sentence)
                    : 'From here it runs down over the covering and off the eave.'}
                </p>
              ) : problem ? (
                <p>
                  {units.words(problem.sentence)}
                  {gatheredWords(plane, units, problem)}
                  {amountWords(units, problem)}
                  {elsewhere && (
                    <>
                      {' '}
                      <button type="button" className="link" onClick={() => setPlane(elsewhere.id)}>
                        Look at it on {elsewhere.name}
                      </button>
                    </>
                  )}
                </p>
              ) : (
                <p>
                  Every drop that falls here leaves on the {request.stage === 'finished' ? 'covering' : 'sheets and the metal'}.
                </p>
              )}
              {!hose && result.problems.length > 1 && (
                <p className={css.problemSteps}>
                  {result.problems.length} places:{' '}
                  {placesOf(result.problems)
                    .slice(0, 12)
                    .map(({ name, all }) => (
                      <button
                        key={all[0]}
                        type="button"
                        className={`mark ${all.includes(picked) ? 'on' : ''}`}
                        onClick={() => setPicked(all[(all.indexOf(picked) + 1) % all.length]!)}
                      >
                        {name}
                        {all.length > 1 &&
                          (all.includes(picked) ? ` ${all.indexOf(picked) + 1} of ${all.length}` : ` × ${all.length}`)}
                      </button>
                    ))}
                </p>
              )}
            </>
          ) : (
            <p>The water is running…</p>
          )}
          {reserve.progress !== undefined && (
            <p className="quiet small">
              Looking for the weakest lap, {Math.round(reserve.progress * 100)}%{' '}
              <button type="button" className="link" onClick={reserve.cancel}>
                stop
              </button>
            </p>
          )}
          {reserve.answer && result?.verdict === 'clean' && !hose && (
            <p className={css.reserve}>
              {units.words(reserveWords('reach', reserve.answer.reach))}{' '}
              {units.words(reserveWords('creep', reserve.answer.creep))}
            </p>
          )}
        </div>
        <WaterChart
          assembly={edited.assembly}
          laid={laid}
          focus={focus.mark}
          chart={chart}
          centre={at ?? middle}
          path={shownPath}
          sectionX={x}
          onSection={setSectionX}
          tool={tool}
          onChoose={choose}
          onPlace={(place, mark) => {
            if (tool === 'hose') setHose(place);
            else if (mark) tryOut({ kind: 'nail', piece: mark, facet: place.facet, at: onFacet(place, plane.id, roof.pitch) });
            setTool('choose');
          }}
        />
      </section>
      <aside className={css.benchSection} aria-label="Section">
        <Section
          pieces={edited.assembly.pieces.filter(({ mark }) => !laid || laid.has(mark)).toSorted(byLay)}
          facet={plane.id}
          x={x}
          centre={(at ?? middle)[1]}
          span={26 * INCH}
          marked={problem?.piece ?? focus.mark}
          onChoose={choose}
        />
      </aside>
    </main>
  );
}

/** Problems of one piece and cause stand together: which is told first of them, and which they all are. */
function placesOf(problems: readonly Problem[]): { name: string; all: number[] }[] {
  const places = new Map<string, { name: string; all: number[] }>();
  problems.forEach((problem, i) => {
    const name = problem.piece || problem.onto;
    const key = `${name} ${problem.cause}`;
    const known = places.get(key);
    if (known) known.all.push(i);
    else places.set(key, { name, all: [i] });
  });
  return [...places.values()];
}

/** A tapped place on the chart of its facet: a wall's is level and plumb. */
function onFacet({ facet, x, y }: Hose, slope: string, pitch: number): [number, number] {
  const level = x / Math.hypot(1, pitch);
  return facet === slope ? [x, y] : [level, y + pitch * level];
}

/** The next piece of the same kind at the same detail, else the one before. */
function nextOf(plan: Plan, pieces: Planned['pieces'], mark: string): string {
  const piece = pieces.get(mark);
  const same = plan.pieces.filter(({ detail, role }) => detail === piece?.detail && role === piece.role);
  const at = same.findIndex((other) => other.mark === mark);
  return (same[at + 1] ?? same[at - 1] ?? same[at])?.mark ?? mark;
}

/** An inch and a half above the step's lower edge, in the middle of its roof leg: where the water runs. */
function lowNail(pieces: Planned['pieces'], plane: PlanePlan, mark: string): WhatIf {
  const { outline } = pieces.get(mark)!.covers[0]!;
  const low = Math.min(...outline.map(([, y]) => y));
  return {
    kind: 'nail',
    piece: mark,
    facet: plane.id,
    at: [outline.reduce((sum, [x]) => sum + x, 0) / outline.length, low + 1.5 * INCH],
  };
}

function wordsOf(whatIf: WhatIf): string {
  switch (whatIf.kind) {
    case 'leave-out':
      return `${whatIf.piece} left out`;
    case 'swap':
      return `${whatIf.piece} and ${whatIf.other} swapped`;
    case 'shift':
      return `${whatIf.piece} shifted ${whatIf.up > 0 ? 'up' : 'down'}`;
    case 'nail':
      return `a nail through ${whatIf.piece}`;
    case 'nailed-cover-strip':
      return `a strip nailed over ${whatIf.piece}`;
    case 'one-long-piece':
      return `${whatIf.wall}: one long piece`;
    case 'membrane-flush':
      return `${whatIf.wall}: membrane stopped flush`;
    case 'membrane-on-felt':
      return `${whatIf.wall}: membrane on felt`;
    case 'strips-top-first':
      return 'strips laid top first';
  }
}

/** How much roof sheds its rain through the place. */
const amountWords = (units: Units, { amount, cause }: Problem): string =>
  cause !== 'overrun' && amount > SMALL ? ` The rain of ${units.area(amount)} of roof comes by there.` : '';
/** Less would be told as 0 m². */
const SMALL = 0.005 * 1000 ** 2;

/** How much water one long piece has gathered where it fails, and what it would carry at the foot. */
function gatheredWords(plane: PlanePlan, units: Units, problem: Problem): string {
  if (problem.cause !== 'overrun') return '';
  const flow = plane.walls.find(({ id }) => problem.piece.startsWith(`${id}-`))?.flow ?? [];
  const side = problem.path.find(({ move }) => move === 'leaves over the side') ?? problem.at;
  const there = flow.findLast(({ y }) => y <= side.y) ?? flow[0];
  return there
    ? ` By there it has gathered ${units.flow(there.collected)}; at the foot it would carry ${units.flow(flow[0]!.collected)}.`
    : '';
}

const verdictWords = (verdict: string | undefined): string =>
  verdict === undefined ? '…' : verdict === 'clean' ? 'Sheds' : verdict[0]!.toUpperCase() + verdict.slice(1);

type ChartProps = {
  assembly: Parameters<typeof applyWhatIfs>[0];
  laid: ReadonlySet<string> | undefined;
  focus: string;
  chart: Chart;
  centre: readonly [number, number];
  path: Problem['path'] | undefined;
  sectionX: number;
  onSection: (x: number) => void;
  tool: Tool;
  onChoose: (mark: string) => void;
  onPlace: (place: Hose, mark: string | undefined) => void;
};

/** How near the section's line a press takes hold of it, pixels. */
const GRASP = 10;

/** The developed chart with the water's path on it, and the line of the section that can be dragged. */
function WaterChart({ assembly, laid, focus, chart, centre, path, sectionX, onSection, tool, onChoose, onPlace }: ChartProps) {
  const { job } = useEditing();
  const { plan } = usePlanned();
  const { roof, plane } = useSlope();
  const [frame, size, element] = useSize();
  const [view, setView] = useState<Viewport>();
  const k = Math.hypot(1, roof.pitch);
  const [fitted, setFitted] = useState('');
  const wanted = `${size?.width} ${size?.height} ${centre.map(Math.round).join(' ')}`;
  if (size && fitted !== wanted) {
    setFitted(wanted);
    const scale = size.height / (34 * INCH);
    setView({ scale, left: centre[0] - (size.width * 0.45) / scale, top: centre[1] + size.height / 2 / scale });
  }
  const tried = useMemo(() => ({ ...plan, ...assembly }), [plan, assembly]);
  const lineOf = useMemo(
    () => new Map(assembly.pieces.map(({ mark }) => [mark, laid && !laid.has(mark) ? 2 : 1])),
    [assembly, laid],
  );
  const sx = (x: number): number => (view ? (x - view.left) * view.scale : 0);
  const sy = (y: number): number => (view ? (view.top - y) * view.scale : 0);
  useDrawingGestures(element, {
    hold: ({ x }) =>
      view && tool === 'choose' && Math.abs(x - sx(sectionX)) < GRASP
        ? { move: (to) => onSection(to.x / view.scale + view.left) }
        : undefined,
    tap: (at, target) => {
      if (!view) return;
      const mark = target.closest('[data-mark]')?.getAttribute('data-mark') ?? undefined;
      if (tool === 'choose') {
        if (mark) onChoose(mark);
        return;
      }
      const place: Hose = { facet: plane.id, x: at.x / view.scale + view.left, y: view.top - at.y / view.scale };
      const beyond = (wall: PlacedWall): number => (faceAt(wall, place.y) - place.x) * wall.side;
      const wall = placeWalls(roof.walls, roof.slope.length).find((one) => beyond(one) > 0 && beyond(one) <= UNFOLDED);
      onPlace(wall ? { facet: `${plane.id}/${wall.id}`, x: place.y, y: beyond(wall) * k } : place, mark);
    },
    pan: (dx, dy) => setView((now) => now && pan(now, dx, dy)),
    // no pole stands beside this drawing
    zoom: (factor, { x, y }) => setView((now) => now && zoomAt(now, factor, x + POLE, y)),
  });
  const points = (path ?? []).map((place) => placeOnChart(chart, plan, place)).filter((point) => point !== undefined);
  return (
    <div className={css.waterChart} ref={frame}>
      {size && view && (
        <svg
          className={`slope-drawing ${tool}`}
          width={size.width}
          height={size.height}
          role="img"
          aria-label="The detail, developed and to scale, with the water’s path"
        >
          <defs>
            <marker id="drop" viewBox="0 0 10 10" refX="6" refY="5" markerWidth="5" markerHeight="5" orient="auto-start-reverse">
              <path d="M0 0L10 5L0 10z" className={css.drop} />
            </marker>
          </defs>
          <rect width={size.width} height={size.height} className="film" />
          <g transform={`matrix(${view.scale} 0 0 ${-view.scale} ${-view.left * view.scale} ${view.top * view.scale})`}>
            <LaidPieces
              plan={tried}
              plane={plane}
              lineOf={lineOf}
              features={job.features}
              chart={chart}
              marker={1}
              chosen={focus}
              nails={1}
              zones={false}
              ghost={false}
            />
          </g>
          <g className={css.sectionLine}>
            <line x1={sx(sectionX)} x2={sx(sectionX)} y1={0} y2={size.height} />
            <text x={sx(sectionX) + 5} y={14}>
              section
            </text>
          </g>
          {points.length > 0 && (
            <g className={css.water}>
              <polyline points={points.map(([x, y]) => `${sx(x)},${sy(y)}`).join(' ')} className={css.waterBed} />
              <polyline
                points={points.map(([x, y]) => `${sx(x)},${sy(y)}`).join(' ')}
                className={css.waterRun}
                markerEnd="url(#drop)"
              />
              <circle cx={sx(points.at(-1)![0])} cy={sy(points.at(-1)![1])} r={9} className={css.waterEnd} />
            </g>
          )}
        </svg>
      )}
    </div>
  );
}
